import { describe, expect, it } from 'vitest';
import { emptyPiece, History, type HistoryEvent, PieceStore, type Signal } from '../src/model/index.ts';
import { seeded } from './box-piece.ts';

const signal = (id: string, note = ''): Signal => ({
  id,
  name: id,
  type: 'switch',
  initial: false,
  shared: false,
  note,
});
const fresh = () => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  return { store, history: new History(store) };
};

describe('history', () => {
  it('edits under an open mark are one step; cancel takes all of them back and leaves none', () => {
    const { store, history } = fresh();
    history.edit('Added', (e) => e.add('signals', signal('si_a')));
    history.begin('Dragged');
    for (let i = 0; i < 5; i++)
      history.edit('inner', (e) => e.update('signals', 'si_a', (s) => ({ ...s, note: `${i}` })));
    history.end();
    expect(history.undoName).toBe('Dragged');
    expect(history.undo()?.name).toBe('Dragged');
    expect(store.get('signals', 'si_a')?.note).toBe('');
    history.redo();
    expect(store.get('signals', 'si_a')?.note).toBe('4');
    history.begin('Dragged again');
    history.edit('inner', (e) => e.update('signals', 'si_a', (s) => ({ ...s, note: 'x' })));
    history.cancel();
    expect(store.get('signals', 'si_a')?.note).toBe('4');
    expect(history.undoName).toBe('Dragged');
  });

  it('a new edit ends what could be redone; an edit that changes nothing is no step', () => {
    const { history } = fresh();
    history.edit('One', (e) => e.add('signals', signal('si_a')));
    history.undo();
    expect(history.redoName).toBe('One');
    history.edit('Nothing', (e) => e.update('signals', 'si_gone', (s) => s));
    expect(history.redoName).toBe('One');
    history.edit('Two', (e) => e.add('signals', signal('si_b')));
    expect(history.redoName).toBeNull();
  });

  it('an edit that throws leaves the piece as it was, and the mistake is heard of', () => {
    const { store, history } = fresh();
    const before = JSON.stringify(store.toPiece());
    expect(() =>
      history.edit('Broken', (e) => {
        e.add('signals', signal('si_a'));
        throw new Error('half-way');
      }),
    ).toThrow('half-way');
    expect(JSON.stringify(store.toPiece())).toBe(before);
    expect(history.undoName).toBeNull();
  });

  it('listeners of the store hear once of an edit of several changes', () => {
    const { store, history } = fresh();
    let heard = 0;
    store.subscribe(() => heard++);
    history.edit('Three', (e) => {
      for (const id of ['si_a', 'si_b', 'si_c']) e.add('signals', signal(id));
    });
    expect(heard).toBe(1);
    history.undo();
    expect(heard).toBe(2);
  });

  it('what a history tells is enough to repeat it on a copy: edits, drags, cancels, undo and redo', () => {
    const random = seeded(5);
    const { store, history } = fresh();
    const copy = fresh();
    const told: HistoryEvent[] = [];
    history.subscribe((e) => told.push(e));
    let open = false;
    for (let n = 0; n < 800; n++) {
      const what = random();
      if (what < 0.1) history.undo();
      else if (what < 0.2) history.redo();
      else if (what < 0.3) {
        history.begin(`Drag ${n}`);
        open = true;
      } else if (what < 0.4 && open) {
        if (random() < 0.5) history.cancel();
        else history.end();
        open = false;
      } else {
        const ids = store.ids('signals');
        const id = ids[Math.floor(random() * ids.length)];
        history.edit(`Edit ${n}`, (e) => {
          if (id === undefined || random() < 0.3) e.add('signals', signal(`si_${n}`));
          else if (random() < 0.2) e.remove('signals', id);
          else e.update('signals', id, (s) => ({ ...s, note: `${n}` }));
        });
      }
    }
    for (const e of told) copy.history.replay(e);
    expect(JSON.stringify(copy.store.toPiece())).toBe(JSON.stringify(store.toPiece()));
    expect(copy.history.state.undo.map((e) => e.name)).toEqual(history.state.undo.map((e) => e.name));
    expect(copy.history.state.redo.map((e) => e.name)).toEqual(history.state.redo.map((e) => e.name));
  });

  it('keeps the newest 500 steps', () => {
    const { history } = fresh();
    for (let n = 0; n < 520; n++) history.edit(`${n}`, (e) => e.add('signals', signal(`si_${n}`)));
    expect(history.state.undo).toHaveLength(500);
    expect(history.state.undo[0]?.name).toBe('20');
  });
});

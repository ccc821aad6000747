import { describe, expect, it } from 'vitest';
import { isSoundRecord, readEvents, readHistory } from '../src/check/index.ts';
import {
  diff,
  emptyPiece,
  History,
  type HistoryEvent,
  historyText,
  type Patch,
  PieceStore,
  patched,
  reversed,
  type Signal,
} from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

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
  return { store, history: new History(store, undefined, isSoundRecord) };
};

describe('history', () => {
  it('a record that one edit of a drag changes several times is done again as it was', () => {
    const random = seeded(3);
    for (let n = 0; n < 60; n++) {
      const { store, history } = fresh();
      const choice = (id: string) => ({
        ...{
          id,
          name: id,
          type: 'choice' as const,
          initial: 'one',
          options: ['one', 'two'],
          shared: false,
          note: '',
        },
      });
      history.edit('Added', (e) => {
        e.add('signals', choice('si_a'));
        e.add('signals', choice('si_b'));
      });
      const first = JSON.stringify(store.toPiece());
      history.begin('Dragged');
      for (let i = 0; i < 1 + random() * 4; i++)
        history.edit('inner', (e) => {
          for (let k = 0; k < 1 + random() * 4; k++) {
            const id = random() < 0.7 ? 'si_a' : 'si_b';
            if (random() < 0.2) {
              if (store.has('signals', 'si_c')) e.remove('signals', 'si_c');
              else e.add('signals', choice('si_c'));
            }
            for (const one of random() < 0.3 && store.has('signals', 'si_c') ? [id, 'si_c'] : [id])
              e.update('signals', one, (x) => ({
                ...x,
                options: [...(x as { options: string[] }).options, `${i}${k}`],
              }));
          }
        });
      history.end();
      const last = JSON.stringify(store.toPiece());
      for (let again = 0; again < 2; again++) {
        history.undo();
        expect(JSON.stringify(store.toPiece()), `case ${n}`).toBe(first);
        history.redo();
        expect(JSON.stringify(store.toPiece()), `case ${n}`).toBe(last);
      }
    }
  });

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

  it('no edit leads to places that a file cannot hold', () => {
    const { store, history } = fresh();
    history.edit('Added', (e) =>
      e.add('objects', objectOf('ob_a', { kind: 'group' }, { position: [1e12, 0, -1e300] })),
    );
    expect(store.get('objects', 'ob_a')?.base.position).toEqual([1e7, 0, -1e7]);
    history.edit('Scaled', (e) =>
      e.update('objects', 'ob_a', (o) => ({
        ...o,
        base: { ...o.base, scale: [Number.NaN, Number.POSITIVE_INFINITY, 2] },
      })),
    );
    expect(store.get('objects', 'ob_a')?.base.scale).toEqual([0, 1e7, 2]);
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

  it('what is taken back before it was a step leaves what could be redone, also on a copy', () => {
    const store = new PieceStore(emptyPiece('p', 'One'));
    const history = new History(store);
    const copy = new History(new PieceStore(emptyPiece('p', 'One')));
    history.subscribe((e) => copy.replay(e));
    const rename = (name: string) => history.edit('Renamed', (e) => e.head((h) => ({ ...h, name })));
    rename('Two');
    history.undo();
    history.begin('Dragged');
    rename('Three');
    rename('Four');
    history.cancel();
    expect([history.redoName, copy.redoName]).toEqual(['Renamed', 'Renamed']);
    history.redo();
    expect([store.head.name, copy.store.head.name]).toEqual(['Two', 'Two']);
    // A step that stays ends what could be redone.
    history.undo();
    rename('Five');
    expect([history.redoName, copy.redoName]).toEqual([null, null]);
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

  it('keeps the newest 5,000 steps, and no more than 32 MB of them or eight times the piece', () => {
    const { history } = fresh();
    for (let n = 0; n < 5020; n++) history.edit(`${n}`, (e) => e.add('signals', signal(`si_${n}`)));
    history.trim();
    expect(history.state.undo).toHaveLength(5000);
    expect(history.state.undo[0]?.name).toBe('20');
    const heavy = fresh().history;
    for (let n = 0; n < 50; n++)
      heavy.edit(`${n}`, (e) => e.add('signals', signal(`si_${n}`, 'x'.repeat(1024 * 1024))));
    const before = historyText(heavy.state).length;
    heavy.pieceChars = 6 * 1024 * 1024;
    heavy.trim();
    expect(historyText(heavy.state).length).toBeLessThan(48 * 1024 * 1024);
    expect(historyText(heavy.state).length).toBeGreaterThan(46 * 1024 * 1024);
    heavy.pieceChars = 0;
    heavy.trim();
    expect(historyText(heavy.state).length).toBeLessThan(32 * 1024 * 1024);
    expect(heavy.undoName).toBe('49');
    expect(before).toBeGreaterThan(50 * 1024 * 1024);
  });

  it('1,000 nudges of four paths of 20,000 points take little room, and lead back and forth', () => {
    const nodes = Array.from({ length: 20_000 }, (_, i) => ({ at: [i, i % 7] as [number, number] }));
    const { store, history } = fresh();
    const path = (id: string) =>
      objectOf(id, { kind: 'path', subpaths: [{ closed: true, nodes }], rule: 'nonzero' });
    history.edit('Drew', (e) => {
      for (const id of ['ob_a', 'ob_b', 'ob_c', 'ob_d']) e.add('objects', path(id));
    });
    history.trim();
    const drawn = JSON.stringify(store.toPiece());
    for (let n = 0; n < 1000; n++)
      history.edit('Nudged', (e) => {
        for (const id of ['ob_a', 'ob_b', 'ob_c', 'ob_d'])
          e.update('objects', id, (o) => {
            if (o.kind !== 'path') return o;
            const first = o.subpaths[0] as (typeof o.subpaths)[number];
            const moved = first.nodes.map((k, i) =>
              i === n ? { at: [k.at[0] + 1, k.at[1]] as [number, number] } : k,
            );
            return { ...o, subpaths: [{ ...first, nodes: moved }] };
          });
      });
    const done = JSON.stringify(store.toPiece());
    const steps = { undo: history.state.undo.slice(1), redo: [] };
    expect(historyText(steps).length).toBeLessThan(1_000_000);
    for (let n = 0; n < 1000; n++) history.undo();
    expect(JSON.stringify(store.toPiece())).toBe(drawn);
    for (let n = 0; n < 1000; n++) history.redo();
    expect(JSON.stringify(store.toPiece())).toBe(done);
  });
});

describe('patches', () => {
  /** A random value of plain data, and another that has something of it. */
  const value = (random: () => number, depth: number): unknown => {
    const what = random();
    if (depth === 0 || what < 0.4)
      return [null, true, 1, 'a', Math.floor(random() * 5), 'b'][Math.floor(random() * 6)];
    const n = Math.floor(random() * 6);
    if (what < 0.7) return Array.from({ length: n }, () => value(random, depth - 1));
    return Object.fromEntries(
      Array.from({ length: n }, () => ['abcdefg'[Math.floor(random() * 7)], value(random, depth - 1)]),
    );
  };
  const changed = (random: () => number, x: unknown, depth: number): unknown => {
    if (random() < 0.15) return value(random, depth);
    if (Array.isArray(x)) {
      const list = x.map((v) => (random() < 0.4 ? changed(random, v, depth - 1) : v));
      if (random() < 0.3) list.splice(Math.floor(random() * 4), Math.floor(random() * 3), value(random, 1));
      return list;
    }
    if (typeof x !== 'object' || x === null) return random() < 0.3 ? value(random, 1) : x;
    const entries = Object.entries(x).map(([k, v]) => [
      k,
      random() < 0.4 ? changed(random, v, depth - 1) : v,
    ]);
    if (random() < 0.2) entries.splice(Math.floor(random() * 3), 1);
    if (random() < 0.3) entries.splice(Math.floor(random() * 3), 0, ['new', value(random, 1)]);
    return Object.fromEntries(entries);
  };

  it('lead from any state to any other and back, also when they were kept as text; what was is never touched', () => {
    const random = seeded(77);
    for (let round = 0; round < 4000; round++) {
      const a = value(random, 4);
      const b = changed(random, a, 4);
      const text = JSON.stringify(a);
      const patch = JSON.parse(JSON.stringify(diff(a, b))) as Patch;
      expect(patched(a, patch), `round ${round}`).toEqual(b);
      expect(patched(b, reversed(patch)), `round ${round}`).toEqual(a);
      expect(JSON.stringify(a)).toBe(text);
      expect(diff(a, structuredClone(a))).toEqual([]);
    }
  });

  it('bring a field back to its place among the others', () => {
    const a = { first: 1, gone: { x: [1, 2] }, last: 3 };
    const b = { first: 1, last: 4 };
    expect(JSON.stringify(patched(b, reversed(diff(a, b))))).toBe(JSON.stringify(a));
  });

  it('are small: one point of many, one added, one taken out; and never larger than both states', () => {
    const random = seeded(3);
    const list = Array.from({ length: 5000 }, (_, i) => ({ at: [i, random()] }));
    const size = (to: unknown) => JSON.stringify(diff({ list }, { list: to })).length;
    expect(size(list.with(77, { at: [1, 2] }))).toBeLessThan(200);
    expect(size(list.toSpliced(2000, 1))).toBeLessThan(150);
    expect(size(list.toSpliced(2000, 0, { at: [5, 5] }))).toBeLessThan(150);
    const all = list.map((k) => ({ at: [k.at[0], (k.at[1] as number) + 1] }));
    expect(size(all)).toBeLessThan(JSON.stringify([list, all]).length * 1.1);
  });

  it('share what they do not change, and take lists of any length', () => {
    const big = Array.from({ length: 300_000 }, (_, i) => i);
    const a = { big, other: { x: 1 } };
    const b = patched(a, diff(a, { big, other: { x: 2 } })) as typeof a;
    expect(b.big).toBe(big);
    expect((patched({ big: [] }, diff({ big: [] }, { big })) as typeof a).big).toEqual(big);
  });
});

describe('a kept history', () => {
  const entry = (diff: unknown[]) => ({ name: 'x', diff });
  const text = (undo: unknown[], redo: unknown[] = []) => JSON.stringify({ undo, redo });

  it('of the form before, with both states of a record, leads back as it did', () => {
    const { store, history } = fresh();
    history.edit('Added', (e) => e.add('signals', signal('si_a', 'one')));
    const added = history.state.undo[0];
    history.edit('Noted', (e) => e.update('signals', 'si_a', (s) => ({ ...s, note: 'two' })));
    const old = text([
      added,
      entry([{ op: 'update', table: 'signals', from: signal('si_a', 'one'), to: signal('si_a', 'two') }]),
    ]);
    const read = readHistory(old);
    expect(read.whole).toBe(true);
    const again = new History(new PieceStore(store.toPiece()), read.state, isSoundRecord);
    again.undo();
    expect(again.store.get('signals', 'si_a')?.note).toBe('one');
    again.undo();
    expect(again.store.has('signals', 'si_a')).toBe(false);
    again.redo();
    again.redo();
    expect(again.store.toPiece()).toEqual(store.toPiece());
  });

  it.each([
    ['null', 'null'],
    ['cut', '{"undo":[{"name":"a","di'],
    ['of a wrong shape', '{"undo":{},"redo":[]}'],
    ['not a text', 7],
  ])('that is %s is none, and said not to be whole', (_, kept) => {
    expect(readHistory(kept)).toEqual({ state: { undo: [], redo: [] }, whole: false });
  });

  it('keeps the steps that can be reached without a spoilt one', () => {
    const good = entry([{ op: 'add', table: 'signals', at: 0, record: signal('si_a') }]);
    const spoilt = [
      null,
      entry([null]),
      entry([{ op: 'add', table: 'nothing', at: 0, record: {} }]),
      { name: 1, diff: [] },
    ];
    for (const bad of spoilt)
      expect(readHistory(text([good, bad, good], [good, good, bad])).state).toEqual({
        undo: [good],
        redo: [],
      });
  });

  it('an undo that leads nowhere, or to what no piece may hold, changes nothing and drops what it cannot reach', () => {
    const leads = [
      [{ op: 'add', table: 'signals', at: 0, record: signal('si_none') }],
      [{ op: 'remove', table: 'signals', at: 0, record: { id: 'si_x' } }],
      [
        { op: 'remove', table: 'signals', at: 0, record: signal('si_b') },
        { op: 'update', table: 'signals', id: 'si_q', patch: [] },
      ],
      [{ op: 'update', table: 'signals', id: 'si_a', patch: [{ p: ['name'], f: null, t: 'si_a' }] }],
      [{ op: 'update', table: 'signals', id: 'si_a', patch: [{ p: ['name', 'deep', 'er'], t: 1 }] }],
    ];
    for (const diff of leads) {
      const { store } = fresh();
      new History(store).edit('Added', (e) => e.add('signals', signal('si_a')));
      const before = JSON.stringify(store.toPiece());
      const history = new History(store, readHistory(text([entry(diff)])).state, isSoundRecord);
      expect(history.undoName).toBe('x');
      expect(history.undo()).toBeNull();
      expect(JSON.stringify(store.toPiece())).toBe(before);
      expect(history.undoName).toBeNull();
      expect(history.forgot).toBe(true);
      history.edit('Goes on', (e) => e.add('signals', signal('si_c')));
      expect(history.undo()?.name).toBe('Goes on');
    }
  });

  it('events that cannot be repeated change nothing on the copy', () => {
    expect(readEvents('[{"kind":"push","entry":null}]')).toBeNull();
    expect(readEvents('[{"kind":"dance"}]')).toBeNull();
    expect(readEvents('{')).toBeNull();
    const { store, history } = fresh();
    const before = JSON.stringify(store.toPiece());
    const bad = readEvents(
      JSON.stringify([
        { kind: 'push', entry: entry([{ op: 'add', table: 'signals', at: 0, record: { id: 'si_x' } }]) },
      ]),
    );
    expect(bad?.map((e) => history.replay(e))).toEqual([false]);
    expect(history.replay({ kind: 'undo' })).toBe(false);
    expect(JSON.stringify(store.toPiece())).toBe(before);
  });
});

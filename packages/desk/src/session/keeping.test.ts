import 'fake-indexeddb/auto';
import { emptyPiece, type Signal, writePiece } from '@apple-tick/core/model';
import { beforeEach, expect, it } from 'vitest';
import { addPiece, db, deletePiece, dropUnusedFiles, Keeper, type Kept, loadHistory } from './keeping.ts';

const signal = (id: string): Signal => ({
  id,
  name: id,
  type: 'switch',
  initial: false,
  shared: false,
  note: '',
});
const open = async () => {
  const kept = (await loadHistory('p')) as Kept;
  return { ...kept, keeper: new Keeper(kept, () => {}) };
};
beforeEach(async () => {
  await db.pieces.clear();
  await db.journal.clear();
  await addPiece(emptyPiece('p', 'Test'));
});

it('what is edited, dragged, undone and redone is there again after opening anew, history too', async () => {
  const a = await open();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  await a.keeper.flush();
  a.history.begin('Drag');
  for (let i = 0; i < 4; i++) {
    a.history.edit('x', (e) => e.update('signals', 'si_a', (s) => ({ ...s, note: `${i}` })));
    // A drag is written down while it goes on.
    if (i === 1) await a.keeper.flush();
  }
  a.history.end();
  a.history.edit('Two', (e) => e.add('signals', signal('si_b')));
  a.history.undo();
  await a.keeper.flush();
  const b = await open();
  expect(writePiece(b.store.toPiece())).toBe(writePiece(a.store.toPiece()));
  expect(b.store.get('signals', 'si_a')?.note).toBe('3');
  expect(b.history.state).toEqual(a.history.state);
  b.history.redo();
  b.history.undo();
  b.history.undo();
  expect(b.store.get('signals', 'si_a')?.note).toBe('');
  expect(b.history.undoName).toBe('One');
});

it('a cancelled drag that was already written down is gone after opening anew', async () => {
  const a = await open();
  a.history.begin('Drag');
  a.history.edit('x', (e) => e.add('signals', signal('si_a')));
  await a.keeper.flush();
  a.history.cancel();
  await a.keeper.flush();
  const b = await open();
  expect(b.store.has('signals', 'si_a')).toBe(false);
  expect(b.history.undoName).toBeNull();
});

it('now and then the whole is written and the journal begins anew; nothing is lost across that', async () => {
  const a = await open();
  for (let n = 0; n < 130; n++) {
    a.history.edit(`Step ${n}`, (e) => e.add('signals', signal(`si_${n}`)));
    await a.keeper.flush();
  }
  expect(await db.journal.count()).toBeLessThan(60);
  const b = await open();
  expect(b.store.ids('signals')).toHaveLength(130);
  expect(b.history.state.undo).toHaveLength(130);
  expect((await db.pieces.get('p'))?.seq).toBe(120);
});

it('a deleted piece is given back whole, so that deleting can be undone', async () => {
  const a = await open();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  await a.keeper.flush();
  const row = await deletePiece('p');
  expect(await loadHistory('p')).toBeNull();
  expect(await db.journal.count()).toBe(0);
  if (!row) throw new Error('nothing given back');
  await db.pieces.put(row);
  expect((await open()).store.has('signals', 'si_a')).toBe(true);
});

it('a piece with something that a reader of files would refuse is opened as it was', async () => {
  const piece = emptyPiece('p', 'Test');
  piece.signals = { si_a: signal('si_a'), si_b: { ...signal('si_b'), name: 'si_a' } };
  await db.pieces.update('p', { piece: JSON.stringify(piece) });
  expect((await loadHistory('p'))?.store.ids('signals')).toHaveLength(2);
});

it('a piece that cannot be read is not there, rather than broken', async () => {
  await db.pieces.update('p', { piece: '{"format":"apple-tick"}' });
  expect(await loadHistory('p')).toBeNull();
});

it('files that nothing names are dropped after a day; what a piece, its history or its journal names stays', async () => {
  const hash = (n: number) => String(n).repeat(64);
  const file = (n: number) => ({
    id: `as_${n}`,
    name: `${n}`,
    kind: 'image' as const,
    mime: 'image/png' as const,
    width: 1,
    height: 1,
    hash: hash(n),
  });
  await db.assets.bulkPut([1, 2, 3, 4, 5].map((n) => ({ hash: hash(n), bytes: new ArrayBuffer(1), at: 0 })));
  await addPiece({ ...emptyPiece('q', 'Other'), assets: { as_1: file(1) } });
  const a = await open();
  // In the journal, then only in what can be undone.
  a.history.edit('One', (e) => e.add('assets', file(2)));
  await a.keeper.flush();
  a.history.undo();
  await a.keeper.flush();
  await addPiece({ ...emptyPiece('r', 'Gone'), assets: { as_3: file(3) } });
  await deletePiece('r');
  await db.assets.update(hash(4), { at: Date.now() });
  expect(await dropUnusedFiles()).toBe(1);
  expect((await db.assets.toCollection().primaryKeys()).sort()).toEqual([1, 2, 3, 4].map(hash));
  // A day later neither the deleted piece nor what was only just brought in is waited for.
  expect(await dropUnusedFiles(Date.now() + 25 * 3600 * 1000)).toBe(2);
});

it('a page that is left at once has kept everything, also what was just being written, and the whole', async () => {
  const a = await open();
  for (let i = 0; i < 61; i++) {
    a.history.edit(`Edit ${i}`, (e) => e.add('signals', signal(`si_${i}`)));
    // Nobody waits for the writing, so that much is in flight; the sixtieth writes the whole.
    void a.keeper.flush();
  }
  a.history.edit('Last', (e) => e.add('signals', signal('si_last')));
  a.keeper.leave();
  await new Promise((done) => setTimeout(done, 200));
  const b = await open();
  expect(b.store.ids('signals')).toEqual(a.store.ids('signals'));
  expect(b.history.undoName).toBe('Last');
  b.history.undo();
  expect(b.store.has('signals', 'si_last')).toBe(false);
  await a.keeper.flush();
});

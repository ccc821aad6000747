import 'fake-indexeddb/auto';
import { defaultBase, emptyPiece, historyText, type Signal, writePiece } from '@apple-tick/core/model';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Keeper, type KeepState } from './keeper.ts';
import { addPiece, deletePiece, dropPiece, putBack, tidyUp } from './keeping.ts';
import { type Loaded, loadPiece } from './loading.ts';
import { db, keptRows } from './storage.ts';

const signal = (id: string): Signal => ({
  id,
  name: id,
  type: 'switch',
  initial: false,
  shared: false,
  note: '',
});
/** Those of the test under way: what they have not written yet must not come into the next one. */
const opened: Keeper[] = [];
const open = async () => {
  const kept = (await loadPiece('p')) as Extract<Loaded, { ok: true }>;
  const said: KeepState[] = [];
  const keeper = new Keeper(kept, (x) => said.push(x));
  opened.push(keeper);
  return { ...kept, said, keeper };
};
afterEach(async () => {
  for (const k of opened.splice(0)) {
    await k.flush();
    k.close();
  }
});
const why = async (id = 'p') => {
  const l = await loadPiece(id);
  return l.ok ? 'ok' : l.why;
};
beforeEach(async () => {
  localStorage.clear();
  await db.pieces.clear();
  await db.journal.clear();
  await db.last.clear();
  await db.bin.clear();
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
  expect(historyText(b.history.state)).toBe(historyText(a.history.state));
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

it('a piece that an older version kept opens with its undo history and journal, and is kept anew', async () => {
  const old = emptyPiece('p', 'Old');
  const clip = (loop: unknown) => ({
    id: 'cl_a',
    name: 'turn',
    root: 'ob_a',
    duration: 1,
    loop,
    tracks: [],
    cues: [],
  });
  const group = { id: 'ob_a', name: 'A', parent: null, order: 'a0', kind: 'group', tags: [], hint: '' };
  old.objects['ob_a'] = { ...group, base: defaultBase() } as never;
  old.clips['cl_a'] = clip(true) as never;
  const step = (name: string, f: unknown, t: unknown) => ({
    name,
    diff: [{ op: 'update', table: 'clips', id: 'cl_a', patch: [{ p: ['loop'], f, t }] }],
  });
  await db.pieces.update('p', {
    piece: JSON.stringify({ ...JSON.parse(writePiece(old)), version: 0 }),
    history: JSON.stringify({ undo: [step('Looped', false, true)], redo: [] }),
    seq: 3,
  });
  const event = JSON.stringify([{ kind: 'push', entry: step('Once', true, false) }]);
  await db.journal.put({ piece: 'p', seq: 4, event });
  const a = await open();
  expect([a.left, a.store.get('clips', 'cl_a')?.loop]).toEqual([[], 'once']);
  await a.keeper.flush();
  const row = await db.pieces.get('p');
  expect([JSON.parse(row?.piece ?? '').version, row?.seq, await db.journal.count()]).toEqual([1, 4, 0]);
  const b = await open();
  b.history.undo();
  expect(b.store.get('clips', 'cl_a')?.loop).toBe('loop');
  b.history.undo();
  expect(b.store.get('clips', 'cl_a')?.loop).toBe('once');
  expect(b.history.undoName).toBeNull();
});

it('a step leaves the whole row as it is; the shelf and the bin tell the newer name and count all the same', async () => {
  const a = await open();
  const whole = await db.pieces.get('p');
  const group = {
    id: 'ob_a',
    name: 'A',
    parent: null,
    order: 'a0',
    kind: 'group' as const,
    tags: [],
    hint: '',
  };
  a.history.edit('Renamed', (e) => {
    e.head((h) => ({ ...h, name: 'Newer' }));
    e.add('objects', { ...group, base: defaultBase() });
  });
  await a.keeper.flush();
  expect(await db.pieces.get('p')).toEqual(whole);
  expect((await keptRows()).map((r) => [r.name, r.objects])).toEqual([['Newer', 1]]);
  await deletePiece('p');
  expect((await db.bin.get('p'))?.name).toBe('Newer');
  await putBack('p');
  expect((await keptRows()).map((r) => r.name)).toEqual(['Newer']);
  await addPiece(emptyPiece('p', 'Anew'));
  expect((await keptRows()).map((r) => [r.name, r.objects])).toEqual([['Anew', 0]]);
});

it('what a page writes while it is left needs not wait for a write under way, and is read once', async () => {
  const a = await open();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  const writing = a.keeper.flush();
  a.history.edit('Two', (e) => e.add('signals', signal('si_b')));
  a.keeper.leave();
  await writing;
  await vi.waitFor(async () => expect((await db.last.toArray()).map((r) => r.seq)).toEqual([1, 2]));
  const b = await open();
  expect(b.store.ids('signals')).toEqual(['si_a', 'si_b']);
  expect(b.history.state.undo.map((e) => e.name)).toEqual(['One', 'Two']);
  await dropPiece('p');
  expect(await db.last.count()).toBe(0);
});

it('what a page left is found by the next one even before the database has it, and is then kept', async () => {
  const a = await open();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  a.keeper.leave();
  // As when the next page reads before the transaction is served.
  await vi.waitFor(async () => expect(await db.last.count()).toBe(1), 5000);
  await db.last.clear();
  const b = await open();
  expect(b.history.state.undo.map((e) => e.name)).toEqual(['One']);
  expect(b.keeper.isKept).toBe(false);
  b.history.edit('Two', (e) => e.add('signals', signal('si_b')));
  await b.keeper.flush();
  expect(b.keeper.isKept).toBe(true);
  expect((await db.journal.toArray()).map((r) => r.seq)).toEqual([1, 2]);
  // It is in the journal, and nowhere else.
  expect(localStorage.length).toBe(0);
  const c = await open();
  expect(c.history.state.undo.map((e) => e.name)).toEqual(['One', 'Two']);
});

it('what was left behind and is broken is passed over', async () => {
  for (const broken of ['{', '7', '[["x"],[1],[2,3],null]']) {
    localStorage.setItem('apple-tick-left/p', broken);
    const a = await open();
    expect(a.history.undoName).toBeNull();
    expect(a.keeper.isKept).toBe(true);
  }
  localStorage.clear();
});

it('a page that is left while a write is being committed, which cannot be given up, writes what came after it', async () => {
  const a = await open();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  // As a transaction is between its last request and its end.
  const abort = vi.fn(() => {
    throw new DOMException('it is committing', 'InvalidStateError');
  });
  Object.assign(a.keeper, { writing: { active: true, abort } });
  a.keeper.leave();
  expect(abort).toHaveBeenCalled();
  await vi.waitFor(async () => expect(await db.last.count()).toBe(1), 5000);
  const b = await open();
  expect(b.history.state.undo.map((e) => e.name)).toEqual(['One']);
});

it('a deleted piece is put back whole, with what could be undone; only then it is there', async () => {
  const a = await open();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  await a.keeper.flush();
  await deletePiece('p');
  expect(await why()).toBe('deleted');
  expect(await db.pieces.count()).toBe(0);
  await putBack('p');
  const b = await open();
  expect(b.store.has('signals', 'si_a')).toBe(true);
  expect(b.history.undoName).toBe('One');
  await deletePiece('p');
  await dropPiece('p');
  expect(await why()).toBe('missing');
  expect(await db.journal.count()).toBe(0);
});

it('a piece with something that a reader of files would refuse is opened as it was', async () => {
  const piece = emptyPiece('p', 'Test');
  piece.signals = { si_a: signal('si_a'), si_b: { ...signal('si_b'), name: 'si_a' } };
  await db.pieces.update('p', { piece: JSON.stringify(piece) });
  const b = await open();
  expect(b.store.ids('signals')).toHaveLength(2);
  expect(b.left).toEqual([]);
});

it.each([
  ['of a wrong shape', '{"format":"apple-tick"}'],
  ['cut', '{"format":"apple-tick","version":1,"objects":{'],
  ['null', null],
  ['no text', 7],
])('a piece that is %s is said to be broken, with what is kept', async (_, piece) => {
  await db.pieces.update('p', { piece: piece as string });
  const l = await loadPiece('p');
  expect(l).toMatchObject({ ok: false, why: 'broken' });
  expect(!l.ok && l.text).toContain(typeof piece === 'string' ? piece : String(piece));
});

it('a piece that a newer version has kept is said to be such, and left as it is', async () => {
  const row = await db.pieces.get('p');
  const newer = String(row?.piece).replace(/"version":\s*\d+/, '"version": 99');
  expect(newer).not.toBe(row?.piece);
  await db.pieces.update('p', { piece: newer });
  expect(await loadPiece('p')).toEqual({ ok: false, why: 'newer', text: newer });
  expect((await db.pieces.get('p'))?.piece).toBe(newer);
});

it('a broken history or journal costs what could be undone, or the last steps, and says so', async () => {
  const a = await open();
  for (const id of ['si_a', 'si_b', 'si_c']) {
    a.history.edit(id, (e) => e.add('signals', signal(id)));
    await a.keeper.flush();
  }
  await db.pieces.update('p', { history: '{"undo":[{"na' });
  await db.journal.update(['p', 2], { event: null as never });
  const b = await open();
  expect(b.store.ids('signals')).toEqual(['si_a']);
  expect(b.left).toEqual([
    'history: Some or all of what could be undone is broken.',
    'journal: The last steps cannot be read; the piece stands as it did before them.',
  ]);
  // What was left out is not met again, and what is done now does not mix with it.
  b.history.edit('Now', (e) => e.add('signals', signal('si_now')));
  await b.keeper.flush();
  const c = await open();
  expect(c.left).toEqual([]);
  expect(c.store.ids('signals')).toEqual(['si_a', 'si_now']);
});

it('what another build kept, with both states of a record in a step, opens with its history', async () => {
  const record = signal('si_a');
  const piece = { ...emptyPiece('p', 'Test'), signals: { si_a: { ...record, note: 'two' } } };
  const entry = (note: string, from: string) => ({
    name: `Noted ${note}`,
    diff: [{ op: 'update', table: 'signals', from: { ...record, note: from }, to: { ...record, note } }],
  });
  await db.pieces.update('p', {
    piece: JSON.stringify(piece),
    history: JSON.stringify({ undo: [entry('one', ''), entry('two', 'one')], redo: [] }),
  });
  await db.journal.put({
    piece: 'p',
    seq: 1,
    event: JSON.stringify([{ kind: 'push', entry: entry('three', 'two') }, { kind: 'undo' }]),
  });
  const b = await open();
  expect(b.left).toEqual([]);
  const notes = [b.store.get('signals', 'si_a')?.note];
  b.history.redo();
  notes.push(b.store.get('signals', 'si_a')?.note);
  while (b.history.undo()) notes.push(b.store.get('signals', 'si_a')?.note);
  expect(notes).toEqual(['two', 'three', 'two', 'one', '']);
});

it('kept is said only of what is: a write that fails is said, tried again, and then all of it is there', async () => {
  const a = await open();
  const full = vi.spyOn(db.journal, 'bulkPut').mockImplementation(() => {
    throw new DOMException('full', 'QuotaExceededError');
  });
  for (const id of ['si_a', 'si_b']) {
    a.history.edit(id, (e) => e.add('signals', signal(id)));
    await a.keeper.flush();
  }
  expect(a.said.map((x) => x.kind)).not.toContain('kept');
  expect(a.said.at(-1)).toEqual({
    kind: 'failed',
    why: 'There is no room left in this browser: delete pieces for good on the shelf, or export this one as a file.',
  });
  expect(a.keeper.isKept).toBe(false);
  expect((await open()).store.ids('signals')).toEqual([]);
  full.mockRestore();
  // Nobody does anything: it is tried again by itself.
  await vi.waitFor(() => expect(a.said.at(-1)?.kind).toBe('kept'), 5000);
  const b = await open();
  expect(b.store.ids('signals')).toEqual(['si_a', 'si_b']);
  expect(b.history.state.undo.map((x) => x.name)).toEqual(['si_a', 'si_b']);
});

it('a connection that was cut is made anew, and what was done meanwhile is kept', async () => {
  const a = await open();
  db.close();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  await a.keeper.flush();
  await vi.waitFor(() => expect(a.keeper.isKept).toBe(true), 8000);
  expect((await open()).store.has('signals', 'si_a')).toBe(true);
});

it('a piece that was deleted elsewhere is not called kept, and can be kept again with all since', async () => {
  const a = await open();
  a.history.edit('One', (e) => e.add('signals', signal('si_a')));
  await a.keeper.flush();
  await deletePiece('p');
  a.history.edit('Two', (e) => e.add('signals', signal('si_b')));
  await a.keeper.flush();
  expect(a.said.at(-1)?.kind).toBe('gone');
  expect(await why()).toBe('deleted');
  await a.keeper.keepAgain();
  expect(await db.bin.count()).toBe(0);
  expect((await open()).store.ids('signals')).toEqual(['si_a', 'si_b']);
  a.history.edit('Three', (e) => e.add('signals', signal('si_c')));
  await a.keeper.flush();
  expect(a.said.at(-1)?.kind).toBe('kept');
  expect((await open()).store.ids('signals')).toHaveLength(3);
});

it('a large picture of a drawing edited a thousand times is kept quickly and undone to the start', async () => {
  const nodes = Array.from({ length: 20_000 }, (_, i) => ({ at: [i, 0] }));
  const text = (n: number) => `${n}`;
  const big = {
    ...signal('si_big'),
    type: 'choice',
    initial: '0',
    options: nodes.map((_, i) => text(i)),
  } as Signal;
  const piece = { ...emptyPiece('p', 'Test'), signals: { si_big: big } };
  await db.pieces.update('p', { piece: writePiece(piece) });
  const a = await open();
  for (let n = 0; n < 260; n++) {
    a.history.edit('Nudged', (e) =>
      e.update('signals', 'si_big', (x) =>
        x.type === 'choice' ? { ...x, options: x.options.map((o, i) => (i === n ? `moved ${o}` : o)) } : x,
      ),
    );
    if (n % 20 === 0) await a.keeper.flush();
  }
  await a.keeper.flush();
  const rows = await db.journal.toArray();
  expect(rows.reduce((n, r) => n + r.event.length, 0)).toBeLessThan(200_000);
  const b = await open();
  while (b.history.undo());
  expect(b.store.get('signals', 'si_big')).toEqual(big);
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
  expect(await tidyUp()).toBe(1);
  expect((await db.assets.toCollection().primaryKeys()).sort()).toEqual([1, 2, 3, 4].map(hash));
  // A day later what was only just brought in is not waited for; a month later the deleted piece is gone, too.
  const day = 24 * 3600 * 1000;
  expect(await tidyUp(Date.now() + 1.1 * day)).toBe(1);
  expect(await db.bin.count()).toBe(1);
  expect(await tidyUp(Date.now() + 31 * day)).toBe(1);
  expect(await db.bin.count()).toBe(0);
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
  await vi.waitFor(() => expect(a.keeper.isKept).toBe(true), 5000);
  const b = await open();
  expect(b.store.ids('signals')).toEqual(a.store.ids('signals'));
  expect(b.history.undoName).toBe('Last');
  b.history.undo();
  expect(b.store.has('signals', 'si_last')).toBe(false);
  await a.keeper.flush();
});

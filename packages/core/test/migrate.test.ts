/** What an older version kept, brought up whole: each state on the way is the old one, brought up by itself. */
import { expect, it } from 'vitest';
import { bringUp, MIGRATIONS, migrate, readHistory, readPiece } from '../src/check/index.ts';
import {
  emptyPiece,
  entryText,
  FORMAT_VERSION,
  History,
  type HistoryEvent,
  historyText,
  type Piece,
  PieceStore,
  writePiece,
} from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

type Loose = { loop: unknown; duration: number; name: string };

/** A piece as version 0 had it, with some clips. */
function oldStore(): PieceStore {
  const p = emptyPiece('p', 'Old');
  p.objects['ob_a'] = objectOf('ob_a', { kind: 'group' });
  for (const i of [1, 2, 3])
    p.clips[`cl_${i}`] = {
      ...{ id: `cl_${i}`, name: `Clip ${i}`, root: 'ob_a', duration: 1, tracks: [], cues: [] },
      loop: (i % 2 === 0) as never,
    };
  return new PieceStore(p);
}
const textOf = (p: Piece) => JSON.stringify({ ...JSON.parse(writePiece(p)), version: 0 });
const upText = (text: string) => {
  const file = JSON.parse(text);
  migrate(file);
  return file;
};

it('leads from version to version without a gap, by name', () => {
  expect(MIGRATIONS).toHaveLength(FORMAT_VERSION);
  MIGRATIONS.forEach((m, i) => {
    expect(m.name).toMatch(new RegExp(`^${i}-to-${i + 1}-[a-z-]+$`));
  });
});

it('brings up a piece, all that can be undone or done again, and the journal since', () => {
  for (let seed = 1; seed <= 40; seed++) {
    const random = seeded(seed);
    const store = oldStore();
    const history = new History(store);
    const pick = () => `cl_${1 + Math.floor(random() * 5)}`;
    const step = () => {
      const what = Math.floor(random() * 6);
      const id = pick();
      if (what === 0 && history.undoName !== null) history.undo();
      else if (what === 1 && history.redoName !== null) history.redo();
      else if (what === 2)
        history.edit('Light', (e) => e.head((h) => ({ ...h, seed: Math.floor(random() * 99) })));
      else
        history.edit(`Step ${what}`, (e) => {
          if (!store.has('clips', id))
            e.add('clips', {
              id,
              name: id,
              root: 'ob_a',
              duration: 2,
              tracks: [],
              cues: [],
              loop: true as never,
            });
          else if (what === 3) e.remove('clips', id);
          else
            e.update('clips', id, (c) => {
              const was = c as unknown as Loose;
              return { ...was, loop: !was.loop, duration: 1 + Math.floor(random() * 5) } as never;
            });
        });
    };
    for (let i = 0; i < 12; i++) step();
    const whole = { piece: textOf(store.toPiece()), history: historyText(history.state) };
    const journal: string[] = [];
    const off = history.subscribe((e: HistoryEvent) => {
      const entry = 'entry' in e && e.entry ? `,"entry":${entryText(e.entry)}` : '';
      journal.push(`[{"kind":"${e.kind}"${entry}}]`);
    });
    for (let i = 0; i < 6; i++) step();
    off();
    const up = bringUp(whole.piece, whole.history, journal);
    if (!up) throw new Error(`seed ${seed} was not brought up`);
    const now = readPiece(up.piece);
    if (!now.ok) throw new Error(JSON.stringify(now.problems));
    const again = new History(new PieceStore(now.value), readHistory(up.history).state);
    const same = () => expect(again.store.toPiece(), `seed ${seed}`).toEqual(upText(textOf(store.toPiece())));
    same();
    while (history.undoName !== null) {
      expect(again.undoName).toBe(history.undoName);
      history.undo();
      again.undo();
      same();
    }
    while (history.redoName !== null) {
      history.redo();
      again.redo();
      same();
    }
    expect([again.undoName, again.redoName]).toEqual([history.undoName, null]);
  }
});

it('leaves alone what is of this version, or cannot be read whole', () => {
  const { piece, history } = { piece: textOf(oldStore().toPiece()), history: '{"undo":[],"redo":[]}' };
  expect(bringUp(piece, history, [])).not.toBeNull();
  expect(bringUp(writePiece(emptyPiece('p', 'New')), history, [])).toBeNull();
  expect(bringUp(piece, '{"undo":[', [])).toBeNull();
  expect(bringUp(piece, history, ['[{"kind":"push","entry":null}]'])).toBeNull();
  expect(bringUp('{"version":0}', history, [])).toBeNull();
  expect(bringUp(7, history, [])).toBeNull();
});

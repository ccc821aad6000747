import { seeded } from '@apple-tick/core/testing';
import 'fake-indexeddb/auto';
import { checkIntegrity } from '@apple-tick/core/check';
import { type Action, cuesIn, emptyPiece, History, PieceStore } from '@apple-tick/core/model';
import { describe, expect, it } from 'vitest';
import { putRecipe, RECIPES } from '../../session/recipes/recipes.ts';
import { Session } from '../../session/session.ts';
import { addObject } from '../../session/things/add-object.ts';
import {
  addLine,
  addSheet,
  addSheetCue,
  changeCue,
  deleteCue,
  editSheet,
  hangCue,
  hookAfter,
  mayBeScene,
  planFor,
  sheetOf,
  sheetOfThing,
  speakerAfter,
} from './edit.ts';

function session(): Session {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  return new Session({ store, history: new History(store), seq: 0, left: [] }, false);
}
/** Whole numbers below the one that is asked for. */
function below(seed: number): (n: number) => number {
  const random = seeded(seed);
  return (n) => Math.floor(random() * n);
}

/** One random thing that is done to a sheet by the screen's own doings. */
function doOne(s: Session, some: (n: number) => number, object: string): void {
  const sheet = sheetOf(s);
  if (!sheet) {
    addSheet(s);
    return;
  }
  const cues = cuesIn(sheet);
  const any = cues[some(cues.length)];
  const hook = { cue: some(3) === 0 || !any ? null : any.id, after: some(2) === 0 };
  const t = some(200) / 100;
  const actions: Action[] = [
    { do: 'hide', object },
    { do: 'tween', object, property: 'position.x', to: some(100), seconds: t, easing: 'linear' },
    { do: 'caption', object, text: 'Hello' },
  ];
  const kind = some(10);
  if (!any || kind < 3) addSheetCue(s, sheet, hook, t, actions.slice(0, some(4)));
  else if (kind < 5) hangCue(s, sheet.id, (cues[some(cues.length)] as typeof any).id, hook, t);
  else if (kind === 5) deleteCue(s, sheet.id, any.id);
  else if (kind === 6)
    changeCue(s, sheet.id, any.id, 'Waits', (c) => ({
      ...c,
      wait: { event: 'pointer.click', object },
    }));
  else if (kind === 7)
    changeCue(s, sheet.id, any.id, 'Does', (c) => ({ ...c, actions: actions.slice(some(3)) }));
  else if (kind === 8)
    editSheet(s, 'Ends', sheet.id, (x) => ({ ...x, end: some(2) === 0 ? 'stop' : { loop: t } }));
  else changeCue(s, sheet.id, any.id, 'Moved', (c) => ({ ...c, t }));
}

describe('random edits of a cue sheet', () => {
  it.each([1, 2, 3])('each undone and done again leaves all as it was (seed %i)', (seed) => {
    const s = session();
    addObject(s, 'box');
    const object = s.state.object as string;
    const some = below(seed);
    const texts = [JSON.stringify(s.piece())];
    let most = 0;
    while (texts.length <= 100) {
      const before = s.store.version;
      doOne(s, some, object);
      // Hanging a cue on what hangs on itself is nothing.
      if (s.store.version === before) continue;
      texts.push(JSON.stringify(s.piece()));
      expect(checkIntegrity(s.piece())).toEqual([]);
      const sheet = sheetOf(s);
      if (!sheet) continue;
      const cues = cuesIn(sheet);
      most = Math.max(most, cues.length);
      // All are planned, none twice.
      expect(
        planFor(s.store, sheet)
          .map((p) => p.cue.id)
          .sort(),
      ).toEqual(cues.map((c) => c.id).sort());
    }
    expect(most).toBeGreaterThan(5);
    for (const text of texts.slice(0, -1).reverse()) {
      s.undo();
      expect(JSON.stringify(s.piece())).toBe(text);
    }
    for (const text of texts.slice(1)) {
      s.redo();
      expect(JSON.stringify(s.piece())).toBe(text);
    }
  });
});

describe('a scene that is written', () => {
  it('goes on line by line after the end of the one before, said by whoever spoke last or is named', () => {
    const s = session();
    addObject(s, 'rect');
    const ada = s.state.object as string;
    s.selectMany([]);
    addObject(s, 'ellipse');
    const bo = s.state.object as string;
    for (const [id, name] of [
      [ada, 'Ada'],
      [bo, 'Bo'],
    ] as const)
      s.edit('x', (e) => e.update('objects', id, (o) => ({ ...o, name })));
    const sheet = addSheet(s);
    const write = (line: string) => {
      const x = sheetOf(s) as NonNullable<ReturnType<typeof sheetOf>>;
      const plan = planFor(s.store, x);
      const last = plan.at(-1);
      const at = hookAfter(last);
      addLine(s, x, at, line, speakerAfter(s, plan, at));
    };
    for (const line of ['Hello', 'ada: Good morning, Bo!', 'Is it not early?', 'Time: it is six', ''])
      write(line);
    const x = s.store.get('cueSheets', sheet) as NonNullable<ReturnType<typeof sheetOf>>;
    const plan = planFor(s.store, x);
    const said = plan.map(({ cue }) => {
      const [a] = cue.actions;
      return a?.do === 'caption' ? [a.object, a.text] : null;
    });
    expect(said).toEqual([
      [bo, 'Hello'],
      [ada, 'Good morning, Bo!'],
      [ada, 'Is it not early?'],
      // Nobody is called Time.
      [ada, 'Time: it is six'],
      null,
    ]);
    // Each begins when the one before has gone.
    for (let i = 1; i < plan.length; i++) {
      const before = plan[i - 1] as (typeof plan)[number];
      expect(plan[i]?.start).toBeCloseTo(before.start + before.length, 9);
      expect(before.length).toBeGreaterThan(1.4);
    }
    expect(checkIntegrity(s.store.toPiece())).toEqual([]);
    s.undo();
    s.undo();
    expect(cuesIn(s.store.get('cueSheets', sheet) as NonNullable<ReturnType<typeof sheetOf>>)).toHaveLength(
      3,
    );
  });
});

it('what a thing does becomes a scene: its motions that end, one after another, then its looks', () => {
  const s = session();
  addObject(s, 'rect');
  const object = s.state.object as string;
  expect(mayBeScene(s, object)).toBe(false);
  sheetOfThing(s, object);
  expect(sheetOf(s)).toBeUndefined();
  for (const id of ['appears', 'spin', 'slides', 'looks'])
    putRecipe(s, RECIPES.find((r) => r.id === id) as (typeof RECIPES)[number], object);
  sheetOfThing(s, object);
  const plan = planFor(s.store, sheetOf(s) as NonNullable<ReturnType<typeof sheetOf>>);
  // What turns round and round has no end that another could wait for.
  expect(plan.map((p) => p.cue.actions[0]?.do)).toEqual(['play', 'play', 'look']);
  expect(plan.map((p) => p.start)).toEqual([0, 0.5, 1.3]);
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
  s.undo();
  expect(sheetOf(s)).toBeUndefined();
});

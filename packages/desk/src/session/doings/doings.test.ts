/** What is done, copied from and to reactions and cues, within a piece and into another. */
import 'fake-indexeddb/auto';
import { checkIntegrity } from '@apple-tick/core/check';
import { cuesIn, type Editor, emptyPiece, History, PieceStore, type Reaction } from '@apple-tick/core/model';
import { compile, type Input, propertyValue, Run } from '@apple-tick/core/run';
import { beforeEach, expect, it } from 'vitest';
import { addSheet } from '../../features/sheets/edit.ts';
import { animateAnew } from '../motion/animate.ts';
import { Session } from '../session.ts';
import { addObject } from '../things/add-object.ts';
import { excerptText, readExcerpt } from '../things/clipboard.ts';
import { copyDoings, duplicateDoings, pasteDoings } from './doings.ts';
import { backNextTime, mayComeBack } from './new-action.ts';
import { addSignal } from './signals.ts';

const begun = () => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  return new Session({ store, history: new History(store), seq: 0, left: [] }, false);
};
const added = (s: Session) => {
  s.selectMany([]);
  addObject(s, 'box');
  return s.state.object as string;
};
let s: Session;
let a: string;
let b: string;
let signal: string;
beforeEach(() => {
  s = begun();
  [a, b] = [added(s), added(s)];
  signal = addSignal(s, 'switch', 'lamp');
  const r: Reaction = {
    ...{ id: s.newId('reactions'), object: a, on: { event: 'pointer.click' }, when: [] },
    ...{ after: 0, cooldown: 0.5, limit: 'always' },
    actions: [
      { do: 'toggle', signal },
      { do: 'hide', object: a },
      { do: 'show', object: b },
    ],
  };
  s.edit('x', (e) => e.add('reactions', r));
});
const copied = () => {
  const x = copyDoings(s, s.store.ids('reactions')[0] as string);
  if (!x) throw new Error('nothing was copied');
  // As it goes through the clipboard.
  const read = readExcerpt(excerptText(x));
  if (!read) throw new Error('it is not read back');
  return read;
};

it('a reaction that is pasted onto another thing does there to that what it did to its own', () => {
  const x = copied();
  s.select({ kind: 'object', id: b });
  pasteDoings(s, x);
  const [, r] = s.store.all('reactions') as [Reaction, Reaction];
  expect([r.object, r.cooldown]).toEqual([b, 0.5]);
  expect(r.actions).toEqual([
    { do: 'toggle', signal },
    { do: 'hide', object: b },
    { do: 'show', object: b },
  ]);
  expect(s.store.all('signals')).toHaveLength(1);
  expect(s.store.all('objects')).toHaveLength(2);
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
  s.undo();
  expect(s.store.all('reactions')).toHaveLength(1);
});

it('in another piece it brings its signal along, and leaves what it did to things that are not there', () => {
  const x = copied();
  s = begun();
  const c = added(s);
  pasteDoings(s, x);
  const [r] = s.store.all('reactions');
  // Ids are counted anew in each piece: what it did to the other thing is done to what has that id, or to nothing.
  expect(r?.object).toBe(c);
  expect(s.store.all('signals').map((n) => n.name)).toEqual(['lamp']);
  expect(r?.actions.slice(0, 2)).toEqual([
    { do: 'toggle', signal: s.store.ids('signals')[0] },
    { do: 'hide', object: c },
  ]);
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
});

it('it becomes a cue of the open clip, or of the sheet in sight, and such a cue becomes a reaction', () => {
  const x = copied();
  s.select({ kind: 'object', id: a });
  animateAnew(s, s.store.get('objects', a) as NonNullable<ReturnType<typeof s.store.get<'objects'>>>);
  s.set({ inTimeline: true, playhead: 0.35 });
  pasteDoings(s, x);
  const cue = s.store.all('clips')[0]?.cues[0];
  expect([cue?.t, cue?.actions.map((y) => y.do)]).toEqual([0.35, ['toggle', 'hide', 'show']]);
  expect(s.store.all('reactions')).toHaveLength(1);
  const fromCue = copyDoings(s, null);
  expect(fromCue?.doings).toBe('reactions');
  s.set({ openState: null, openClip: null, inTimeline: false, deck: 'sheets', sheet: addSheet(s) });
  pasteDoings(s, fromCue as NonNullable<typeof fromCue>);
  const sheet = s.store.all('cueSheets')[0] as NonNullable<ReturnType<typeof s.store.get<'cueSheets'>>>;
  expect(cuesIn(sheet).map((q) => q.actions.length)).toEqual([3]);
  // Once more, of the cue that is chosen.
  expect(duplicateDoings(s, null)).toBe(true);
  expect(cuesIn(s.store.all('cueSheets')[0] as typeof sheet)).toHaveLength(2);
  s.set({ deck: 'lanes' });
  s.select({ kind: 'object', id: b });
  pasteDoings(s, fromCue as NonNullable<typeof fromCue>);
  expect(s.store.all('reactions').at(-1)).toMatchObject({ object: b, on: { event: 'pointer.click' } });
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
});

it('with nothing chosen it says what is to be done, and changes nothing', () => {
  const x = copied();
  s.selectMany([]);
  s.set({ object: null });
  pasteDoings(s, x);
  expect(s.state.notice).toMatch(/Choose the thing/);
  expect(s.store.all('reactions')).toHaveLength(1);
});

it('an action or a condition alone goes into the list that is worked on, a condition into the chosen way', () => {
  const r = () => s.store.all('reactions')[0] as Reaction;
  const through = () => {
    const x = copyDoings(s, r().id);
    const read = x && readExcerpt(excerptText(x));
    if (!read) throw new Error('nothing was copied');
    return read;
  };
  const take = () => {};
  s.worked = { owner: a, action: r().actions[1], take };
  const action = through();
  expect(action.doings).toBe('action');
  let got: unknown;
  s.worked = { owner: b, putActions: (more) => (got = more), take };
  pasteDoings(s, action);
  expect(got).toEqual([{ do: 'hide', object: b }]);
  expect(s.store.ids('reactions')).toHaveLength(1);
  // Where no list is worked on, it is done at a click.
  s.worked = null;
  s.select({ kind: 'object', id: b });
  pasteDoings(s, action);
  expect(s.store.all('reactions')[1]?.actions).toEqual([{ do: 'hide', object: b }]);
  s.worked = { condition: { signal, is: true }, take };
  const condition = through();
  s.worked = null;
  animateAnew(s, s.store.get('objects', b) as never);
  const machine = s.store.all('machines')[0] as NonNullable<ReturnType<typeof s.store.get<'machines'>>>;
  const lane = machine.lanes[0] as (typeof machine.lanes)[number];
  const way = lane.transitions[0] as (typeof lane.transitions)[number];
  s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: way.id });
  pasteDoings(s, condition);
  const now = () => s.store.get('machines', machine.id)?.lanes[0]?.transitions[0];
  expect([now()?.when, now()?.set]).toEqual([[{ signal, is: true }], true]);
  s.undo();
  expect(now()?.when).toEqual([]);
  s.select({ kind: 'object', id: b });
  pasteDoings(s, condition);
  expect(s.state.notice).toMatch(/^Choose the reaction or the transition/);
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
});

it('states and ways are pasted into other lanes, of this piece and of another', () => {
  const through = () => {
    const x = copyDoings(s, null);
    const read = x && readExcerpt(excerptText(x));
    if (!read) throw new Error('nothing was copied');
    return read;
  };
  animateAnew(s, s.store.get('objects', a) as never);
  const machine = () => s.store.all('machines').find((m) => m.object === a) as NonNullable<typeof s.machine>;
  const lane = () => machine().lanes[0] as ReturnType<typeof machine>['lanes'][number];
  const [rest, moves] = lane().states as [
    (typeof lane extends () => infer L ? L : never)['states'][number],
    never,
  ];
  const at = { machine: machine().id, lane: lane().id };
  s.select({ kind: 'state', ...at, id: (moves as { id: string }).id });
  const state = through();
  // Beside itself it shares the clip.
  pasteDoings(s, state);
  expect(lane().states).toHaveLength(3);
  expect(s.store.all('clips')).toHaveLength(1);
  expect(new Set(lane().states.map((x) => x.name)).size).toBe(3);
  // On another thing it comes with one, and makes a machine where there is none.
  s.select({ kind: 'object', id: b });
  pasteDoings(s, state);
  const other = s.store.all('machines').find((m) => m.object === b);
  expect(other?.lanes[0]?.states).toHaveLength(1);
  expect(s.store.all('clips').map((c) => c.root)).toEqual([a, b]);
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
  // A way onto a way gives it what it waits for.
  s.select({ kind: 'object', id: a });
  const [way] = lane().transitions as [ReturnType<typeof lane>['transitions'][number]];
  s.edit('x', (e) =>
    e.update('machines', machine().id, (m) => ({
      ...m,
      lanes: m.lanes.map((l) => ({
        ...l,
        transitions: l.transitions.map((t) => ({ ...t, on: { event: 'pointer.click' as const }, set: true })),
      })),
    })),
  );
  s.select({ kind: 'transition', ...at, id: way.id });
  const copiedWay = through();
  const far = begun();
  const there = added(far);
  far.select({ kind: 'object', id: there });
  pasteDoings(far, copiedWay);
  const made = far.store.all('machines')[0]?.lanes[0];
  expect(made?.states.map((x) => x.name)).toEqual([rest.name, (moves as { name: string }).name]);
  expect(made?.transitions.map((t) => t.on?.event)).toEqual(['pointer.click']);
  expect(checkIntegrity(far.store.toPiece())).toEqual([]);
  // Once more: its ends are there by name.
  pasteDoings(far, copiedWay);
  expect(far.store.all('machines')[0]?.lanes[0]?.states).toHaveLength(2);
  expect(far.store.all('machines')[0]?.lanes[0]?.transitions).toHaveLength(2);
  far.undo();
  far.undo();
  expect(far.store.all('machines')).toEqual([]);
});

it('what is tweened comes back the next time, and goes again the time after', () => {
  const added = (e: Editor) =>
    e.add('reactions', {
      ...{ id: 're_t', object: b, on: { event: 'pointer.click' }, when: [], after: 0, cooldown: 0 },
      limit: 'always',
      actions: [
        { do: 'tween', object: b, property: 'position.x', to: 80, seconds: 0.1, easing: 'linear' },
        { do: 'hide', object: a },
      ],
    });
  s.edit('x', added);
  const r = () => s.store.get('reactions', 're_t') as Reaction;
  expect(mayComeBack(r())).toBe(true);
  backNextTime(s, r());
  expect(mayComeBack(r())).toBe(false);
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
  const run = new Run(compile(s.store.toPiece()));
  const x = () =>
    Math.round(
      propertyValue(run.state.values, run.program.objectIndex.get(b) as number, 'position.x') as number,
    );
  const seen: number[] = [];
  for (let n = 0; n < 3; n++) {
    run.step([{ at: run.tick / 60, click: b } as Input]);
    for (let k = 0; k < 20; k++) run.step([]);
    seen.push(x());
  }
  expect(seen).toEqual([80, 0, 80]);
  s.undo();
  expect(s.store.ids('signals')).toEqual([signal]);
  expect(r().when).toEqual([]);
});

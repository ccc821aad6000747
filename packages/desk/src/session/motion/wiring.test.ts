/** What is wired in one act does in a run what its words say, with each way back. */
import 'fake-indexeddb/auto';
import { checkIntegrity } from '@apple-tick/core/check';
import { emptyPiece, History, PieceStore } from '@apple-tick/core/model';
import { compile, type Input, propertyValue, Run } from '@apple-tick/core/run';
import { beforeEach, expect, it } from 'vitest';
import { Session } from '../session.ts';
import { addObject } from '../things/add-object.ts';
import { keyProperty } from '../things/properties.ts';
import { animateAnew } from './animate.ts';
import { writeStates } from './machines.ts';
import { type Back, likelyEvents, wire } from './wiring.ts';

let s: Session;
let box: string;
beforeEach(() => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
  addObject(s, 'box');
  box = s.state.object as string;
  animateAnew(s, s.store.get('objects', box) as NonNullable<ReturnType<typeof s.store.get<'objects'>>>);
  const clip = s.store.all('clips')[0]?.id as string;
  s.edit('x', (e) => {
    keyProperty(e, clip, box, 'rotation.z', 0, 0);
    keyProperty(e, clip, box, 'rotation.z', 90, 0.7);
  });
});

const machine = () => s.store.all('machines')[0] as NonNullable<typeof s.machine>;
const lane = () => machine().lanes[0] as ReturnType<typeof machine>['lanes'][number];
/** Wires the waiting transition with what has these words. */
function say(words: RegExp, back: Back, key?: string): void {
  const t = lane().transitions.find((x) => !x.set) as ReturnType<typeof lane>['transitions'][number];
  const likely = likelyEvents(s, machine(), lane(), t.from, t.to).find((x) => words.test(x.words));
  if (!likely) throw new Error(`nothing says ${words}`);
  wire(s, machine(), lane(), t.from, t.to, likely, back, key);
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
}
/** The turn after each of the ticks asked for, while this is done at ticks. */
function turns(inputs: Readonly<Record<number, object>>, ...asked: number[]): number[] {
  const run = new Run(compile(s.store.toPiece()));
  const at = new Map<number, number>();
  for (let tick = 0; tick <= Math.max(...asked); tick++) {
    const input = inputs[tick];
    run.step(input ? [{ at: 0, ...input } as Input] : []);
    const o = run.program.objectIndex.get(box) as number;
    at.set(tick, propertyValue(run.state.values, o, 'rotation.z') as number);
  }
  return asked.map((tick) => Math.round(at.get(tick) as number));
}
const down = { key: 'k', down: true };
const up = { key: 'k', down: false };

it('a key brings it there; let up it turns back, half-way too, and is at rest again', () => {
  say(/key/, 'again', 'k');
  expect(lane().states.map((x) => x.name)).toEqual(['at rest', 'box moves', 'back']);
  const [rest, half, less, again, whole] = turns({ 5: down, 26: up, 40: down }, 4, 26, 36, 50, 90);
  expect([rest, whole]).toEqual([0, 90]);
  expect(half).toBeGreaterThan(20);
  expect(half).toBeLessThan(80);
  expect(less).toBeLessThan(half as number);
  expect(again).toBeGreaterThan(less as number);
  // One undo takes all of it back.
  s.undo();
  expect(lane().transitions.map((t) => t.set)).toEqual([false]);
  expect(lane().states).toHaveLength(2);
});

it('softly back it fades to rest from wherever it is; without a way back it stays', () => {
  say(/key/, 'softly', 'k');
  const soft = turns({ 5: down, 30: up }, 30, 38, 60);
  expect(soft[1]).toBeLessThan(soft[0] as number);
  expect(soft[1]).toBeGreaterThan(0);
  expect(soft[2]).toBe(0);
  s.undo();
  say(/key/, 'no', 'k');
  expect(turns({ 5: down, 30: up }, 200)).toEqual([90]);
});

it('the piece’s start begins it and it goes back by itself when it is done', () => {
  say(/piece starts/, 'again');
  const [there, back] = turns({}, 42, 100);
  expect([there, back]).toEqual([90, 0]);
});

it('what comes near begins it: a distance is made once, and a tag where nothing could come', () => {
  say(/comes near/, 'again');
  expect(s.store.all('colliders').map((c) => c.role)).toEqual(['near']);
  expect(s.store.all('tags').map((t) => t.name)).toEqual(['noticed']);
  expect(lane().transitions.flatMap((t) => t.on?.event ?? [])).toEqual([
    'near.enter',
    'near.leave',
    'near.enter',
    'state.done',
  ]);
  s.undo();
  expect(s.store.all('colliders')).toEqual([]);
});

it('another motion waits for its own when, and offers that the first is done', () => {
  say(/is clicked/, 'no');
  animateAnew(s, s.store.get('objects', box) as NonNullable<ReturnType<typeof s.store.get<'objects'>>>);
  expect(lane().transitions.map((t) => t.set)).toEqual([true, false]);
  say(/“box moves” is done/, 'no');
  expect(lane().transitions[1]?.on).toEqual({ event: 'clip.done', clip: s.store.all('clips')[0]?.id });
});

it('states are written in a line: what is there is meant by its name, arrows are ways, all is one step', () => {
  const names = () => lane().states.map((x) => x.name);
  const before = names();
  const [rest, moves] = before as [string, string];
  const ways = lane().transitions.length;
  writeStates(s, machine(), lane(), `${rest} > up >  > ${moves}, stuck , up > up, `);
  expect(names()).toEqual([...before, 'up', 'stuck']);
  const made = lane().transitions.slice(ways);
  const nameOf = (id: string) => lane().states.find((x) => x.id === id)?.name;
  expect(made.map((t) => [nameOf(t.from), nameOf(t.to)])).toEqual([
    [rest, 'up'],
    ['up', moves],
  ]);
  // What plays a motion leads on when that is done; what rests waits for something to be said.
  expect(made.map((t) => t.set)).toEqual([false, true]);
  const clips = s.store.all('clips').map((c) => c.name);
  expect(clips).toEqual(expect.arrayContaining(['up', 'stuck']));
  expect(checkIntegrity(s.store.toPiece())).toEqual([]);
  s.undo();
  expect(names()).toEqual(before);
  writeStates(s, machine(), lane(), ' , > ');
  expect(names()).toEqual(before);
});

/** What follows from choosing, wiring, renaming and picking: derived from the piece, with nothing left over. */
import 'fake-indexeddb/auto';
import { type Action, emptyPiece, History, onePlay, PieceStore } from '@apple-tick/core/model';
import { beforeEach, expect, it } from 'vitest';
import { COMMANDS, runCommand } from '../../commands/registry.ts';
import { addZones } from '../../features/zones/edit.ts';
import { makingFor, replacing } from '../doings/made-on-the-way.ts';
import { newAction } from '../doings/new-action.ts';
import { NO_MACHINE, Session } from '../session.ts';
import { addObject } from '../things/add-object.ts';
import { frontOfSolids, missedInDepth } from '../things/depth.ts';
import { keyProperty } from '../things/properties.ts';
import { animateAnew } from './animate.ts';
import { renameClip, setLength } from './clips.ts';
import { addMachine, addTransition, duplicateState, duplicateWithClip } from './machines.ts';
import { likelyEvents, wire } from './wiring.ts';

let s: Session;
const added = (kind: 'box' | 'rect') => {
  s.selectMany([]);
  addObject(s, kind);
  return s.state.object as string;
};
beforeEach(() => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
});
const object = (id: string) =>
  s.store.get('objects', id) as NonNullable<ReturnType<typeof s.store.get<'objects'>>>;

it('a chosen thing brings the machine of itself or of the nearest above it; without one it brings none', () => {
  const [a, b] = [added('box'), added('box')];
  addMachine(s, a);
  s.select({ kind: 'object', id: b });
  expect([s.state.machine, s.machine]).toEqual([NO_MACHINE, undefined]);
  s.edit('x', (e) => e.update('objects', b, (o) => ({ ...o, parent: a })));
  s.select({ kind: 'object', id: b });
  expect(s.machine?.object).toBe(a);
});

it('what lies below the root of the open clip, or is keyed in it, does not leave it', () => {
  const [a, b, c] = [added('box'), added('box'), added('box')];
  s.edit('x', (e) => e.update('objects', b, (o) => ({ ...o, parent: a })));
  s.select({ kind: 'object', id: a });
  animateAnew(s, object(a));
  const clip = s.open?.clip.id as string;
  for (const id of [b, a]) {
    s.select({ kind: 'object', id });
    expect(s.open?.clip.id).toBe(clip);
  }
  s.select({ kind: 'object', id: c });
  expect([s.open, s.keying, s.state.left?.object]).toEqual([null, null, c]);
  s.comeBack();
  s.edit('x', (e) => keyProperty(e, clip, c, 'position.x', 5, 0));
  s.select({ kind: 'object', id: a });
  s.select({ kind: 'object', id: c });
  expect(s.open?.clip.id).toBe(clip);
});

it('what was wired sets the transition that waited; a state goes by the new name of its clip', () => {
  const a = added('box');
  animateAnew(s, object(a));
  const machine = () => s.store.all('machines')[0] as NonNullable<typeof s.machine>;
  const lane = () => machine().lanes[0] as ReturnType<typeof machine>['lanes'][number];
  const [rest, moves] = lane().states.map((x) => x.id) as [string, string];
  expect(lane().transitions.map((t) => t.set)).toEqual([false]);
  const [click] = likelyEvents(s, machine(), lane(), rest, moves);
  wire(s, machine(), lane(), rest, moves, click as NonNullable<typeof click>, 'no');
  expect(lane().transitions.map((t) => [t.on?.event, t.set])).toEqual([['pointer.click', true]]);
  // A second way between the two is another transition.
  addTransition(s, machine().id, lane(), rest, moves);
  expect(lane().transitions).toHaveLength(2);
  const clip = s.store.all('clips')[0] as ReturnType<typeof s.store.all<'clips'>>[number];
  renameClip(s, clip, 'opening');
  expect(lane().states.find((x) => onePlay(x.play))?.name).toBe('opening');
});

it('a state is duplicated sharing its clip, or with one of its own; a transition is duplicated beside itself', () => {
  const a = added('box');
  animateAnew(s, object(a));
  const machine = () => s.store.all('machines')[0] as NonNullable<typeof s.machine>;
  const lane = () => machine().lanes[0] as ReturnType<typeof machine>['lanes'][number];
  const moves = lane().states[1] as ReturnType<typeof lane>['states'][number];
  duplicateState(s, machine().id, lane(), moves, false);
  duplicateWithClip(s, machine().id, lane(), moves);
  const clips = lane().states.flatMap((x) => onePlay(x.play)?.clip ?? []);
  expect(new Set(clips).size).toBe(2);
  expect(clips).toHaveLength(3);
  expect(s.store.all('clips').map((c) => c.name)).toEqual(['box moves', 'box moves 2']);
  // With its clip it is one step.
  s.undo();
  expect([lane().states.length, s.store.all('clips').length]).toEqual([3, 1]);
  const t = lane().transitions[0] as ReturnType<typeof lane>['transitions'][number];
  s.select({ kind: 'transition', machine: machine().id, lane: lane().id, id: t.id });
  runCommand(s, 'duplicate');
  expect(lane().transitions.map((x) => [x.from, x.to])).toEqual([
    [t.from, t.to],
    [t.from, t.to],
  ]);
  expect(s.selected).toMatchObject({ kind: 'transition', id: lane().transitions[1]?.id });
});

it('the same key unfolds the motion of what is chosen, and folds it', () => {
  const a = added('box');
  expect(COMMANDS.find((c) => c.id === 'unfold')?.enabled?.(s)).toBe(false);
  animateAnew(s, object(a));
  runCommand(s, 'unfold');
  expect(s.open).toBeNull();
  runCommand(s, 'unfold');
  expect(s.open?.clip.name).toBe('box moves');
});

it('a length that is typed or dragged keeps the keys’ times, or stretches them from how they were', () => {
  const a = added('box');
  animateAnew(s, object(a));
  const now = () => s.store.all('clips')[0] as ReturnType<typeof s.store.all<'clips'>>[number];
  s.edit('x', (e) => keyProperty(e, now().id, a, 'position.x', 5, 0.35));
  const before = now();
  const times = () => now().tracks.flatMap((t) => t.keys.map((k) => k.t));
  setLength(s, before, 1.4, 'keep');
  expect([now().duration, times()]).toEqual([1.4, [0.35]]);
  setLength(s, before, 1.4, 'stretch');
  expect([now().duration, times()]).toEqual([1.4, [0.7]]);
});

it('what an action made for itself goes with it, unless something else uses it', () => {
  const a = added('box');
  const pick = (before: Action | undefined, action: Action['do']) => {
    const made = makingFor(s, () => newAction(s, action, a));
    replacing(s, before, made, () => {});
    return made;
  };
  const toggle = pick(undefined, 'toggle');
  expect(s.store.ids('signals')).toHaveLength(1);
  const hide = pick(toggle, 'hide');
  expect(s.store.ids('signals')).toHaveLength(0);
  const again = pick(hide, 'toggle');
  s.edit('x', (e) =>
    e.add('reactions', {
      ...{ id: 're_1', object: a, on: { event: 'pointer.click' }, when: [], after: 0, cooldown: 0 },
      ...{ limit: 'always', actions: [again] },
    }),
  );
  pick(again, 'hide');
  expect(s.store.ids('signals')).toHaveLength(1);
});

it('what goes with a replaced action goes in the same step, which one undo takes back', () => {
  const a = added('box');
  const before = makingFor(s, () => newAction(s, 'toggle', a));
  const after = newAction(s, 'hide', a);
  replacing(s, before, after, () => s.edit('x', (e) => e.update('objects', a, (o) => ({ ...o, hint: 'x' }))));
  expect([s.store.ids('signals').length, s.store.get('objects', a)?.hint]).toEqual([0, 'x']);
  s.history.undo();
  expect([s.store.ids('signals').length, s.store.get('objects', a)?.hint]).toEqual([1, '']);
});

it('a step within a step is part of it', () => {
  const a = added('box');
  const hint = (to: string) => s.edit('x', (e) => e.update('objects', a, (o) => ({ ...o, hint: to })));
  s.step('outer', () => {
    hint('1');
    s.step('inner', () => hint('2'));
    hint('3');
  });
  s.history.undo();
  expect(s.store.get('objects', a)?.hint).toBe('');
});

it('what lies before a solid, and what is in a zone only as it is seen, is known', () => {
  const [box, thing] = [added('box'), added('rect')];
  s.edit('x', (e) => {
    e.add('tags', { id: 'ta_t', name: 't' });
    e.update('objects', thing, (o) => ({ ...o, tags: ['ta_t'], base: { ...o.base, position: [0, 0, 200] } }));
  });
  s.set({ azimuth: 0, elevation: 0 });
  expect(frontOfSolids(s, { x0: -5, x1: 5, y0: -5, y1: 5 })).toBe(30);
  expect(frontOfSolids(s, { x0: 300, x1: 310, y0: -5, y1: 5 })).toBeNull();
  addZones(s, [box], 'box');
  const zone = () => s.store.all('colliders')[0] as ReturnType<typeof s.store.all<'colliders'>>[number];
  s.edit('x', (e) => e.update('colliders', zone().id, (c) => ({ ...c, tags: ['ta_t'] })));
  expect(missedInDepth(s, zone())).toEqual([{ object: thing, by: 170 }]);
  s.edit('x', (e) =>
    e.update('objects', thing, (o) => ({ ...o, base: { ...o.base, position: [0, 0, -200] } })),
  );
  expect(missedInDepth(s, zone())).toEqual([{ object: thing, by: -170 }]);
  s.edit('x', (e) => e.update('objects', thing, (o) => ({ ...o, base: { ...o.base, position: [0, 0, 0] } })));
  expect(missedInDepth(s, zone())).toEqual([]);
});

it('what is made while one thing alone is shown is shown, too', () => {
  const a = added('box');
  s.set({ only: a });
  added('box');
  expect(s.state.only).toBeNull();
});

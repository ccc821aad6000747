import { seeded } from '@apple-tick/core/testing';
import 'fake-indexeddb/auto';
import { checkIntegrity } from '@apple-tick/core/check';
import {
  type Clip,
  emptyPiece,
  History,
  type Lane,
  onePlay,
  PieceStore,
  type Vec3,
} from '@apple-tick/core/model';
import { compile, propertyValue } from '@apple-tick/core/run';
import { viewMatrix } from '@apple-tick/core/world';
import { beforeEach, describe, expect, it } from 'vitest';
import { COMMANDS, commandFor, runCommand } from '../commands/registry.ts';
import { addMessage, addSignal, conditionOn, firstSignal, newSignal } from './doings/signals.ts';
import { allKeys, chosenKeys, deleteChosenKeys, nudgeKeys, selectKeys } from './motion/keys.ts';
import { addLane, addMachine, addState, addTransition, moveState } from './motion/machines.ts';
import { Session } from './session.ts';
import { addObject } from './things/add-object.ts';
import { withPivot } from './things/pivot.ts';
import { keyMoves, moveWithKeys, setProperties, takeKeysAlong } from './things/properties.ts';
import { onScreen, solve2, toScreen } from './view/view-math.ts';

let s: Session;
beforeEach(() => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
});
const random = seeded(11);
const object = () => s.store.get('objects', s.state.object as string);
const lane = (): Lane => s.store.all('machines')[0]?.lanes.at(-1) as Lane;
const machine = () => s.store.ids('machines')[0] as string;

describe('commands', () => {
  it('no two have the same id, and no keyboard keys mean two things', () => {
    const ids = COMMANDS.map((c) => c.id);
    expect(new Set(ids).size).toBe(ids.length);
    const keys = COMMANDS.flatMap((c) => c.keys);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('are found by what is pressed', () => {
    const event = (key: string, more: object = {}) =>
      commandFor({ key, ctrlKey: false, metaKey: false, shiftKey: false, ...more } as KeyboardEvent)?.id;
    expect(event('r')).toBe('run');
    expect(event('R', { shiftKey: true })).toBe('restart');
    expect(event('z', { metaKey: true })).toBe('undo');
    expect(event('Z', { ctrlKey: true, shiftKey: true })).toBe('redo');
    expect(event('q')).toBeUndefined();
  });

  it('each is one step with a name, which undo takes back', () => {
    for (const c of COMMANDS.filter((x) => x.id.startsWith('add.'))) {
      const before = JSON.stringify(s.piece());
      runCommand(s, c.id);
      expect(s.history.undoName).toMatch(/^Added /);
      expect(checkIntegrity(s.piece())).toEqual([]);
      s.undo();
      expect(JSON.stringify(s.piece())).toBe(before);
    }
  });

  it('new objects go into the chosen group, else beside the chosen object, with a name of their own', () => {
    addObject(s, 'group');
    const group = s.state.object;
    addObject(s, 'box');
    expect(object()?.parent).toBe(group);
    addObject(s, 'box');
    expect(object()?.parent).toBe(group);
    expect(object()?.name).toBe('Box 2');
  });

  it('a lane keeps its last state', () => {
    addObject(s, 'box');
    addMachine(s, s.state.object as string);
    s.select({ kind: 'state', machine: machine(), lane: lane().id, id: lane().states[0]?.id as string });
    runCommand(s, 'delete');
    expect(lane().states).toHaveLength(1);
    addState(s, machine(), lane(), 'hold');
    runCommand(s, 'delete');
    expect(lane().states.map((x) => x.name)).toEqual(['at rest']);
  });

  it('in another tab that only reads along nothing is edited', () => {
    s.set({ readOnly: true });
    addObject(s, 'box');
    s.undo();
    expect(s.store.ids('objects')).toEqual([]);
  });
});

describe('machines', () => {
  beforeEach(() => {
    addObject(s, 'box');
    addMachine(s, s.state.object as string);
  });

  it('a new transition is not yet set; from a once-clip it goes when done', () => {
    addState(s, machine(), lane(), 'clip');
    const [rest, moving] = lane().states.map((x) => x.id) as [string, string];
    addTransition(s, machine(), lane(), rest, moving);
    addTransition(s, machine(), lane(), moving, rest);
    addTransition(s, machine(), lane(), '*', rest);
    expect(lane().transitions.map((t) => [t.set, t.on?.event])).toEqual([
      [false, undefined],
      [true, 'state.done'],
      [false, undefined],
    ]);
  });

  it('new clips play once, have a name of their own below their root, and the state begins from here', () => {
    addState(s, machine(), lane(), 'clip');
    addState(s, machine(), lane(), 'clip');
    expect(s.store.all('clips').map((c) => [c.name, c.loop])).toEqual([
      ['moving', 'once'],
      ['moving 2', 'once'],
    ]);
    expect(lane().states.map((x) => onePlay(x.play)?.from ?? x.play)).toEqual(['rest', 'here', 'here']);
  });

  it('states move in their row and stay within it; lanes get names of their own', () => {
    addState(s, machine(), lane(), 'hold');
    addState(s, machine(), lane(), 'rest');
    const names = () => lane().states.map((x) => x.name);
    const id = lane().states[0]?.id as string;
    moveState(s, machine(), lane(), id, 1);
    expect(names()).toEqual(['holding', 'at rest', 'at rest 2']);
    moveState(s, machine(), lane(), id, 9);
    expect(names()).toEqual(['holding', 'at rest 2', 'at rest']);
    addLane(s, machine());
    expect(s.store.all('machines')[0]?.lanes.map((l) => l.name)).toEqual(['Box', 'Box 2']);
    expect(checkIntegrity(s.piece())).toEqual([]);
  });
});

describe('setting properties', () => {
  it('changes the base, or keys the open clip while keying, with the value before at its start', () => {
    addObject(s, 'box');
    const id = s.state.object as string;
    setProperties(s, 'Moved', [{ object: id, changes: [['position.x', 30]] }]);
    expect(object()?.base.position).toEqual([30, 0, 0]);
    addMachine(s, id);
    addState(s, machine(), lane(), 'clip');
    const clip = s.store.ids('clips')[0] as string;
    s.set({ openState: lane().states.at(-1)?.id ?? null, keying: true, playhead: 0.9 });
    s.history.begin('Moved');
    for (const x of [40, 50]) {
      keyMoves(s, [{ object: id, changes: [['position.x', 30]] }]);
      setProperties(s, 'Moved', [{ object: id, changes: [['position.x', x]] }]);
    }
    s.history.end();
    const c = s.store.get('clips', clip);
    expect(c?.tracks[0]?.keys.map((k) => [k.t, k.value])).toEqual([
      [0, 30],
      [0.9, 50],
    ]);
    // The clip grew to hold the key, the base is untouched, and all of it is one step.
    expect(c?.duration).toBe(0.9);
    expect(object()?.base.position[0]).toBe(30);
    s.undo();
    expect(s.store.get('clips', clip)?.tracks).toEqual([]);
  });
});

describe('what is open, keyed and selected', () => {
  /** A box with a machine, an open clip with a key on its place, and keying on. */
  const opened = () => {
    addObject(s, 'box');
    const id = s.state.object as string;
    addMachine(s, id);
    addState(s, machine(), lane(), 'clip');
    s.set({ openState: lane().states.at(-1)?.id ?? null, keying: true, playhead: 0.5 });
    setProperties(s, 'Moved', [{ object: id, changes: [['position.x', 30]] }]);
    return id;
  };

  it('follows the piece: past the making of the clip nothing is keyed, and it is again after a redo', () => {
    opened();
    expect(s.keying?.tracks).toHaveLength(1);
    s.undo();
    s.undo();
    expect(s.open).toBeNull();
    expect(s.keying).toBeNull();
    s.redo();
    expect(s.keying).not.toBeNull();
  });

  it('another machine, or deleting the object, folds the clip', () => {
    const id = opened();
    addObject(s, 'box');
    addMachine(s, s.state.object as string);
    expect(s.open).toBeNull();
    // Chosen anew, a thing of the clip that was left does not open it; taking the other into it does.
    const { left } = s.state;
    expect(left?.object).not.toBe(id);
    s.set({ left: null });
    s.comeBack();
    expect(s.open).toBeNull();
    s.set({ left });
    s.comeBack();
    expect(s.open).not.toBeNull();
    s.select({ kind: 'object', id });
    runCommand(s, 'delete');
    expect(s.open).toBeNull();
    setProperties(s, 'Moved', [
      { object: s.store.ids('objects')[0] as string, changes: [['position.x', 9]] },
    ]);
    expect(s.store.all('objects')[0]?.base.position[0]).toBe(9);
  });

  it('with keying off, what the open clip keys is refused with a sentence; what it does not key changes the base', () => {
    const id = opened();
    s.set({ keying: false });
    const move = (property: string) =>
      setProperties(s, 'Moved', [{ object: id, changes: [[property, 77]] }], 'fields');
    expect(move('position.x')).toBe(false);
    expect(s.state.refused).toMatchObject({
      where: 'fields',
      words: 'The place x of Box is keyed in moving: its base could change only unseen.',
    });
    expect(object()?.base.position[0]).toBe(0);
    expect(move('position.y')).toBe(true);
    expect(object()?.base.position[1]).toBe(77);
    expect(s.state.refused).toBeNull();
    s.movePivot(id, [5, 0, 0]);
    expect(object()?.base.pivot).toEqual([0, 0, 0]);
    s.set({ openState: null });
    expect(move('position.x')).toBe(true);
  });

  it('a run changes neither the selection nor keying', () => {
    opened();
    s.startRun();
    expect([s.selected?.kind, s.state.keying]).toEqual(['state', true]);
    s.stopRun();
    expect([s.selected?.kind, s.keying !== null]).toEqual(['state', true]);
  });

  it('a selected key stays that key when one is added before it, and is none when it is gone', () => {
    const id = opened();
    const clip = s.keying?.id as string;
    s.select({ kind: 'keys', clip, keys: [{ object: id, property: 'position.x', t: 0.5 }] });
    s.set({ playhead: 0.2 });
    setProperties(s, 'Moved', [{ object: id, changes: [['position.x', 5]] }]);
    runCommand(s, 'delete');
    expect(s.store.get('clips', clip)?.tracks[0]?.keys.map((k) => k.t)).toEqual([0.2]);
    s.undo();
    s.undo();
    s.undo();
    expect(s.store.get('clips', clip)?.tracks ?? []).toEqual([]);
    s.select({ kind: 'keys', clip, keys: [{ object: id, property: 'position.x', t: 0.5 }] });
    expect(s.selected).toBeNull();
  });

  it('what is refused is done with the keys moved along, in all clips, as one step', () => {
    const id = opened();
    const clip = s.keying?.id as string;
    s.set({ playhead: 0.5 });
    setProperties(s, 'Moved', [{ object: id, changes: [['position.x', 40]] }]);
    s.set({ keying: false });
    expect(setProperties(s, 'Moved', [{ object: id, changes: [['position.x', 70]] }])).toBe(false);
    moveWithKeys(s);
    const keys = () => s.store.get('clips', clip)?.tracks[0]?.keys.map((k) => k.value);
    expect([keys(), s.store.get('objects', id)?.base.position[0], s.state.refused]).toEqual([[70], 30, null]);
    s.undo();
    expect([keys(), s.store.get('objects', id)?.base.position[0]]).toEqual([[40], 0]);
  });

  it('a keyed thing moved in the base offers to take its keys along, by all that it was moved since', () => {
    const id = opened();
    const clip = s.keying?.id as string;
    s.set({ playhead: 0.5 });
    setProperties(s, 'Moved', [{ object: id, changes: [['position.x', 40]] }]);
    s.set({ openState: null, keying: false });
    setProperties(s, 'Moved', [{ object: id, changes: [['position.y', 9]] }]);
    expect(s.state.offered).toBeNull();
    for (const x of [10, 25]) setProperties(s, 'Moved', [{ object: id, changes: [['position.x', x]] }]);
    expect(s.state.offered?.words).toBe('Box is keyed in moving: its keys stay where they are.');
    takeKeysAlong(s);
    const keys = () => s.store.get('clips', clip)?.tracks[0]?.keys.map((k) => k.value);
    expect([keys(), s.state.offered]).toEqual([[65], null]);
    s.undo();
    expect(keys()).toEqual([40]);
    setProperties(s, 'Moved', [{ object: id, changes: [['position.x', 30]] }]);
    expect(s.state.offered).not.toBeNull();
    s.undo();
    expect(s.state.offered).toBeNull();
  });

  it('undo brings chosen keys back to where they stood, and they stay chosen', () => {
    const id = opened();
    const clip = s.keying?.id as string;
    for (const t of [0.1, 0.5]) {
      s.set({ playhead: t });
      setProperties(s, 'Moved', [{ object: id, changes: [['position.x', t * 100]] }]);
    }
    const times = () => chosenKeys(s)?.keys.map((k) => Math.round(k.t * 1000) / 1000);
    selectKeys(s, clip, allKeys(s.store.get('clips', clip) as Clip));
    nudgeKeys(s, 6);
    expect(times()).toEqual([0.2, 0.6]);
    s.undo();
    expect(times()).toEqual([0.1, 0.5]);
    s.redo();
    expect(times()).toEqual([0.2, 0.6]);
    deleteChosenKeys(s);
    expect(chosenKeys(s)).toBeNull();
  });

  it('an undo in the middle of a drag takes the drag back, and its last moves make no step', () => {
    addObject(s, 'box');
    const id = s.state.object as string;
    const move = (x: number) => setProperties(s, 'inner', [{ object: id, changes: [['position.x', x]] }]);
    let stopped = 0;
    const gesture = s.beginGesture('Dragged', () => stopped++);
    move(10);
    s.undo();
    expect([stopped, object()?.base.position[0], s.history.undoName]).toEqual([1, 0, 'Added Box']);
    gesture.end();
    expect(stopped).toBe(1);
    s.beginGesture('Again', () => stopped++);
    move(20);
    s.beginGesture('Another', () => stopped++).end();
    expect([stopped, s.history.undoName]).toEqual([3, 'Again']);
  });
});

describe('signals', () => {
  it('of every type are whole, with names of their own', () => {
    for (const type of ['switch', 'pulse', 'choice', 'number', 'text'] as const) {
      addSignal(s, type, 'same');
      expect(conditionOn(newSignal('si_x', 'x', type))).toMatchObject({ signal: 'si_x' });
    }
    addMessage(s, 'same');
    addMessage(s, 'same');
    expect(s.store.all('signals').map((x) => x.name)).toEqual([
      'same',
      'same 2',
      'same 3',
      'same 4',
      'same 5',
    ]);
    expect(s.store.all('messages').map((x) => x.name)).toEqual(['same', 'same 2']);
    expect(firstSignal(s, 'number', 'n')).toBe(s.store.all('signals')[3]?.id);
    expect(checkIntegrity(s.piece())).toEqual([]);
  });
});

describe('pivot and view', () => {
  it('moving a pivot moves no point of the object', () => {
    addObject(s, 'box');
    const o = object();
    if (!o) throw new Error('no object');
    const vec = (k: number): Vec3 => [k * (random() - 0.5), k * (random() - 0.5), k * (random() - 0.5)];
    for (let n = 0; n < 200; n++) {
      const base = { ...o.base, position: vec(400), rotation: vec(720), scale: vec(4), pivot: vec(200) };
      const other = withPivot(base, vec(200));
      expect(other.pivot).not.toEqual(base.pivot);
      const at = (b: typeof base) => {
        const p = { ...s.piece(), objects: { [o.id]: { ...o, base: b } } };
        const program = compile(p);
        return ['position', 'rotation', 'scale', 'pivot'].flatMap((f) =>
          ['x', 'y', 'z'].map((a) => propertyValue(program.base, 0, `${f}.${a}`) as number),
        );
      };
      const [a, b] = [matrix(at(base)), matrix(at(other))];
      a.forEach((x, i) => {
        expect(Math.abs(x - (b[i] as number))).toBeLessThan(2e-6);
      });
    }
  });

  it('a movement on the screen is split along two axes and adds up again', () => {
    for (let n = 0; n < 200; n++) {
      const screen = {
        x: 300,
        y: 200,
        scale: 0.5 + random(),
        azimuth: 360 * random(),
        elevation: 90 * random(),
      };
      const a = onScreen(screen, [1, 0, 0]);
      const b = onScreen(screen, [0, 1, 0]);
      const d = solve2(a, b, 13, -7);
      if (!d) continue;
      expect(d[0] * a[0] + d[1] * b[0]).toBeCloseTo(13, 6);
      expect(d[0] * a[1] + d[1] * b[1]).toBeCloseTo(-7, 6);
    }
    expect(solve2([1, 2, 0], [2, 4, 0], 1, 1)).toBeNull();
  });

  it('the origin is in the middle, and up is up', () => {
    const screen = { x: 300, y: 200, scale: 2, azimuth: 0, elevation: 0 };
    expect(toScreen(screen, [0, 0, 0])).toEqual([300, 200]);
    expect(toScreen(screen, [10, 5, 99])).toEqual([320, 190]);
    expect(viewMatrix(screen)[0]).toBe(1);
  });
});

/** The naive reference: T(position + pivot) · Rx · Ry · Rz · S · T(−pivot), as plain 4×4 products. */
function matrix(v: number[]): number[] {
  const [px, py, pz, rx, ry, rz, sx, sy, sz, ox, oy, oz] = v as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const rad = (d: number) => (d * Math.PI) / 180;
  const translate = (x: number, y: number, z: number) => [1, 0, 0, x, 0, 1, 0, y, 0, 0, 1, z, 0, 0, 0, 1];
  const rot = (k: 0 | 1 | 2, d: number) => {
    const [c, n] = [Math.cos(rad(d)), Math.sin(rad(d))];
    if (k === 0) return [1, 0, 0, 0, 0, c, -n, 0, 0, n, c, 0, 0, 0, 0, 1];
    if (k === 1) return [c, 0, n, 0, 0, 1, 0, 0, -n, 0, c, 0, 0, 0, 0, 1];
    return [c, -n, 0, 0, n, c, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  };
  const times = (a: number[], b: number[]) =>
    a.map((_, i) => {
      const [r, c] = [Math.floor(i / 4) * 4, i % 4];
      return [0, 1, 2, 3].reduce((sum, k) => sum + (a[r + k] as number) * (b[k * 4 + c] as number), 0);
    });
  return [
    translate(px + ox, py + oy, pz + oz),
    rot(0, rx),
    rot(1, ry),
    rot(2, rz),
    [sx, 0, 0, 0, 0, sy, 0, 0, 0, 0, sz, 0, 0, 0, 0, 1],
    translate(-ox, -oy, -oz),
  ].reduce(times);
}

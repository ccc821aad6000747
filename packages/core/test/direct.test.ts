/** Plays of their own: clips that an action plays on an object, below all lanes. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import {
  type Action,
  emptyPiece,
  History,
  type Piece,
  PieceStore,
  removeWithReferences,
  writePiece,
} from '../src/model/index.ts';
import { compile, editRun, loadRun, propertyValue, Run, saveRun, writersOf } from '../src/runtime/index.ts';
import { objectOf } from './box-piece.ts';

type Loop = 'once' | 'loop' | 'there-and-back';
const KEYS = ['a', 'b', 'c'] as const;

/** Two boxes and clips of the first; the keyboard keys a, b and c act. */
function piece(actions: Partial<Record<(typeof KEYS)[number], Action[]>>, loop: Loop = 'once'): Piece {
  const p = emptyPiece('p', 'Direct');
  for (const id of ['ob_a', 'ob_b']) p.objects[id] = objectOf(id, { kind: 'group' });
  p.signals['si_n'] = { id: 'si_n', name: 'n', type: 'number', initial: 2, shared: false, note: '' };
  const clip = (id: string, property: string, to: number, mode: 'absolute' | 'offset') => ({
    ...{ id, name: id, root: 'ob_a', duration: 0.5, loop },
    tracks: [
      {
        ...{ object: 'ob_a', property, mode },
        keys: [
          { t: 0, value: 0, easing: 'linear' as const },
          { t: 0.5, value: to, easing: 'hold' as const },
        ],
      },
    ],
    cues: [],
  });
  p.clips = {
    cl_turn: clip('cl_turn', 'rotation.z', 90, 'absolute'),
    cl_back: clip('cl_back', 'rotation.z', -60, 'absolute'),
    cl_on: clip('cl_on', 'position.x', 40, 'offset'),
  };
  for (const key of KEYS)
    p.reactions[`re_${key}`] = {
      ...{ id: `re_${key}`, object: 'ob_b', when: [], after: 0, cooldown: 0, limit: 'always' },
      on: { event: 'key.down', key },
      actions: actions[key] ?? [{ do: 'toggle', signal: 'si_n' }],
    };
  for (const key of KEYS) if (!actions[key]) delete p.reactions[`re_${key}`];
  return p;
}
const play = (clip: string, more: Partial<Action & { do: 'play' }> = {}): Action => ({
  ...{ do: 'play', clip, object: 'ob_a' },
  ...more,
});
const stop = (clip: string): Action => ({ do: 'stop', clip, object: 'ob_a' });

/** So many ticks, keys pressed in the first of them; what was told of clips. */
function go(run: Run, ticks: number, ...keys: string[]): string[] {
  for (let i = 0; i < ticks; i++) run.step(i === 0 ? keys.map((key) => ({ at: 0, key, down: true })) : []);
  return run.takeTrace().flatMap((r) => (r.event?.startsWith('clip.') ? [`${r.event} ${r.clip}`] : []));
}
const started = (p: Piece) => {
  expect(checkIntegrity(p)).toEqual([]);
  const run = new Run(compile(p));
  run.step([]);
  run.takeTrace();
  return run;
};
const value = (run: Run, property: string) => propertyValue(run.state.values, 0, property) as number;

describe('a play of its own', () => {
  it('plays, holds its end, and is done once; stopped, the property goes back to its base', () => {
    const run = started(piece({ a: [play('cl_turn')], b: [stop('cl_turn')] }));
    expect(go(run, 1, 'a')).toEqual(['clip.start cl_turn']);
    expect(value(run, 'rotation.z')).toBe(0);
    go(run, 15);
    expect(value(run, 'rotation.z')).toBeCloseTo(45, 9);
    expect(go(run, 40)).toEqual(['clip.done cl_turn']);
    expect(value(run, 'rotation.z')).toBe(90);
    expect(go(run, 2, 'b')).toEqual([]);
    expect(value(run, 'rotation.z')).toBe(0);
  });

  it('asked for again begins anew, is left alone, or begins again exactly at its end', () => {
    const anew = started(piece({ a: [play('cl_turn')] }));
    go(anew, 16, 'a');
    expect(go(anew, 1, 'a')).toEqual(['clip.stopped cl_turn', 'clip.start cl_turn']);
    expect(value(anew, 'rotation.z')).toBe(0);
    const alone = started(piece({ a: [play('cl_turn', { again: 'ignore' })] }));
    go(alone, 16, 'a');
    expect(go(alone, 40, 'a')).toEqual(['clip.done cl_turn']);
    // Holding its end, it does not run: it begins.
    expect(go(alone, 1, 'a')).toEqual(['clip.start cl_turn']);
    const after = started(piece({ a: [play('cl_turn', { again: 'queue' })] }));
    go(after, 1, 'a');
    go(after, 1, 'a');
    go(after, 1, 'a');
    go(after, 27);
    // At 0.5 s and at 1.0 s: never late by a part of a tick.
    expect(go(after, 1)).toEqual(['clip.done cl_turn', 'clip.start cl_turn']);
    expect(value(after, 'rotation.z')).toBeCloseTo(0, 9);
    expect(go(after, 60)).toEqual(['clip.done cl_turn', 'clip.start cl_turn', 'clip.done cl_turn']);
  });

  it('of a loop what waits begins when it is stopped; of another, stopping forgets it', () => {
    const loop = started(piece({ a: [play('cl_turn', { again: 'queue' })], b: [stop('cl_turn')] }, 'loop'));
    go(loop, 1, 'a');
    go(loop, 5, 'a');
    expect(go(loop, 1, 'b')).toEqual(['clip.stopped cl_turn', 'clip.start cl_turn']);
    expect(go(loop, 1, 'b')).toEqual(['clip.stopped cl_turn']);
    expect(go(loop, 60)).toEqual([]);
    const once = started(piece({ a: [play('cl_turn', { again: 'queue' })], b: [stop('cl_turn')] }));
    go(once, 1, 'a');
    go(once, 5, 'a');
    expect(go(once, 1, 'b')).toEqual(['clip.stopped cl_turn']);
    expect(go(once, 60)).toEqual([]);
  });

  it('the one begun last lies on top; one begun anew comes on top again; a lane lies over all', () => {
    const p = piece({ a: [play('cl_turn')], b: [play('cl_back')] });
    const run = started(p);
    go(run, 1, 'a');
    go(run, 40, 'b');
    expect(value(run, 'rotation.z')).toBe(-60);
    expect(writersOf(run, 0, 'rotation.z').map((w) => w.clip ?? w.by)).toEqual([
      'base',
      'cl_turn',
      'cl_back',
    ]);
    go(run, 40, 'a');
    expect(value(run, 'rotation.z')).toBe(90);
    expect(writersOf(run, 0, 'rotation.z').map((w) => w.clip ?? w.by)).toEqual([
      'base',
      'cl_back',
      'cl_turn',
    ]);
  });

  it('goes on from here, at the speed of a signal, without a jump', () => {
    const p = piece({
      a: [play('cl_turn', { speed: { signal: 'si_n' } })],
      b: [{ do: 'set', signal: 'si_n', to: 0.5 }],
      c: [play('cl_turn', { from: 'here', speed: -1 })],
    });
    const run = started(p);
    go(run, 7, 'a');
    expect(value(run, 'rotation.z')).toBeCloseTo(36, 9);
    go(run, 1, 'b');
    const there = value(run, 'rotation.z');
    go(run, 6);
    expect(value(run, 'rotation.z')).toBeCloseTo(there + 9, 9);
    const before = value(run, 'rotation.z');
    go(run, 1, 'c');
    expect(value(run, 'rotation.z')).toBeCloseTo(before + 1.5, 9);
    go(run, 6);
    expect(value(run, 'rotation.z')).toBeCloseTo(before + 1.5 - 18, 9);
  });

  it('lets go of what was put where it keys; what an offset gained stays when it is stopped', () => {
    const run = started(
      piece({
        a: [{ do: 'put', object: 'ob_a', property: 'position.x', to: 100 }],
        b: [play('cl_on')],
        c: [stop('cl_on')],
      }),
    );
    go(run, 1, 'a');
    go(run, 16, 'b');
    expect(value(run, 'position.x')).toBeCloseTo(120, 9);
    go(run, 5, 'c');
    expect(value(run, 'position.x')).toBeCloseTo(121.333333, 5);
    go(run, 40, 'b');
    expect(value(run, 'position.x')).toBeCloseTo(161.333333, 5);
  });

  it('goes on through a snapshot and through an edit of something else; an edit that takes its action away ends it', () => {
    const p = piece({ a: [play('cl_turn')], b: [play('cl_back', { again: 'queue' })] }, 'loop');
    const run = started(p);
    go(run, 1, 'a');
    go(run, 1, 'b');
    go(run, 1, 'b');
    const other = loadRun(new Run(compile(p)), saveRun(run));
    editRun(run, { ...p, signals: {}, objects: { ob_z: objectOf('ob_z', { kind: 'group' }), ...p.objects } });
    for (let i = 0; i < 50; i++) {
      run.step([]);
      other.step([]);
      expect(propertyValue(run.state.values, run.program.objectIndex.get('ob_a') ?? 0, 'rotation.z')).toBe(
        value(other, 'rotation.z'),
      );
    }
    const { re_b: _, ...reactions } = p.reactions;
    editRun(other, { ...p, reactions });
    other.step([]);
    expect(writersOf(other, 0, 'rotation.z').map((w) => w.clip ?? w.by)).toEqual(['base', 'cl_turn']);
  });

  it('is read, written and taken away with its clip; played where its parts are found by name', () => {
    const p = piece({ a: [play('cl_turn', { object: 'ob_b' })], b: [stop('cl_turn')] });
    const read = readPieceJson(JSON.parse(writePiece(p)));
    expect(read.ok && read.value).toEqual(p);
    const run = started(p);
    go(run, 16, 'a');
    expect(propertyValue(run.state.values, 1, 'rotation.z')).toBeCloseTo(45, 9);
    const history = new History(new PieceStore(p));
    history.edit('Deleted', (e) => removeWithReferences(e, ['cl_turn']));
    expect(history.store.all('reactions').flatMap((r) => r.actions)).toEqual([]);
  });
});

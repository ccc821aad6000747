/** Pulses that are remembered for a lane that could not go at once. */
import { expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import type { Transition } from '../src/model/index.ts';
import { compile, editRun, explain, loadRun, Run, saveRun } from '../src/runtime/index.ts';
import { piece, play } from './box-piece.ts';

const press: Partial<Transition> = { on: { event: 'pulse', signal: 'si_p' } };
/** Plays for half a second before a pulse can lead on; then it holds. */
function waiting(remember: number | undefined, more: Partial<Transition> = {}) {
  const p = piece(
    [
      { id: 'st_a', name: 'a', play: play('cl_o') },
      { id: 'st_b', name: 'b', play: 'hold' },
      { id: 'st_c', name: 'c', play: 'rest' },
    ],
    [
      { from: 'st_a', to: 'st_b', notBefore: { seconds: 0.5 }, ...press, ...more },
      { from: 'st_b', to: 'st_c', ...press },
    ],
  );
  const pulse = p.signals['si_p'];
  if (pulse?.type === 'pulse' && remember !== undefined) p.signals['si_p'] = { ...pulse, remember };
  expect(checkIntegrity(p)).toEqual([]);
  return p;
}
/** When the lane left a state, to which; a pulse at the given ticks. */
function taken(p: ReturnType<typeof waiting>, ticks: number, ...pulses: number[]): [number, string][] {
  const run = new Run(compile(p));
  for (let i = 0; i <= ticks; i++) run.step(pulses.includes(i) ? [{ at: 0, pulse: 'ring' }] : []);
  return run
    .takeTrace()
    .flatMap((r): [number, string][] => (r.kind === 'transition' ? [[r.t, String(r.to)]] : []));
}

it('a pulse that comes too early is lost, unless it is remembered: then it goes at the moment that it may', () => {
  expect(taken(waiting(undefined), 60, 15)).toEqual([]);
  expect(taken(waiting(0.25), 60, 15)).toEqual([[0.5, 'st_b']]);
  // To the end of its time, and no later.
  expect(taken(waiting(0.2), 60, 18)).toEqual([[0.5, 'st_b']]);
  expect(taken(waiting(0.2), 60, 17)).toEqual([]);
});

it('one serves a lane once, though what comes next listens to it too; a second renews it and does not pile up', () => {
  expect(taken(waiting(1), 90, 15)).toEqual([[0.5, 'st_b']]);
  expect(taken(waiting(0.25), 90, 5, 18)).toEqual([[0.5, 'st_b']]);
  expect(taken(waiting(0.25), 90, 16, 40)).toEqual([
    [0.5, 'st_b'],
    [40 / 60, 'st_c'],
  ]);
});

it('asked for in a condition it is up for as long, and its use there counts', () => {
  const asks = { on: null, when: [{ signal: 'si_p', is: true }] } as const;
  expect(taken(waiting(0.3, { ...asks, when: [...asks.when] }), 90, 20)).toEqual([[0.5, 'st_b']]);
});

it('waits for a crossfade that must finish; is told as remembered; goes on through a snapshot and an edit', () => {
  const p = waiting(2);
  const run = new Run(compile(p));
  for (let i = 0; i < 20; i++) run.step(i === 10 ? [{ at: 0, pulse: 'ring' }] : []);
  expect(explain(run, 'tr_0').find((x) => x.of === 'event')).toMatchObject({ holds: true });
  const other = loadRun(new Run(compile(p)), saveRun(run));
  editRun(run, { ...p, name: 'Else' });
  for (const r of [run, other]) {
    r.takeTrace();
    for (let i = 0; i < 20; i++) r.step([]);
    expect(r.takeTrace().filter((x) => x.kind === 'transition')).toMatchObject([{ t: 0.5, to: 'st_b' }]);
  }
});

/** Why a transition does not go, held against what the run then does. */
import { expect, it } from 'vitest';
import { compile, explain, Run } from '../src/runtime/index.ts';
import { go, piece, play } from './box-piece.ts';

const go1 = { signal: 'si_s', is: true };

it('each part is told: switched off, another state, a condition, a moment, an event', () => {
  const p = piece(
    [
      { id: 'st_a', name: 'a', play: 'rest' },
      { id: 'st_b', name: 'b', play: play('cl_l') },
    ],
    [
      { from: 'st_a', to: 'st_b', when: [go1, { signal: 'si_n', atLeast: 3 }], notBefore: { seconds: 0.5 } },
      { from: 'st_b', to: 'st_a', on: { event: 'pulse', signal: 'si_p' }, notBefore: { percent: 200 } },
      { from: 'st_a', to: 'st_b', enabled: false },
    ],
  );
  const run = new Run(compile(p));
  go(run, 7, { 3: { set: { go: true } } });
  expect(explain(run, 'tr_0')).toEqual([
    { of: 'able', holds: true },
    { of: 'state', holds: true },
    { of: 'condition', at: 0, holds: true },
    { of: 'condition', at: 1, holds: false },
    { of: 'notBefore', holds: false, left: expect.closeTo(0.4, 9) },
  ]);
  expect(explain(run, 'tr_2')[0]).toEqual({ of: 'able', holds: false });
  expect(explain(run, 'tr_1').find((x) => x.of === 'state')?.holds).toBe(false);
  go(run, 40, { 20: { set: { pace: 5 } } });
  // At half a second it went: twice through its loop takes a second more.
  const parts = explain(run, 'tr_1');
  expect(parts.map((x) => [x.of, x.holds])).toEqual([
    ['able', true],
    ['state', true],
    ['event', false],
    ['notBefore', false],
  ]);
  expect(parts.at(-1)).toMatchObject({ left: expect.closeTo(1.5 - 46 / 60, 9) });
  expect(explain(run, 'tr_none')).toEqual([]);
});

it('an eventless transition whose parts all hold has gone by the next tick', () => {
  const p = piece(
    [
      { id: 'st_a', name: 'a', play: play('cl_o') },
      { id: 'st_b', name: 'b', play: 'hold' },
    ],
    [{ from: 'st_a', to: 'st_b', when: [go1], notBefore: 'loopEnd' }],
  );
  const run = new Run(compile(p));
  for (let i = 0; i < 60; i++) {
    const ready = explain(run, 'tr_0').every((x) => x.holds);
    go(run, 1, { 40: { set: { go: true } } });
    if (ready) expect(run.state.active[0]).toBe(1);
    if (run.tick < 40) expect(run.state.active[0]).toBe(0);
  }
  expect(run.state.active[0]).toBe(1);
});

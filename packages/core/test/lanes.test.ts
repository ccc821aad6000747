import { describe, expect, it } from 'vitest';
import type { Reaction } from '../src/model/index.ts';
import { compile, type Input, Run } from '../src/runtime/index.ts';
import { go, piece, play, states, turn } from './box-piece.ts';

describe('lanes', () => {
  it('a loop turns at exact dates and there-and-back comes back', () => {
    for (const [clip, after] of [
      ['cl_l', 30],
      ['cl_b', 30],
    ] as const) {
      const run = new Run(compile(piece([{ id: 'st_a', name: 'a', play: play(clip) }], [])));
      const trace = go(run, 46);
      expect(trace.filter((r) => r.event === 'clip.loop').map((r) => r.t)).toEqual([0.5]);
      expect(turn(run)).toBeCloseTo(after, 9);
    }
  });

  it('a speed signal changes without a jump, and turned round after its end the clip is done again at 0', () => {
    const run = new Run(
      compile(piece([{ id: 'st_a', name: 'a', play: play('cl_o', { signal: 'si_n' }) }], [])),
    );
    const first = go(run, 61);
    expect(first.filter((r) => r.event === 'clip.done').map((r) => r.t)).toEqual([0.5]);
    expect(turn(run)).toBe(90);
    const second = go(run, 60, { 61: { set: { pace: -2 } } });
    expect(second.filter((r) => r.event === 'clip.done').map((r) => r.t)).toEqual([61 / 60 + 0.25]);
    expect(turn(run)).toBe(0);
  });

  it('two lanes that ask before any goes see the same instant', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: 'rest' },
        { id: 'st_b', name: 'b', play: 'rest' },
      ],
      [
        {
          from: 'st_a',
          to: 'st_b',
          when: [
            { fact: 'state', lane: 'la_b', state: 'st_c' },
            { signal: 'si_s', is: true },
          ],
        },
      ],
    );
    p.machines['ma_a']?.lanes.push({
      id: 'la_b',
      name: 'Other',
      initial: 'st_c',
      unkeyed: 'base',
      amount: 1,
      blend: 'replace',
      states: [
        { id: 'st_c', name: 'c', play: 'rest' },
        { id: 'st_d', name: 'd', play: 'rest' },
      ],
      transitions: [
        {
          id: 'tr_x',
          from: 'st_c',
          to: 'st_d',
          on: null,
          when: [{ signal: 'si_s', is: true }],
          notBefore: null,
          crossfade: { seconds: 0 },
          odds: null,
          enabled: true,
          set: true,
          reenter: false,
          mayRepeat: true,
        },
      ],
    });
    const run = new Run(compile(p));
    expect(states(go(run, 5, { 2: { set: { go: true } } }))).toEqual(['st_b', 'st_d']);
  });

  it('a pulse in a condition serves a lane once and is gone after its tick', () => {
    const run = new Run(
      compile(
        piece(
          [
            { id: 'st_a', name: 'a', play: 'rest' },
            { id: 'st_b', name: 'b', play: 'rest' },
          ],
          [
            { from: 'st_a', to: 'st_b', when: [{ signal: 'si_p', is: true }] },
            { from: 'st_b', to: 'st_a', when: [{ signal: 'si_p', is: true }] },
          ],
        ),
      ),
    );
    expect(states(go(run, 10, { 3: { pulse: 'ring' }, 6: { pulse: 'ring' } }))).toEqual(['st_b', 'st_a']);
  });

  it('odds follow the seed: the same again, others with another, and the weights in the long run', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: 'rest' },
        { id: 'st_b', name: 'b', play: 'rest' },
      ],
      [
        { from: '*', to: 'st_a', on: { event: 'pulse', signal: 'si_p' }, odds: 3 },
        { from: '*', to: 'st_b', on: { event: 'pulse', signal: 'si_p' }, odds: 1 },
      ],
    );
    const program = compile(p);
    const draw = (seed: number) => {
      const run = new Run(program, { seed });
      const all = Object.fromEntries(Array.from({ length: 4000 }, (_, i) => [i + 1, { pulse: 'ring' }]));
      return states(go(run, 4001, all));
    };
    const one = draw(5);
    expect(draw(5)).toEqual(one);
    expect(draw(6)).not.toEqual(one);
    // 4,000 draws at 3 : 1; five standard deviations either side.
    const a = one.filter((s) => s === 'st_a').length;
    expect(Math.abs(a - 3000)).toBeLessThan(5 * Math.sqrt(4000 * 0.75 * 0.25));
  });

  it('unset and switched-off transitions never go and never stand in another’s way', () => {
    const run = new Run(
      compile(
        piece(
          ['a', 'b', 'c', 'd'].map((n) => ({ id: `st_${n}`, name: n, play: 'rest' as const })),
          [
            { from: 'st_a', to: 'st_b', set: false },
            { from: 'st_a', to: 'st_c', enabled: false },
            { from: 'st_a', to: 'st_d' },
          ],
        ),
      ),
    );
    expect(states(go(run, 2))).toEqual(['st_d']);
  });
});

describe('reactions', () => {
  const reaction = (part: Partial<Reaction>): Reaction => ({
    id: 're_a',
    object: 'ob_a',
    on: { event: 'pointer.click' },
    when: [],
    after: 0,
    cooldown: 0,
    limit: 'always',
    actions: [{ do: 'toggle', signal: 'si_s' }],
    ...part,
  });
  const changes = (part: Partial<Reaction>, inputs: Record<number, Omit<Input, 'at'>>) => {
    const p = piece([{ id: 'st_a', name: 'a', play: 'rest' }], []);
    p.reactions['re_a'] = reaction(part);
    return go(new Run(compile(p)), 200, inputs)
      .filter((r) => r.kind === 'signal')
      .map((r) => r.t);
  };
  const clicks = { 30: { click: 'Gate' }, 60: { click: 'Gate' }, 90: { click: 'Gate' } };

  it('cooldown counts from the event, its end inclusive; once is once; after delays', () => {
    expect(changes({}, clicks)).toEqual([0.5, 1, 1.5]);
    expect(changes({ cooldown: 0.5 }, clicks)).toEqual([0.5, 1.5]);
    expect(changes({ limit: 'once' }, clicks)).toEqual([0.5]);
    expect(changes({ after: 0.26 }, { 30: { click: 'Gate' } })).toEqual([0.76]);
  });

  it('timers keep their grid for as long as one likes', () => {
    const times = changes({ on: { event: 'timer', after: 0.1, every: 0.7 } }, {});
    expect(times).toHaveLength(5);
    times.forEach((t, n) => {
      expect(t).toBeCloseTo(0.1 + 0.7 * n, 12);
    });
  });

  it('an input by name that cannot be seen is recorded as missed and does nothing', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: 'rest' }], []);
    p.reactions['re_a'] = reaction({});
    (p.objects['ob_a'] as { base: { shown: boolean } }).base.shown = false;
    const trace = go(new Run(compile(p)), 5, { 2: { click: 'Gate' } });
    expect(trace.filter((r) => r.kind === 'input')).toMatchObject([{ input: 'click', missed: true }]);
    expect(trace.some((r) => r.event === 'pointer.click')).toBe(false);
  });
});

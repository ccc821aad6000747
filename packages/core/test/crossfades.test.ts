/** What lanes give while they fade, keep and come back: each case differed from the contract before. */
import { describe, expect, it } from 'vitest';
import { defaultBase, type Lane, type Piece, type SceneObject } from '../src/model/index.ts';
import { compile, propertyValue, Run } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { go, objectOf, piece, play, states, turn } from './box-piece.ts';

const whenGo = [{ signal: 'si_s', is: true }];
const fade = { seconds: 0.25 };
/** A track on the box with two keys, linear between them. */
function track(property: string, from: number, to: number, duration = 0.5) {
  const key = (t: number, value: number) => ({ t, value, easing: 'linear' as const });
  return { object: 'ob_a', property, mode: 'absolute' as const, keys: [key(0, from), key(duration, to)] };
}

describe('holding and keeping through a crossfade', () => {
  it('a holding state keeps from the first instant what stood on entry', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: play('cl_o') },
        { id: 'st_h', name: 'h', play: 'hold' },
      ],
      [{ from: 'st_a', to: 'st_h', when: whenGo, crossfade: fade }],
    );
    const run = new Run(compile(p));
    go(run, 16, { 15: { set: { go: true } } });
    const entered = turn(run);
    expect(entered).toBeCloseTo(45, 9);
    for (let i = 0; i < 30; i++) {
      go(run, 1);
      expect(turn(run)).toBe(entered);
    }
  });

  it('a keeping lane keeps what the new state does not key, while what it keys is mixed', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: play('cl_o') },
        { id: 'st_b', name: 'b', play: play('cl_x') },
      ],
      [{ from: 'st_a', to: 'st_b', when: whenGo, crossfade: fade }],
    );
    (p.machines['ma_a']?.lanes[0] as Lane).unkeyed = 'keep';
    const o = p.clips['cl_o'] as Piece['clips'][string];
    p.clips['cl_o'] = { ...o, tracks: [...o.tracks, track('position.x', 0, 100)] };
    p.clips['cl_x'] = { ...o, id: 'cl_x', name: 'x', tracks: [track('position.x', 300, 300)] };
    const run = new Run(compile(p));
    go(run, 16, { 15: { set: { go: true } } });
    const x = () => propertyValue(run.state.values, 0, 'position.x') as number;
    expect(turn(run)).toBeCloseTo(45, 9);
    const before = x();
    go(run, 6);
    expect(turn(run)).toBeCloseTo(45, 9);
    expect(x()).toBeGreaterThan(before);
    go(run, 20);
    expect(turn(run)).toBeCloseTo(45, 9);
    expect(x()).toBe(300);
  });

  it('a transition at the exact end of a crossfade fades out the play, not a frozen pose', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: 'rest' },
        { id: 'st_b', name: 'b', play: play('cl_l') },
        { id: 'st_c', name: 'c', play: 'rest' },
      ],
      [
        { from: 'st_a', to: 'st_b', when: whenGo, crossfade: { seconds: 0.1 } },
        { from: 'st_b', to: 'st_c', notBefore: { seconds: 0.1 }, crossfade: { seconds: 10 } },
      ],
    );
    const run = new Run(compile(p));
    go(run, 20, { 1: { set: { go: true } } });
    // The loop goes on under the long crossfade: its turn is still seen moving.
    const seen = new Set<number>();
    for (let i = 0; i < 5; i++) {
      go(run, 1);
      seen.add(Math.round(turn(run) * 1e6));
    }
    expect(seen.size).toBe(5);
  });
});

describe('opacity', () => {
  it('stays within 0–1 through adding lanes and overshooting crossfades, and is not bounded before it is mixed', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: play('cl_x') },
        { id: 'st_b', name: 'b', play: play('cl_y') },
      ],
      [
        {
          from: 'st_a',
          to: 'st_b',
          when: whenGo,
          crossfade: { seconds: 0.5, easing: { bezier: [0.3, 2.5, 0.6, 1] } },
        },
      ],
    );
    const o = p.clips['cl_o'] as Piece['clips'][string];
    p.clips['cl_x'] = { ...o, id: 'cl_x', name: 'x', tracks: [track('opacity', 0.1, 0.1)] };
    p.clips['cl_y'] = { ...o, id: 'cl_y', name: 'y', tracks: [track('opacity', 0.95, 0.95)] };
    const second = structuredClone(p.machines['ma_a']?.lanes[0]) as Lane;
    p.machines['ma_a']?.lanes.push({
      ...second,
      id: 'la_b',
      blend: 'add',
      initial: 'st_p',
      states: [{ id: 'st_p', name: 'p', play: play('cl_y') }],
      transitions: [],
    });
    const run = new Run(compile(p));
    const seen: number[] = [];
    for (let i = 0; i < 60; i++) {
      go(run, 1, { 20: { set: { go: true } } });
      seen.push(propertyValue(run.state.values, 0, 'opacity') as number);
    }
    expect(Math.min(...seen)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...seen)).toBe(1);
    // 0.1 and, added, 0.95 − 1: not below 0.
    expect(seen[5]).toBeCloseTo(0.05, 9);
  });
});

describe('places and dates', () => {
  it('a loop with a cue at 0, left at its end for a state that plays it from here, goes round and round', () => {
    const random = seeded(17);
    for (let round = 0; round < 300; round++) {
      const duration = 0.02 + random() * 0.7;
      const speed = (random() < 0.3 ? -1 : 1) * (0.2 + random() * 3);
      const here = { clip: 'cl_l', speed, from: 'here' as const };
      const p = piece(
        [
          { id: 'st_a', name: 'a', play: here },
          { id: 'st_b', name: 'b', play: here },
        ],
        [
          { from: 'st_a', to: 'st_b', notBefore: 'loopEnd' },
          { from: 'st_b', to: 'st_a', notBefore: 'loopEnd' },
        ],
      );
      const l = p.clips['cl_l'] as Piece['clips'][string];
      p.clips['cl_l'] = {
        ...l,
        duration,
        cues: [{ id: 'cu_0', t: 0, when: 'both', actions: [] }],
        tracks: [],
      };
      const run = new Run(compile(p));
      const trace = go(run, 120);
      const label = `round ${round}: ${duration} at ${speed}`;
      expect(
        trace.filter((r) => r.kind === 'storm'),
        label,
      ).toEqual([]);
      const turns = 119 / 60 / (duration / Math.abs(speed));
      expect(Math.abs(states(trace).length - Math.floor(turns + 1e-7)), label).toBeLessThanOrEqual(0);
    }
  });

  it('a loop played backwards stands at its end on entry and at every turn', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: play('cl_l', -1) }], []);
    const run = new Run(compile(p));
    go(run, 1);
    expect(turn(run)).toBe(60);
    go(run, 30);
    expect(turn(run)).toBe(60);
    go(run, 1);
    expect(turn(run)).toBeCloseTo(58, 9);
  });

  it('a cue at the end that turns the speed round is done, and runs back', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: play('cl_o', { signal: 'si_n' }) }], []);
    p.clips['cl_o']?.cues.push({
      id: 'cu_e',
      t: 0.5,
      when: 'forwards',
      actions: [{ do: 'set', signal: 'si_n', to: -1 }],
    });
    const run = new Run(compile(p));
    const trace = go(run, 46);
    expect(trace.filter((r) => r.event === 'clip.done').map((r) => r.t)).toEqual([0.5]);
    expect(turn(run)).toBeCloseTo(45, 9);
    expect(
      go(run, 20)
        .filter((r) => r.event === 'clip.done')
        .map((r) => r.t),
    ).toEqual([1]);
    expect(turn(run)).toBe(0);
  });

  it('per cent of a backwards play that is paused are still measured backwards', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: play('cl_o', { signal: 'si_n' }) },
        { id: 'st_b', name: 'b', play: 'rest' },
      ],
      [{ from: 'st_a', to: 'st_b', notBefore: { percent: 60 }, when: whenGo }],
    );
    (p.signals['si_n'] as { initial: number }).initial = -1;
    const run = new Run(compile(p));
    // Backwards for a tenth of a second (20 per cent), then paused: 60 per cent are not reached.
    go(run, 7, { 6: { set: { pace: 0 } } });
    expect(states(go(run, 5, { 8: { set: { go: true } } }))).toEqual([]);
    expect(states(go(run, 30, { 12: { set: { pace: -1 } } }))).toEqual(['st_b']);
  });
});

describe('an input by name', () => {
  it('on a parent is aimed at the parent itself where it shows, else at what lies below it', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: 'rest' }], []);
    p.objects = {
      ob_a: objectOf('ob_a', { kind: 'rect', size: [200, 200], radius: 0 }, { fill: '#808080' }),
      ob_b: objectOf(
        'ob_b',
        { kind: 'rect', size: [80, 80], radius: 0 },
        { position: [0, 0, 5] },
        { parent: 'ob_a' },
      ),
      ob_c: objectOf('ob_c', { kind: 'group' }, { position: [0, 300, 0] }),
      ob_d: objectOf('ob_d', { kind: 'rect', size: [30, 30], radius: 0 }, {}, { parent: 'ob_c' }),
    } as Record<string, SceneObject>;
    (p.objects['ob_d'] as SceneObject).base = { ...defaultBase(), position: [0, -250, 0] };
    const run = new Run(compile(p));
    const clicked = (name: string) =>
      go(run, 1, { [run.tick + 1]: { click: name } })
        .filter((r) => r.event === 'pointer.click')
        .map((r) => r.object);
    go(run, 1);
    expect(clicked('ob_a')).toEqual(['ob_a']);
    expect(clicked('ob_b')).toEqual(['ob_b']);
    expect(clicked('ob_c')).toEqual(['ob_d']);
  });
});

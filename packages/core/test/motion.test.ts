import { describe, expect, it } from 'vitest';
import type { Action, Lane, Piece } from '../src/model/index.ts';
import { compile, propertyValue, Run } from '../src/runtime/index.ts';
import { go, piece, play, states, turn } from './box-piece.ts';

const A = { id: 'st_a', name: 'a', play: 'rest' as const };
const B = { id: 'st_b', name: 'b', play: play('cl_o') };
const H = { id: 'st_h', name: 'h', play: 'hold' as const };
const click = { event: 'pointer.click' as const };
const clicked = { click: 'Gate' };
const started = (p: Piece) => {
  const run = new Run(compile(p));
  run.step();
  run.takeTrace();
  return run;
};
const react = (p: Piece, actions: Action[], key = 'k') => {
  const id = `re_${Object.keys(p.reactions).length}`;
  p.reactions[id] = {
    id,
    object: 'ob_a',
    on: { event: 'key.down', key },
    when: [],
    after: 0,
    cooldown: 0,
    limit: 'always',
    actions,
  };
  return p;
};
const press = (key = 'k') => ({ key, down: true });
const lane = (p: Piece) => p.machines['ma_a']?.lanes[0] as Lane;

describe('values: lanes, puts, holds', () => {
  it('a resting state gives back through the crossfade, linearly', () => {
    const run = started(
      piece([B, A], [{ from: 'st_b', to: 'st_a', on: click, crossfade: { seconds: 0.5 } }]),
    );
    go(run, 40);
    expect(turn(run)).toBe(90);
    go(run, 1, { [run.tick + 1]: clicked });
    expect(turn(run)).toBe(90);
    go(run, 15);
    expect(turn(run)).toBeCloseTo(45, 9);
    go(run, 15);
    expect(turn(run)).toBe(0);
  });

  it('a transition during a crossfade freezes the mixed pose and fades from that', () => {
    const run = started(
      piece(
        [B, A, H],
        [
          { from: 'st_b', to: 'st_a', on: click, crossfade: { seconds: 0.5 } },
          { from: 'st_a', to: 'st_h', on: click, crossfade: { seconds: 0.5 } },
        ],
      ),
    );
    go(run, 40);
    go(run, 1, { [run.tick + 1]: clicked });
    go(run, 15, { [run.tick + 15]: clicked });
    // Entered at 45, the hold keeps 45 from its first instant, whatever fades.
    expect(turn(run)).toBeCloseTo(45, 9);
    go(run, 40);
    expect(turn(run)).toBeCloseTo(45, 9);
  });

  it('a holding state keeps what the lane gave on entry; a keeping lane keeps it in any state but a resting one', () => {
    const other = {
      id: 'st_c',
      name: 'c',
      play: { clip: 'cl_x', speed: 1, from: 'start' as const },
    };
    const make = (unkeyed: 'base' | 'keep') => {
      const p = piece(
        [B, other, A],
        [
          { from: 'st_b', to: 'st_c', on: click },
          { from: 'st_c', to: 'st_a', on: click },
        ],
      );
      // A clip that keys something else: the turn is unkeyed in its state.
      p.clips['cl_x'] = {
        id: 'cl_x',
        name: 'x',
        root: 'ob_a',
        duration: 0,
        loop: 'once',
        cues: [],
        tracks: [
          {
            object: 'ob_a',
            property: 'position.x',
            mode: 'absolute',
            keys: [{ t: 0, value: 5, easing: 'linear' }],
          },
        ],
      };
      lane(p).unkeyed = unkeyed;
      const run = started(p);
      go(run, 40);
      go(run, 1, { [run.tick + 1]: clicked });
      const during = turn(run);
      go(run, 2, { [run.tick + 1]: clicked });
      return [during, turn(run)];
    };
    expect(make('base')).toEqual([0, 0]);
    expect(make('keep')).toEqual([90, 0]);
  });

  it('a put stays over a resting lane until a state that keys the property is entered, or it is released', () => {
    const p = piece([A, B], [{ from: 'st_a', to: 'st_b', on: click }]);
    react(p, [{ do: 'put', object: 'ob_a', property: 'rotation.z', to: 33 }]);
    react(p, [{ do: 'release', object: 'ob_a', property: 'rotation.z' }], 'r');
    const run = started(p);
    go(run, 1, { [run.tick + 1]: press() });
    expect(turn(run)).toBe(33);
    go(run, 1, { [run.tick + 1]: press('r') });
    expect(turn(run)).toBe(0);
    go(run, 1, { [run.tick + 1]: press() });
    go(run, 1, { [run.tick + 1]: clicked });
    expect(turn(run)).toBe(0);
    go(run, 15);
    expect(turn(run)).toBeCloseTo(45, 9);
  });

  it('a crossfade into the state that keys it starts from the put value', () => {
    const p = piece([A, B], [{ from: 'st_a', to: 'st_b', on: click, crossfade: { seconds: 1 } }]);
    react(p, [{ do: 'put', object: 'ob_a', property: 'rotation.z', to: 40 }]);
    const run = started(p);
    go(run, 1, { [run.tick + 1]: press() });
    go(run, 1, { [run.tick + 1]: clicked });
    expect(turn(run)).toBe(40);
    go(run, 30);
    // Half of the fade is over, and the clip (0.5 s) stands at its end: half 40, half 90.
    expect(turn(run)).toBeCloseTo(65, 9);
  });

  it('a lane that adds gives the difference from base; its amount may be a signal over its own range', () => {
    const p = piece([B], []);
    (p.objects['ob_a'] as { base: { rotation: number[] } }).base.rotation = [0, 0, 10];
    lane(p).blend = 'add';
    p.signals['si_n'] = {
      id: 'si_n',
      name: 'pace',
      type: 'number',
      initial: 5,
      min: 0,
      max: 10,
      shared: false,
      note: '',
    };
    lane(p).amount = { signal: 'si_n' };
    const run = started(p);
    go(run, 40);
    // Base 10, and half of (90 − 10) on top.
    expect(turn(run)).toBeCloseTo(10 + 0.5 * 80, 9);
    go(run, 1, { [run.tick + 1]: { set: { si_n: 10 } } });
    expect(turn(run)).toBeCloseTo(90, 9);
  });

  it('values are read when the action acts: sums, mapped signals, another signal', () => {
    const p = piece([A], []);
    react(p, [
      { do: 'set', signal: 'si_n', to: { sum: [{ signal: 'si_n' }, 2, { product: [3, 2] }] } },
      {
        do: 'put',
        object: 'ob_a',
        property: 'position.x',
        to: { signal: 'si_n', from: [0, 10], to: [100, 200] },
      },
      { do: 'add', signal: 'si_n', by: { difference: [1, 4] } },
    ]);
    const run = started(p);
    go(run, 1, { [run.tick + 1]: press() });
    expect(propertyValue(run.state.values, 0, 'position.x')).toBe(190);
    expect(run.signalValue('si_n')).toBe(6);
  });
});

describe('when a transition may go', () => {
  it('not before per cent of the clip counts along the direction of play', () => {
    for (const speed of [1, -1]) {
      const run = started(
        piece(
          [{ id: 'st_b', name: 'b', play: play('cl_o', speed) }, A],
          [{ from: 'st_b', to: 'st_a', notBefore: { percent: 40 } }],
        ),
      );
      const [way] = go(run, 60).filter((r) => r.kind === 'transition');
      expect(way?.t).toBeCloseTo(0.2, 9);
    }
  });

  it('the end of a loop is the instant of a turn only', () => {
    const p = piece(
      [{ id: 'st_b', name: 'b', play: play('cl_l') }, A],
      [{ from: 'st_b', to: 'st_a', when: [{ signal: 'si_s', is: true }], notBefore: 'loopEnd' }],
    );
    const run = started(p);
    const trace = go(run, 100, { 40: { set: { si_s: true } } });
    const way = trace.find((r) => r.kind === 'transition');
    // The loop takes half a second; asked for at 0.667 s, it goes at the turn at 1.0 s.
    expect(way?.t).toBeCloseTo(1, 9);
  });

  it('must-finish loses events before its end; eventless ones go at its end', () => {
    const p = piece(
      [A, B, H],
      [
        { from: 'st_a', to: 'st_b', on: click, crossfade: { seconds: 0.5, mustFinish: true } },
        { from: 'st_b', to: 'st_h', on: click },
        { from: 'st_b', to: 'st_a', when: [{ signal: 'si_s', is: true }] },
      ],
    );
    const run = started(p);
    const trace = go(run, 60, { 5: clicked, 15: clicked, 20: { set: { si_s: true } } });
    const ways = trace.filter((r) => r.kind === 'transition');
    expect(ways.map((r) => r.to)).toEqual(['st_b', 'st_a']);
    expect(ways[1]?.t).toBeCloseTo(5 / 60 + 0.5, 9);
  });

  it('go always goes, through must-finish and out of a finished lane', () => {
    const p = piece([A, { ...H, final: true }], [{ from: 'st_a', to: 'st_h', on: click }]);
    react(p, [{ do: 'go', lane: 'la_a', state: 'st_a' }]);
    const run = started(p);
    const trace = go(run, 12, { 3: clicked, 5: clicked, 8: press(), 10: clicked });
    expect(trace.filter((r) => r.event === 'lane.done')).toHaveLength(2);
    expect(states(trace)).toEqual(['st_h', 'st_a', 'st_h']);
  });

  it('from anywhere: not into itself again unless told to', () => {
    for (const reenter of [false, true]) {
      const run = started(piece([A, H], [{ from: '*', to: 'st_h', on: click, reenter }]));
      const trace = go(run, 10, { 2: clicked, 5: clicked });
      expect(states(trace)).toEqual(reenter ? ['st_h', 'st_h'] : ['st_h']);
    }
  });

  it('entry and exit act in order, between the records of leaving and entering', () => {
    const run = started(
      piece(
        [
          { ...A, onExit: [{ do: 'set', signal: 'si_n', to: 1 }] },
          { ...H, onEntry: [{ do: 'set', signal: 'si_n', to: { sum: [{ signal: 'si_n' }, 10] } }] },
        ],
        [{ from: 'st_a', to: 'st_h', on: click }],
      ),
    );
    const trace = go(run, 3, { 2: clicked });
    expect(run.signalValue('si_n')).toBe(11);
    const order = trace
      .filter((r) => r.kind === 'transition' || r.event?.startsWith('state.'))
      .map((r) => r.event ?? r.kind);
    expect(order).toEqual(['transition', 'state.leave', 'state.enter']);
  });
});

describe('cues', () => {
  const withCues = (loop: 'cl_o' | 'cl_l' | 'cl_b', speed: number) => {
    const p = piece([{ id: 'st_b', name: 'b', play: play(loop, speed) }], []);
    const clip = p.clips[loop] as { cues: Piece['clips'][string]['cues'] };
    clip.cues = (['forwards', 'backwards', 'both'] as const).map((when, i) => ({
      id: `cu_${i}`,
      t: [0, 0.2, 0.5][i] as number,
      when,
      actions: [{ do: 'add', signal: 'si_n', by: 1 }],
    }));
    const run = new Run(compile(p));
    run.step();
    const trace = [...run.takeTrace(), ...go(run, 60)];
    return trace.filter((r) => r.kind === 'cue').map((r) => [r.cue, Math.round(r.t * 1000) / 1000]);
  };

  it('forwards: the one at 0 when the clip starts, the one at the end before done', () => {
    expect(withCues('cl_o', 1)).toEqual([
      ['cu_0', 0],
      ['cu_2', 0.5],
    ]);
  });

  it('backwards: at the start of the play its end, then the inner one', () => {
    expect(withCues('cl_o', -1)).toEqual([
      ['cu_2', 0],
      ['cu_1', 0.3],
    ]);
  });

  it('there and back: an inner cue on its way, an end cue once per turn', () => {
    expect(withCues('cl_b', 1)).toEqual([
      ['cu_0', 0],
      ['cu_2', 0.5],
      ['cu_1', 0.8],
      ['cu_0', 1],
    ]);
  });

  it('a loop meets its cues on every pass', () => {
    expect(withCues('cl_l', 1).map(([id]) => id)).toEqual(['cu_0', 'cu_2', 'cu_0', 'cu_2', 'cu_0']);
  });
});

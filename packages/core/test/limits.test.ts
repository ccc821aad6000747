/** What has no end is a storm, told once, and a tick always ends; each case hung, or printed a stack, before. */
import { describe, expect, it } from 'vitest';
import type { Action, Piece, Reaction } from '../src/model/index.ts';
import { compile, editRun, loadRun, Run, saveRun, type TraceRecord } from '../src/runtime/index.ts';
import { go, piece, play, states, turn } from './box-piece.ts';

const reaction = (
  id: string,
  on: Reaction['on'],
  actions: Action[],
  more: Partial<Reaction> = {},
): Reaction => ({
  id,
  object: 'ob_a',
  on,
  when: [],
  after: 0,
  cooldown: 0,
  limit: 'always',
  stop: false,
  actions,
  ...more,
});
const storms = (trace: TraceRecord[]) => trace.filter((r) => r.kind === 'storm');
const lane = 'la_a';
const rest = (id: string, more: object = {}) => ({ id, name: id, play: 'rest' as const, ...more });

/** A piece whose box hears the message `me_a`. */
function hearing(actions: Action[], more: Partial<Reaction> = {}): Piece {
  const p = piece([rest('st_a')], []);
  p.messages = { me_a: { id: 'me_a', name: 'a', note: '' }, me_b: { id: 'me_b', name: 'b', note: '' } };
  p.reactions = { re_a: reaction('re_a', { event: 'message', message: 'me_a' }, actions, more) };
  return p;
}

describe('storms and the budget of a tick', () => {
  it('a go in onEntry, or in onExit, that leads back is a storm, and the next ticks go on', () => {
    const there = (state: string): Action[] => [{ do: 'go', lane, state }];
    const entry = piece(
      [rest('st_a'), rest('st_b', { onEntry: there('st_c') }), rest('st_c', { onEntry: there('st_b') })],
      [{ from: 'st_a', to: 'st_b', when: [{ signal: 'si_s', is: true }] }],
    );
    const exit = piece(
      [rest('st_a', { onExit: there('st_a') }), rest('st_b')],
      [{ from: 'st_a', to: 'st_b', when: [{ signal: 'si_s', is: true }] }],
    );
    const run = new Run(compile(entry));
    expect(storms(go(run, 4, { 2: { set: { go: true } } })).map((r) => [r.tick, r.why])).toEqual([
      [2, undefined],
    ]);
    expect(storms(go(run, 10))).toEqual([]);
    // Its transition never gets away, so it is a storm once in each tick in which it would go.
    const stays = new Run(compile(exit));
    expect(storms(go(stays, 5, { 2: { set: { go: true } } })).map((r) => r.tick)).toEqual([2, 3, 4]);
  });

  it('an onEntry that goes on leads there, and what was left out of its state does not end the lane', () => {
    const p = piece(
      [rest('st_a', { final: true, onEntry: [{ do: 'go', lane, state: 'st_b' }] }), rest('st_b')],
      [{ from: 'st_b', to: 'st_a', when: [{ signal: 'si_s', is: true }] }],
    );
    const run = new Run(compile(p));
    const trace = go(run, 3);
    expect(states(trace)).toEqual(['st_b']);
    expect(trace.some((r) => r.event === 'lane.done')).toBe(false);
  });

  it('a go in a cue that is met again on entry is a storm', () => {
    const p = piece(
      [rest('st_r'), { id: 'st_a', name: 'a', play: play('cl_o') }],
      [{ from: 'st_r', to: 'st_a', when: [{ signal: 'si_s', is: true }] }],
    );
    p.clips['cl_o']?.cues.push({
      id: 'cu_a',
      t: 0,
      when: 'forwards',
      actions: [{ do: 'go', lane, state: 'st_a' }],
    });
    const run = new Run(compile(p));
    const trace = go(run, 5, { 2: { set: { go: true } } });
    expect(storms(trace).filter((r) => r.tick === 2)).toHaveLength(1);
    expect(run.tick).toBe(4);
  });

  it('two poses that end into one another are a storm', () => {
    const p = piece(
      [
        rest('st_r'),
        { id: 'st_a', name: 'a', play: play('cl_p') },
        { id: 'st_b', name: 'b', play: play('cl_p') },
      ],
      [
        { from: 'st_r', to: 'st_a', when: [{ signal: 'si_s', is: true }] },
        { from: 'st_a', to: 'st_b', on: { event: 'state.done' } },
        { from: 'st_b', to: 'st_a', on: { event: 'state.done' } },
      ],
    );
    p.clips['cl_p'] = {
      id: 'cl_p',
      name: 'pose',
      root: 'ob_a',
      duration: 0,
      loop: 'once',
      cues: [],
      tracks: [],
    };
    const run = new Run(compile(p));
    expect(storms(go(run, 4, { 2: { set: { go: true } } }))).toHaveLength(1);
  });

  it.each([1e-8, 1e-10, 1e-300])(
    'a reaction that sets itself off after %d s ends each tick and says so',
    (after) => {
      const run = new Run(compile(hearing([{ do: 'send', message: 'me_a' }], { after })));
      const trace = go(run, 5, { 1: { send: 'a' } });
      expect(storms(trace).length).toBeGreaterThan(0);
      for (let tick = 0; tick < 5; tick++)
        expect(storms(trace.filter((r) => r.tick === tick)).length).toBeLessThan(3);
      expect(trace.length).toBeLessThan(200_000);
    },
  );

  it('a go delayed by next to nothing, there and back, ends each tick', () => {
    const to = (state: string): Action[] => [{ do: 'go', lane, state, after: 1e-11 }];
    const run = new Run(
      compile(piece([rest('st_a', { onEntry: to('st_b') }), rest('st_b', { onEntry: to('st_a') })], [])),
    );
    const trace = go(run, 3);
    expect(storms(trace).some((r) => r.why === 'acts')).toBe(true);
    expect(trace.length).toBeLessThan(500_000);
  });

  it('messages that double are a storm that names the ring', () => {
    const run = new Run(
      compile(
        hearing([
          { do: 'send', message: 'me_a' },
          { do: 'send', message: 'me_a' },
        ]),
      ),
    );
    const trace = go(run, 3, { 1: { send: 'a' } });
    expect(storms(trace)).toMatchObject([{ tick: 1, ring: ['re_a'] }]);
    expect(trace.length).toBeLessThan(20_000);
  });

  it('a speed of 1e300 is one of 1,000, and short loops at it drop what is too much and stand where they would', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: play('cl_l', { signal: 'si_n' }) }], []);
    const run = new Run(compile(p));
    const first = go(run, 3, { 1: { set: { pace: 1e300 } } });
    expect(storms(first)).toEqual([]);
    // After 1/60 s at speed 1 (2°), 1,000 × 1/60 s of a clip of 0.5 s: 33 turns and a third of one.
    expect(first.filter((r) => r.event === 'clip.loop' && r.tick === 2).length).toBeGreaterThanOrEqual(33);
    expect(turn(run)).toBeCloseTo(2 + 60 * ((1000 / 60 / 0.5) % 1), 4);

    const tiny = piece([{ id: 'st_a', name: 'a', play: play('cl_l', 1000) }], []);
    const clip = tiny.clips['cl_l'];
    if (clip) tiny.clips['cl_l'] = { ...clip, duration: 0.001 };
    const fast = new Run(compile(tiny));
    const trace = go(fast, 3);
    expect(storms(trace)).toMatchObject([
      { tick: 1, why: 'dates', lane },
      { tick: 2, why: 'dates', lane },
    ]);
    expect(trace.filter((r) => r.tick === 1 && r.event === 'clip.loop')).toHaveLength(4096);
  });

  it('a timer made faster while it runs does not make up for the past; one made in a run begins on its grid', () => {
    const timer = (every: number): Piece => {
      const p = hearing([]);
      p.reactions['re_t'] = reaction('re_t', { event: 'timer', every }, [{ do: 'send', message: 'me_b' }]);
      return p;
    };
    const run = new Run(compile(timer(1)));
    go(run, 60 * 100);
    editRun(run, timer(0.001));
    const trace = go(run, 120);
    const fired = trace.filter((r) => r.event === 'timer');
    expect(fired.length).toBeLessThanOrEqual(2000);
    expect(storms(trace)).toEqual([]);
    const late = new Run(compile(hearing([])));
    go(late, 151);
    editRun(late, timer(1));
    expect(
      go(late, 60)
        .filter((r) => r.event === 'timer')
        .map((r) => r.t),
    ).toEqual([3]);
  });

  it('in ten minutes timers of 0.1 s and 0.07 s fire exactly as often as they should, also from a snapshot on', () => {
    const p = hearing([]);
    const every = { re_tenth: 0.1, re_seven: 0.07 };
    for (const [id, seconds] of Object.entries(every))
      p.reactions[id] = reaction(id, { event: 'timer', every: seconds }, [{ do: 'send', message: 'me_b' }]);
    let run = new Run(compile(p));
    const fired: Record<keyof typeof every, number[]> = { re_tenth: [], re_seven: [] };
    const hear = (trace: TraceRecord[]) => {
      for (const r of trace) if (r.event === 'timer') fired[r.reaction as keyof typeof every].push(r.t);
    };
    hear(go(run, 20_000));
    run = loadRun(new Run(compile(p)), saveRun(run));
    hear(go(run, 600 * 60 - run.tick));
    expect(run.time).toBe(600);
    expect(fired.re_tenth).toHaveLength(6000);
    expect(fired.re_seven).toHaveLength(8571);
    for (const [id, seconds] of Object.entries(every))
      fired[id as keyof typeof every].forEach((t, n) => {
        expect(Math.abs(t - (n + 1) * seconds)).toBeLessThan(1e-9);
      });
  });

  it('after a storm later dates of the tick still act: what is delayed happens', () => {
    const p = hearing([
      { do: 'send', message: 'me_a' },
      { do: 'put', object: 'ob_a', property: 'rotation.z', to: 12, after: 0.5 },
    ]);
    const run = new Run(compile(p));
    expect(storms(go(run, 40, { 1: { send: 'a' } })).map((r) => r.tick)).toEqual([1]);
    expect(turn(run)).toBe(12);
  });
});

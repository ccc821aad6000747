/** Pointer events through the tree, limits and chance in reactions, what may not be asked of a run. */
import { describe, expect, it } from 'vitest';
import { emptyPiece, type Piece, type Reaction, type SignalValue } from '../src/model/index.ts';
import { compile, type Input, Run, type TraceRecord, writersOf } from '../src/runtime/index.ts';
import { go, objectOf, piece, play } from './box-piece.ts';

/** A group with two squares beside each other, 100 px each; reactions on any of the three. */
function pair(reactions: (Partial<Reaction> & Pick<Reaction, 'object' | 'on'>)[]): Run {
  const p = emptyPiece('p', 'Pair');
  p.objects['ob_g'] = objectOf('ob_g', { kind: 'group' });
  for (const [id, x] of [
    ['ob_l', -60],
    ['ob_r', 60],
  ] as const)
    p.objects[id] = objectOf(
      id,
      { kind: 'rect', size: [100, 100], radius: 0 },
      { position: [x, 0, 0] },
      { parent: 'ob_g' },
    );
  p.signals['si_n'] = { id: 'si_n', name: 'n', type: 'number', initial: 0, shared: false, note: '' };
  reactions.forEach((r, i) => {
    p.reactions[`re_${i}`] = {
      ...{ id: `re_${i}`, when: [], after: 0, cooldown: 0, limit: 'always' },
      actions: [{ do: 'add', signal: 'si_n', by: 10 ** i }],
      ...r,
    } as Reaction;
  });
  return new Run(compile(p));
}
/** Frame px from the left top corner, for a place x px right of the middle. */
const at = (x: number, down = false): Input => ({ at: 0, pointer: { x: 480 + x, y: 270, down } });
const events = (trace: TraceRecord[]) =>
  trace.filter((r) => r.event?.startsWith('pointer.')).map((r) => `${r.event} ${r.object}`);

describe('the pointer', () => {
  it('enters from outside in and leaves from inside out, once per change', () => {
    const run = pair([]);
    run.step([]);
    run.takeTrace();
    run.step([at(-60)]);
    expect(events(run.takeTrace())).toEqual(['pointer.enter ob_g', 'pointer.enter ob_l']);
    run.step([at(-50)]);
    expect(events(run.takeTrace())).toEqual([]);
    run.step([at(60)]);
    expect(events(run.takeTrace())).toEqual(['pointer.leave ob_l', 'pointer.enter ob_r']);
    run.step([{ at: 0, pointer: null }]);
    expect(events(run.takeTrace())).toEqual(['pointer.leave ob_r', 'pointer.leave ob_g']);
  });

  it('pressed on one child and released on another clicks their common parent', () => {
    const run = pair([]);
    run.step([at(-60, true)]);
    run.step([at(60, true)]);
    run.takeTrace();
    run.step([at(60)]);
    expect(events(run.takeTrace())).toEqual(['pointer.release ob_r', 'pointer.click ob_g']);
  });

  it('is heard by the innermost first, and no further up than who stops it', () => {
    const on = { event: 'pointer.click' as const };
    const heard = (stop: boolean) => {
      const run = pair([
        { object: 'ob_g', on },
        { object: 'ob_l', on, stop },
      ]);
      run.step([]);
      run.takeTrace();
      run.step([{ at: 0, click: 'ob_l' }]);
      return run.takeTrace().flatMap((r) => (r.kind === 'reaction' ? [r.reaction] : []));
    };
    expect(heard(false)).toEqual(['re_1', 're_0']);
    expect(heard(true)).toEqual(['re_1']);
  });

  it('hits what is seen from where people look, in the size in which they see it; both are inputs of the trace', () => {
    const p = emptyPiece('p', 'View');
    const size = [100, 100, 100];
    p.objects['ob_front'] = objectOf('ob_front', { kind: 'box', size }, { position: [0, 0, 200] });
    p.objects['ob_back'] = objectOf('ob_back', { kind: 'box', size });
    const overlay = { anchor: 'top left', offset: [50, -50], ofOwn: [0, 0] };
    p.objects['ob_top'] = objectOf('ob_top', { kind: 'rect', size: [60, 60], radius: 0 }, {}, { overlay });
    const run = new Run(compile(p));
    const over = (...inputs: Input[]) => {
      run.step(inputs);
      return run.program.objects[run.state.over]?.id;
    };
    expect(over(at(0))).toBe('ob_front');
    expect(over({ at: 0, view: { azimuth: 90, elevation: 0 } })).toBe('ob_back');
    expect(over({ at: 0, pointer: { x: 50, y: 50, down: false } })).toBe('ob_top');
    expect(over({ at: 0, frame: { width: 400, height: 300 } })).toBeUndefined();
    const corner: Input = { at: 0, pointer: { x: 330, y: 170, down: false } };
    expect(over(corner)).toBe('ob_top');
    const told = run.takeTrace().filter((r) => r.input === 'view' || r.input === 'frame');
    expect(told).toMatchObject([
      { azimuth: 90, elevation: 0 },
      { width: 400, height: 300 },
    ]);
  });
});

const n = (run: Run): SignalValue => run.signalValue('si_n');

describe('reactions', () => {
  it('spent until an event, which itself does not set them off', () => {
    const on = { event: 'key.down' as const, key: 'a' };
    const limit = { onceUntil: { event: 'key.down' as const, key: 'b' } };
    const run = pair([{ object: 'ob_g', on, limit }]);
    const press = (key: string) => {
      run.step([{ at: 0, key, down: true }]);
      return n(run);
    };
    expect(['a', 'a', 'b', 'a', 'a'].map(press)).toEqual([1, 1, 1, 2, 2]);
  });

  it('timers with jitter lie round their grid, each at a date of its own, the same for the same seed', () => {
    const make = () => pair([{ object: 'ob_g', on: { event: 'timer', every: 0.5, jitter: 0.1 } }]);
    const dates = (run: Run) =>
      go(run, 600)
        .filter((r) => r.event === 'timer')
        .map((r) => r.t);
    const got = dates(make());
    expect(got.length).toBeGreaterThanOrEqual(19);
    got.forEach((t, i) => {
      expect(Math.abs(t - (i + 1) * 0.5)).toBeLessThanOrEqual(0.1);
    });
    expect(new Set(got.map((t) => (t % 0.5).toFixed(6))).size).toBeGreaterThan(10);
    expect(dates(make())).toEqual(got);
  });

  it('pick draws from the stream of whoever acts: all of its values come, the same for the same seed', () => {
    const make = () =>
      pair([
        {
          ...{ object: 'ob_g', on: { event: 'key.down', key: 'a' } },
          actions: [{ do: 'set', signal: 'si_n', to: { pick: [1, 2, 3] } }],
        },
      ]);
    const values = (run: Run) =>
      Array.from({ length: 60 }, () => {
        run.step([{ at: 0, key: 'a', down: true }]);
        return n(run);
      });
    const got = values(make());
    expect([...new Set(got)].sort()).toEqual([1, 2, 3]);
    expect(values(make())).toEqual(got);
  });
});

describe('lanes', () => {
  const two: Parameters<typeof piece>[0] = [
    { id: 'st_a', name: 'a', play: play('cl_l') },
    { id: 'st_b', name: 'b', play: 'rest' },
  ];

  it('a drawn initial state follows its odds over seeds, and is the same for the same seed', () => {
    const p = piece(two, []);
    const lane = p.machines['ma_a']?.lanes[0];
    if (!lane) throw new Error('no lane');
    lane.initial = {
      draw: [
        { state: 'st_a', odds: 3 },
        { state: 'st_b', odds: 1 },
      ],
    };
    const program = compile(p);
    const first = (seed: number) => {
      const run = new Run(program, { seed });
      run.step([]);
      return run.takeTrace().find((r) => r.kind === 'start')?.state;
    };
    const all = Array.from({ length: 400 }, (_, seed) => first(seed));
    const a = all.filter((x) => x === 'st_a').length;
    expect(a).toBeGreaterThan(260);
    expect(a).toBeLessThan(340);
    expect(first(7)).toBe(all[7]);
  });

  it('a play that is cut is stopped, once; one that had ended is not', () => {
    const on = { event: 'key.down' as const, key: 'a' };
    const stopped = (clip: string) => {
      const states = [{ id: 'st_a', name: 'a', play: play(clip) }, two[1] as (typeof two)[number]];
      const run = new Run(compile(piece(states, [{ from: 'st_a', to: 'st_b', on }])));
      const trace = go(run, 60, { 50: { key: 'a', down: true } });
      return trace.filter((r) => r.event === 'clip.stopped').map((r) => r.clip);
    };
    expect(stopped('cl_l')).toEqual(['cl_l']);
    expect(stopped('cl_o')).toEqual([]);
  });
});

it('who sets a property is told, the lowest first, with what each lets through', () => {
  const p: Piece = piece([{ id: 'st_a', name: 'a', play: play('cl_l') }], []);
  const run = new Run(compile(p));
  run.step([]);
  expect(writersOf(run, 0, 'rotation.z')).toEqual([
    { by: 'base', weight: 1 },
    { by: 'lane', lane: 'la_a', state: 'st_a', clip: 'cl_l', weight: 1 },
  ]);
  expect(writersOf(run, 0, 'opacity')).toEqual([{ by: 'base', weight: 1 }]);
  run.step([{ at: 0, put: { object: 'ob_a', property: 'opacity', value: 0.5 } }]);
  expect(writersOf(run, 0, 'opacity').at(-1)).toEqual({ by: 'put', weight: 1 });
  expect(writersOf(run, 0, 'nothing')).toEqual([]);
  expect(writersOf(run, 9, 'opacity')).toEqual([]);
});

it('a run in the middle of a tick can be asked for nothing: it is not entered twice', () => {
  const run = new Run(compile(emptyPiece('p', 'Lock')));
  const again: Input = {
    at: 0,
    get send(): string {
      run.step([]);
      return 'x';
    },
  } as Input;
  expect(() => run.step([again])).toThrow('in the middle of a tick');
  expect(() => run.step([])).not.toThrow();
});

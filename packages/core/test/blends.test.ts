/** States that play several clips at once: by the place of a number among them, or added up. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import {
  emptyPiece,
  History,
  type Lane,
  type Piece,
  PieceStore,
  removeWithReferences,
  type State,
  writePiece,
} from '../src/model/index.ts';
import { compile, editRun, propertyValue, Run, writersOf } from '../src/runtime/index.ts';
import { objectOf } from './box-piece.ts';

type Way = { duration?: number; loop?: 'once' | 'loop'; cue?: number };
/** A box with clips a, b and c: turned to 0, 40 and 100 degrees; c is red as well. States are `play` and a rest. */
function piece(play: State['play'], ways: Record<string, Way> = {}): Piece {
  const p = emptyPiece('p', 'Blend');
  p.objects['ob_a'] = objectOf('ob_a', { kind: 'rect', size: [10, 10], radius: 0 }, { fill: '#000000' });
  p.signals['si_n'] = {
    id: 'si_n',
    name: 'n',
    type: 'number',
    initial: 0,
    min: 0,
    max: 10,
    shared: false,
    note: '',
  };
  p.signals['si_p'] = { id: 'si_p', name: 'p', type: 'pulse', shared: false, note: '' };
  const to = { a: 0, b: 40, c: 100 };
  for (const [k, value] of Object.entries(to)) {
    const { duration = 0, loop = 'once', cue } = ways[k] ?? {};
    const keys =
      duration === 0
        ? [{ t: 0, value, easing: 'linear' as const }]
        : [
            { t: 0, value: 0, easing: 'linear' as const },
            { t: duration, value, easing: 'linear' as const },
          ];
    p.clips[`cl_${k}`] = {
      ...{ id: `cl_${k}`, name: k, root: 'ob_a', duration, loop },
      tracks: [
        { object: 'ob_a', property: 'rotation.z', mode: 'absolute', keys },
        ...(k === 'c'
          ? [
              {
                ...{ object: 'ob_a', property: 'position.x', mode: 'absolute' as const },
                keys: [{ t: 0, value: 10, easing: 'linear' as const }],
              },
            ]
          : []),
      ],
      cues: cue === undefined ? [] : [{ id: `cu_${k}`, t: cue, when: 'forwards', actions: [] }],
    };
  }
  const lane: Lane = {
    ...{ id: 'la_1', name: 'l', initial: 'st_b', unkeyed: 'base', amount: 1, blend: 'replace' },
    states: [
      { id: 'st_b', name: 'b', play },
      { id: 'st_r', name: 'r', play: 'rest' },
    ],
    transitions: [
      {
        ...{ id: 'tr_1', from: 'st_b', to: 'st_r', on: { event: 'pulse', signal: 'si_p' }, when: [] },
        ...{ notBefore: null, crossfade: { seconds: 1 }, odds: null, enabled: true, set: true },
        ...{ reenter: false, mayRepeat: true },
      },
    ],
  };
  p.machines['ma_1'] = { id: 'ma_1', name: 'm', object: 'ob_a', lanes: [lane] };
  return p;
}
const range = (points: [string, number][], phase: 'own' | 'common' = 'own'): State['play'] => ({
  range: { signal: 'si_n', points: points.map(([k, at]) => ({ clip: `cl_${k}`, at })), phase },
});
const turn = (run: Run) => propertyValue(run.state.values, 0, 'rotation.z') as number;
const x = (run: Run) => propertyValue(run.state.values, 0, 'position.x') as number;
const set = (run: Run, n: number) => run.step([{ at: 0, set: { si_n: n } }]);
const started = (p: Piece) => {
  expect(checkIntegrity(p)).toEqual([]);
  const run = new Run(compile(p));
  run.step([]);
  return run;
};
const told = (run: Run, ticks: number) => {
  for (let i = 0; i < ticks; i++) run.step([]);
  return run
    .takeTrace()
    .flatMap((r) =>
      /^(cue|clip\.|state\.done)/.test(r.event ?? '') ? [`${r.event} ${r.clip ?? r.state}`] : [],
    );
};

describe('by a number', () => {
  it('mixes the two on both sides of it, and takes the nearest beyond the ends, in whatever order they are written', () => {
    const run = started(
      piece(
        range([
          ['c', 10],
          ['a', 2],
          ['b', 6],
        ]),
      ),
    );
    for (const [n, degrees] of [
      [0, 0],
      [2, 0],
      [4, 20],
      [6, 40],
      [8, 70],
      [9, 85],
      [10, 100],
    ] as const) {
      set(run, n);
      expect(turn(run)).toBeCloseTo(degrees, 9);
    }
  });

  it('lets through what only some of them key, by as much as they count', () => {
    const run = started(
      piece(
        range([
          ['a', 0],
          ['c', 10],
        ]),
      ),
    );
    set(run, 5);
    expect(x(run)).toBeCloseTo(5, 9);
    set(run, 10);
    expect(x(run)).toBeCloseTo(10, 9);
    expect(writersOf(run, 0, 'position.x').at(-1)).toMatchObject({ by: 'lane', weight: 1 });
  });

  it('each goes by itself; with a common phase they go in step, at the mean of their lengths', () => {
    const ways = { a: { duration: 1, loop: 'loop' as const }, b: { duration: 2, loop: 'loop' as const } };
    const own = started(
      piece(
        range([
          ['a', 0],
          ['b', 10],
        ]),
        ways,
      ),
    );
    set(own, 10);
    told(own, 59);
    // A second into two: half-way.
    expect(turn(own)).toBeCloseTo(20, 9);
    const common = started(
      piece(
        range(
          [
            ['a', 0],
            ['b', 10],
          ],
          'common',
        ),
        ways,
      ),
    );
    told(common, 30);
    set(common, 10);
    // Half a pass and a tick by a, then a quarter of one by b in half a second.
    told(common, 30);
    expect(turn(common)).toBeCloseTo(40 * (31 / 60 + 30 / 120), 9);
  });

  it('meets the cues of what counts most only; is done when none loops and the longest has ended', () => {
    const ways = { a: { duration: 0.2, cue: 0.1 }, b: { duration: 0.5, cue: 0.3 } };
    const run = started(
      piece(
        range([
          ['a', 0],
          ['b', 10],
        ]),
        ways,
      ),
    );
    expect(told(run, 60)).toEqual(['clip.start cl_a', 'cue cl_a', 'clip.done cl_a', 'state.done st_b']);
    const other = started(
      piece(
        range([
          ['a', 0],
          ['b', 10],
        ]),
        ways,
      ),
    );
    set(other, 9);
    expect(told(other, 60)).toEqual(['clip.start cl_a', 'cue cl_b', 'clip.done cl_b', 'state.done st_b']);
    const poses = started(
      piece(
        range([
          ['a', 0],
          ['b', 10],
        ]),
      ),
    );
    expect(told(poses, 1)).toEqual(['clip.start cl_a', 'clip.done cl_a', 'state.done st_b']);
  });

  it('fades out while it goes on with its number', () => {
    const run = started(
      piece(
        range([
          ['a', 0],
          ['c', 10],
        ]),
      ),
    );
    set(run, 10);
    run.step([{ at: 0, pulse: 'p' }]);
    for (let i = 0; i < 30; i++) run.step([]);
    expect(turn(run)).toBeCloseTo(50, 9);
    set(run, 5);
    expect(turn(run)).toBeCloseTo(50 * (1 - 31 / 60), 9);
  });

  it('goes by what the lane follows instead', () => {
    const p = piece(
      range([
        ['a', 0],
        ['c', 10],
      ]),
    );
    p.follows['fo_1'] = {
      ...{ id: 'fo_1', target: { lane: 'la_1', blend: true }, source: { signal: 'si_n' } },
      ...{ from: [0, 10], to: [10, 0], clamp: true, smooth: 0 },
    };
    const run = started(p);
    expect(turn(run)).toBeCloseTo(100, 9);
    set(run, 4);
    expect(turn(run)).toBeCloseTo(60, 9);
  });

  it('begins anew when an edit makes another blend of it, and goes on through one elsewhere', () => {
    const ways = { a: { duration: 1, loop: 'loop' as const }, b: { duration: 2, loop: 'loop' as const } };
    const p = piece(
      range([
        ['a', 0],
        ['b', 10],
      ]),
      ways,
    );
    const run = started(p);
    set(run, 10);
    told(run, 29);
    editRun(run, { ...p, name: 'Other' });
    run.step([]);
    expect(turn(run)).toBeCloseTo((40 * 31) / 120, 9);
    editRun(
      run,
      piece(
        range([
          ['a', 0],
          ['b', 9],
        ]),
        ways,
      ),
    );
    run.step([]);
    expect(turn(run)).toBeCloseTo((40 * 1) / 120, 9);
  });
});

describe('added up', () => {
  it('adds to what lies below how far each leads from the base, by its amount or by a signal over its range', () => {
    const p = piece({
      stack: [
        { clip: 'cl_b', amount: 0.5 },
        { clip: 'cl_c', amount: { signal: 'si_n' } },
      ],
    });
    p.objects['ob_a'] = objectOf(
      'ob_a',
      { kind: 'rect', size: [10, 10], radius: 0 },
      { rotation: [0, 0, 10] },
    );
    const run = started(p);
    expect(turn(run)).toBeCloseTo(10 + 0.5 * 30, 9);
    set(run, 4);
    expect(turn(run)).toBeCloseTo(10 + 0.5 * 30 + 0.4 * 90, 9);
    expect(writersOf(run, 0, 'rotation.z')).toHaveLength(2);
    run.step([{ at: 0, pulse: 'p' }]);
    for (let i = 0; i < 30; i++) run.step([]);
    expect(turn(run)).toBeCloseTo(10 + (0.5 * 30 + 0.4 * 90) / 2, 9);
  });
});

it('a blend is read, written and kept, loses a clip that is taken away, and rests when none is left', () => {
  const p = piece(
    range([
      ['a', 0],
      ['b', 10],
    ]),
  );
  const read = readPieceJson(JSON.parse(writePiece(p)));
  expect(read.ok && read.value).toEqual(p);
  const history = new History(new PieceStore(p));
  const play = () => history.store.get('machines', 'ma_1')?.lanes[0]?.states[0]?.play;
  history.edit('Deleted', (e) => removeWithReferences(e, ['cl_a']));
  expect(play()).toEqual(range([['b', 10]]));
  history.edit('Deleted', (e) => removeWithReferences(e, ['cl_b']));
  expect(play()).toBe('rest');
  history.undo();
  history.undo();
  history.edit('Deleted', (e) => removeWithReferences(e, ['si_n']));
  expect(play()).toBe('rest');
  expect(checkIntegrity(history.store.toPiece())).toEqual([]);
});

it('a clip whose lane is gone follows nothing, and the run goes on', () => {
  const p = emptyPiece('p', 'Gone');
  p.objects['ob_a'] = objectOf('ob_a', { kind: 'group' }, {});
  p.signals['si_a'] = {
    ...{ id: 'si_a', name: 'a', type: 'number', initial: 1, shared: false, note: '' },
  } as Piece['signals'][string];
  p.clips['cl_a'] = { id: 'cl_a', name: 'a', root: 'ob_a', duration: 1, loop: 'once', tracks: [], cues: [] };
  p.follows['fo_a'] = {
    ...{
      id: 'fo_a',
      target: { lane: 'la_gone', clip: 'cl_a' },
      source: { signal: 'si_a' },
      clamp: true,
      smooth: 0,
    },
  };
  const run = new Run(compile(p));
  for (let n = 0; n < 3; n++) run.step([]);
  expect(run.tick).toBe(2);
});

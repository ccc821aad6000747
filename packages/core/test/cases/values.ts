/** Who writes a property: puts, tweens, motors, follows: §4 and §8. */
import { T } from './common.ts';
import { type SemanticCase, the } from './made.ts';

const key = (k: string) => [{ key: k, down: true }];
const on = (k: string) => ({ event: 'key.down', key: k });
const Z = 'rotation.z';
const a = { object: 'ob_a', property: Z };
const put = (to: unknown) => ({ do: 'put', ...a, to });
const tween = (goal: object, seconds = 1) => ({ do: 'tween', ...a, ...goal, seconds, easing: 'linear' });
const motor = (rate: unknown, more: object = {}) => ({ do: 'motor', ...a, rate, ...more });
const at = (tick: number, value: unknown) => [tick, 'a.rotation.z', value] as const;
const pose = (z: number) => ({ [Z]: [[0, z]] as const });

export const VALUE_CASES: readonly SemanticCase[] = [
  the('a put is at once and stays', (m) => m.box('a').on('a', on('k'), [put(30)]), {
    inputs: { 5: key('k') },
    seen: [at(4, 0), at(5, 30), at(60, 30)],
  }),
  the(
    'release gives it back',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 8] })
        .on('a', on('k'), [put(30)])
        .on('a', on('l'), [{ do: 'release', ...a }]),
    { inputs: { 5: key('k'), 9: key('l') }, seen: [at(8, 30), at(9, 8)] },
  ),
  the(
    'a put lies over lanes',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane('a', [['s', 'p']])
        .on('a', on('k'), [put(30)]),
    { inputs: { 5: key('k') }, seen: [at(4, 90), at(5, 30), at(30, 30)] },
  ),
  the(
    'until a state that keys the property is entered',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane(
          'a',
          [
            ['r', 'rest'],
            ['s', 'p'],
          ],
          [['r', 's', { on: on('l') }]],
        )
        .on('a', on('k'), [put(30)]),
    { inputs: { 5: key('k'), 9: key('l') }, seen: [at(8, 30), at(9, 90)] },
  ),
  the(
    'rest and hold key nothing: put values stay over them',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane(
          'a',
          [
            ['s', 'p'],
            ['r', 'rest'],
          ],
          [['s', 'r', { on: on('l') }]],
        )
        .on('a', on('k'), [put(30)]),
    { inputs: { 5: key('k'), 9: key('l') }, seen: [at(9, 30), at(30, 30)] },
  ),
  the(
    'loop turns do not count as entering',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.2, 'loop', {
          [Z]: [
            [0, 0],
            [0.2, 50],
          ],
        })
        .lane('a', [['s', 't']])
        .on('a', on('k'), [put(30)]),
    { inputs: { 5: key('k') }, seen: [at(40, 30)] },
  ),
  the(
    'a crossfade then starts from what was put',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane(
          'a',
          [
            ['r', 'rest'],
            ['s', 'p'],
          ],
          [['r', 's', { on: on('l'), crossfade: { seconds: 0.5 } }]],
        )
        .on('a', on('k'), [put(30)]),
    { inputs: { 5: key('k'), 10: key('l') }, seen: [at(10, 30), at(25, 60), at(40, 90)] },
  ),
  the(
    'a tween goes from the value on screen; its end stays',
    (m) => m.box('a', { rotation: [0, 0, 10] }).on('a', on('k'), [tween({ to: 70 })]),
    { inputs: { 0: key('k') }, seen: [at(0, 10), at(30, 40), at(60, 70), at(90, 70)] },
  ),
  the(
    'by adds to the goal: +120 and −120, however interrupted, end where they began',
    (m) =>
      m
        .box('a')
        .on('a', on('k'), [tween({ by: 120 })])
        .on('a', on('l'), [tween({ by: -120 })]),
    { inputs: { 10: key('k'), 30: key('l') }, seen: [at(30, 40), at(90, 0), at(120, 0)] },
  ),
  the(
    'fromNow counts from the value on screen',
    (m) =>
      m
        .box('a')
        .on('a', on('k'), [tween({ by: 120 })])
        .on('a', on('l'), [tween({ by: -120, fromNow: true })]),
    { inputs: { 10: key('k'), 30: key('l') }, seen: [at(30, 40), at(95, -80)] },
  ),
  the(
    'where nothing is put, by counts from the value on screen',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane('a', [['s', 'p']])
        .on('a', on('k'), [tween({ by: 10 })]),
    { inputs: { 10: key('k') }, seen: [at(80, 100)] },
  ),
  the(
    'toBase leads to the base and an offset',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 10] })
        .on('a', 'piece.start', [put(50)])
        .on('a', on('k'), [tween({ toBase: 5 })]),
    { inputs: { 10: key('k') }, seen: [at(10, 50), at(40, 32.5), at(80, 15)] },
  ),
  the(
    'one tween may lead several properties',
    (m) =>
      m.box('a').on('a', on('k'), [
        {
          do: 'tween',
          object: 'ob_a',
          properties: [
            { property: Z, to: 60 },
            { property: 'position.x', by: 30 },
          ],
          seconds: 1,
          easing: 'linear',
        },
      ]),
    { inputs: { 0: key('k') }, seen: [at(30, 30), [30, 'a.position.x', 15]] },
  ),
  the('a tween of 0 seconds is a put', (m) => m.box('a').on('a', on('k'), [tween({ to: 60 }, 0)]), {
    inputs: { 5: key('k') },
    seen: [at(5, 60)],
  }),
  the(
    'a tween that holds jumps at its end',
    (m) => m.box('a').on('a', on('k'), [{ ...tween({ to: 60 }), easing: 'hold' }]),
    { inputs: { 0: key('k') }, seen: [at(59, 0), at(60, 60)] },
  ),
  the(
    'a new put ends a tween',
    (m) =>
      m
        .box('a')
        .on('a', on('k'), [tween({ to: 60 })])
        .on('a', on('l'), [put(5)]),
    { inputs: { 0: key('k'), 20: key('l') }, seen: [at(20, 5), at(60, 5)] },
  ),
  the('a motor runs in closed form since its start', (m) => m.box('a').on('a', 'piece.start', [motor(60)]), {
    seen: [at(0, 0), at(30, 30), at(90, 90)],
  }),
  the(
    'it gains by its acceleration up to its limit',
    (m) => m.box('a').on('a', 'piece.start', [motor(0, { acceleration: 100, limit: 50 })]),
    { seen: [at(30, 12.5), at(60, 37.5)] },
  ),
  the(
    'a new motor keeps what was added',
    (m) =>
      m
        .box('a')
        .on('a', 'piece.start', [motor(60)])
        .on('a', on('k'), [motor(-60)]),
    { inputs: { 30: key('k') }, seen: [at(30, 30), at(45, 15), at(60, 0)] },
  ),
  the(
    'stopped it keeps what it added',
    (m) =>
      m
        .box('a')
        .on('a', 'piece.start', [motor(60)])
        .on('a', on('k'), [{ do: 'stopMotor', ...a }]),
    { inputs: { 30: key('k') }, seen: [at(60, 30)] },
  ),
  the(
    'unless told to return',
    (m) =>
      m
        .box('a')
        .on('a', 'piece.start', [motor(60)])
        .on('a', on('k'), [{ do: 'stopMotor', ...a, return: true }]),
    { inputs: { 30: key('k') }, seen: [at(29, 29), at(30, 0)] },
  ),
  the(
    'a put takes its part in, and the motor goes on adding',
    (m) =>
      m
        .box('a')
        .on('a', 'piece.start', [motor(60)])
        .on('a', on('k'), [put(100)]),
    { inputs: { 30: key('k') }, seen: [at(30, 100), at(60, 130)] },
  ),
  the(
    'release clears it',
    (m) =>
      m
        .box('a')
        .on('a', 'piece.start', [motor(60)])
        .on('a', on('k'), [{ do: 'release', ...a }]),
    { inputs: { 30: key('k') }, seen: [at(30, 0), at(60, 0)] },
  ),
  the(
    'a motor adds to a lane',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane('a', [['s', 'p']])
        .on('a', 'piece.start', [motor(60)]),
    { seen: [at(30, 120)] },
  ),
  the(
    'opacity is 0 to 1 after all mixing',
    (m) => m.box('a').on('a', on('k'), [{ do: 'put', object: 'ob_a', property: 'opacity', to: 3 }]),
    { inputs: { 5: key('k') }, seen: [[5, 'a.opacity', 1]] },
  ),
  the(
    'show, hide are puts',
    (m) =>
      m
        .box('a')
        .on('a', on('k'), [{ do: 'hide', object: 'ob_a' }])
        .on('a', on('l'), [{ do: 'show', object: 'ob_a' }]),
    {
      inputs: { 5: key('k'), 9: key('l') },
      seen: [
        [5, 'a.shown', false],
        [9, 'a.shown', true],
      ],
      told: [['action action=put', T(5), T(9)]],
    },
  ),
  the(
    'face turns until it points there, the shortest way',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 350] })
        .box('b', { position: [0, 100, 0] })
        .on('a', on('k'), [
          { do: 'face', object: 'ob_a', toward: 'ob_b', axis: 'z', seconds: 1, easing: 'linear' },
        ]),
    { inputs: { 0: key('k') }, seen: [at(30, 400), at(60, 450)] },
  ),
  the(
    'a follow maps its source from one range to another, clamped',
    (m) =>
      m
        .box('a')
        .number('n', 5)
        .follow(a, { signal: 'si_n' }, { from: [0, 10], to: [0, 90] }),
    { inputs: { 5: [{ set: { n: 20 } }] }, seen: [at(0, 45), at(5, 90)] },
  ),
  the(
    'or not clamped',
    (m) =>
      m
        .box('a')
        .number('n', 20)
        .follow(a, { signal: 'si_n' }, { from: [0, 10], to: [0, 90], clamp: false }),
    { seen: [at(0, 180)] },
  ),
  the(
    'at its first tick it stands at its source, then makes up a part of the way',
    (m) =>
      m
        .box('a')
        .number('n', 0)
        .follow(a, { signal: 'si_n' }, { from: [0, 10], to: [0, 10], smooth: 0.1 }),
    {
      inputs: { 10: [{ set: { n: 10 } }] },
      seen: [at(0, 0), at(10, 10 * (1 - Math.exp(-1 / 6))), at(11, 10 * (1 - Math.exp(-2 / 6)))],
    },
  ),
  the(
    'a follow lies over lanes, a put over it',
    (m) =>
      m
        .box('a')
        .number('n', 5)
        .clip('p', 'a', 0, 'once', pose(90))
        .lane('a', [['s', 'p']])
        .follow(a, { signal: 'si_n' }, { from: [0, 10], to: [0, 10] })
        .on('a', on('k'), [put(30)]),
    { inputs: { 5: key('k') }, seen: [at(4, 5), at(5, 30)] },
  ),
  the(
    'a distance lies between pivots',
    (m) =>
      m
        .box('a')
        .box('b', { position: [30, 40, 0] })
        .follow(a, { distance: ['ob_a', 'ob_b'] }, { from: [0, 100], to: [0, 100] }),
    { seen: [at(2, 50)] },
  ),
  the(
    'the pointer over the frame is px from its centre, 0 before there was one, the last after it left',
    (m) => m.box('a').follow(a, { pointer: 'x' }, { from: [-480, 480], to: [-480, 480] }),
    {
      inputs: { 5: [{ pointer: { x: 580, y: 270, down: false } }], 9: [{ pointer: null }] },
      seen: [at(4, 0), at(5, 100), at(12, 100)],
    },
  ),
  the(
    'over an object it is px from its pivot, y up',
    (m) =>
      m
        .box('a')
        .box('b', { position: [20, 30, 0] })
        .follow(a, { pointer: 'y', object: 'ob_b' }, { from: [-480, 480], to: [-480, 480] }),
    { inputs: { 5: [{ pointer: { x: 580, y: 170, down: false } }] }, seen: [at(7, 70)] },
  ),
  the(
    'a clip whose place follows stands where its source says, and has no end',
    (m) =>
      m
        .box('a')
        .number('n', 0)
        .clip('t', 'a', 1, 'once', {
          [Z]: [
            [0, 0],
            [1, 90],
          ],
        })
        .lane('a', [['s', 't']])
        .follow({ lane: 'la_a', clip: 'cl_t' }, { signal: 'si_n' }, { from: [0, 10], to: [0, 1] }),
    {
      inputs: { 5: [{ set: { n: 5 } }], 9: [{ set: { n: 10 } }] },
      seen: [at(6, 45), at(10, 90)],
      told: [['clip.done']],
    },
  ),
  the(
    'it fires the cues that it passes',
    (m) =>
      m
        .box('a')
        .number('n', 0)
        .number('c')
        .clip(
          't',
          'a',
          1,
          'once',
          {
            [Z]: [
              [0, 0],
              [1, 90],
            ],
          },
          { cues: [[0.5, [{ do: 'add', signal: 'si_c', by: 1 }]]] },
        )
        .lane('a', [['s', 't']])
        .follow({ lane: 'la_a', clip: 'cl_t' }, { signal: 'si_n' }, { from: [0, 10], to: [0, 1] }),
    {
      inputs: { 5: [{ set: { n: 4 } }], 9: [{ set: { n: 6 } }] },
      seen: [
        [8, 'c', 0],
        [10, 'c', 1],
      ],
      told: [['cue', T(9)]],
    },
  ),
  the(
    'a text that follows without a range gives the value as text',
    (m) =>
      m
        .box(
          'a',
          {},
          { kind: 'text', text: 'x', font: 'sans', size: 20, weight: 400, align: 'left', radius: undefined },
        )
        .number('n', 2.5)
        .follow({ object: 'ob_a', property: 'text' }, { signal: 'si_n' }),
    { seen: [[1, 'a.text', '2.5']] },
  ),
  the('a move by hand without a time is at once', (m) => m.box('a'), {
    inputs: { 5: [{ move: { object: 'a', to: [3, 4, 5] } }] },
    seen: [
      [5, 'a.position.x', 3],
      [5, 'a.position.z', 5],
    ],
  }),
];

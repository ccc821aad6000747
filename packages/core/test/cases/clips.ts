/** Plays, easing, cues, offset tracks, plays by themselves: §2 and §5. It is long since it is a list. */
import { T } from './common.ts';
import { type SemanticCase, the } from './made.ts';

const key = (k: string) => [{ key: k, down: true }];
const turn = [
  [0, 0],
  [0.5, 90],
] as const;
const add = (by: number) => ({ do: 'add', signal: 'si_n', by });
const at = (tick: number, value: number) => [tick, 'a.rotation.z', value] as const;
const of = (clip: string, speed: unknown, from = 'start') => ({ clip: `cl_${clip}`, speed, from });

export const CLIP_CASES: readonly SemanticCase[] = [
  the(
    'once holds its end',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
        .lane('a', [['s', 't']]),
    {
      seen: [at(0, 0), at(15, 45), at(30, 90), at(60, 90)],
      told: [['clip.start', 0], ['clip.done', 0.5], ['state.done', 0.5], ['clip.loop']],
    },
  ),
  the(
    'a loop turns',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'loop', { 'rotation.z': turn })
        .lane('a', [['s', 't']]),
    {
      seen: [at(15, 45), at(45, 45)],
      told: [['clip.loop', 0.5, 1], ['clip.done']],
      ticks: 62,
    },
  ),
  the(
    'there-and-back counts a turn at each end',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'there-and-back', { 'rotation.z': turn })
        .lane('a', [['s', 't']]),
    {
      seen: [at(30, 90), at(45, 45), at(60, 0), at(75, 45)],
      told: [['clip.loop', 0.5, 1]],
      ticks: 80,
    },
  ),
  the(
    'negative speed starts at the end when from is start',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
        .lane('a', [['s', of('t', -1)]]),
    {
      seen: [at(0, 90), at(15, 45), at(40, 0)],
      told: [['clip.done', 0.5]],
    },
  ),
  the(
    'a loop played backwards stands at its end on entry and at every turn',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'loop', { 'rotation.z': turn })
        .lane('a', [['s', of('t', -1)]]),
    {
      seen: [at(0, 90), at(15, 45), at(30, 90), at(45, 45)],
    },
  ),
  the(
    'speed 0 is a pause',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
        .lane('a', [['s', of('t', 0)]]),
    {
      seen: [at(40, 0)],
      told: [['clip.done'], ['clip.start', 0]],
      ticks: 50,
    },
  ),
  the(
    'a speed signal changes without a jump',
    (m) =>
      m
        .box('a')
        .number('n', 1)
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
        .lane('a', [['s', of('t', { signal: 'si_n' })]]),
    {
      inputs: { 15: [{ set: { n: 2 } }] },
      seen: [at(15, 45), at(20, 75)],
      told: [['clip.done', 0.375]],
    },
  ),
  the(
    'a once-clip turned round after its end runs back and is done again at 0',
    (m) =>
      m
        .box('a')
        .number('n', 1)
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
        .lane('a', [['s', of('t', { signal: 'si_n' })]]),
    {
      inputs: { 40: [{ set: { n: -1 } }] },
      seen: [at(55, 45)],
      told: [['clip.done', 0.5, T(40) + 0.5]],
    },
  ),
  the(
    'duration 0 is a pose: shown, done at once',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', { 'rotation.z': [[0, 30]] })
        .lane('a', [['s', 'p']]),
    {
      seen: [at(0, 30), at(20, 30)],
      told: [
        ['clip.done', 0],
        ['state.done', 0],
      ],
    },
  ),
  the(
    'before the first key the first value, after the last the last',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', {
          'rotation.z': [
            [0.2, 10],
            [0.3, 20],
          ],
        })
        .lane('a', [['s', 't']]),
    {
      seen: [at(0, 10), at(6, 10), at(15, 15), at(30, 20)],
    },
  ),
  the(
    'hold is steady until the next key',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', {
          'rotation.z': [
            [0, 0, 'hold'],
            [0.25, 50],
          ],
        })
        .lane('a', [['s', 't']]),
    {
      seen: [at(14, 0), at(15, 50), at(30, 50)],
    },
  ),
  the(
    'a spring and a bounce are exact at the next key',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', {
          'rotation.z': [
            [0, 0, { spring: { damping: 0.3 } }],
            [0.5, 90],
          ],
          'rotation.x': [
            [0, 0, { bounce: 2 }],
            [0.5, 90],
          ],
        })
        .lane('a', [['s', 't']]),
    {
      seen: [at(30, 90), [30, 'a.rotation.x', 90], at(0, 0)],
    },
  ),
  the(
    'angles are not wrapped: 0 to 720 is two turns',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 1, 'once', {
          'rotation.z': [
            [0, 0],
            [1, 720],
          ],
        })
        .lane('a', [['s', 't']]),
    { seen: [at(30, 360), at(45, 540)] },
  ),
  the(
    'switches change exactly at their key',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', {
          shown: [
            [0, false, 'hold'],
            [0.25, true, 'hold'],
          ],
        })
        .lane('a', [['s', 't']]),
    {
      seen: [
        [14, 'a.shown', false],
        [15, 'a.shown', true],
      ],
    },
  ),
  the(
    'amounts clamp after all mixing',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', {
          opacity: [
            [0, 0],
            [0.5, 1, 'linear'],
          ],
        })
        .lane('a', [['s', 't']])
        .on('a', 'piece.start', [{ do: 'motor', object: 'ob_a', property: 'opacity', rate: 2 }]),
    {
      seen: [
        [15, 'a.opacity', 1],
        [40, 'a.opacity', 1],
      ],
    },
  ),
  the(
    'a cue at 0 fires when the clip starts, one at the end before done',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip(
          't',
          'a',
          0.5,
          'once',
          { 'rotation.z': turn },
          {
            cues: [
              [0, [add(1)]],
              [0.5, [add(10)]],
            ],
          },
        )
        .lane('a', [['s', 't']])
        .on('a', { event: 'clip.done', clip: 'cl_t' }, [
          { do: 'set', signal: 'si_n', to: { product: [{ signal: 'si_n' }, 2] } },
        ]),
    {
      seen: [
        [0, 'n', 1],
        [30, 'n', 22],
      ],
      told: [['cue', 0, 0.5]],
    },
  ),
  the(
    'each crossing counts: a cue in a loop is met in every pass',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip('t', 'a', 0.5, 'loop', { 'rotation.z': turn }, { cues: [[0.25, [add(1)]]] })
        .lane('a', [['s', 't']]),
    {
      seen: [[80, 'n', 3]],
      told: [['cue', 0.25, 0.75, 1.25]],
      ticks: 80,
    },
  ),
  the(
    'a fast speed crosses a cue several times in a tick',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip(
          't',
          'a',
          0.01,
          'loop',
          {
            'rotation.z': [
              [0, 0],
              [0.01, 9],
            ],
          },
          { cues: [[0.005, [add(1)]]] },
        )
        .lane('a', [['s', 't']]),
    { seen: [[6, 'n', 10]] },
  ),
  the(
    'a cue that counts backwards is not met forwards',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn }, { cues: [[0.25, [add(1)], 'backwards']] })
        .lane('a', [['s', 't']]),
    { seen: [[40, 'n', 0]], told: [['cue']] },
  ),
  the(
    'it is met on the way back',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn }, { cues: [[0.25, [add(1)], 'backwards']] })
        .lane('a', [['s', of('t', -1)]]),
    { told: [['cue', 0.25]] },
  ),
  the(
    'in there-and-back an inner cue is met on each way',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip('t', 'a', 0.5, 'there-and-back', { 'rotation.z': turn }, { cues: [[0.2, [add(1)], 'both']] })
        .lane('a', [['s', 't']]),
    { told: [['cue', 0.2, 0.8, 1.2]], ticks: 75 },
  ),
  the(
    'an end cue is met once a turn, whichever its when',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip(
          't',
          'a',
          0.5,
          'there-and-back',
          { 'rotation.z': turn },
          { cues: [[0.5, [add(1)], 'backwards']] },
        )
        .lane('a', [['s', 't']]),
    { told: [['cue', 0.5, 1.5]], ticks: 95 },
  ),
  the(
    'a play begun at speed 0 meets its first cue when it first moves',
    (m) =>
      m
        .box('a')
        .number('n', 0)
        .number('v', 0)
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn }, { cues: [[0, [add(1)]]] })
        .lane('a', [['s', of('t', { signal: 'si_v' })]]),
    {
      inputs: { 10: [{ set: { v: 1 } }] },
      seen: [
        [9, 'n', 0],
        [12, 'n', 1],
      ],
    },
  ),
  the(
    'offset tracks add to the value at the start',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 10] })
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn }, { offset: true })
        .lane('a', [['s', 't']]),
    { seen: [at(0, 10), at(15, 55), at(40, 100)] },
  ),
  the(
    'loops of offset tracks accumulate',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 10] })
        .clip('t', 'a', 0.5, 'loop', { 'rotation.z': turn }, { offset: true })
        .lane('a', [['s', 't']]),
    { seen: [at(30, 100), at(45, 145), at(75, 235)] },
  ),
  the(
    'when its state is left the value then on screen is put',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 10] })
        .clip('t', 'a', 0.5, 'loop', { 'rotation.z': turn }, { offset: true })
        .lane(
          'a',
          [
            ['s', 't'],
            ['r', 'rest'],
          ],
          [['s', 'r', { on: { event: 'key.down', key: 'k' } }]],
        ),
    {
      inputs: { 15: key('k') },
      seen: [at(15, 55), at(50, 55)],
    },
  ),
  the(
    'an offset play never jumps, also after a put',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn }, { offset: true })
        .lane(
          'a',
          [
            ['r', 'rest'],
            ['s', 't'],
          ],
          [['r', 's', { on: { event: 'key.down', key: 'k' } }]],
        ),
    {
      inputs: { 5: [{ put: { object: 'a', property: 'rotation.z', value: 30 } }], 10: key('k') },
      seen: [at(9, 30), at(10, 30), at(25, 75), at(40, 120)],
    },
  ),
  ...(['restart', 'ignore', 'queue'] as const).map((again) =>
    the(
      `starting a play that runs: ${again}`,
      (m) =>
        m
          .box('a')
          .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
          .on('a', { event: 'key.down', key: 'k' }, [{ do: 'play', clip: 'cl_t', object: 'ob_a', again }]),
      {
        inputs: { 10: key('k'), 20: key('k') },
        told: {
          restart: [
            ['clip.stopped', T(20)],
            ['clip.done', T(20) + 0.5],
          ] as const,
          ignore: [['clip.stopped'], ['clip.done', T(10) + 0.5]] as const,
          queue: [['clip.stopped'], ['clip.done', T(10) + 0.5, T(10) + 1]] as const,
        }[again] as never,
        seen: [at(15, 15), at(25, again === 'restart' ? 15 : 45)],
        ticks: 80,
      },
    ),
  ),
  the(
    'a play that has ended and holds its end does not run: it begins anew',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
        .on('a', { event: 'key.down', key: 'k' }, [
          { do: 'play', clip: 'cl_t', object: 'ob_a', again: 'ignore' },
        ]),
    {
      inputs: { 0: key('k'), 60: key('k') },
      seen: [at(50, 90), at(75, 45)],
      told: [['clip.done', 0.5, 1.5], ['clip.stopped']],
    },
  ),
  the(
    'a loop that is stopped raises clip.stopped once, and gives back',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'loop', { 'rotation.z': turn })
        .on('a', { event: 'key.down', key: 'k' }, [{ do: 'play', clip: 'cl_t', object: 'ob_a' }])
        .on('a', { event: 'key.down', key: 's' }, [{ do: 'stop', clip: 'cl_t', object: 'ob_a' }]),
    {
      inputs: { 0: key('k'), 20: key('s'), 30: key('s') },
      seen: [at(19, 57), at(20, 0)],
      told: [['clip.stopped', T(20)]],
    },
  ),
  the(
    'direct plays lie below lanes',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0, 'once', { 'rotation.z': [[0, 90]], 'rotation.x': [[0, 7]] })
        .clip('p', 'a', 0, 'once', { 'rotation.z': [[0, 30]] })
        .lane('a', [['s', 'p']])
        .on('a', 'piece.start', [{ do: 'play', clip: 'cl_t', object: 'ob_a' }]),
    {
      seen: [at(5, 30), [5, 'a.rotation.x', 7]],
    },
  ),
  the(
    'chains do not drift: a clip done at 0.51 s starts the next at 0.51',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.51, 'once', {
          'rotation.z': [
            [0, 0],
            [0.51, 51],
          ],
        })
        .lane(
          'a',
          [
            ['s', 't'],
            ['u', 't'],
          ],
          [
            ['s', 'u', { on: { event: 'state.done' } }],
            ['u', 's', { on: { event: 'state.done' } }],
          ],
        ),
    {
      told: [['clip.done', 0.51, 1.02, 1.53]],
      seen: [at(60, 49)],
      ticks: 95,
    },
  ),
  the(
    'in the tick of a click its clip stands at 0',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': turn })
        .on('a', 'pointer.click', [{ do: 'play', clip: 'cl_t', object: 'ob_a' }]),
    {
      inputs: { 7: [{ click: 'a' }] },
      seen: [at(7, 0), at(8, 3)],
    },
  ),
];

/** States, crossfades, what lanes show and over each other, ends and goes: §3, §4 and §6. */
import { ab, abc, add, down, key, of, T, turn } from './common.ts';
import { type SemanticCase, the } from './made.ts';

const pose = (z: number) => ({ 'rotation.z': [[0, z]] as const });
const at = (tick: number, value: number) => [tick, 'a.rotation.z', value] as const;

export const LANE_CASES: readonly SemanticCase[] = [
  the(
    'a resting state gives back',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane(
          'a',
          [
            ['a', 'p'],
            ['b', 'rest'],
          ],
          [['a', 'b', down('k')]],
        ),
    { inputs: { 10: key('k') }, seen: [at(9, 90), at(10, 0)] },
  ),
  the(
    'a holding one keeps what the lane gave on entry',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'hold'],
          ],
          [['a', 'b', down('k')]],
        ),
    { inputs: { 15: key('k') }, seen: [at(15, 45), at(60, 45)] },
  ),
  the(
    'a rest gives back through the crossfade',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane(
          'a',
          [
            ['a', 'p'],
            ['b', 'rest'],
          ],
          [['a', 'b', { ...down('k'), crossfade: { seconds: 0.5 } }]],
        ),
    { inputs: { 10: key('k') }, seen: [at(10, 90), at(25, 45), at(40, 0)] },
  ),
  the(
    'a crossfade mixes both, and both advance',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 1, 'once', {
          'rotation.z': [
            [0, 0],
            [1, 60],
          ],
        })
        .clip('p', 'a', 0, 'once', pose(200))
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'p'],
          ],
          [['a', 'b', { ...down('k'), crossfade: { seconds: 0.5 } }]],
        ),
    { inputs: { 30: key('k') }, seen: [at(30, 30), at(45, (45 + 200) / 2)] },
  ),
  the(
    'what fades out is silent',
    (m) =>
      m
        .box('a')
        .number('n')
        .clip('t', 'a', 0.5, 'loop', turn, { cues: [[0.4, [add(1)]]] })
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'rest'],
          ],
          [['a', 'b', { ...down('k'), crossfade: { seconds: 1 } }]],
        ),
    { inputs: { 20: key('k') }, seen: [[60, 'n', 0]], told: [['clip.stopped', T(20)], ['clip.loop']] },
  ),
  the(
    'crossfade per cent is of the left clip’s length',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', { 'rotation.z': [[0, 90]] })
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'rest'],
          ],
          [['a', 'b', { ...down('k'), crossfade: { percent: 100 } }]],
        ),
    { inputs: { 40: key('k') }, seen: [at(40, 90), at(55, 45), at(70, 0)] },
  ),
  the(
    'and a cut from a pose',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane(
          'a',
          [
            ['a', 'p'],
            ['b', 'rest'],
          ],
          [['a', 'b', { ...down('k'), crossfade: { percent: 100 } }]],
        ),
    { inputs: { 10: key('k') }, seen: [at(10, 0)] },
  ),
  the(
    'a transition during a crossfade freezes the mixed pose and fades from that',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .lane(
          'a',
          [
            ['a', 'p'],
            ['b', 'rest'],
            ['c', 'rest'],
          ],
          [
            ['a', 'b', { ...down('k'), crossfade: { seconds: 1 } }],
            ['b', 'c', { ...down('l'), crossfade: { seconds: 0.5 } }],
          ],
        ),
    { inputs: { 0: key('k'), 30: key('l') }, seen: [at(30, 45), at(45, 22.5), at(60, 0)] },
  ),
  the(
    'entering a state with final ends its lane, though its clip plays on',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane(
          'a',
          [
            ['a', 'rest'],
            ['f', 't', { final: true }],
          ],
          [
            ['a', 'f', down('k')],
            ['f', 'a', down('l')],
          ],
        ),
    {
      inputs: { 10: key('k'), 20: key('l') },
      seen: [at(25, 45)],
      told: [
        ['lane.done', T(10)],
        ['transition', T(10)],
      ],
    },
  ),
  the(
    'only go leads out of it',
    (m) =>
      m
        .box('a')
        .lane(
          'a',
          [
            ['a', 'rest'],
            ['f', 'rest', { final: true }],
          ],
          [['a', 'f', down('k')]],
        )
        .on('a', { event: 'key.down', key: 'g' }, [{ do: 'go', lane: 'la_a', state: 'st_a' }]),
    {
      inputs: { 10: key('k'), 20: key('g'), 30: key('k') },
      told: [
        ['lane.done', T(10), T(30)],
        ['state.enter state=st_a', 0, T(20)],
      ],
    },
  ),
  the(
    'onEntry and onExit act at once',
    (m) =>
      m
        .box('a')
        .number('n')
        .lane(
          'a',
          [
            ['a', 'rest', { onExit: [add(10)] }],
            ['b', 'rest', { onEntry: [add(100)] }],
          ],
          [['a', 'b', down('k')]],
        ),
    {
      inputs: { 5: key('k') },
      seen: [
        [4, 'n', 0],
        [5, 'n', 110],
      ],
    },
  ),
  the(
    'delayed actions still happen after the state is left',
    (m) =>
      m
        .box('a')
        .number('n')
        .lane(
          'a',
          [
            ['a', 'rest', { onEntry: [{ ...add(1), after: 0.5 }] }],
            ['b', 'rest'],
          ],
          [['a', 'b', down('k')]],
        ),
    {
      inputs: { 5: key('k') },
      seen: [
        [29, 'n', 0],
        [30, 'n', 1],
      ],
    },
  ),
  the(
    'from here goes on where the lane last left the clip',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane(
          'a',
          [
            ['a', of('t', 1, 'here')],
            ['h', 'hold'],
          ],
          [
            ['a', 'h', down('k')],
            ['h', 'a', down('l')],
          ],
        ),
    { inputs: { 15: key('k'), 30: key('l') }, seen: [at(30, 45), at(40, 75)] },
  ),
  the(
    'otherwise from the start',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane(
          'a',
          [
            ['a', of('t', 1, 'here')],
            ['h', 'rest'],
          ],
          [
            ['a', 'h', down('k')],
            ['h', 'a', down('l')],
          ],
        ),
    { inputs: { 15: key('k'), 30: key('l') }, seen: [at(30, 0), at(40, 30)] },
  ),
  the(
    'state.done without a name is of the own present entry',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'rest'],
          ],
          [['a', 'b', { on: { event: 'state.done' } }]],
        ),
    { told: [['transition', 0.5]] },
  ),
  the(
    'another lane is heard by the state’s name',
    (m) =>
      m
        .box('a')
        .box('b')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane('a', [['x', 't']])
        .lane('b', ab, [['a', 'b', { on: { event: 'state.done', state: 'st_x' } }]]),
    { told: [['transition lane=la_b', 0.5]] },
  ),
  the(
    'a lane counts by its amount',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 10] })
        .clip('p', 'a', 0, 'once', pose(90))
        .lane('a', [['a', 'p']], [], { amount: 0.5 }),
    { seen: [at(0, 50)] },
  ),
  the(
    'or by a number signal over its own range',
    (m) =>
      m
        .box('a')
        .number('n', 0, { min: 0, max: 10 })
        .clip('p', 'a', 0, 'once', pose(90))
        .lane('a', [['a', 'p']], [], { amount: { signal: 'si_n' } }),
    { inputs: { 5: [{ set: { n: 5 } }] }, seen: [at(0, 0), at(5, 45)] },
  ),
  the(
    'a lane that adds gives the difference from base',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 10] })
        .clip('p', 'a', 0, 'once', pose(90))
        .clip('q', 'a', 0, 'once', pose(30))
        .lane('a', [['a', 'p']])
        .lane('a', [['b', 'q']], [], { blend: 'add' }),
    { seen: [at(0, 110)] },
  ),
  the(
    'later lanes lie over earlier ones; a resting one lets them through',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .clip('q', 'a', 0, 'once', pose(30))
        .lane('a', [['a', 'p']])
        .lane(
          'a',
          [
            ['r', 'rest'],
            ['b', 'q'],
          ],
          [
            ['r', 'b', down('k')],
            ['b', 'r', down('l')],
          ],
        ),
    { inputs: { 5: key('k'), 10: key('l') }, seen: [at(0, 90), at(5, 30), at(10, 90)] },
  ),
  the(
    'unkeyed back to base: what the active state does not key goes back',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .clip('q', 'a', 0, 'once', { 'position.x': [[0, 7]] })
        .lane(
          'a',
          [
            ['a', 'p'],
            ['b', 'q'],
          ],
          [['a', 'b', down('k')]],
        ),
    { inputs: { 5: key('k') }, seen: [at(4, 90), at(5, 0), [5, 'a.position.x', 7]] },
  ),
  the(
    'unkeyed keep: it stays as it was',
    (m) =>
      m
        .box('a')
        .clip('p', 'a', 0, 'once', pose(90))
        .clip('q', 'a', 0, 'once', { 'position.x': [[0, 7]] })
        .lane(
          'a',
          [
            ['a', 'p'],
            ['b', 'q'],
          ],
          [['a', 'b', down('k')]],
          { unkeyed: 'keep' },
        ),
    { inputs: { 5: key('k') }, seen: [at(4, 90), at(30, 90)] },
  ),
  the(
    'a range is linear between neighbours, outside the nearest',
    (m) =>
      m
        .box('a')
        .number('n', 5)
        .clip('p', 'a', 0, 'once', pose(0))
        .clip('q', 'a', 0, 'once', pose(100))
        .lane('a', [
          [
            'a',
            {
              range: {
                signal: 'si_n',
                points: [
                  { clip: 'cl_p', at: 0 },
                  { clip: 'cl_q', at: 10 },
                ],
                phase: 'own',
              },
            },
          ],
        ]),
    { inputs: { 5: [{ set: { n: 20 } }], 8: [{ set: { n: -3 } }] }, seen: [at(0, 50), at(5, 100), at(8, 0)] },
  ),
  the(
    'stacked: what lies below and amount × (clip − base)',
    (m) =>
      m
        .box('a', { rotation: [0, 0, 10] })
        .clip('p', 'a', 0, 'once', pose(90))
        .lane('a', [['a', { stack: [{ clip: 'cl_p', amount: 0.5 }] }]]),
    { seen: [at(0, 50)] },
  ),
  the(
    'the fact of a state is of another lane',
    (m) =>
      m
        .box('a')
        .box('b')
        .lane(
          'b',
          [
            ['x', 'rest'],
            ['y', 'rest'],
          ],
          [['x', 'y', down('k')]],
        )
        .lane('a', ab, [['a', 'b', { when: [{ fact: 'state', lane: 'la_b', state: 'st_y' }] }]]),
    { inputs: { 5: key('k') }, told: [['transition', T(5), T(5)]] },
  ),
  the(
    'what time alone makes true is looked at at now',
    (m) =>
      m
        .box('a')
        .box('b')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane('a', [['x', 't']])
        .lane('b', ab, [['a', 'b', { when: [{ fact: 'clip', clip: 'cl_t', past: 0.29 }] }]]),
    { told: [['transition', 0.3]] },
  ),
  the(
    'go from a reaction moves the lane before its own choice',
    (m) =>
      m
        .box('a')
        .lane('a', abc, [['a', 'b', down('k')]])
        .on('a', { event: 'key.down', key: 'k' }, [{ do: 'go', lane: 'la_a', state: 'st_c' }]),
    { inputs: { 5: key('k') }, told: [['state.enter state=st_c', T(5)], ['state.enter state=st_b']] },
  ),
];

/** States, transitions, crossfades, blends, pulses: §3, §4 and §6. */
import { type SemanticCase, the } from './made.ts';

const T = (tick: number) => tick / 60;
const key = (k: string) => [{ key: k, down: true }];
const down = (k: string) => ({ on: { event: 'key.down', key: k } });
const is = (signal: string, v: unknown) => ({ when: [{ signal: `si_${signal}`, is: v }] });
const turn = {
  'rotation.z': [
    [0, 0],
    [0.5, 90],
  ] as const,
};
const pose = (z: number) => ({ 'rotation.z': [[0, z]] as const });
const at = (tick: number, value: number) => [tick, 'a.rotation.z', value] as const;
const add = (by: number) => ({ do: 'add', signal: 'si_n', by });
const of = (clip: string, speed: unknown, from = 'start') => ({ clip: `cl_${clip}`, speed, from });
const ab = [
  ['a', 'rest'],
  ['b', 'rest'],
] as const;
const abc = [...ab, ['c', 'rest']] as const;

export const LANE_CASES: readonly SemanticCase[] = [
  the(
    'at tick 0 lanes enter their initial states in document order, one start record each',
    (m) =>
      m
        .box('a')
        .box('b')
        .lane('b', [['x', 'rest']])
        .lane('a', ab),
    {
      told: [
        ['start', 0, 0],
        ['state.enter', 0, 0],
        ['piece.start', 0],
      ],
    },
  ),
  the(
    'an eventless transition goes when its condition holds',
    (m) =>
      m
        .box('a')
        .toggle('s')
        .lane('a', ab, [['a', 'b', is('s', true)]]),
    {
      inputs: { 5: [{ set: { s: true } }] },
      told: [['transition to=st_b', T(5)]],
    },
  ),
  the(
    'it goes at once when it holds at the start',
    (m) =>
      m
        .box('a')
        .toggle('s', true)
        .lane('a', ab, [['a', 'b', is('s', true)]]),
    { told: [['transition', 0]] },
  ),
  the(
    'of several ready ones the first in document order',
    (m) =>
      m.box('a').lane('a', abc, [
        ['a', 'c', down('k')],
        ['a', 'b', down('k')],
      ]),
    { inputs: { 3: key('k') }, told: [['transition to=st_c', T(3)], ['transition to=st_b']] },
  ),
  the(
    'the active state’s first, then those from anywhere',
    (m) =>
      m.box('a').lane('a', abc, [
        ['*', 'c', down('k')],
        ['a', 'b', down('k')],
      ]),
    {
      inputs: { 3: key('k'), 6: key('k') },
      told: [
        ['transition to=st_b', T(3)],
        ['transition to=st_c', T(6)],
      ],
    },
  ),
  the(
    'what is switched off never goes and never stands in another’s way',
    (m) =>
      m.box('a').lane('a', abc, [
        ['a', 'c', { ...down('k'), enabled: false }],
        ['a', 'b', down('k')],
      ]),
    { inputs: { 3: key('k') }, told: [['transition to=st_b', T(3)], ['transition to=st_c']] },
  ),
  the(
    'unset ones never go',
    (m) =>
      m.box('a').lane('a', abc, [
        ['a', 'c', { set: false }],
        ['a', 'b', down('k')],
      ]),
    { inputs: { 3: key('k') }, told: [['transition', T(3)]] },
  ),
  the(
    'one occurrence of an event serves a lane once',
    (m) =>
      m.box('a').lane('a', abc, [
        ['a', 'b', down('k')],
        ['b', 'c', down('k')],
      ]),
    {
      inputs: { 3: key('k'), 9: key('k') },
      told: [
        ['transition to=st_b', T(3)],
        ['transition to=st_c', T(9)],
      ],
    },
  ),
  the(
    'eventless ones go round by round until none goes',
    (m) =>
      m
        .box('a')
        .toggle('s')
        .lane('a', abc, [
          ['a', 'b', is('s', true)],
          ['b', 'c', is('s', true)],
        ]),
    { inputs: { 3: [{ set: { s: true } }] }, told: [['transition', T(3), T(3)]] },
  ),
  the(
    'an event that is not before its moment is lost',
    (m) => m.box('a').lane('a', ab, [['a', 'b', { ...down('k'), notBefore: { seconds: 0.5 } }]]),
    { inputs: { 10: key('k'), 40: key('k') }, told: [['transition', T(40)]] },
  ),
  the(
    'an event finds a moment reached at once',
    (m) => m.box('a').lane('a', ab, [['a', 'b', { ...down('k'), notBefore: { seconds: 0.5 } }]]),
    { inputs: { 30: key('k') }, told: [['transition', 0.5]] },
  ),
  the(
    'an eventless one goes exactly at its moment',
    (m) => m.box('a').lane('a', ab, [['a', 'b', { notBefore: { seconds: 0.37 } }]]),
    { told: [['transition', 0.37]] },
  ),
  the(
    'per cent is of the clip',
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
          [['a', 'b', { notBefore: { percent: 50 } }]],
        ),
    { told: [['transition', 0.25]] },
  ),
  the(
    'per cent goes along the direction of play',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.4, 'once', turn)
        .lane(
          'a',
          [
            ['a', of('t', -1)],
            ['b', 'rest'],
          ],
          [['a', 'b', { notBefore: { percent: 25 } }]],
        ),
    { told: [['transition', 0.1]] },
  ),
  the(
    'of a loop it goes on past 100',
    (m) =>
      m
        .box('a')
        .clip('t', 'a', 0.5, 'loop', turn)
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'rest'],
          ],
          [['a', 'b', { notBefore: { percent: 150 } }]],
        ),
    { told: [['transition', 0.75]] },
  ),
  the(
    'per cent of a state that plays nothing is reached at once',
    (m) => m.box('a').lane('a', ab, [['a', 'b', { notBefore: { percent: 50 } }]]),
    { told: [['transition', 0]] },
  ),
  the(
    'loopEnd is only the instant of a turn',
    (m) =>
      m
        .box('a')
        .toggle('s')
        .clip('t', 'a', 0.5, 'loop', turn)
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'rest'],
          ],
          [['a', 'b', { ...is('s', true), notBefore: 'loopEnd' }]],
        ),
    { inputs: { 40: [{ set: { s: true } }] }, told: [['transition', 1]] },
  ),
  the(
    'of a once-clip loopEnd is reached from its end on',
    (m) =>
      m
        .box('a')
        .toggle('s')
        .clip('t', 'a', 0.5, 'once', turn)
        .lane(
          'a',
          [
            ['a', 't'],
            ['b', 'rest'],
          ],
          [['a', 'b', { ...is('s', true), notBefore: 'loopEnd' }]],
        ),
    { inputs: { 45: [{ set: { s: true } }] }, told: [['transition', 0.75]] },
  ),
  the(
    'a pulse that comes too early is lost',
    (m) =>
      m
        .box('a')
        .signal('p', 'pulse', null)
        .lane('a', ab, [['a', 'b', { on: { event: 'pulse', signal: 'si_p' }, notBefore: { seconds: 0.5 } }]]),
    { inputs: { 10: [{ pulse: 'p' }] }, told: [['transition'], ['pulse', T(10)]], ticks: 60 },
  ),
  the(
    'unless it is remembered',
    (m) =>
      m
        .box('a')
        .signal('p', 'pulse', null, { remember: 1 })
        .lane('a', ab, [['a', 'b', { on: { event: 'pulse', signal: 'si_p' }, notBefore: { seconds: 0.5 } }]]),
    { inputs: { 10: [{ pulse: 'p' }] }, told: [['transition', 0.5]] },
  ),
  the(
    'it is remembered until raised + remember, inclusive',
    (m) =>
      m
        .box('a')
        .signal('p', 'pulse', null, { remember: 0.5 })
        .lane('a', ab, [['a', 'b', { on: { event: 'pulse', signal: 'si_p' }, notBefore: { seconds: 0.6 } }]]),
    { inputs: { 6: [{ pulse: 'p' }] }, told: [['transition', 0.6]] },
  ),
  the(
    'and no longer',
    (m) =>
      m
        .box('a')
        .signal('p', 'pulse', null, { remember: 0.5 })
        .lane('a', ab, [
          ['a', 'b', { on: { event: 'pulse', signal: 'si_p' }, notBefore: { seconds: 0.62 } }],
        ]),
    { inputs: { 6: [{ pulse: 'p' }] }, told: [['transition']], ticks: 60 },
  ),
  the(
    'a pulse asked in a condition is up in its tick',
    (m) =>
      m
        .box('a')
        .signal('p', 'pulse', null)
        .lane('a', ab, [['a', 'b', { when: [{ signal: 'si_p', is: true }] }]]),
    { inputs: { 10: [{ pulse: 'p' }] }, told: [['transition', T(10)]] },
  ),
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
    'mustFinish loses events before its end; one exactly at it counts',
    (m) =>
      m.box('a').lane('a', abc, [
        ['a', 'b', { ...down('k'), crossfade: { seconds: 0.5, mustFinish: true } }],
        ['b', 'c', down('l')],
      ]),
    { inputs: { 10: key('k'), 20: key('l'), 40: key('l') }, told: [['transition', T(10), T(40)]] },
  ),
  the(
    'eventless ones go at its end',
    (m) =>
      m
        .box('a')
        .toggle('s', true)
        .lane('a', abc, [
          ['a', 'b', { ...down('k'), crossfade: { seconds: 0.5, mustFinish: true } }],
          ['b', 'c', is('s', true)],
        ]),
    { inputs: { 10: key('k') }, told: [['transition', T(10), T(10) + 0.5]] },
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
    'go always goes: no guard, no mustFinish; it re-enters',
    (m) =>
      m
        .box('a')
        .number('n')
        .lane('a', [['a', 'rest', { onEntry: [add(1)] }]])
        .on('a', { event: 'key.down', key: 'g' }, [{ do: 'go', lane: 'la_a', state: 'st_a' }]),
    { inputs: { 10: key('g'), 11: key('g') }, seen: [[12, 'n', 3]] },
  ),
  the(
    'an explicit A→A always re-enters',
    (m) =>
      m
        .box('a')
        .number('n')
        .lane('a', [['a', 'rest', { onEntry: [add(1)] }]], [['a', 'a', down('k')]]),
    { inputs: { 5: key('k') }, seen: [[6, 'n', 2]] },
  ),
  the(
    'from anywhere the active state is re-entered only with reenter',
    (m) =>
      m
        .box('a')
        .number('n')
        .lane(
          'a',
          [['a', 'rest', { onEntry: [add(1)] }]],
          [
            ['*', 'a', down('k')],
            ['*', 'a', { ...down('l'), reenter: true }],
          ],
        ),
    {
      inputs: { 5: key('k'), 8: key('l') },
      seen: [
        [6, 'n', 1],
        [9, 'n', 2],
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
    'odds: the only ready one goes, one of weight 0 counts as not ready',
    (m) =>
      m.box('a').lane('a', abc, [
        ['a', 'c', { ...down('k'), odds: 0 }],
        ['a', 'b', { ...down('k'), odds: 3 }],
      ]),
    { inputs: { 5: key('k') }, told: [['transition to=st_b', T(5)], ['transition to=st_c']] },
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

/** When transitions go: guards, moments, pulses, odds, must and again: §4. */
import { ab, abc, add, down, key, of, T, turn } from './common.ts';
import { type SemanticCase, the } from './made.ts';

const is = (signal: string, v: unknown) => ({ when: [{ signal: `si_${signal}`, is: v }] });

export const TRANSITION_CASES: readonly SemanticCase[] = [
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
    'odds: the only ready one goes, one of weight 0 counts as not ready',
    (m) =>
      m.box('a').lane('a', abc, [
        ['a', 'c', { ...down('k'), odds: 0 }],
        ['a', 'b', { ...down('k'), odds: 3 }],
      ]),
    { inputs: { 5: key('k') }, told: [['transition to=st_b', T(5)], ['transition to=st_c']] },
  ),
];

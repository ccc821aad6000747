/** Events, reactions, timers, signals and the pointer: §3, §7 and §8. */
import { T } from './common.ts';
import { type SemanticCase, the } from './made.ts';

const key = (k: string) => [{ key: k, down: true }];
const on = (k: string) => ({ event: 'key.down', key: k });
const add = (by: unknown, signal = 'n') => ({ do: 'add', signal: `si_${signal}`, by });
const set = (to: unknown, signal = 'n') => ({ do: 'set', signal: `si_${signal}`, to });
const counts =
  (event: object, more: object = {}) =>
  (m: Parameters<Parameters<typeof the>[1]>[0]) =>
    m
      .box('a')
      .number('n')
      .on('a', event, [add(1)], more);
const timer = (more: object) => ({ event: 'timer', ...more });

export const EVENT_CASES: readonly SemanticCase[] = [
  the('a timer fires first at after, then every', counts(timer({ after: 0.3, every: 0.2 })), {
    seen: [
      [17, 'n', 0],
      [18, 'n', 1],
    ],
    told: [['timer', 0.3, 0.5, 0.7]],
    ticks: 45,
  }),
  the('without after first at every', counts(timer({ every: 0.25 })), {
    told: [['timer', 0.25, 0.5, 0.75]],
    ticks: 46,
  }),
  the('without every once', counts(timer({ after: 0.11 })), { told: [['timer', 0.11]], ticks: 60 }),
  the('a timer of 7 ms fires several times a tick, on its grid', counts(timer({ every: 0.007 })), {
    seen: [[42, 'n', 100]],
  }),
  the(
    'a reaction’s after delays all its actions, and its record',
    (m) =>
      m
        .box('a')
        .number('n')
        .on('a', on('k'), [add(1), add(10)], { after: 0.25 }),
    {
      inputs: { 10: key('k') },
      seen: [
        [24, 'n', 0],
        [25, 'n', 11],
      ],
      told: [['reaction', T(10) + 0.25]],
    },
  ),
  the(
    'an action’s after delays it alone',
    (m) =>
      m
        .box('a')
        .number('n')
        .on('a', on('k'), [add(1), { ...add(10), after: 0.25 }]),
    {
      inputs: { 10: key('k') },
      seen: [
        [10, 'n', 1],
        [25, 'n', 11],
      ],
    },
  ),
  the(
    'a cooldown counts from the event, its end inclusive',
    (m) =>
      m
        .box('a')
        .number('n')
        .on('a', on('k'), [add(1)], { cooldown: 0.5 }),
    {
      inputs: { 10: key('k'), 40: key('k'), 41: key('k') },
      seen: [
        [40, 'n', 1],
        [41, 'n', 2],
      ],
    },
  ),
  the(
    'a limit of once',
    (m) =>
      m
        .box('a')
        .number('n')
        .on('a', on('k'), [add(1)], { limit: 'once' }),
    { inputs: { 5: key('k'), 9: key('k') }, seen: [[10, 'n', 1]] },
  ),
  the(
    'an event that re-arms does not also set it off',
    (m) =>
      m
        .box('a')
        .number('n')
        .on('a', { event: 'key.down' }, [add(1)], { limit: { onceUntil: on('r') } }),
    {
      inputs: { 5: key('k'), 9: key('r'), 12: key('k') },
      seen: [
        [9, 'n', 1],
        [12, 'n', 2],
      ],
    },
  ),
  the(
    'a guard is asked when the event is served',
    (m) =>
      m
        .box('a')
        .number('n')
        .toggle('s')
        .on('a', on('k'), [add(1)], { when: [{ signal: 'si_s', is: true }] }),
    {
      inputs: { 5: key('k'), 9: [{ set: { s: true } }, ...key('k')] },
      seen: [
        [5, 'n', 0],
        [9, 'n', 1],
      ],
    },
  ),
  the(
    'all guards of an event are asked before any reaction to it acts',
    (m) =>
      m
        .box('a')
        .number('n')
        .toggle('s')
        .on('a', on('k'), [{ do: 'toggle', signal: 'si_s' }])
        .on('a', on('k'), [add(1)], { when: [{ signal: 'si_s', is: true }] }),
    {
      inputs: { 5: key('k'), 9: key('k') },
      seen: [
        [5, 'n', 0],
        [9, 'n', 1],
      ],
    },
  ),
  the(
    'signal.change only when it differs',
    (m) =>
      m
        .box('a')
        .number('n')
        .number('v', 3)
        .on('a', { event: 'signal.change', signal: 'si_v' }, [add(1)]),
    {
      inputs: { 5: [{ set: { v: 3 } }], 9: [{ set: { v: 4 } }] },
      seen: [
        [6, 'n', 0],
        [9, 'n', 1],
      ],
    },
  ),
  the(
    'guards read the value when served: two changes of an instant are served with the last',
    (m) =>
      m
        .box('a')
        .number('n')
        .number('v')
        .on('a', { event: 'signal.change', signal: 'si_v' }, [add({ signal: 'si_v' })]),
    { inputs: { 5: [{ set: { v: 1 } }, { set: { v: 10 } }] }, seen: [[5, 'n', 20]] },
  ),
  the(
    'a number stays in its range, a whole one is rounded',
    (m) => m.box('a').number('n', 0, { min: 0, max: 10, whole: true }),
    {
      inputs: { 5: [{ set: { n: 20 } }], 9: [{ set: { n: 3.6 } }], 12: [{ set: { n: -4 } }] },
      seen: [
        [5, 'n', 10],
        [9, 'n', 4],
        [12, 'n', 0],
      ],
    },
  ),
  the(
    'what is none of a choice’s options is ignored',
    (m) => m.box('a').signal('c', 'choice', 'red', { options: ['red', 'green'] }),
    {
      inputs: { 5: [{ set: { c: 'blue' } }], 9: [{ set: { c: 'green' } }] },
      seen: [
        [6, 'c', 'red'],
        [9, 'c', 'green'],
      ],
      told: [['signal', T(9)]],
    },
  ),
  the(
    'toggle, set and add',
    (m) =>
      m
        .box('a')
        .number('n')
        .toggle('s')
        .on('a', on('k'), [{ do: 'toggle', signal: 'si_s' }, set(5), add(2)]),
    {
      inputs: { 5: key('k'), 9: key('k') },
      seen: [
        [5, 's', true],
        [5, 'n', 7],
        [9, 's', false],
      ],
    },
  ),
  the(
    'a value is a signal mapped from one range to another',
    (m) =>
      m
        .box('a')
        .number('n')
        .number('v', 3)
        .on('a', on('k'), [set({ signal: 'si_v', from: [0, 10], to: [100, 200] })]),
    { inputs: { 5: key('k') }, seen: [[5, 'n', 130]] },
  ),
  the(
    'sum, difference and product',
    (m) =>
      m
        .box('a')
        .number('n')
        .number('v', 3)
        .on('a', on('k'), [set({ difference: [{ sum: [10, { signal: 'si_v' }] }, { product: [2, 4] }] })]),
    { inputs: { 5: key('k') }, seen: [[5, 'n', 5]] },
  ),
  the(
    'picking one of one is that one',
    (m) =>
      m
        .box('a')
        .number('n')
        .on('a', on('k'), [set({ pick: [7] })]),
    { inputs: { 5: key('k') }, seen: [[5, 'n', 7]] },
  ),
  the(
    'a pulse is heard',
    (m) =>
      m
        .box('a')
        .number('n')
        .signal('p', 'pulse', null)
        .on('a', { event: 'pulse', signal: 'si_p' }, [add(1)]),
    {
      inputs: { 5: [{ pulse: 'p' }], 6: [{ pulse: 'p' }] },
      seen: [[6, 'n', 2]],
      told: [['pulse', T(5), T(6)]],
    },
  ),
  the(
    'a message is heard by all',
    (m) =>
      m
        .box('a')
        .number('n')
        .message('x')
        .on('a', { event: 'message', message: 'me_x' }, [add(1)])
        .on('a', on('k'), [{ do: 'send', message: 'me_x' }]),
    {
      inputs: { 5: [{ send: 'x' }], 9: key('k') },
      seen: [
        [5, 'n', 1],
        [9, 'n', 2],
      ],
    },
  ),
  the(
    'with tags only where the object, or one above it, has one of them',
    (m) =>
      m
        .tag('t')
        .box('a')
        .box('b', {}, { tags: ['ta_t'] })
        .box('c', {}, { parent: 'ob_b' })
        .number('n')
        .message('x')
        .on('a', { event: 'message', message: 'me_x' }, [add(1)])
        .on('b', { event: 'message', message: 'me_x' }, [add(10)])
        .on('c', { event: 'message', message: 'me_x' }, [add(100)])
        .on('a', on('k'), [{ do: 'send', message: 'me_x', tags: ['ta_t'] }]),
    { inputs: { 9: key('k') }, seen: [[9, 'n', 110]] },
  ),
  the('keyboard keys: letters in lower case', counts(on('k')), {
    inputs: { 5: [{ key: 'K', down: true }], 6: [{ key: 'K', down: false }] },
    seen: [[6, 'n', 1]],
    told: [
      ['key.down', T(5)],
      ['key.up', T(6)],
    ],
  }),
  the('a click by name gives press, release, click in that order', counts({ event: 'pointer.click' }), {
    inputs: { 5: [{ click: 'a' }] },
    seen: [[5, 'n', 1]],
    told: [['pointer.press', T(5)], ['pointer.release', T(5)], ['pointer.click', T(5)], ['pointer.enter']],
  }),
  the(
    'the innermost object first, then its parents',
    (m) =>
      m
        .box('a')
        .box('b', {}, { parent: 'ob_a', size: [10, 10] })
        .number('n')
        .on('a', 'pointer.click', [set({ product: [{ signal: 'si_n' }, 10] })])
        .on('b', 'pointer.click', [add(1)]),
    { inputs: { 5: [{ click: 'b' }] }, seen: [[5, 'n', 10]] },
  ),
  the(
    'stop keeps the event from all further up',
    (m) =>
      m
        .box('a')
        .box('b', {}, { parent: 'ob_a', size: [10, 10] })
        .number('n')
        .on('a', 'pointer.click', [add(100)])
        .on('b', 'pointer.click', [add(1)], { stop: true }),
    { inputs: { 5: [{ click: 'b' }] }, seen: [[5, 'n', 1]] },
  ),
  the(
    'press and release on two children is a click on their nearest common parent',
    (m) =>
      m
        .box('g', {}, { kind: 'group', size: undefined, radius: undefined })
        .box('a', { position: [-100, 0, 0] }, { parent: 'ob_g' })
        .box('b', { position: [100, 0, 0] }, { parent: 'ob_g' })
        .number('n')
        .on('g', 'pointer.click', [add(1)])
        .on('a', 'pointer.click', [add(10)]),
    {
      inputs: {
        5: [{ pointer: { x: 380, y: 270, down: true } }],
        7: [{ pointer: { x: 580, y: 270, down: false } }],
      },
      seen: [[7, 'n', 1]],
      told: [['pointer.click object=ob_g', T(7)]],
    },
  ),
  the('double: the second click within 0.4 s, after its two clicks', counts({ event: 'pointer.double' }), {
    inputs: { 5: [{ click: 'a' }], 29: [{ click: 'a' }] },
    seen: [[29, 'n', 1]],
    told: [['pointer.click', T(5), T(29)]],
  }),
  the('and not later', counts({ event: 'pointer.double' }), {
    inputs: { 5: [{ click: 'a' }], 30: [{ click: 'a' }] },
    seen: [[40, 'n', 0]],
  }),
  the('long: held 0.5 s, dated so', counts({ event: 'pointer.long' }), {
    inputs: { 5: [{ press: 'a' }], 60: [{ release: 'a' }] },
    seen: [[35, 'n', 1]],
    told: [['pointer.long', T(5) + 0.5]],
  }),
  the('not when it is let go before', counts({ event: 'pointer.long' }), {
    inputs: { 5: [{ press: 'a' }], 30: [{ release: 'a' }] },
    seen: [[60, 'n', 0]],
  }),
  the(
    'enter and leave come once per change, from outside in and from inside out',
    (m) => m.box('a', {}, { size: [100, 100] }).box('b', {}, { parent: 'ob_a', size: [10, 10] }),
    {
      inputs: {
        5: [{ pointer: { x: 480, y: 270, down: false } }],
        9: [{ pointer: { x: 500, y: 270, down: false } }],
        12: [{ pointer: null }],
      },
      told: [
        ['pointer.enter object=ob_a', T(5)],
        ['pointer.enter object=ob_b', T(5)],
        ['pointer.leave object=ob_b', T(9)],
        ['pointer.leave object=ob_a', T(12)],
      ],
    },
  ),
  the(
    'an object is pointed at while the pointer is over anything below it',
    (m) =>
      m
        .box('a', {}, { size: [100, 100] })
        .box('b', {}, { parent: 'ob_a', size: [10, 10] })
        .lane(
          'a',
          [
            ['x', 'rest'],
            ['y', 'rest'],
          ],
          [
            ['x', 'y', { when: [{ fact: 'over', object: 'ob_a' }] }],
            ['y', 'x', { when: [{ fact: 'over', object: 'ob_a', is: false }] }],
          ],
        ),
    {
      inputs: {
        5: [{ pointer: { x: 480, y: 270, down: false } }],
        12: [{ pointer: { x: 10, y: 10, down: false } }],
      },
      told: [
        ['transition to=st_y', T(5)],
        ['transition to=st_x', T(12)],
      ],
    },
  ),
  the(
    'a thing that moves under a still pointer is noticed in the pose on screen',
    counts({ event: 'pointer.enter' }),
    {
      inputs: {
        5: [{ pointer: { x: 580, y: 270, down: false } }],
        9: [{ put: { object: 'a', property: 'position.x', value: 100 } }],
      },
      seen: [
        [9, 'n', 0],
        [10, 'n', 1],
      ],
    },
  ),
  the(
    'what cannot be seen is missed and does nothing',
    (m) =>
      m
        .box('a', { shown: false })
        .number('n')
        .on('a', 'pointer.click', [add(1)]),
    {
      inputs: { 5: [{ click: 'a' }] },
      seen: [[6, 'n', 0]],
      told: [['input missed=true', T(5)], ['pointer.press']],
    },
  ),
  the(
    'opacity 0 without a hit shape is not hit',
    (m) =>
      m
        .box('a', { opacity: 0 })
        .number('n')
        .on('a', 'pointer.click', [add(1)]),
    {
      inputs: {
        5: [{ pointer: { x: 480, y: 270, down: true } }],
        6: [{ pointer: { x: 480, y: 270, down: false } }],
      },
      seen: [[7, 'n', 0]],
    },
  ),
  the(
    'with one it is',
    (m) =>
      m
        .box('a', { opacity: 0 }, { hitShape: { kind: 'rect', size: [60, 60] } })
        .number('n')
        .on('a', 'pointer.click', [add(1)]),
    {
      inputs: {
        5: [{ pointer: { x: 505, y: 270, down: true } }],
        6: [{ pointer: { x: 505, y: 270, down: false } }],
      },
      seen: [[7, 'n', 1]],
    },
  ),
  the(
    'a chain of causes that has no end at one instant is a storm, told once',
    (m) =>
      m
        .box('a')
        .toggle('s')
        .on('a', { event: 'signal.change', signal: 'si_s' }, [{ do: 'toggle', signal: 'si_s' }]),
    { inputs: { 5: [{ set: { s: true } }] }, told: [['storm', T(5)]] },
  ),
  the('piece.start is queued at tick 0', counts({ event: 'piece.start' }), {
    seen: [
      [0, 'n', 1],
      [9, 'n', 1],
    ],
  }),
  the(
    'state.enter and state.leave are heard',
    (m) =>
      m
        .box('a')
        .number('n')
        .lane(
          'a',
          [
            ['x', 'rest'],
            ['y', 'rest'],
          ],
          [['x', 'y', { on: on('k') }]],
        )
        .on('a', { event: 'state.enter', state: 'st_y' }, [add(1)])
        .on('a', { event: 'state.leave', state: 'st_x' }, [add(10)]),
    { inputs: { 5: key('k') }, seen: [[5, 'n', 11]] },
  ),
  the(
    'inputs of a tick all act before the first of their events is served',
    (m) =>
      m
        .box('a')
        .number('n')
        .toggle('s')
        .on('a', on('k'), [add(1)], { when: [{ signal: 'si_s', is: true }] }),
    { inputs: { 5: [...key('k'), { set: { s: true } }] }, seen: [[5, 'n', 1]] },
  ),
];

/** Zones, near, blockers, the visitor and dragging: §7 of the world. It is long since it is a list. */
import { T } from './common.ts';
import type { Made } from './made.ts';
import { type SemanticCase, the } from './made.ts';

const key = (k: string, down = true) => [{ key: k, down }];
const on = (k: string) => ({ event: 'key.down', key: k });
const add = (by: unknown) => ({ do: 'add', signal: 'si_n', by });
const put = (object: string, property: string, to: unknown) => ({
  do: 'put',
  object: `ob_${object}`,
  property,
  to,
});
const motor = (object: string, rate: number) => ({
  do: 'motor',
  object: `ob_${object}`,
  property: 'position.x',
  rate,
});
/** A zone of 100 px at the middle, a thing with its tag that comes from the left at 200 px a second, on no boundary at a tick. */
const passing = (m: Made, zone: object = {}, thing: object = {}) =>
  m
    .tag('t')
    .box('z')
    .collider('z', 'z', { tags: ['ta_t'], ...zone })
    .box('x', { position: [-103, 0, 0] }, { tags: ['ta_t'], ...thing })
    .on('x', 'piece.start', [motor('x', 200)]);
/** The same, but it stands there. */
const standing = (m: Made, x: number, zone: object = {}, base: object = {}) =>
  m
    .tag('t')
    .box('z')
    .collider('z', 'z', { tags: ['ta_t'], ...zone })
    .box('x', { position: [x, 0, 0], ...base }, { tags: ['ta_t'] });
const group = { kind: 'group', size: undefined, radius: undefined };
const blocker = { role: 'blocker', size: [40, 40, 40] };
/** A visitor, a body of 20 px, that walks 10 px a tick on the ground. */
const walker = (m: Made, more: object = {}) => {
  m.box('v', {}, group).collider('v', 'v', { role: 'blocker', size: [20, 20, 20] });
  m.piece.visitor = {
    ...{ object: 'ob_v', speed: 600, plane: 'xz', drag: true, facing: 'none' },
    keys: { left: ['a'], right: ['d'], up: ['w'], down: ['s'] },
    ...more,
  } as never;
  return m;
};
const x = (tick: number, value: number, what = 'v') => [tick, `${what}.position.x`, value] as const;
const z = (tick: number, value: number) => [tick, 'v.position.z', value] as const;
const pointer = (px: number, py: number, down = true) => ({ pointer: { x: 480 + px, y: 270 - py, down } });

export const WORLD_CASES: readonly SemanticCase[] = [
  the('noticing compares the poses of k−2 and k−1: t is now, at the exact date', (m) => passing(m), {
    told: [
      ['zone.enter', T(17)],
      ['zone.leave', T(47)],
    ],
  }),
  the(
    'a thing is where its pivot is',
    (m) =>
      passing(
        m,
        {},
        {
          base: {
            position: [-103, 0, 0],
            rotation: [0, 0, 0],
            scale: [1, 1, 1],
            pivot: [20, 0, 0],
            opacity: 1,
            shown: true,
            fill: '#ffffff',
          },
        },
      ),
    {
      told: [
        ['zone.enter', T(11)],
        ['zone.leave', T(41)],
      ],
    },
  ),
  the('a thing inside at the start enters at tick 0', (m) => standing(m, 0), {
    told: [['zone.enter', 0], ['zone.leave']],
  }),
  the('points on the boundary are inside', (m) => standing(m, 50), { told: [['zone.enter', 0]] }),
  the(
    'what comes to rest on the boundary is in from then on: the way that ends there is no stretch yet',
    (m) =>
      standing(m, -60).on('x', 'piece.start', [
        {
          ...{ do: 'tween', object: 'ob_x', property: 'position.x', mode: 'to', to: -50 },
          ...{ seconds: 10 / 60, easing: 'linear' },
        },
      ]),
    { told: [['zone.enter', T(12)]] },
  ),
  the('beyond it they are not', (m) => standing(m, 50.01), { told: [['zone.enter']], ticks: 5 }),
  the('depth counts', (m) => standing(m, 0, {}, { position: [0, 0, 60] }), {
    told: [['zone.enter']],
    ticks: 5,
  }),
  the(
    'through: endless along its own z',
    (m) => standing(m, 0, { through: true }, { position: [0, 0, 6000] }),
    { told: [['zone.enter', 0]] },
  ),
  the(
    'a ball by its radius',
    (m) => standing(m, 35, { shape: 'ball', size: undefined, radius: 50 }, { position: [35, 35, 0] }),
    { told: [['zone.enter', 0]] },
  ),
  the(
    'and no further',
    (m) => standing(m, 36, { shape: 'ball', size: undefined, radius: 50 }, { position: [36, 36, 0] }),
    { told: [['zone.enter']], ticks: 5 },
  ),
  the(
    'an outline goes by even-odd',
    (m) =>
      standing(m, 0, {
        shape: 'outline',
        size: undefined,
        points: [
          [-50, -50],
          [50, -50],
          [50, 50],
          [-50, 50],
          [-50, -50],
          [-20, -20],
          [20, -20],
          [20, 20],
          [-20, 20],
          [-20, -20],
        ],
        depth: 100,
      }),
    { told: [['zone.enter']], ticks: 5 },
  ),
  the(
    'never its owner',
    (m) =>
      m
        .tag('t')
        .box('z', {}, { tags: ['ta_t'] })
        .collider('z', 'z', { tags: ['ta_t'] }),
    { told: [['zone.enter']], ticks: 5 },
  ),
  the(
    'only what has one of its tags',
    (m) =>
      m
        .tag('t')
        .tag('u')
        .box('z')
        .collider('z', 'z', { tags: ['ta_t'] })
        .box('x', {}, { tags: ['ta_u'] }),
    { told: [['zone.enter']], ticks: 5 },
  ),
  the(
    'a mover faster than a thin zone still enters and leaves it',
    (m) =>
      m
        .tag('t')
        .box('z')
        .collider('z', 'z', { tags: ['ta_t'], size: [4, 100, 100] })
        .box('x', { position: [-1000, 0, 0] }, { tags: ['ta_t'] })
        .on('x', 'piece.start', [motor('x', 24000)]),
    {
      told: [
        ['zone.enter', T(4)],
        ['zone.leave', T(4)],
      ],
    },
  ),
  the('what jumps is not swept', (m) => standing(m, -100).on('x', on('k'), [put('x', 'position.x', 100)]), {
    inputs: { 5: key('k') },
    told: [['zone.enter']],
    ticks: 12,
  }),
  the(
    'what jumps into it is in it',
    (m) => standing(m, -100).on('x', on('k'), [put('x', 'position.x', 10)]),
    { inputs: { 5: key('k') }, told: [['zone.enter', T(6)]] },
  ),
  the(
    'who is hidden leaves at the next noticing',
    (m) =>
      standing(m, 0)
        .on('x', on('k'), [{ do: 'hide', object: 'ob_x' }])
        .on('x', on('l'), [{ do: 'show', object: 'ob_x' }]),
    {
      inputs: { 5: key('k'), 9: key('l') },
      told: [
        ['zone.enter', 0, T(10)],
        ['zone.leave', T(6)],
      ],
    },
  ),
  the('so when the owner is', (m) => standing(m, 0).on('x', on('k'), [{ do: 'hide', object: 'ob_z' }]), {
    inputs: { 5: key('k') },
    told: [['zone.leave', T(6)]],
  }),
  the(
    'and when it is switched off',
    (m) =>
      standing(m, 0)
        .on('x', on('k'), [put('z', 'collider.co_z', false)])
        .on('x', on('l'), [put('z', 'collider.co_z', true)]),
    {
      inputs: { 5: key('k'), 9: key('l') },
      told: [
        ['zone.enter', 0, T(10)],
        ['zone.leave', T(6)],
      ],
    },
  ),
  the('one that is off notices nothing', (m) => standing(m, 0, { on: false }), {
    told: [['zone.enter']],
    ticks: 5,
  }),
  the('opacity does not matter', (m) => standing(m, 0, {}, { opacity: 0 }), { told: [['zone.enter', 0]] }),
  the(
    'a zone moves and turns with its owner',
    (m) => standing(m, 200).on('x', on('k'), [put('z', 'position.x', 200)]),
    { inputs: { 5: key('k') }, told: [['zone.enter', T(6)]] },
  ),
  the(
    'near: entered at ≤ enter, left above leave',
    (m) => passing(m, { role: 'near', enter: 50, leave: 80 }),
    {
      told: [
        ['near.enter', T(17)],
        ['near.leave', T(56)],
      ],
    },
  ),
  the(
    'the fact of being inside',
    (m) =>
      passing(m).lane(
        'z',
        [
          ['p', 'rest'],
          ['q', 'rest'],
        ],
        [
          ['p', 'q', { when: [{ fact: 'inside', collider: 'co_z' }] }],
          ['q', 'p', { when: [{ fact: 'inside', collider: 'co_z', is: false }] }],
        ],
      ),
    {
      told: [
        ['transition to=st_q', T(17)],
        ['transition to=st_p', T(47)],
      ],
    },
  ),
  the(
    'count counts things',
    (m) =>
      standing(m, 0)
        .box('y', {}, { tags: ['ta_t'] })
        .box('w', { position: [200, 0, 0] }, { tags: ['ta_t'] })
        .lane(
          'z',
          [
            ['p', 'rest'],
            ['q', 'rest'],
          ],
          [['p', 'q', { when: [{ fact: 'count', collider: 'co_z', atLeast: 3 }] }]],
        )
        .on('w', on('k'), [put('w', 'position.x', 0)]),
    { inputs: { 5: key('k') }, told: [['transition', T(6)]] },
  ),
  the(
    'heard by the owner without a name',
    (m) =>
      passing(m)
        .number('n')
        .on('z', 'zone.enter', [add(1)])
        .on('x', 'zone.enter', [add(100)]),
    { seen: [[20, 'n', 1]] },
  ),
  the(
    'narrowed by the thing',
    (m) =>
      standing(m, 0)
        .box('y', {}, { tags: ['ta_t'] })
        .number('n')
        .on('z', { event: 'zone.enter', other: 'ob_y' }, [add(1)]),
    { seen: [[3, 'n', 1]] },
  ),
  the(
    'other is the thing of the event',
    (m) => passing(m).on('z', 'zone.enter', [{ do: 'hide', object: 'other' }]),
    {
      seen: [
        [16, 'x.shown', true],
        [17, 'x.shown', false],
      ],
    },
  ),
  the(
    'at one date leaves first, then zones in document order',
    (m) =>
      m
        .tag('t')
        .box('z')
        .collider('z', 'z', { tags: ['ta_t'] })
        .collider('z', 'y', { tags: ['ta_t'], at: [100, 0, 0] })
        .box('x', { position: [0, 0, 0] }, { tags: ['ta_t'] })
        .number('n')
        .on('z', { event: 'zone.enter', collider: 'co_y' }, [
          { do: 'set', signal: 'si_n', to: { sum: [{ product: [{ signal: 'si_n' }, 10] }, 2] } },
        ])
        .on('z', { event: 'zone.leave', collider: 'co_z' }, [
          { do: 'set', signal: 'si_n', to: { sum: [{ product: [{ signal: 'si_n' }, 10] }, 1] } },
        ])
        .on('x', on('k'), [put('x', 'position.x', 100)]),
    { inputs: { 5: key('k') }, seen: [[6, 'n', 12]] },
  ),
  the('the visitor walks by speed ÷ 60 a tick by the keys held before its inputs', (m) => walker(m), {
    inputs: { 5: key('d'), 15: key('d', false) },
    seen: [x(5, 0), x(6, 10), x(15, 100), x(20, 100)],
  }),
  the('up on the ground is away from the viewer', (m) => walker(m), {
    inputs: { 0: key('w') },
    seen: [z(3, -30), x(3, 0)],
  }),
  the('slanting walks are as fast', (m) => walker(m), {
    inputs: { 0: [...key('d'), ...key('w')] },
    seen: [x(10, 100 / Math.SQRT2), z(10, -100 / Math.SQRT2)],
  }),
  the('opposite keys cancel', (m) => walker(m), {
    inputs: { 0: [...key('d'), ...key('a')] },
    seen: [x(10, 0)],
  }),
  the('on a wall up is up', (m) => walker(m, { plane: 'xy' }), {
    inputs: { 0: key('w') },
    seen: [[3, 'v.position.y', 30]],
  }),
  the('x knows only ±x', (m) => walker(m, { plane: 'x' }), {
    inputs: { 0: [...key('w'), ...key('d')] },
    seen: [x(3, 30), [3, 'v.position.y', 0]],
  }),
  the('its speed may be a number', (m) => walker(m, { speed: { signal: 'si_n' } }).number('n', 60), {
    inputs: { 0: key('d') },
    seen: [x(10, 10)],
  }),
  the('mirror puts the sign of its scale', (m) => walker(m, { facing: 'mirror' }), {
    inputs: { 0: key('a') },
    seen: [[2, 'v.scale.x', -1]],
  }),
  the('turn puts its turn: 90 is +X', (m) => walker(m, { facing: 'turn' }), {
    inputs: { 0: key('d') },
    seen: [[2, 'v.rotation.y', 90]],
  }),
  the(
    'its speed is the way of the last tick × 60',
    (m) =>
      walker(m)
        .box('s')
        .lane(
          's',
          [
            ['p', 'rest'],
            ['q', 'rest'],
          ],
          [['p', 'q', { when: [{ fact: 'speed', atLeast: 500 }] }]],
        ),
    { inputs: { 4: key('d') }, told: [['transition', T(6)]] },
  ),
  the(
    'a zone notices the visitor without a tag',
    (m) =>
      walker(m)
        .box('z', { position: [103, 0, 0] })
        .collider('z', 'z', {}),
    { inputs: { 0: key('d') }, told: [['zone.enter other=ob_v', T(7)]], ticks: 10 },
  ),
  the(
    'unless it does not care for it',
    (m) =>
      walker(m)
        .box('z', { position: [100, 0, 0] })
        .collider('z', 'z', { visitor: false }),
    { inputs: { 0: key('d') }, told: [['zone.enter']], ticks: 20 },
  ),
  the('a visitor input is a put', (m) => walker(m), {
    inputs: { 5: [{ visitor: { x: 7, y: 8, z: 9 } }] },
    seen: [x(5, 7), z(5, 9)],
  }),
  the(
    'a blocker stops it, body against body',
    (m) =>
      walker(m)
        .box('b', { position: [100, 0, 0] })
        .collider('b', 'b', blocker),
    { inputs: { 0: key('d') }, seen: [x(7, 70), x(30, 70)] },
  ),
  the(
    'it slides along',
    (m) =>
      walker(m)
        .box('b', { position: [100, 0, 0] })
        .collider('b', 'b', { ...blocker, size: [40, 40, 4000] }),
    { inputs: { 0: [...key('d'), ...key('w')] }, seen: [x(30, 70), z(30, -300 / Math.SQRT2)] },
  ),
  the(
    'on one axis it stops',
    (m) =>
      walker(m, { plane: 'x' })
        .box('b', { position: [100, 0, 0], rotation: [0, 0, 45] })
        .collider('b', 'b', blocker),
    { inputs: { 0: key('d') }, seen: [x(30, 100 - 20 * Math.SQRT2 - 10)] },
  ),
  the(
    'one that lets the visitor through does',
    (m) =>
      walker(m)
        .box('b', { position: [100, 0, 0] })
        .collider('b', 'b', { ...blocker, visitor: false }),
    { inputs: { 0: key('d') }, seen: [x(20, 200)] },
  ),
  the(
    'on the ground bodies meet only if their heights overlap',
    (m) =>
      walker(m)
        .box('b', { position: [100, 31, 0] })
        .collider('b', 'b', blocker),
    { inputs: { 0: key('d') }, seen: [x(20, 200)] },
  ),
  the(
    'a body at most 0.1 px from a blocker touches it',
    (m) =>
      walker(m)
        .box('b', { position: [100, 0, 0] })
        .collider('b', 'b', blocker),
    {
      inputs: { 0: key('d'), 20: [...key('d', false), ...key('a')] },
      told: [
        ['touch.begin other=ob_v', T(8)],
        ['touch.end other=ob_v', T(22)],
      ],
      ticks: 30,
    },
  ),
  the(
    'a moving blocker pushes it',
    (m) =>
      walker(m)
        .box('b', { position: [-60, 0, 0] })
        .collider('b', 'b', blocker)
        .on('b', on('k'), [motor('b', 120)]),
    { inputs: { 5: key('k') }, seen: [x(20, 0), x(35, 30), x(65, 90)] },
  ),
  the(
    'squeezed at a wall it is crushed, told once',
    (m) =>
      walker(m)
        .box('b', { position: [-60, 0, 0] })
        .collider('b', 'b', blocker)
        .box('w', { position: [60, 0, 0] })
        .collider('w', 'w', { ...blocker, size: [40, 200, 400] })
        .on('b', 'piece.start', [
          { do: 'tween', object: 'ob_b', property: 'position.x', to: 10, seconds: 0.5, easing: 'linear' },
        ]),
    {
      told: [['touch.crush collider=co_b', T(27)], ['touch.crush collider=co_w']],
      ticks: 70,
      seen: [x(60, 30 - 5 / 3)],
    },
  ),
  the(
    'a drag begins 4 px off, and goes the pointer’s whole way',
    (m) => m.box('a', {}, { drag: { along: 'xy', moves: true, back: null } }),
    {
      inputs: { 5: [pointer(0, 0)], 6: [pointer(3, 0)], 7: [pointer(30, 20)], 12: [pointer(30, 20, false)] },
      seen: [x(6, 0, 'a'), x(8, 30, 'a'), [8, 'a.position.y', 20], x(20, 30, 'a')],
      told: [['drag.start', T(7)], ['drag.drop', T(13)], ['pointer.click']],
    },
  ),
  the(
    'along its axes, its way from base kept within limits',
    (m) =>
      m.box(
        'a',
        { position: [5, 0, 0] },
        { drag: { along: 'x', moves: true, back: null, limits: { x: [-10, 25] } } },
      ),
    {
      inputs: { 5: [pointer(5, 0)], 6: [pointer(50, 30)], 9: [pointer(-90, 30)] },
      seen: [x(7, 30, 'a'), [7, 'a.position.y', 0], x(10, -5, 'a')],
    },
  ),
  the(
    'moves: false keeps only the number',
    (m) =>
      m
        .box('a', {}, { drag: { along: 'x', moves: false, back: null } })
        .box('b', { position: [200, 0, 0] })
        .follow(
          { object: 'ob_b', property: 'rotation.z' },
          { drag: 'ob_a', axis: 'x' },
          { from: [-100, 100], to: [-100, 100] },
        ),
    { inputs: { 5: [pointer(0, 0)], 6: [pointer(40, 0)] }, seen: [x(8, 0, 'a'), [8, 'b.rotation.z', 40]] },
  ),
  the(
    'back tweens it to base',
    (m) => m.box('a', {}, { drag: { along: 'x', moves: true, back: { seconds: 0.5, easing: 'linear' } } }),
    {
      inputs: { 5: [pointer(0, 0)], 6: [pointer(60, 0)], 10: [pointer(60, 0, false)] },
      seen: [x(11, 60, 'a'), x(26, 30, 'a'), x(45, 0, 'a')],
    },
  ),
  the(
    'unless it was dropped into one of these zones',
    (m) =>
      m
        .tag('t')
        .box('z', { position: [60, 0, 0] })
        .collider('z', 'z', { tags: ['ta_t'], size: [20, 20, 20] })
        .box(
          'a',
          {},
          {
            tags: ['ta_t'],
            drag: { along: 'x', moves: true, back: { seconds: 0.5, easing: 'linear', unless: ['co_z'] } },
          },
        ),
    {
      inputs: { 5: [pointer(0, 0)], 6: [pointer(60, 0)], 10: [pointer(60, 0, false)] },
      seen: [x(45, 60, 'a')],
    },
  ),
];

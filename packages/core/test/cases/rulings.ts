/** What was settled after the engine had been compared with independent readings of the texts. */
import { T } from './common.ts';
import { type Made, type SemanticCase, the } from './made.ts';

const pointer = (x: number, y: number, down = true) => ({ pointer: { x: 480 + x, y: 270 - y, down } });
const key = (k: string, down = true) => ({ key: k, down });
const add = (by: unknown) => ({ do: 'add', signal: 'si_n', by });
const put = (object: string, property: string, to: unknown) => ({
  do: 'put',
  object: `ob_${object}`,
  property,
  to,
});
/** A thing that is dragged along x, with a tag, and a zone of 100 px from 150 on. */
const dragged = (m: Made, drag: object = {}, zone: object = {}) =>
  m
    .tag('t')
    .box('a', {}, { tags: ['ta_t'], drag: { along: 'x', limits: {}, moves: true, back: null, ...drag } })
    .box('z', { position: [200, 0, 0] })
    .collider('z', 'z', { tags: ['ta_t'], visitor: false, ...zone });

/** A template of one box, spawned by `s` of the mark, with reactions of its own. */
const spawner = (m: Made, reactions: Made['piece']['reactions'], spawn: object = {}, max = 8) => {
  m.number('n').box('mark');
  m.on('mark', { event: 'key.down', key: 's' }, [{ do: 'spawn', template: 'te_t', ...spawn }]);
  const box = m.piece.objects['ob_mark'];
  m.piece.templates['te_t'] = {
    ...{ id: 'te_t', name: 'T', max },
    objects: { ob_in: { ...box, id: 'ob_in', name: 'in' } },
    ...{ clips: {}, signals: {}, machines: {}, reactions, follows: {}, cueSheets: {}, colliders: {} },
  } as Made['piece']['templates'][string];
  return m;
};
const inside = (on: object, actions: readonly object[], id = 're_in') =>
  ({
    [id]: {
      ...{ id, object: 'ob_in', on, when: [], after: 0, cooldown: 0, limit: 'always' },
      actions,
    },
  }) as unknown as Made['piece']['reactions'];

export const RULING_CASES: readonly SemanticCase[] = [
  the('the way up to the release counts before the drop, also when both are one tick', (m) => dragged(m), {
    inputs: { 2: [pointer(0, 0)], 3: [pointer(10, 0)], 5: [pointer(200, 0), pointer(200, 0, false)] },
    seen: [[5, 'a.position.x', 200]],
    told: [
      ['drag.drop', T(6)],
      ['zone.enter', T(6)],
    ],
  }),
  the(
    '…and the drop names the zone that it then is in',
    (m) => {
      dragged(m)
        .number('n')
        .on('z', { event: 'drag.drop', collider: 'co_z' }, [add(1)]);
    },
    {
      inputs: { 2: [pointer(0, 0)], 3: [pointer(10, 0)], 5: [pointer(200, 0), pointer(200, 0, false)] },
      seen: [[6, 'n', 1]],
    },
  ),
  the(
    'drag.drop names zones, not nears',
    (m) => {
      const near = { role: 'near', enter: 60, leave: 80, shape: undefined, at: undefined, size: undefined };
      dragged(m, {}, { ...near, through: undefined }).number('n');
      m.on('z', { event: 'drag.drop', collider: 'co_z' }, [add(1)]);
    },
    {
      inputs: { 2: [pointer(0, 0)], 3: [pointer(200, 0)], 5: [pointer(200, 0, false)] },
      seen: [[8, 'n', 0]],
      told: [
        ['near.enter', T(4)],
        ['drag.drop', T(6)],
      ],
      ticks: 9,
    },
  ),
  the(
    'a dragged thing that is hidden is dropped with the next noticing',
    (m) => {
      dragged(m).on('z', { event: 'key.down', key: 'h' }, [put('a', 'shown', false)]);
    },
    {
      inputs: { 2: [pointer(0, 0)], 3: [pointer(20, 0)], 5: [key('h')] },
      told: [['drag.drop', T(6)]],
      ticks: 10,
    },
  ),
  ...[true, false].map((moves) =>
    the(
      `a follow of a drag that ${moves ? 'moves' : 'only counts'} has the number of the same tick`,
      (m) => {
        dragged(m, { moves }).box('f', { position: [0, 200, 0] });
        m.follow({ object: 'ob_f', property: 'position.x' }, { drag: 'ob_a', axis: 'x' });
      },
      {
        inputs: { 2: [pointer(0, 0)], 3: [pointer(30, 0)], 4: [pointer(50, 0)], 6: [pointer(80, 0, false)] },
        seen: [
          [3, 'f.position.x', 30],
          [4, 'f.position.x', 50],
          [6, 'f.position.x', 80],
          [7, 'f.position.x', 80],
        ],
      },
    ),
  ),
  the(
    'before there was a pointer, a follow of it reads 0',
    (m) => {
      m.box('a', { position: [100, 50, 0] })
        .box('f')
        .box('g')
        .box('h', { position: [7, 0, 0] });
      m.follow({ object: 'ob_f', property: 'position.x' }, { pointer: 'x', object: 'ob_a' });
      m.follow({ object: 'ob_g', property: 'position.x' }, { distance: ['pointer', 'ob_a'] });
      m.follow({ object: 'ob_h', property: 'position.x' }, { pointer: 'x' });
    },
    {
      inputs: { 3: [pointer(130, 50, false)] },
      seen: [
        [1, 'f.position.x', 0],
        [1, 'g.position.x', 0],
        [1, 'h.position.x', 0],
        [3, 'f.position.x', 30],
        [3, 'g.position.x', 30],
      ],
    },
  ),
  the(
    'a step takes its new value from its date on, jump-start at the very start',
    (m) => {
      m.box('a').clip('c', 'a', 1, 'loop', {
        'position.x': [
          [0, 0, { steps: 5, position: 'jump-start' }],
          [1, 100],
        ],
        'position.y': [
          [0, 0, { steps: 3, position: 'jump-end' }],
          [0.9, 90],
        ],
      });
      m.lane('a', [['go', 'c']]);
    },
    {
      seen: [
        [0, 'a.position.x', 20],
        [11, 'a.position.x', 20],
        [12, 'a.position.x', 40],
        [24, 'a.position.x', 60],
        [17, 'a.position.y', 0],
        [18, 'a.position.y', 30],
        [36, 'a.position.y', 60],
      ],
    },
  ),
  the(
    'a tween by steps takes its new value on the date, too',
    (m) => {
      const tween = { do: 'tween', object: 'ob_a', property: 'position.x', to: 100, seconds: 0.3 };
      m.box('a').on('a', 'piece.start', [{ ...tween, easing: { steps: 3, position: 'jump-end' } }]);
    },
    {
      seen: [
        [5, 'a.position.x', 0],
        [6, 'a.position.x', 100 / 3],
        [12, 'a.position.x', 200 / 3],
      ],
    },
  ),
  the(
    'keyboard keys are read and compared in lower case',
    (m) => {
      m.number('n')
        .box('a')
        .on('a', { event: 'key.down', key: 'W' }, [add(1)]);
      m.on('a', { event: 'key.down', key: 'Enter' }, [add(10)]);
    },
    {
      inputs: { 1: [key('w')], 2: [key('W')], 3: [key('enter')] },
      seen: [[4, 'n', 12]],
    },
  ),
  the(
    'stopping a sheet is a record of kind sheet',
    (m) => {
      m.box('a').on('a', 'piece.start', [{ do: 'sheet', sheet: 'sh_s' }]);
      m.on('a', { event: 'key.down', key: 'x' }, [{ do: 'stopSheet', sheet: 'sh_s' }]);
      m.piece.cueSheets['sh_s'] = { id: 'sh_s', name: 's', cues: [], again: 'restart', end: { loop: 1 } };
    },
    {
      inputs: { 3: [key('x')] },
      told: [['sheet sheet=sh_s', T(3)]],
    },
  ),
  the(
    'a spawned thing hears spawn.start of itself only',
    (m) => spawner(m, inside({ event: 'spawn.start' }, [add(1)])),
    {
      inputs: { 1: [key('s')], 3: [key('s')], 5: [key('s')] },
      seen: [[7, 'n', 3]],
    },
  ),
  the(
    '…and the piece hears of all of them',
    (m) => {
      spawner(m, {}).on('mark', { event: 'spawn.start', template: 'te_t' }, [add(1)]);
    },
    {
      inputs: { 1: [key('s')], 3: [key('s')] },
      seen: [[5, 'n', 2]],
    },
  ),
  the(
    'what is removed at a date does nothing more at that date, timers included',
    (m) => spawner(m, inside({ event: 'timer', every: 0.1 }, [add(1)]), { seconds: 0.3 }),
    {
      inputs: { 1: [key('s')] },
      // At 0.1 and 0.2 s of its life; at 0.3 s it is gone.
      seen: [
        [18, 'n', 2],
        [60, 'n', 2],
      ],
      told: [['timer', T(1) + 0.1, T(1) + 0.2]],
    },
  ),
  the(
    'touches come in the order of the colliders among what zones notice',
    (m) => {
      // The blocker stands before the zone in the document, and touches as the thing comes into the zone.
      m.tag('t')
        .number('n')
        .box('w', { position: [60, 0, 0] });
      m.collider('w', 'w', { role: 'blocker', size: [40, 40, 40] });
      m.box('z', { position: [60, 500, 0] }).collider('z', 'z', { tags: ['ta_t'], size: [90, 80, 80] });
      // The zone jumps there, so that it is looked at in the newest pose, as a touch is.
      m.on('a', 'drag.start', [put('z', 'position.y', 0)]);
      m.box(
        'a',
        { position: [0, 0, 0] },
        { tags: ['ta_t'], drag: { along: 'x', limits: {}, moves: true, back: null } },
      );
      m.collider('a', 'a', { role: 'blocker', size: [40, 40, 40] });
      m.signal('first', 'text', '');
      const set = (to: string) => ({ do: 'set', signal: 'si_first', to });
      const isFirst = [{ signal: 'si_first', is: '' }];
      m.on('w', { event: 'touch.begin' }, [set('touch')], { when: isFirst });
      m.on('z', { event: 'zone.enter' }, [set('zone')], { when: isFirst });
    },
    {
      inputs: { 2: [pointer(0, 0)], 3: [pointer(21, 0)] },
      seen: [[6, 'first', 'touch']],
      told: [
        ['touch.begin', T(4)],
        ['zone.enter', T(4)],
      ],
    },
  ),
  the(
    'face turns toward the pivot as it is at that date, between two ticks',
    (m) => {
      m.box('a').box('b', { position: [100, 0, 0] });
      m.on('b', 'piece.start', [{ do: 'motor', object: 'ob_b', property: 'position.y', rate: 60 }]);
      const face = { do: 'face', object: 'ob_a', toward: 'ob_b', axis: 'z', seconds: 0, easing: 'linear' };
      m.on('a', 'piece.start', [{ ...face, after: 0.505 }]);
    },
    // It then is 30.3 px up.
    { seen: [[31, 'a.rotation.z', (Math.atan2(30.3, 100) * 180) / Math.PI]] },
  ),
  the(
    'whoever is removed with a caption raises caption.gone (removed) before spawn.end',
    (m) => {
      const says = { do: 'caption', object: 'ob_in', text: 'hello', seconds: null };
      spawner(m, inside({ event: 'spawn.start' }, [says, { ...says, again: 'queue' }]), { seconds: 0.3 });
      m.signal('first', 'text', '');
      const set = (to: string) => ({ do: 'set', signal: 'si_first', to });
      const none = { when: [{ signal: 'si_first', is: '' }] };
      m.on('mark', { event: 'spawn.end', template: 'te_t' }, [set('end')], none);
    },
    {
      inputs: { 1: [key('s')] },
      seen: [[30, 'first', 'end']],
      told: [
        ['caption.gone why=removed', T(1) + 0.3],
        ['caption', T(1)],
        ['spawn.end', T(1) + 0.3],
      ],
    },
  ),
  the(
    'a hidden visitor does not walk, its speed is 0',
    (m) => {
      m.number('n').box('v');
      m.piece.visitor = {
        ...{ object: 'ob_v', speed: 600, plane: 'x', drag: true, facing: 'none' },
        keys: { left: ['a'], right: ['d'], up: [], down: [] },
      } as never;
      m.on('v', { event: 'key.down', key: 'h' }, [put('v', 'shown', false)]);
      m.on('v', { event: 'key.down', key: 'q' }, [put('v', 'shown', true)]);
      m.on('v', { event: 'timer', after: 0.1 }, [add(1)], { when: [{ fact: 'speed', above: 0 }] });
    },
    {
      inputs: { 1: [key('d')], 3: [key('h')], 8: [key('q')] },
      seen: [
        [2, 'v.position.x', 10],
        [3, 'v.position.x', 10],
        [7, 'v.position.x', 10],
        [7, 'n', 0],
        [8, 'v.position.x', 20],
      ],
    },
  ),
  the(
    'an instance’s constant that does not fit is not used, and not clamped',
    (m) => {
      m.box('mark');
      const box = m.piece.objects['ob_mark'];
      const number = {
        id: 'si_in',
        name: 'in',
        type: 'number',
        initial: 3,
        min: 0,
        max: 10,
        shared: false,
        note: '',
      };
      m.piece.templates['te_t'] = {
        ...{ id: 'te_t', name: 'T', max: 4, signals: { si_in: number } },
        objects: { ob_in: { ...box, id: 'ob_in', name: 'in' } },
        ...{ clips: {}, machines: {}, reactions: {}, follows: {}, cueSheets: {}, colliders: {} },
      } as never;
      m.box(
        'i',
        {},
        { kind: 'instance', size: undefined, radius: undefined, template: 'te_t', signals: { si_in: 50 } },
      );
      m.box(
        'j',
        {},
        { kind: 'instance', size: undefined, radius: undefined, template: 'te_t', signals: { si_in: 7 } },
      );
    },
    {
      seen: [
        [1, 'i.signal.si_in', 3],
        [1, 'j.signal.si_in', 7],
      ],
    },
  ),
];

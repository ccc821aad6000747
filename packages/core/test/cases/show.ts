/** Captions, effects, cue sheets, templates and what is spawned: §8 and §9 of the world. It is long since it is a list. */

import type { Template } from '../../src/model/index.ts';
import { T } from './common.ts';
import { Made, type SemanticCase, the } from './made.ts';

const key = (k: string) => [{ key: k, down: true }];
const on = (k: string) => ({ event: 'key.down', key: k });
const add = (by: unknown, signal = 'n') => ({ do: 'add', signal: `si_${signal}`, by });
const say = (text: unknown, more: object = {}) => ({ do: 'caption', object: 'ob_a', text, ...more });
const says =
  (actions: readonly object[], more: readonly object[] = []) =>
  (m: Made) =>
    m
      .box('a')
      .number('n')
      .on('a', on('k'), actions)
      .on('a', on('l'), more.length > 0 ? more : actions);
const asks = say('Well?', {
  seconds: null,
  answers: [
    { id: 'an_y', text: 'Yes' },
    { id: 'an_n', text: 'No' },
  ],
});

type Cue = {
  id: string;
  name: string;
  t: number;
  actions: object[];
  then: Cue[];
  thenAfter: Cue[];
  wait?: object;
};
const cue = (name: string, t: number, actions: object[] = [], more: Partial<Cue> = {}): Cue => ({
  id: `cu_${name}`,
  name,
  t,
  actions,
  then: [],
  thenAfter: [],
  ...more,
});
const sheet = (m: Made, cues: Cue[], more: object = {}) => {
  m.piece.cueSheets['sh_s'] = {
    id: 'sh_s',
    name: 's',
    cues,
    again: 'restart',
    end: 'stop',
    ...more,
  } as never;
  return m;
};
const staged =
  (cues: Cue[], more: object = {}) =>
  (m: Made) =>
    sheet(
      m
        .box('a')
        .number('n')
        .on('a', on('k'), [{ do: 'sheet', sheet: 'sh_s' }])
        .on('a', on('x'), [{ do: 'stopSheet', sheet: 'sh_s' }]),
      cues,
      more,
    );
const tween = (seconds: number) => ({
  do: 'tween',
  object: 'ob_a',
  property: 'position.x',
  to: 60,
  seconds,
  easing: 'linear',
});

/** A template of a box that a click counts, with a number and a switch of its own. */
const crate = (m: Made, more: Partial<Template> = {}): Made => {
  const own = new Made(500);
  own
    .box('r', {}, { size: [20, 20] })
    .number('own', 1)
    .toggle('lit')
    .on('r', 'pointer.click', [add(1, 'own')]);
  const { objects, signals, reactions } = own.piece;
  m.piece.templates['te_t'] = {
    ...{ id: 'te_t', name: 't', max: 2, objects, signals, reactions },
    ...{ clips: {}, machines: {}, follows: {}, colliders: {}, cueSheets: {}, ...more },
  } as Template;
  return m;
};
const place = (m: Made, name: string, x: number, signals: object = {}) =>
  m.box(
    name,
    { position: [x, 0, 0] },
    { kind: 'instance', size: undefined, radius: undefined, template: 'te_t', signals },
  );
const spawn = (more: object = {}) => ({ do: 'spawn', template: 'te_t', ...more });

export const SHOW_CASES: readonly SemanticCase[] = [
  the('a caption stays for its seconds', says([say('hi', { seconds: 0.5 })]), {
    inputs: { 5: key('k') },
    told: [
      ['caption', T(5)],
      ['caption.gone why=time', T(5) + 0.5],
    ],
  }),
  the('3 seconds without any', says([say('hi')]), {
    inputs: { 5: key('k') },
    told: [['caption.gone why=time', T(5) + 3]],
  }),
  the('restart replaces it', says([say('hi', { seconds: 0.5 })]), {
    inputs: { 5: key('k'), 20: key('k') },
    told: [
      ['caption.gone why=replaced', T(20)],
      ['caption.gone why=time', T(20) + 0.5],
    ],
  }),
  the('ignore does nothing', says([say('hi', { seconds: 0.5, again: 'ignore' })]), {
    inputs: { 5: key('k'), 20: key('k') },
    told: [
      ['caption', T(5)],
      ['caption.gone', T(5) + 0.5],
    ],
    ticks: 60,
  }),
  the('queue begins exactly when it is gone', says([say('hi', { seconds: 0.51, again: 'queue' })]), {
    inputs: { 5: key('k'), 20: key('k') },
    told: [
      ['caption', T(5), T(5) + 0.51],
      ['caption.gone', T(5) + 0.51, T(5) + 1.02],
    ],
  }),
  the('an empty text only takes away what is there', says([say('hi')], [say('')]), {
    inputs: { 5: key('k'), 20: key('l') },
    told: [
      ['caption', T(5)],
      ['caption.gone why=replaced', T(20)],
    ],
    ticks: 60,
  }),
  the('null: until answered; the answer is an event', says([asks], [add(1)]), {
    inputs: { 5: key('k'), 90: [{ answer: { object: 'a', answer: 'an_y' } }] },
    told: [
      ['caption.answer answer=an_y', T(90)],
      ['caption.gone why=answer', T(90)],
    ],
  }),
  the('an answer by its words', says([asks], [add(1)]), {
    inputs: { 5: key('k'), 9: [{ answer: { object: 'a', answer: 'No' } }] },
    told: [['caption.answer answer=an_n', T(9)]],
  }),
  the('one that is not there is missed', says([asks], [add(1)]), {
    inputs: { 5: key('k'), 9: [{ answer: { object: 'a', answer: 'Perhaps' } }] },
    told: [['caption.answer'], ['input missed=true', T(9)]],
  }),
  the(
    'what is said by hand stays for the usual time, in the place of what stood',
    (m) => says([say('hi')])(m),
    {
      inputs: { 5: key('k'), 20: [{ say: { object: 'a', text: 'hello' } }] },
      told: [
        ['caption text=hello', T(20)],
        ['caption.gone why=replaced', T(20)],
        ['caption.gone why=time', T(20) + 3],
      ],
    },
  ),
  the(
    'a sound is played by hand; one that is not there is missed',
    (m) => {
      m.box('a');
      m.piece.sounds['so_b'] = { id: 'so_b', name: 'bell', synth: 'bell' } as never;
    },
    {
      inputs: { 5: [{ sound: 'bell' }], 9: [{ sound: 'gong' }] },
      told: [
        ['sound sound=so_b', T(5)],
        ['input missed=true', T(9)],
      ],
    },
  ),
  the('a caption’s words may be a signal’s value', says([say({ signal: 'si_n' })]), {
    inputs: { 4: [{ set: { n: 7 } }], 5: key('k') },
    told: [['caption text=7', T(5)]],
  }),
  the(
    'one caption per object, several objects at once',
    (m) =>
      m
        .box('a')
        .box('b')
        .on('a', on('k'), [say('one'), { ...say('two'), object: 'ob_b' }]),
    { inputs: { 5: key('k') }, told: [['caption', T(5), T(5)], ['caption.gone']], ticks: 30 },
  ),
  the(
    'of flashes begun within a second only three show',
    (m) => {
      m.piece.effects['ef_f'] = {
        id: 'ef_f',
        name: 'f',
        kind: 'flash',
        fill: '#ffffff',
        opacity: 1,
        seconds: 0.1,
        easing: 'linear',
      };
      return m.box('a').on('a', on('k'), [{ do: 'flash', effect: 'ef_f' }]);
    },
    {
      inputs: { 1: key('k'), 10: key('k'), 20: key('k'), 30: key('k'), 65: key('k') },
      told: [
        ['action shown=false', T(30)],
        ['action action=flash', T(1), T(10), T(20), T(30), T(65)],
      ],
    },
  ),
  the(
    'bursts are numbered by effect',
    (m) => {
      m.piece.effects['ef_b'] = {
        id: 'ef_b',
        name: 'b',
        kind: 'burst',
        count: 3,
        seconds: [1, 1],
        direction: 90,
        spread: 0,
        speed: [60, 60],
        gravity: [0, 0, 0],
        drag: 0,
        depth: 0,
        size: [4, 4],
        spin: [0, 0],
        fills: ['#ffffff'],
        drawing: 'dot',
        fade: 0,
      };
      return m.box('a').on('a', on('k'), [{ do: 'burst', effect: 'ef_b', object: 'ob_a' }]);
    },
    {
      inputs: { 0: key('k'), 30: key('k') },
      seen: [
        [15, 'b#0/0.y', 15],
        [45, 'b#0/0.y', 45],
        [45, 'b#1/0.y', 15],
        [70, 'b#0/0.y', null],
      ],
      told: [
        ['burst burst=0', 0],
        ['burst burst=1', 0.5],
      ],
    },
  ),
  the(
    'a top cue is timed from the sheet’s start',
    staged([cue('p', 0.25, [add(1)]), cue('q', 0.5, [add(10)])]),
    {
      inputs: { 10: key('k') },
      seen: [
        [24, 'n', 0],
        [25, 'n', 1],
        [40, 'n', 11],
      ],
      told: [
        ['sheet.start', T(10)],
        ['sheet.done', T(10) + 0.5],
      ],
    },
  ),
  the(
    'then from its parent’s start',
    staged([cue('p', 0.25, [tween(1)], { then: [cue('q', 0.1, [add(1)])] })]),
    { inputs: { 10: key('k') }, told: [['cue cue=cu_q', T(10) + 0.35]], ticks: 40 },
  ),
  the(
    'thenAfter from its end',
    staged([cue('p', 0.25, [tween(0.5)], { thenAfter: [cue('q', 0.1, [add(1)])] })]),
    {
      inputs: { 10: key('k') },
      told: [
        ['cue cue=cu_q', T(10) + 0.85],
        ['sheet.done', T(10) + 0.85],
      ],
    },
  ),
  the(
    'a cue ends with the longest of its actions, their after included',
    staged([
      cue('p', 0, [tween(0.2), { ...say('hi', { seconds: 0.3 }), after: 0.2 }], {
        thenAfter: [cue('q', 0, [add(1)])],
      }),
    ]),
    { inputs: { 10: key('k') }, told: [['cue cue=cu_q', T(10) + 0.5]] },
  ),
  the('one cut short ends then', staged([cue('p', 0, [tween(1)], { thenAfter: [cue('q', 0, [add(1)])] })]), {
    inputs: { 10: key('k'), 20: [{ put: { object: 'a', property: 'position.x', value: 5 } }] },
    told: [['cue cue=cu_q', T(20)]],
  }),
  the(
    'wait listens from the cue’s time on; what hangs below is timed from the event',
    staged([cue('p', 0.5, [add(1)], { wait: on('w'), then: [cue('q', 0.25, [add(10)])] })]),
    {
      inputs: { 0: key('k'), 10: key('w'), 40: key('w') },
      seen: [
        [39, 'n', 0],
        [40, 'n', 1],
        [55, 'n', 11],
      ],
    },
  ),
  the('stop raises no done, and cancels what has not happened', staged([cue('p', 0.5, [add(1)])]), {
    inputs: { 0: key('k'), 10: key('x') },
    seen: [[60, 'n', 0]],
    told: [['sheet.done']],
  }),
  the('asked again it begins anew', staged([cue('p', 0.5, [add(1)])]), {
    inputs: { 0: key('k'), 10: key('k') },
    seen: [[60, 'n', 1]],
    told: [
      ['sheet.start', 0, T(10)],
      ['sheet.done', T(10) + 0.5],
    ],
  }),
  the('or ignores it', staged([cue('p', 0.5, [add(1)])], { again: 'ignore' }), {
    inputs: { 0: key('k'), 10: key('k') },
    told: [
      ['sheet.start', 0],
      ['sheet.done', 0.5],
    ],
    ticks: 60,
  }),
  the('or queues it, exactly at the end', staged([cue('p', 0.51, [add(1)])], { again: 'queue' }), {
    inputs: { 0: key('k'), 10: key('k') },
    told: [
      ['sheet.start', 0, 0.51],
      ['sheet.done', 0.51, 1.02],
    ],
  }),
  the('a loop pauses and begins anew', staged([cue('p', 0.25, [add(1)])], { end: { loop: 0.5 } }), {
    inputs: { 0: key('k') },
    told: [
      ['cue', 0.25, 1, 1.75],
      ['sheet.done', 0.25, 1, 1.75],
    ],
    ticks: 110,
  }),
  the(
    'an input begins a sheet as if so many seconds had passed',
    staged([cue('p', 0.25, [add(1)]), cue('q', 0.5, [add(10)])]),
    { inputs: { 10: [{ sheet: 's', skip: 0.4 }] }, seen: [[60, 'n', 10]], told: [['cue', T(10) + 0.1]] },
  ),
  the('an instance’s constant is the signal’s initial value', (m) => place(crate(m), 'i', 0, { si_own: 5 }), {
    seen: [[0, 'i.signal.si_own', 5]],
  }),
  the('one that does not fit is not used', (m) => place(crate(m), 'i', 0, { si_own: 'five' }), {
    seen: [[0, 'i.signal.si_own', 1]],
  }),
  the('ids inside point to the same instance', (m) => place(place(crate(m), 'i', -100), 'j', 100), {
    inputs: { 5: [{ click: 'j' }] },
    seen: [
      [5, 'i.signal.si_own', 1],
      [5, 'j.signal.si_own', 2],
    ],
  }),
  the(
    'a bound signal is set at the start and whenever the outer one changes, mapped',
    (m) =>
      place(crate(m).number('n', 5), 'i', 0, { si_own: { signal: 'si_n', from: [0, 10], to: [0, 100] } }),
    {
      inputs: { 5: [{ set: { n: 8 } }] },
      seen: [
        [0, 'i.signal.si_own', 50],
        [5, 'i.signal.si_own', 80],
      ],
      told: [['signal signal=ob_i/si_own', T(5)]],
    },
  ),
  the(
    'a property signal.ID is written like any other, else it stays',
    (m) =>
      place(crate(m), 'i', 0)
        .box('a', { position: [200, 0, 0] })
        .on('a', on('k'), [
          { do: 'tween', object: 'ob_i', property: 'signal.si_own', to: 31, seconds: 0.5, easing: 'linear' },
        ])
        .on('a', on('l'), [{ do: 'release', object: 'ob_i', property: 'signal.si_own' }]),
    {
      inputs: { 10: key('k'), 50: key('l'), 55: [{ set: { 'ob_i/si_own': 2 } }] },
      seen: [
        [25, 'i.signal.si_own', 16],
        [45, 'i.signal.si_own', 31],
        [54, 'i.signal.si_own', 31],
        [60, 'i.signal.si_own', 2],
      ],
    },
  ),
  the(
    'a spawned one stands at the pivot of an object and so much beside',
    (m) =>
      crate(m)
        .box('a', { position: [30, 40, 0], pivot: [5, 0, 0] })
        .on('a', on('k'), [spawn({ object: 'ob_a', offset: [0, 10, 0] })]),
    {
      inputs: { 5: key('k') },
      seen: [
        [4, 'te_t#0.position.x', null],
        [5, 'te_t#0.position.x', 35],
        [5, 'te_t#0.position.y', 50],
      ],
      told: [['spawn.start object=te_t#0', T(5)]],
    },
  ),
  the(
    'it is removed exactly after its seconds',
    (m) =>
      crate(m)
        .box('a')
        .on('a', on('k'), [spawn({ seconds: 0.51 })]),
    {
      inputs: { 5: key('k') },
      told: [['spawn.end why=time', T(5) + 0.51]],
      seen: [[40, 'te_t#0.position.x', null]],
    },
  ),
  the('as the oldest when there are max', (m) => crate(m).box('a').on('a', on('k'), [spawn()]), {
    inputs: { 5: key('k'), 6: key('k'), 7: key('k') },
    told: [
      ['spawn.end object=te_t#0', T(7)],
      ['spawn.start object=te_t#2', T(7)],
    ],
  }),
  the(
    'one that goes has no further events, not in what stands in its place either',
    (m) =>
      crate(m, {
        max: 1,
        reactions: new Made(500).box('r').on('r', 'piece.start', [add(10, 'own')]).piece.reactions,
      })
        .box('a')
        .on('a', on('k'), [spawn(), spawn()]),
    {
      inputs: { 5: key('k') },
      seen: [
        [6, 'te_t#1.signal.si_own', 11],
        [6, 'te_t#0.position.x', null],
      ],
      told: [['reaction object=te_t#1/ob_r', T(5)], ['reaction object=te_t#0/ob_r']],
    },
  ),
  the(
    'what hears an event before one that took its place is gone',
    (m) =>
      crate(m, {
        max: 1,
        reactions: new Made(500).box('r').on('r', on('l'), [add(10, 'own')]).piece.reactions,
      })
        .box('a')
        .on('a', on('k'), [spawn()])
        .on('a', on('l'), [spawn()]),
    { inputs: { 5: key('k'), 8: key('l') }, seen: [[9, 'te_t#1.signal.si_own', 1]] },
  ),
  the(
    'a blend inside a template blends the clips of its own instance',
    (m) => {
      const own = new Made(500);
      own
        .box('r')
        .number('own', 5)
        .clip('p', 'r', 1, 'once', { 'position.x': [[0, 0]] })
        .clip('q', 'r', 1, 'once', { 'position.x': [[0, 100]] });
      const points = [
        { clip: 'cl_p', at: 0 },
        { clip: 'cl_q', at: 10 },
      ];
      own.lane('r', [['s', { range: { signal: 'si_own', points, phase: 'own' } }]]);
      const { objects, signals, clips, machines } = own.piece;
      return place(place(crate(m, { objects, signals, clips, machines, reactions: {} }), 'i', 0), 'j', 0, {
        si_own: 8,
      });
    },
    {
      seen: [
        [2, 'i/r.position.x', 50],
        [2, 'j/r.position.x', 80],
      ],
    },
  ),
  the(
    'what is put to a part is told by that one’s name',
    (m) =>
      place(crate(m), 'i', 0)
        .box('a', { position: [200, 0, 0] })
        .on('a', on('k'), [{ do: 'put', object: 'ob_i', property: 'signal.si_own', to: 4 }]),
    {
      inputs: { 5: key('k') },
      seen: [[6, 'i.signal.si_own', 4]],
      told: [['action object=ob_i property=signal.si_own', T(5)]],
    },
  ),
  the(
    'its values are given',
    (m) =>
      crate(m)
        .number('n', 4)
        .box('a')
        .on('a', on('k'), [spawn({ signals: { si_own: { product: [{ signal: 'si_n' }, 2] } } })]),
    { inputs: { 5: key('k') }, seen: [[5, 'te_t#0.signal.si_own', 8]] },
  ),
  the(
    'only spawned things can be removed',
    (m) =>
      place(crate(m), 'i', 0)
        .box('a', { position: [200, 0, 0] })
        .on('a', on('k'), [{ do: 'remove', object: 'ob_i' }]),
    { inputs: { 5: key('k') }, seen: [[6, 'i.shown', true]], told: [['spawn.end']] },
  ),
  the(
    'spawn.start stands for piece.start, and its timers begin then',
    (m) => {
      const own = new Made(500);
      own
        .box('r')
        .number('own')
        .on('r', 'piece.start', [add(1, 'own')])
        .on('r', { event: 'timer', after: 0.25 }, [add(10, 'own')]);
      const { objects, signals, reactions } = own.piece;
      return crate(m, { objects, signals, reactions }).box('a').on('a', on('k'), [spawn()]);
    },
    {
      inputs: { 30: key('k') },
      seen: [
        [30, 'te_t#0.signal.si_own', 1],
        [45, 'te_t#0.signal.si_own', 11],
      ],
      told: [['timer', 0.75]],
    },
  ),
];

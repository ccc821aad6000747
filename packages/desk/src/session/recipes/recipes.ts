import {
  defaultBase,
  EASING_PRESETS,
  Editor,
  emptyPiece,
  type Follow,
  type Piece,
  PieceStore,
  type SceneObject,
  type State,
  sizeOf,
  type TweenEasing,
  uniqueName,
} from '@apple-tick/core/model';
import type { Input } from '@apple-tick/core/run';
import { IdSource } from '../model-help.ts';
import type { Session } from '../session.ts';
import { Maker, WARM } from './recipe-maker.ts';

type Range = [number, number];
type Value = number | string;

/** What is done, at which second; where, px of the frame from its middle. */
type Act = readonly [
  at: number,
  does: 'click' | 'enter' | 'leave' | 'press' | 'pull' | 'answer' | 'key',
  where?: readonly [number, number],
];

export interface Recipe {
  readonly id: string;
  readonly name: string;
  /** An empty piece may begin with it. */
  readonly begins?: true;
  /** What it does, for an object of this name. */
  readonly says: (name: string) => string;
  readonly make: (m: Maker) => void;
  /** What is done to it while it is shown, by seconds from the start; then it begins anew. */
  readonly shown: {
    readonly seconds: number;
    readonly acts: readonly Act[];
    /** Another thing goes this way, px from the middle, y up, once in that time. */
    readonly comes?: { readonly from: Range; readonly to: Range; readonly seconds: number };
  };
}

/** Of the parts of a group at most so many are drawn among. */
const MOST_DRAWN = 12;

const EASE_OUT = { bezier: [...EASING_PRESETS['ease-out']] } satisfies TweenEasing;

const click = { on: { event: 'pointer.click' } } as const;
const done = { on: { event: 'state.done' } } as const;
const from = (clip: string, speed = 1) => ({ clip, speed, from: 'here' as const });

export const RECIPES: readonly Recipe[] = [
  {
    id: 'hinge',
    name: 'Opens and closes',
    begins: true,
    says: (n) => `A click opens ${n} on its hinge, the next one turns it back from wherever it is.`,
    make: (m) => {
      const { property, now, by } = m.hinge();
      const signal = m.switchSignal(`${m.object.name} open`);
      const clip = m.clip(`${m.object.name} opens`, 0.6, [[property, now, now + by]]);
      const is = (v: boolean) => ({ when: [{ signal, is: v }] });
      m.lane(
        'Hinge',
        [
          ['shut', 'rest'],
          ['opening', from(clip)],
          ['open', 'hold'],
          ['closing', from(clip, -1)],
        ],
        [
          ['shut', 'opening', is(true)],
          ['opening', 'open', done],
          ['opening', 'closing', is(false)],
          ['open', 'closing', is(false)],
          ['closing', 'shut', done],
          ['closing', 'opening', is(true)],
        ],
      );
      m.clickToggles(signal);
      m.hint(`Open or close ${m.object.name}`);
    },
    shown: {
      seconds: 3,
      acts: [
        [0.4, 'click'],
        [1.8, 'click', [-37, 48]],
      ],
    },
  },
  {
    id: 'appears',
    name: 'Appears',
    says: (n) => `${n} fades in and grows to its size as the piece starts.`,
    make: (m) => {
      const { opacity, scale } = m.object.base;
      const clip = m.clip(`${m.object.name} appears`, 0.5, [
        ['opacity', 0, opacity],
        ['scale.x', scale[0] * 0.8, scale[0]],
        ['scale.y', scale[1] * 0.8, scale[1]],
      ]);
      m.lane(
        'Coming',
        [
          ['appearing', from(clip)],
          ['there', 'rest'],
        ],
        [['appearing', 'there', done]],
      );
    },
    shown: { seconds: 1.6, acts: [] },
  },
  {
    id: 'slides',
    name: 'Slides in from outside',
    begins: true,
    says: (n) => `${n} waits outside the frame and slides in to its place as the piece starts.`,
    make: (m) => {
      const [x] = m.object.base.position;
      const clip = m.clip(`${m.object.name} slides in`, 0.8, [['position.x', m.outside(), x]], {
        easing: { bezier: [...EASING_PRESETS['ease-out']] },
      });
      m.lane(
        'Coming',
        [
          ['sliding in', from(clip)],
          ['there', 'rest'],
        ],
        [['sliding in', 'there', done]],
      );
    },
    shown: { seconds: 1.8, acts: [] },
  },
  {
    id: 'while',
    name: 'While near, on',
    says: (n) => `${n} is clear while something is near and faint else; a switch says so to others.`,
    make: (m) => {
      const collider = m.zone('near');
      const signal = m.switchSignal(`near ${m.object.name}`);
      const clip = m.clip(`${m.object.name} is faint`, 0, [['opacity', 1, m.object.base.opacity * 0.3]]);
      const is = (v: boolean) => ({ when: [{ signal, is: v }], crossfade: { seconds: 0.2 } });
      m.reaction({ event: 'near.enter', collider }, [{ do: 'set', signal, to: true }]);
      m.reaction({ event: 'near.leave', collider }, [{ do: 'set', signal, to: false }]);
      m.lane(
        'While near',
        [
          ['faint', { clip, speed: 1, from: 'start' }],
          ['clear', 'rest'],
        ],
        [
          ['faint', 'clear', is(true)],
          ['clear', 'faint', is(false)],
        ],
      );
    },
    shown: { seconds: 3, acts: [], comes: { from: [-175, 50], to: [175, 50], seconds: 3 } },
  },
  {
    id: 'steps',
    name: 'Turns by steps',
    says: (n) =>
      `Each click turns ${n} on by a quarter, and never drifts; clicks that come too soon are let be.`,
    make: (m) => {
      const { id: object } = m.object;
      const turn = { do: 'tween', object, property: 'rotation.z', by: -90, seconds: 0.3 } as const;
      m.reaction({ event: 'pointer.click' }, [{ ...turn, easing: EASE_OUT }], 0.3);
      m.hint(`Turn ${m.object.name}`);
    },
    shown: {
      seconds: 2.4,
      acts: [
        [0.3, 'click'],
        [0.9, 'click'],
        [1.5, 'click'],
      ],
    },
  },
  {
    id: 'says',
    name: 'Says in turn',
    begins: true,
    says: (n) => `Each click on ${n} makes it say the next of three sentences, and then the first again.`,
    make: (m) => {
      const { id: object } = m.object;
      const says = (text: string): Partial<State> => ({
        onEntry: [{ do: 'caption', object, text, seconds: 3 }],
      });
      const names = ['quiet', 'first', 'second', 'third'] as const;
      const [quiet, first, second, third] = names;
      m.lane(
        'Says',
        [
          [quiet, 'rest'],
          [first, 'rest', says('Good morning!')],
          [second, 'rest', says('A fine day for it.')],
          [third, 'rest', says('Until tomorrow.')],
        ],
        [
          [quiet, first, click],
          [first, second, click],
          [second, third, click],
          [third, first, click],
        ],
      );
      m.hint(`Talk to ${m.object.name}`);
    },
    shown: {
      seconds: 4,
      acts: [
        [0.2, 'click'],
        [1.4, 'click'],
        [2.6, 'click'],
      ],
    },
  },
  {
    id: 'along',
    name: 'Follows along a path',
    says: (n) =>
      `${n} goes along a path, as far as the pointer is from left to right; its points can be pulled.`,
    make: (m) => {
      const [x, y] = m.object.base.position;
      const { width } = m.frame;
      const far = width / 5;
      const clip = m.clip(
        `${m.object.name} goes along`,
        1,
        [
          ['position.x', x - far, x, x + far],
          ['position.y', y, y + far / 2, y],
        ],
        { easing: 'linear' },
      );
      const lane = m.lane('Path', [['goes along', { clip, speed: 1, from: 'start' }]], []);
      m.scrub(lane, clip, { pointer: 'x' }, { from: [-width / 3, width / 3], to: [0, 1], smooth: 0.12 });
    },
    shown: {
      seconds: 3,
      acts: Array.from({ length: 40 }, (_, k): Act => [k / 15, 'enter', [6 * k - 120, -50]]),
    },
  },
  {
    id: 'lift',
    name: 'Lifts under the pointer',
    begins: true,
    says: (n) => `${n} rises a little while the pointer is over it, and sinks back.`,
    make: (m) => {
      const y = m.object.base.position[1];
      const clip = m.clip(`${m.object.name} lifts`, 0.18, [
        ['position.y', y, y + Math.max(4, sizeOf(m.object)[1] * 0.12)],
      ]);
      m.lane(
        'Lift',
        [
          ['down', 'rest'],
          ['rising', from(clip)],
          ['sinking', from(clip, -1)],
        ],
        [
          ['down', 'rising', { on: { event: 'pointer.enter' } }],
          ['rising', 'sinking', { on: { event: 'pointer.leave' } }],
          ['sinking', 'rising', { on: { event: 'pointer.enter' } }],
          ['sinking', 'down', done],
        ],
      );
    },
    shown: {
      seconds: 2,
      acts: [
        [0.4, 'enter'],
        [1.2, 'leave'],
      ],
    },
  },
  {
    id: 'toggle',
    name: 'On and off',
    says: (n) => `A click switches ${n} on, the next one off; it is larger while it is on.`,
    make: (m) => {
      const signal = m.switchSignal(`${m.object.name} on`);
      const [x, y] = m.object.base.scale;
      const clip = m.clip(`${m.object.name} is on`, 0, [
        ['scale.x', x, x * 1.15],
        ['scale.y', y, y * 1.15],
      ]);
      const fade = { crossfade: { seconds: 0.15 } };
      m.lane(
        'Switch',
        [
          ['off', 'rest'],
          ['on', { clip, speed: 1, from: 'start' }],
        ],
        [
          ['off', 'on', { when: [{ signal, is: true }], ...fade }],
          ['on', 'off', { when: [{ signal, is: false }], ...fade }],
        ],
      );
      m.clickToggles(signal);
    },
    shown: {
      seconds: 2.4,
      acts: [
        [0.5, 'click'],
        [1.5, 'click'],
      ],
    },
  },
  {
    id: 'spin',
    name: 'Spins until clicked',
    begins: true,
    says: (n) => `${n} turns round and round; a click stops it where it is, another lets it go on.`,
    make: (m) => {
      const object = m.object.id;
      const property = 'rotation.z';
      m.lane(
        'Spin',
        [
          ['spins', 'rest', { onEntry: [{ do: 'motor', object, property, rate: 120 }] }],
          ['stands', 'rest', { onEntry: [{ do: 'stopMotor', object, property }] }],
        ],
        [
          ['spins', 'stands', click],
          ['stands', 'spins', click],
        ],
      );
      m.hint(`Stop ${m.object.name}, or let it go on`);
    },
    shown: {
      seconds: 3,
      acts: [
        [1.2, 'click'],
        [2, 'click'],
      ],
    },
  },
  {
    id: 'odds',
    name: 'Draws by odds',
    says: (n) =>
      `A click draws one of three ways for ${n} to stand, or one of its parts, by odds; none comes twice.`,
    make: (m) => {
      const z = m.object.base.rotation[2];
      const pose = (clip: string) => ({ clip, speed: 1, from: 'start' as const });
      const turned = (name: string, by: number) =>
        [name, pose(m.clip(`${m.object.name} at ${by}°`, 0, [['rotation.z', z, z + by]]))] as const;
      // Of a group one part stands out: a thing with as many numbers, faces, lots as there are parts.
      const taken = new Set(['none drawn']);
      const parts = m.parts.slice(0, MOST_DRAWN).map(({ id, name: wish, base: { scale } }) => {
        const name = uniqueName(wish, taken);
        taken.add(name);
        const grown = (['x', 'y'] as const).map(
          (axis, k) => [`scale.${axis}`, scale[k] as number, (scale[k] as number) * 1.2] as const,
        );
        return [name, pose(m.clip(`${name} is drawn`, 0, grown, { part: id }))] as const;
      });
      const [first, ...rest] =
        parts.length > 1
          ? [['none drawn', 'rest'] as const, ...parts]
          : [['as it was', 'rest'] as const, turned('a third on', 120), turned('two thirds on', 240)];
      const drawn = { ...click, mayRepeat: false, crossfade: { seconds: 0.25 } };
      const ways = parts.length > 1 ? rest : [first, ...rest];
      m.lane(
        'Draw',
        [first, ...rest],
        ways.map(([name], k) => ['*', name, { ...drawn, odds: parts.length > 1 || k !== 1 ? 1 : 2 }]),
      );
    },
    shown: {
      seconds: 3,
      acts: [
        [0.4, 'click'],
        [1.2, 'click'],
        [2, 'click'],
      ],
    },
  },
  {
    id: 'look',
    name: 'Looks at the pointer',
    begins: true,
    says: (n) => `${n} turns a little toward wherever the pointer is, softly.`,
    make: (m) => {
      const [x, y] = m.object.base.rotation;
      const about = (now: number, by: number) => ({
        ...{ from: [-160, 160] as Range, to: [now - by, now + by] as Range, smooth: 0.15 },
      });
      const { id: object } = m.object;
      m.follow('rotation.y', { pointer: 'x', object }, about(y, 30));
      m.follow('rotation.x', { pointer: 'y', object }, about(x, -30));
    },
    shown: {
      seconds: 3.2,
      acts: [
        [0.2, 'enter', [-120, 40]],
        [1, 'enter', [130, 30]],
        [1.8, 'enter', [90, -60]],
        [2.6, 'enter', [0, 0]],
      ],
    },
  },
  {
    id: 'fill',
    name: 'Fills by a number',
    begins: true,
    says: (n) => `${n} stands as high as a number says: a bar, a glass, a gauge.`,
    make: (m) => {
      m.standsOnItsFoot();
      const signal = m.number(`${m.object.name} amount`, 50, 0, 100);
      const high = m.object.base.scale[1];
      m.follow('scale.y', { signal }, { from: [0, 100], to: [0, high], smooth: 0.12 });
      m.reaction({ event: 'pointer.click' }, [{ do: 'set', signal, to: { pick: [10, 35, 60, 85, 100] } }]);
    },
    shown: {
      seconds: 3,
      acts: [
        [0.4, 'click', [0, 20]],
        [1.2, 'click', [0, 30]],
        [2.1, 'click', [0, 30]],
      ],
    },
  },
  {
    id: 'pull',
    name: 'Pulled, and springs back',
    begins: true,
    says: (n) => `${n} is taken hold of and pulled aside; let go, it springs back.`,
    make: (m) => {
      const back = { seconds: 0.7, easing: { spring: { damping: 0.35 } } } as const;
      m.dragged({ along: 'xy', limits: { x: [-60, 60], y: [-40, 40] }, moves: true, back });
      m.hint(`Pull ${m.object.name}`);
    },
    shown: {
      seconds: 3,
      acts: [
        [0.4, 'press', [0, 0]],
        [0.6, 'pull', [25, -12]],
        [0.8, 'pull', [45, -22]],
        [1.4, 'enter', [45, -22]],
      ],
    },
  },
  {
    id: 'gather',
    name: 'Gathers and counts',
    says: (n) => `What has a certain tag and comes into ${n} is counted, and is gone.`,
    make: (m) => {
      const collider = m.zone('box');
      const signal = m.number(`in ${m.object.name}`, 0, 0, 100);
      m.reaction({ event: 'zone.enter', collider }, [
        { do: 'add', signal, by: 1 },
        { do: 'hide', object: 'other' },
      ]);
    },
    shown: { seconds: 2, acts: [], comes: { from: [0, 110], to: [0, 0], seconds: 1.1 } },
  },
  {
    id: 'near',
    name: 'Wakes as something comes near',
    says: (n) => `${n} grows while something with a certain tag is near, and shrinks when it has left.`,
    make: (m) => {
      const collider = m.zone('near');
      const [x, y] = m.object.base.scale;
      const clip = m.clip(`${m.object.name} is awake`, 0, [
        ['scale.x', x, x * 1.2],
        ['scale.y', y, y * 1.2],
      ]);
      const near = (is: boolean) => ({ when: [{ fact: 'near' as const, collider, ...(is ? {} : { is }) }] });
      const fade = { crossfade: { seconds: 0.25 } };
      m.lane(
        'Near',
        [
          ['asleep', 'rest'],
          ['awake', { clip, speed: 1, from: 'start' }],
        ],
        [
          ['asleep', 'awake', { ...near(true), ...fade }],
          ['awake', 'asleep', { ...near(false), ...fade }],
        ],
      );
    },
    shown: { seconds: 3, acts: [], comes: { from: [-175, 50], to: [175, 50], seconds: 3 } },
  },
  {
    id: 'warm',
    name: 'Warms as one comes near',
    says: (n) =>
      `${n} glows the more, the nearer the visitor is; where there is none, the nearer the pointer.`,
    make: (m) => {
      const { id, kind, base } = m.object;
      const [x, y] = base.scale;
      const grows: [string, Value, Value][] = [
        ['scale.x', x, x * 1.12],
        ['scale.y', y, y * 1.12],
      ];
      // A group has no colour of its own, and a gradient is not made another one.
      if (kind !== 'group' && typeof base.fill === 'string') grows.unshift(['fill', base.fill, WARM]);
      const clip = m.clip(`${m.object.name} warms`, 1, grows);
      const lane = m.lane('Warmth', [['warms', { clip, speed: 1, from: 'start' }]], []);
      const how = { from: [220, 40], to: [0, 1], smooth: 0.15 } satisfies Partial<Follow>;
      m.scrub(lane, clip, { distance: [m.comer(), id] }, how);
    },
    shown: {
      seconds: 3,
      acts: Array.from({ length: 40 }, (_, k): Act => [k / 15, 'enter', [8 * k - 156, 45]]),
    },
  },
  {
    id: 'strikes',
    name: 'Strikes on a key',
    says: (n) =>
      `The key k drives ${n} down by its own height, and lets it up again; nothing goes through it.`,
    make: (m) => {
      const y = m.object.base.position[1];
      const down = sizeOf(m.object)[1] * m.object.base.scale[1];
      const clip = m.clip(`${m.object.name} strikes`, 0.15, [['position.y', y, y - down]], {
        easing: { bezier: [...EASING_PRESETS['ease-in']] },
      });
      m.blocks();
      m.lane(
        'Strike',
        [
          ['up', 'rest'],
          ['striking', from(clip)],
          ['lifting', from(clip, -0.4)],
        ],
        [
          ['up', 'striking', { on: { event: 'key.down', key: 'k' } }],
          ['striking', 'lifting', done],
          ['lifting', 'up', done],
        ],
      );
    },
    shown: {
      seconds: 2,
      acts: [
        [0.4, 'key'],
        [1.2, 'key'],
      ],
    },
  },
  {
    id: 'plate',
    name: 'Fills while something is on it',
    says: (n) =>
      `While something with a certain tag is on ${n} it fills; once it is full, a switch says so to others.`,
    make: (m) => {
      const { base, kind } = m.object;
      const collider = m.zone('box');
      const full = m.switchSignal(`${m.object.name} full`);
      const colored = kind !== 'group' && typeof base.fill === 'string';
      const clip = m.clip(
        `${m.object.name} fills`,
        0.8,
        [colored ? ['fill', base.fill as string, WARM] : ['scale.y', base.scale[1], base.scale[1] * 1.2]],
        { easing: 'linear' },
      );
      const on = { when: [{ fact: 'inside' as const, collider }] };
      const off = { when: [{ fact: 'inside' as const, collider, is: false as const }] };
      const set = (to: boolean) => [{ do: 'set' as const, signal: full, to }];
      m.lane(
        'Plate',
        [
          ['empty', 'rest'],
          ['filling', from(clip)],
          ['full', 'hold', { onEntry: set(true), onExit: set(false) }],
          ['emptying', from(clip, -1)],
        ],
        [
          ['empty', 'filling', on],
          ['filling', 'full', done],
          ['filling', 'emptying', off],
          ['full', 'emptying', off],
          ['emptying', 'filling', on],
          ['emptying', 'empty', done],
        ],
      );
    },
    shown: { seconds: 4, acts: [], comes: { from: [-175, 0], to: [175, 0], seconds: 4 } },
  },
  {
    id: 'looks',
    name: 'Shows its looks in turn',
    says: (n) => `Each click on ${n} puts on its next look; where it has one only, another is made.`,
    make: (m) => {
      const taken = new Set(['its own']);
      const other = m.looks().map((l) => {
        const clip = m.clip(`${m.object.name} as ${l.name}`, 0, [['look', l.id]]);
        const name = uniqueName(l.name, taken);
        taken.add(name);
        return [name, { clip, speed: 1, from: 'start' as const }] as const;
      });
      const all = [['its own', 'rest'] as const, ...other];
      m.lane(
        'Look',
        all,
        all.map(([name], k) => [name, (all[(k + 1) % all.length] as (typeof all)[number])[0], click]),
      );
      m.hint(`Change ${m.object.name}`);
    },
    shown: {
      seconds: 2.4,
      acts: [
        [0.5, 'click'],
        [1.5, 'click'],
      ],
    },
  },
  {
    id: 'burst',
    name: 'Sends sparks',
    says: (n) => `A click on ${n} sends sparks from it.`,
    make: (m) => {
      const effect = m.effect('burst', `sparks of ${m.object.name}`);
      m.reaction({ event: 'pointer.click' }, [{ do: 'burst', effect, object: m.object.id }]);
      m.hint(`Click ${m.object.name}`);
    },
    shown: { seconds: 1.6, acts: [[0.3, 'click']] },
  },
  {
    id: 'spawn',
    name: 'Sends up another at each click',
    says: (n) =>
      `Each click on ${n} spawns one of a template, which rises and fades; open it to draw another.`,
    make: (m) => {
      const template = m.template(`One of ${m.object.name}`, 18, 24, (object) => [
        { do: 'motor', object, property: 'position.y', rate: 30, acceleration: 60, limit: 140 },
        {
          ...{ do: 'tween', object, property: 'position.x', by: { pick: [-36, -18, 0, 18, 36] } },
          ...{ seconds: 1.2, easing: EASE_OUT },
        },
        { after: 0.6, do: 'tween', object, property: 'opacity', to: 0, seconds: 0.7, easing: 'linear' },
      ]);
      m.reaction({ event: 'pointer.click' }, [{ do: 'spawn', template, object: m.object.id, seconds: 1.4 }]);
      m.hint(`Click ${m.object.name}`);
    },
    shown: {
      seconds: 3,
      acts: [
        [0.2, 'click'],
        [0.6, 'click'],
        [1, 'click'],
      ],
    },
  },
  {
    id: 'ask',
    name: 'Asks, and answers',
    says: (n) => `A click on ${n} makes it ask; it says something else for each answer.`,
    make: (m) => {
      const { id: object } = m.object;
      const answers = ['Yes', 'No'].map((text) => ({ id: m.answerId(), text }));
      const say = (text: string) => ({ do: 'caption' as const, object, text, seconds: 2 });
      m.reaction({ event: 'pointer.click' }, [{ ...say('Shall we begin?'), seconds: null, answers }]);
      for (const { id: answer, text } of answers)
        m.reaction({ event: 'caption.answer', object, answer }, [
          say(text === 'Yes' ? 'Here we go!' : 'Another time.'),
        ]);
      m.hint(`Click ${m.object.name}`);
    },
    shown: {
      seconds: 4,
      acts: [
        [0.3, 'click'],
        [1.6, 'answer'],
      ],
    },
  },
];

/** Puts a recipe on an object, as one step; its lane is then in sight. */
export function putRecipe(s: Session, recipe: Recipe, id: string): void {
  const object = s.store.get('objects', id);
  if (!object || s.state.readOnly) return;
  s.edit(`${recipe.name}: ${object.name}`, (e) => recipe.make(new Maker(e, (kind) => s.newId(kind), object)));
  const machine = s.store.all('machines').find((m) => m.object === id);
  const lane = machine?.lanes.at(-1);
  // What it made is there to be changed at once.
  const reaction = s.store.all('reactions').findLast((r) => r.object === id)?.id ?? null;
  s.set({
    reaction,
    ...(machine && lane ? { machine: machine.id, lane: lane.id } : {}),
    deck: 'lanes',
    openState: null,
    openClip: null,
  });
}

/** The thing of the shown piece. */
const SHOWN = 'ob_shown';

/** A small piece with one thing that has the recipe: what is shown of it is what it makes. */
export function shownPiece(recipe: Recipe, name = 'It'): Piece {
  const piece = emptyPiece('shown', recipe.name);
  const id = SHOWN;
  const base = { ...defaultBase(), fill: '#7fa982' };
  piece.frame = { ...piece.frame, width: 320, height: 180, background: '#e9e8d4' };
  piece.objects[id] = {
    ...{ id, name, parent: null, order: 'a0', tags: [], hint: '', base },
    ...{ kind: 'rect', size: [100, 70], radius: 10 },
  } as SceneObject;
  if (recipe.shown.comes) addComing(piece, recipe.shown.comes);
  const store = new PieceStore(piece);
  const ids = new IdSource(store);
  recipe.make(
    new Maker(new Editor(store), (kind) => ids.next(kind), store.get('objects', id) as SceneObject),
  );
  return store.toPiece();
}

/** Something that a zone may notice, on its way. */
function addComing(piece: Piece, { from: [x, y], to, seconds }: NonNullable<Recipe['shown']['comes']>): void {
  const object = 'ob_comes';
  piece.tags['ta_comes'] = { id: 'ta_comes', name: 'comes' };
  const base: SceneObject['base'] = { ...defaultBase(), position: [x, y, 0], fill: '#b23529' };
  piece.objects[object] = {
    ...{ id: object, name: 'Thing', parent: null, order: 'a1', tags: ['ta_comes'], hint: '', base },
    ...{ kind: 'ellipse', size: [26, 26] },
  } as SceneObject;
  piece.reactions['re_comes'] = {
    ...{
      id: 're_comes',
      object,
      on: { event: 'piece.start' },
      when: [],
      after: 0,
      cooldown: 0,
      limit: 'always',
    },
    actions: [
      {
        ...{ do: 'tween', object, seconds, easing: 'linear' },
        properties: [
          { property: 'position.x', to: to[0] },
          { property: 'position.y', to: to[1] },
        ],
      },
    ],
  };
}

/** What is put into the run of the shown piece at each tick. */
export function shownInputs(recipe: Recipe): ReadonlyMap<number, Input[]> {
  const out = new Map<number, Input[]>();
  for (const [at, does, [x, y] = [0, 0]] of recipe.shown.acts) {
    const tick = Math.round(at * 60);
    const pointer = (n: number, p: { x: number; y: number; down: boolean } | null) =>
      out.set(tick + n, [{ at: 0, pointer: p } as Input]);
    if (does === 'answer') {
      const answer = { object: SHOWN, answer: 'Yes' };
      out.set(tick, [{ at: 0, answer }]);
    } else if (does === 'key') {
      out.set(tick, [{ at: 0, key: 'k', down: true }]);
      out.set(tick + 6, [{ at: 0, key: 'k', down: false }]);
    } else if (does === 'leave') pointer(0, null);
    else {
      pointer(0, { x: 160 + x, y: 90 + y, down: does === 'press' || does === 'pull' });
      if (does === 'click') {
        pointer(1, { x: 160 + x, y: 90 + y, down: true });
        pointer(4, { x: 160 + x, y: 90 + y, down: false });
      }
    }
  }
  return out;
}

/** Things that open, appear, switch and turn. */
import { EASING_PRESETS, uniqueName } from '@apple-tick/core/model';
import { click, done, EASE_OUT, from, type Recipe } from './recipe.ts';
import { hasLines } from './recipe-maker.ts';

export const DOORS_AND_SIGNS: readonly Recipe[] = [
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
    id: 'draws',
    name: 'Draws itself',
    fits: hasLines,
    says: (n) => `The lines of ${n} are drawn as the piece starts, as if by a pen.`,
    make: (m) => {
      const lines = m.hiddenLines();
      const clip = m.clip(
        `${m.object.name} draws itself`,
        1.2,
        lines.map(([, start]) => ['dashStart', start, 0]),
        { part: lines.map(([part]) => part) },
      );
      m.lane(
        'Drawing',
        [
          ['drawing', from(clip)],
          ['drawn', 'rest'],
        ],
        [['drawing', 'drawn', done]],
      );
    },
    shown: { seconds: 2.2, acts: [] },
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
];

/** What notices others that come near or lie on it. */
import { EASING_PRESETS, sizeOf } from '@apple-tick/core/model';
import { done, from, type Recipe } from './recipe.ts';
import { WARM } from './recipe-maker.ts';

export const NEAR_AND_ON: readonly Recipe[] = [
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
];

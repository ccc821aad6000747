/** What follows a number, or the pointer. */
import type { Follow } from '@apple-tick/core/model';
import type { Act, Range, Recipe } from './recipe.ts';
import { WARM } from './recipe-maker.ts';

type Value = number | string;

export const NUMBERS: readonly Recipe[] = [
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
];

/** Things that play: lifted, spun, sent along. */
import { sizeOf, uniqueName } from '@apple-tick/core/model';
import { type Act, click, done, EASE_OUT, from, type Recipe } from './recipe.ts';

/** Of the parts of a group at most so many are drawn among. */
const MOST_DRAWN = 12;

export const PLAYFUL: readonly Recipe[] = [
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
];

/** What the tests of templates share: a template of a small lamp, and pieces with uses of it. */

import {
  type Action,
  emptyPiece,
  type Given,
  type Piece,
  type Reaction,
  type Template,
} from '../src/model/index.ts';
import { propertyValue, type Run } from '../src/runtime/index.ts';
import { objectOf } from './box-piece.ts';

/** A reaction of an object. */
export function reaction(
  id: string,
  object: string,
  on: object,
  actions: object[],
  more: object = {},
): Reaction {
  return {
    ...{ id, object, on, when: [], cooldown: 0, limit: 'always', stop: false, after: 0 },
    ...{ actions: actions as Action[], ...more },
  } as Reaction;
}

export const signal = (id: string, type: string, initial: unknown, more: object = {}) =>
  ({ ...{ id, name: id, type, initial, shared: false, note: '' }, ...more }) as Piece['signals'][string];

/** A lamp: a box with a bulb in it that turns as fast as a number says while a switch is on, toggled by a click. */
export function lamp(more: Partial<Template> = {}): Template {
  return {
    ...{ id: 'te_lamp', name: 'Lamp', max: 3 },
    objects: {
      ob_body: objectOf('ob_body', { kind: 'rect', size: [40, 40], radius: 0 }),
      ob_bulb: objectOf('ob_bulb', { kind: 'rect', size: [10, 10], radius: 0 }, {}, { parent: 'ob_body' }),
    },
    clips: {
      cl_turn: {
        ...{ id: 'cl_turn', name: 'turns', root: 'ob_body', duration: 1, loop: 'loop', cues: [] },
        tracks: [
          {
            ...{ object: 'ob_bulb', property: 'rotation.z', mode: 'absolute' },
            keys: [
              { t: 0, value: 0, easing: 'linear' },
              { t: 1, value: 360, easing: 'linear' },
            ],
          },
        ],
      } as Piece['clips'][string],
    },
    signals: { si_on: signal('si_on', 'switch', false), si_fast: signal('si_fast', 'number', 1) },
    machines: {
      ma_lamp: {
        ...{ id: 'ma_lamp', name: 'Lamp', object: 'ob_body' },
        lanes: [
          {
            ...{
              id: 'la_lamp',
              name: 'Lamp',
              initial: 'st_off',
              unkeyed: 'base',
              amount: 1,
              blend: 'replace',
            },
            states: [
              { id: 'st_off', name: 'off', play: 'rest' },
              {
                ...{ id: 'st_on', name: 'on' },
                play: { clip: 'cl_turn', speed: { signal: 'si_fast' }, from: 'start' },
              },
            ],
            transitions: [
              ['tr_on', 'st_off', 'st_on', true],
              ['tr_off', 'st_on', 'st_off', false],
            ].map(([id, from, to, is]) => ({
              ...{ id, from, to, on: null, when: [{ signal: 'si_on', is }], notBefore: null },
              ...{ crossfade: { seconds: 0 }, odds: null, enabled: true, set: true },
              ...{ reenter: false, mayRepeat: true },
            })),
          } as Piece['machines'][string]['lanes'][number],
        ],
      },
    },
    reactions: {
      re_click: reaction('re_click', 'ob_body', { event: 'pointer.click' }, [
        { do: 'toggle', signal: 'si_on' },
      ]),
    },
    ...{ follows: {}, colliders: {}, cueSheets: {} },
    ...more,
  };
}

export function instance(
  id: string,
  x: number,
  signals: Readonly<Record<string, Given>> = {},
  more: object = {},
) {
  return objectOf(id, { kind: 'instance', template: 'te_lamp', signals }, { position: [x, 0, 0] }, more);
}

/** A piece with the lamp as a template. */
export function withLamp(template: Template = lamp()): Piece {
  const p = emptyPiece('p', 'Lamps');
  p.templates = { [template.id]: template };
  return p;
}

/** The number of an object in a run. */
const number = (run: Run, id: string) => run.program.objectIndex.get(id) as number;
/** A property of it now. */
export const read = (run: Run, id: string, property: string) =>
  propertyValue(run.state.values, number(run, id), property);
export const shown = (run: Run, id: string) => read(run, id, 'shown') === true;

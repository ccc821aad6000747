/** What a new object of each kind is like, before anybody changes it. */
import type { Subpath } from '@apple-tick/core/base';
import {
  defaultBase,
  type Fill,
  type KindOf,
  orderBetween,
  type SceneObject,
  uniqueName,
} from '@apple-tick/core/model';
import { capital, type DrawnKind, KIND_WORDS, type PieceStore, topOf } from '../model-help.ts';
import type { Session } from '../session.ts';
import { inParent } from './arrange.ts';

/** The colour that a new object of each kind has. */
export const FILLS: Record<DrawnKind, string> = {
  group: '#c9c2ae',
  rect: '#7fa982',
  ellipse: '#c14436',
  polygon: '#dfa83f',
  path: '#7b9fae',
  text: '#20302a',
  box: '#c4935a',
  cylinder: '#a98f6d',
  ball: '#c14436',
  prism: '#b5a58a',
};

/** A new object of this kind, last among the children of its parent. */
export function newObject(
  store: PieceStore,
  kind: DrawnKind,
  id: string,
  name: string,
  parent: string | null,
  fill: Fill = FILLS[kind],
): SceneObject {
  const common = {
    id,
    name,
    parent,
    order: orderBetween(lastOrder(store, parent), null),
    tags: [],
    hint: '',
    base: { ...defaultBase(), fill },
  };
  switch (kind) {
    case 'group':
      return { ...common, kind };
    case 'rect':
      return { ...common, kind, size: [120, 80], radius: 0 };
    case 'ellipse':
      return { ...common, kind, size: [80, 80] };
    case 'polygon':
      return { ...common, kind, size: [100, 100], sides: 5, star: 0.5 };
    case 'path':
      return { ...common, kind, rule: 'nonzero', subpaths: [{ closed: true, nodes: LEAF }] };
    case 'text':
      return { ...common, kind, text: 'Words', font: 'serif', size: 48, weight: 600, align: 'center' };
    case 'box':
      return { ...common, kind, size: [100, 100, 60] };
    case 'cylinder':
      return { ...common, kind, size: [80, 100, 80] };
    case 'ball':
      return { ...common, kind, size: [80, 80, 80] };
    case 'prism':
      return { ...common, kind, rule: 'nonzero', depth: 60, subpaths: [{ closed: true, nodes: GABLE }] };
  }
}

/** A leaf, drawn with two curves. */
const LEAF = [
  { at: [-60, 0] as [number, number], in: [25, -40] as [number, number], out: [25, 40] as [number, number] },
  { at: [60, 0] as [number, number], in: [-25, 40] as [number, number], out: [-25, -40] as [number, number] },
];
/** The end of a house: a wedge stands for "an outline pushed along z". */
const GABLE = (
  [
    [-60, -40],
    [60, -40],
    [60, 10],
    [0, 50],
    [-60, 10],
  ] as [number, number][]
).map((at) => ({ at }));

/** The greatest order among the children of a parent, or null. */
export function lastOrder(store: PieceStore, parent: string | null): string | null {
  let last: string | null = null;
  for (const o of store.all('objects'))
    if (o.parent === parent && (last === null || o.order > last)) last = o.order;
  return last;
}

/** Adds a path that was drawn by hand, its middle at `middle` of the piece; an open one is a line without a fill. */
export function addDrawnPath(s: Session, drawn: Subpath, middle: readonly [number, number]): void {
  const id = s.newId('objects');
  const parent = topOf(s.store);
  const beside = s.store.all('objects').filter((o) => o.parent === parent);
  const name = uniqueName(capital(KIND_WORDS.path), new Set(beside.map((o) => o.name)));
  const made = newObject(s.store, 'path', id, name, parent) as KindOf<'path'>;
  const subpaths = [drawn] as KindOf<'path'>['subpaths'];
  const position = inParent(s, parent, [middle[0], middle[1], 0]);
  const base = { ...made.base, position };
  const path: SceneObject = drawn.closed
    ? { ...made, subpaths, base }
    : {
        ...made,
        subpaths,
        base: { ...base, fill: 'none' },
        stroke: { color: '#20302a', width: 4, cap: 'round', join: 'round' },
      };
  s.edit(`Drew ${name}`, (e) => e.add('objects', path));
  s.chooseNew(id);
  s.set({ naming: id });
}

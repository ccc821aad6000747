/** Objects that were read from a file, with what is known of that file written on each (`model/brought.ts`). */
import { fnv1a32, pathBounds, type Subpath } from '../base/index.ts';
import {
  type Asset,
  type Brought,
  type BroughtFile,
  defaultBase,
  type Fill,
  OBJECT_KINDS,
  type SceneObject,
  type Stroke,
  type Vec3,
  withIds,
} from '../model/index.ts';

/** What a reader of files knows of the element that an object was made of. */
export interface ElementOf {
  /** Its id in the file, which nothing else there has. */
  readonly id?: string | undefined;
  /** Whether its name is the file's own. */
  readonly named: boolean;
  /** What of it could be no shape, so that it was painted as a picture. */
  readonly painted?: string;
}

/** Fields that are merged in ways of their own, or are never a file's. */
const APART = new Set<string>([
  'id',
  'name',
  'parent',
  'order',
  'kind',
  'base',
  'brought',
  'tags',
  'hint',
  'looks',
] satisfies (keyof SceneObject)[]);
const PLACED = new Set<string>([
  'position',
  'rotation',
  'scale',
  'pivot',
] satisfies (keyof SceneObject['base'])[]);
/** The field that stands for the kind of an object with all that only that kind has. */
export const DRAWING = 'drawing';

/**
 * The fields of an object as signs: its drawing (its kind and what that kind has), and each other by its own name, those of
 * the base with `base.` before it. `standsFor` gives what is said instead of an id of this piece. What is as in a new object
 * is not in it.
 */
export function signsOf(o: SceneObject, standsFor: ReadonlyMap<string, string>): Map<string, string> {
  // A drawing that lies elsewhere in its own px is the same drawing.
  const centred = 'subpaths' in o ? aside(o, middleOf(o.subpaths)) : o;
  const plain = withIds('objects', centred, standsFor) as unknown as Record<string, unknown>;
  const own = OBJECT_KINDS[o.kind];
  const signs = new Map<string, string>();
  signs.set(DRAWING, signOf([o.kind, ...Object.keys(own).map((k) => plain[k])]));
  for (const [k, value] of Object.entries(plain))
    if (!APART.has(k) && !Object.hasOwn(own, k) && !isNone(value)) signs.set(k, signOf(value));
  const usual = defaultBase() as Record<string, unknown>;
  for (const [k, value] of Object.entries(plain['base'] as object))
    if (!PLACED.has(k) && value !== usual[k] && !isNone(value)) signs.set(`base.${k}`, signOf(value));
  return signs;
}

/** What an optional field holds that says nothing. */
const isNone = (x: unknown) =>
  x === undefined || x === null || x === '' || (Array.isArray(x) && x.length === 0);

export const signsIn = (was: string): Map<string, string> =>
  new Map(
    was.split(' ').flatMap((pair): [string, string][] => {
      const [field, sign] = pair.split('=');
      return field && sign ? [[field, sign]] : [];
    }),
  );

/** A short text that differs for what differs by a thousandth or more, in whatever order its fields stand. */
export const signOf = (x: unknown): string => fnv1a32(canonical(x)).toString(36);

/** JSON whose fields stand in one order, whoever wrote them, with thousandths of numbers. */
function canonical(x: unknown): string {
  const text = JSON.stringify(x, (_, value: unknown) => {
    // Places are multiples of half a thousandth: none of them lies near where rounding turns over.
    if (typeof value === 'number') return Math.round(value * 1000 + 0.23);
    return value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value;
  });
  return text ?? '';
}

const middleOf = (subpaths: readonly Subpath[]): [number, number] => {
  const [x0, y0, x1, y1] = pathBounds(subpaths);
  return [(x0 + x1) / 2, (y0 + y1) / 2];
};

/** An object all of whose drawing and paint lie less far by x and y px in its own space. */
export function aside<T extends SceneObject>(o: T, [x, y]: readonly [number, number]): T {
  if (x === 0 && y === 0) return o;
  const less = (p: readonly [number, number]): [number, number] => [p[0] - x, p[1] - y];
  const paint = (of: Fill): Fill => {
    if (typeof of !== 'object') return of;
    if (of.gradient === 'linear') return { ...of, from: less(of.from), to: less(of.to) };
    if (of.matrix) {
      const [a, b, c, d, e, f] = of.matrix;
      return { ...of, matrix: [a, b, c, d, e - x, f - y] };
    }
    return { ...of, centre: less(of.centre), ...(of.focus ? { focus: less(of.focus) } : {}) };
  };
  const moved: SceneObject = { ...o, base: { ...o.base, fill: paint(o.base.fill) } };
  if (moved.stroke) moved.stroke = { ...moved.stroke, color: paint(moved.stroke.color) as Stroke['color'] };
  if ('subpaths' in moved)
    moved.subpaths = moved.subpaths.map((s) => ({
      ...s,
      nodes: s.nodes.map((n) => ({ ...n, at: less(n.at) })),
    }));
  if (moved.kind === 'polygon' && moved.points) moved.points = moved.points.map(less);
  return moved as T;
}

/** What is said of assets instead of their ids: two of the same contents are the same. */
export function assetSigns(assets: Iterable<Asset>): Map<string, string> {
  const signs = new Map<string, string>();
  for (const a of assets)
    signs.set(
      a.id,
      a.kind === 'mesh' ? `mesh ${signOf([a.points, a.triangles, a.colors, a.twoSided])}` : a.hash,
    );
  return signs;
}

/**
 * The objects of one file (parents before children, the first holding all) with what is known of it on each. `drawing`: a
 * sign that no other file brought in has; `elements`: what is known of what some were made of, by the ids of the objects.
 */
export function markBrought(
  objects: readonly SceneObject[],
  assets: readonly Asset[],
  drawing: string,
  file: Omit<BroughtFile, 'parts'>,
  elements: ReadonlyMap<string, ElementOf>,
): SceneObject[] {
  const parts = new Map<string, string>();
  for (const o of objects) {
    const id = elements.get(o.id)?.id;
    const above = o.parent === null ? undefined : parts.get(o.parent);
    parts.set(
      o.id,
      above === undefined ? '/' : id !== undefined ? `#${id}`.slice(0, 300) : below(above, o.name),
    );
  }
  const standsFor = new Map([...assetSigns(assets), ...parts]);
  const marked = objects.map((o): SceneObject => {
    const part = parts.get(o.id) as string;
    const above = o.parent === null ? undefined : parts.get(o.parent);
    const { position, rotation, scale, pivot } = o.base;
    const painted = elements.get(o.id)?.painted;
    const isAt = (v: Vec3, n: number) => v.every((x) => x === n);
    const brought: Brought = {
      drawing,
      part,
      ...(above !== undefined && part !== `${above}/${o.name}` ? { within: above } : {}),
      name: o.name,
      ...(elements.get(o.id)?.named ? { named: true } : {}),
      ...(painted ? { painted } : {}),
      kind: o.kind,
      order: o.order,
      position,
      ...(isAt(rotation, 0) ? {} : { rotation }),
      ...(isAt(scale, 1) ? {} : { scale }),
      ...(isAt(pivot, 0) ? {} : { pivot }),
      was: [...signsOf(o, standsFor)].map(([field, sign]) => `${field}=${sign}`).join(' '),
    };
    return { ...o, brought };
  });
  const [root] = marked;
  if (root?.brought)
    root.brought = {
      ...root.brought,
      file: {
        ...file,
        parts: marked.flatMap(({ brought }) => (brought ? [partLine(brought)] : [])),
      },
    };
  return marked;
}

/** A part as the file's list has it: with the sign of its drawing. */
export const partLine = (b: Brought): string => `${b.part} ${signsIn(b.was).get(DRAWING) ?? ''}`;

/** The name of a part without an id, by what it lies in; a long way is shortened to its sign. */
function below(above: string, name: string): string {
  const way = `${above}/${name}`;
  return way.length <= 300 ? way : `${signOf(above)}/${name}`.slice(0, 300);
}

/** The part that one lay in; undefined for the object that holds all. */
export function partAbove(b: Brought): string | undefined {
  return b.within ?? (b.part === '/' ? undefined : b.part.slice(0, -b.name.length - 1));
}

/** Drawings that are brought into a piece and come again as newer versions: what their tests share. */
import { expect } from 'vitest';
import { composeLocal, type IdKind, MAT, multiply, newId, transformPoint } from '../src/base/index.ts';
import {
  addTemplates,
  asInstances,
  Copies,
  importSvg,
  isUsual,
  markBrought,
  type NewerPlan,
  planNewer,
  type SvgSeen,
  takeNewer,
} from '../src/formats/index.ts';
import {
  Editor,
  emptyPiece,
  expand,
  PieceStore,
  type SceneObject,
  subpathsOf,
  treeOrder,
} from '../src/model/index.ts';

export const svg = (inner: string, size = '0 0 400 300') =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${size}">${inner}</svg>`;

/** A drawing as it comes in: with ids that nothing in the store has. */
function brought(text: string, store: PieceStore, seen?: SvgSeen) {
  const taken = new Set<string>();
  const fresh = (kind: IdKind) => {
    const id = newId(kind, (x) => taken.has(x) || store.has('objects', x), Math.random);
    taken.add(id);
    return id;
  };
  const r = importSvg(text, 'Drawing', fresh, { width: 960, height: 540 }, { seen });
  if (!r.ok) throw new Error(r.problems[0]?.message);
  const { objects, elements, seen: now, notes, uses } = r.value;
  const file = { name: 'drawing.svg', hash: '0'.repeat(64), seen: [...now], notes };
  return { objects: markBrought(objects, [], 'd1', file, elements), assets: [], uses };
}

/** A piece with the drawing; `asCopies`: with copies of its symbols as instances. */
export function storeWith(text: string, asCopies = true) {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  const { objects, assets, uses } = brought(text, store);
  const copies = new Copies(objects, assets);
  const fresh = (kind: IdKind) => newId(kind, (x) => store.has('objects', x), Math.random);
  const made = asInstances(objects, copies, asCopies ? copies.alike(uses) : [], fresh);
  const e = new Editor(store);
  addTemplates(e, made.templates);
  for (const o of made.objects) e.add('objects', o);
  e.done();
  return { store, root: objects[0]?.id as string };
}

export const planFor = (store: PieceStore, root: string, text: string) => {
  const seen = store.get('objects', root)?.brought?.file?.seen as unknown as SvgSeen;
  return planNewer(store, root, brought(text, store, seen));
};
export const take = (
  store: PieceStore,
  plan: NewerPlan,
  left = plan.rows.filter((r) => !isUsual(r)).map((r) => r.id),
) => {
  const e = new Editor(store);
  takeNewer(e, plan, new Set(left));
  return e.done();
};
export const replace = (store: PieceStore, root: string, text: string) => {
  const plan = planFor(store, root, text);
  take(store, plan);
  return plan;
};
export const named = (store: PieceStore, name: string) => {
  const o = store.all('objects').find((x) => x.name === name);
  if (!o) throw new Error(`no ${name}`);
  return o;
};
export const edit = (store: PieceStore, id: string, change: (o: SceneObject) => SceneObject) => {
  const e = new Editor(store);
  e.update('objects', id, change);
  e.done();
};
export const rows = (plan: NewerPlan) => plan.rows.map((r) => `${r.kind} ${r.name}`);

/** What is seen: in painting order, each shape's fill with its points in the piece, whatever stands in between. */
export function seenOf(store: PieceStore): string[] {
  const worlds = new Map<string, Float64Array>();
  return treeOrder(Object.values(expand(store.toPiece()).piece.objects)).flatMap((o) => {
    const { position, rotation, scale, pivot } = o.base;
    const local = new Float64Array(MAT);
    composeLocal(local, 0, Float64Array.from([...position, ...rotation, ...scale, ...pivot]), 0);
    const above = o.parent === null ? undefined : worlds.get(o.parent);
    const world = new Float64Array(MAT);
    if (above) multiply(world, 0, above, 0, local, 0);
    else world.set(local);
    worlds.set(o.id, world);
    if (o.kind === 'group') return [];
    const out = new Float64Array(3);
    const at = (x: number, y: number) => {
      transformPoint(out, 0, world, 0, x, y, 0);
      return `${Math.round((out[0] as number) * 10)},${Math.round((out[1] as number) * 10)}`;
    };
    const corners = 'size' in o && Array.isArray(o.size) ? o.size.map((n) => n / 2) : null;
    const outline = corners
      ? [at(-(corners[0] as number), -(corners[1] as number)), at(corners[0] as number, corners[1] as number)]
      : (subpathsOf(o) ?? []).flatMap((s) => s.nodes.map((n) => at(n.at[0], n.at[1])));
    return [`${o.kind} ${JSON.stringify(o.base.fill)} ${outline.join(' ')}`];
  });
}

/** Whether two pictures are the same up to a tenth of a px here and there. */
export function expectAlike(a: string[], b: string[]) {
  const numbers = (all: string[]) => all.flatMap((x) => x.match(/-?\d+(?=[, ]|$)/g)?.map(Number) ?? []);
  const plain = (all: string[]) => all.map((x) => x.replace(/-?\d+,-?\d+/g, '·'));
  expect(plain(a)).toEqual(plain(b));
  const [p, q] = [numbers(a), numbers(b)];
  expect(Math.max(0, ...p.map((n, i) => Math.abs(n - (q[i] as number))))).toBeLessThanOrEqual(2);
}

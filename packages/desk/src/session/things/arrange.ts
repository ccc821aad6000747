/** Commands on the chosen objects: copies, joining under one root, other parents, other places among siblings. */
import { composeLocal, decompose, invert, MAT, multiply } from '@apple-tick/core/base';
import { MAX_OBJECTS } from '@apple-tick/core/check';
import {
  type Base,
  compareSiblings,
  defaultBase,
  type Excerpt,
  excerpt,
  insertExcerpt,
  type OutsideReference,
  orderBetween,
  type SceneObject,
  subtreeOf,
  subtreesOf,
  uniqueName,
  type Vec3,
} from '@apple-tick/core/model';
import { worldMatrices } from '@apple-tick/core/world';
import { ancestorsOf, type PieceStore, topOf } from '../model-help.ts';
import type { Session } from '../session.ts';
import { nameOf } from '../words/words.ts';

/** The chosen objects without those that lie below another chosen one. */
/** Another name for an object; one that a sibling has gets a number. */
export function renameObject(s: Session, id: string, name: string): void {
  const o = s.store.get('objects', id);
  const wanted = name.trim();
  if (!o || wanted === '' || wanted === o.name) return;
  const siblings = s.store.all('objects').filter((x) => x.parent === o.parent && x.id !== id);
  const own = uniqueName(wanted, new Set(siblings.map((x) => x.name)));
  s.edit(`Renamed ${o.name}`, (e) => {
    e.update('objects', id, (x) => ({ ...x, name: own }));
    // A machine that is called like its object, and its lanes, go on being called so.
    const also = <T extends { name: string }>(x: T): T => (x.name === o.name ? { ...x, name: own } : x);
    for (const m of s.store.all('machines'))
      if (m.object === id) e.update('machines', m.id, (x) => also({ ...x, lanes: x.lanes.map(also) }));
  });
}

export function topmost(s: Session): string[] {
  const { chosen } = s;
  const all = new Set(chosen);
  return chosen.filter((id) => !ancestorsOf(s.store, id).some((a) => all.has(a)));
}

/** "Flap" for one object, "3 objects" for several. */
export function chosenWords(s: Session, ids: readonly string[]): string {
  return ids.length === 1 ? nameOf(s.store, ids[0]) : `${ids.length} objects`;
}

function siblingsOf(store: PieceStore, parent: string | null): SceneObject[] {
  return store
    .all('objects')
    .filter((o) => o.parent === parent)
    .sort(compareSiblings);
}

/** Copies beside the originals, a little aside. Says what the copies still point at outside themselves. */
export function duplicate(s: Session, withBehaviour: boolean): OutsideReference[] {
  const ids = topmost(s);
  const full = noRoomFor(s, subtreesOf(s.store, ids).size);
  if (full !== null) {
    s.set({ notice: full });
    return [];
  }
  let got = { roots: [] as string[], outside: [] as OutsideReference[] };
  s.edit(`Duplicated ${chosenWords(s, ids)}`, (e) => {
    got = insertExcerpt(
      e,
      excerpt(s.store, ids, withBehaviour),
      (o) => o.parent ?? topOf(s.store),
      (k) => s.newId(k),
    );
    for (const id of got.roots)
      e.update('objects', id, (o) => ({
        ...o,
        base: { ...o.base, position: [o.base.position[0] + 20, o.base.position[1] - 20, o.base.position[2]] },
      }));
  });
  s.selectMany(got.roots);
  return got.outside;
}

/** Whether a template is, or holds, the one that is worked in: then it cannot be placed there. */
export function holdsScope(store: PieceStore, template: string, scope: string | null): boolean {
  if (scope === null) return false;
  if (template === scope) return true;
  return store
    .within('objects', template)
    .some((o) => o.kind === 'instance' && holdsScope(store, o.template, scope));
}

export function copyChosen(s: Session): Excerpt {
  return excerpt(s.store, topmost(s), true);
}

/** Puts an excerpt into the chosen group, or beside the chosen object. */
export function pasteExcerpt(s: Session, x: Excerpt): OutsideReference[] {
  const own = Object.values(x.records.objects).find(
    (o) => o.kind === 'instance' && holdsScope(s.store, o.template, s.store.scope),
  );
  if (own) {
    s.set({ notice: `${own.name} cannot be placed in its own template.` });
    return [];
  }
  const chosen = s.state.object === null ? undefined : s.store.get('objects', s.state.object);
  const inCopied = chosen !== undefined && Object.hasOwn(x.records.objects, chosen.id);
  const parent = chosen?.kind === 'group' && !inCopied ? chosen.id : (chosen?.parent ?? topOf(s.store));
  let got = { roots: [] as string[], outside: [] as OutsideReference[] };
  const full = noRoomFor(s, Object.keys(x.records.objects).length);
  if (full !== null) {
    s.set({ notice: full });
    return got.outside;
  }
  s.edit('Pasted', (e) => {
    got = insertExcerpt(e, x, parent, (k) => s.newId(k));
  });
  s.selectMany(got.roots);
  return got.outside;
}

/** A sentence when the piece has no room for so many objects more; null when it has. */
export function noRoomFor(s: Session, more: number): string | null {
  const all = s.store.ids('objects').length + more;
  return all <= MAX_OBJECTS
    ? null
    : `The piece would hold ${all} objects; at most ${MAX_OBJECTS} can be worked on.`;
}

/** A new group round the chosen objects, at the middle of them; nothing moves on the screen. */
export function joinUnderRoot(s: Session): void {
  const ids = topmost(s);
  const first = s.store.get('objects', ids[0] ?? '');
  if (!first) return;
  const parent = first.parent;
  const id = s.newId('objects');
  const siblings = siblingsOf(s.store, parent);
  const at = siblings.findIndex((o) => o.id === first.id);
  const order = orderBetween(siblings[at - 1]?.order ?? null, first.order);
  const name = uniqueName('Group', new Set(siblings.map((o) => o.name)));
  const worlds = worldsOf(s);
  const middle: Vec3 = [0, 0, 0];
  for (const o of ids) {
    const w = worlds.get(o);
    for (let k = 0; k < 3; k++) middle[k] = (middle[k] as number) + (w?.[9 + k] ?? 0) / ids.length;
  }
  const local = parent === null ? middle : inSpace(worlds.get(parent), middle);
  const position = local.map((n) => Math.round(n * 10) / 10) as Vec3;
  s.step(`Joined ${chosenWords(s, ids)}`, () => {
    s.edit('Added a group', (e) =>
      e.add('objects', {
        id,
        name,
        parent,
        order,
        tags: [],
        hint: '',
        kind: 'group',
        base: { ...defaultBase(), position },
      }),
    );
    moveInTree(s, ids, id, null);
  });
  s.select({ kind: 'object', id });
}

/** A place in the piece as what lies in `parent` has it. */
export function inParent(s: Session, parent: string | null, p: Vec3): Vec3 {
  return parent === null ? p : inSpace(worldsOf(s).get(parent), p);
}

function inSpace(world: Float64Array | undefined, p: Vec3): Vec3 {
  const inv = new Float64Array(MAT);
  if (!world || !invert(inv, 0, world, 0)) return p;
  const at = (k: number) =>
    (inv[k] as number) * p[0] +
    (inv[3 + k] as number) * p[1] +
    (inv[6 + k] as number) * p[2] +
    (inv[9 + k] as number);
  return [at(0), at(1), at(2)];
}

/** World matrices of all objects as they are in their base, by id. */
export function worldsOf(s: Session): Map<string, Float64Array> {
  const { program } = s;
  const world = new Float64Array(program.objects.length * MAT);
  worldMatrices(world, program.geometry.parent, program.base);
  return new Map(program.objects.map((o, i) => [o.id, world.subarray(i * MAT, (i + 1) * MAT)]));
}

/**
 * Puts objects under another parent, before the sibling `before` (null: last), in their present order. They keep their
 * place on the screen, but for a shear, which one object cannot hold. False when a parent would come under itself.
 */
export function moveInTree(
  s: Session,
  ids: readonly string[],
  under: string | null,
  before: string | null,
): boolean {
  const top = topOf(s.store);
  const parent = under ?? (ids.includes(top ?? '') ? null : top);
  // A template has one topmost object, and an instance holds what its template does.
  if (top !== null && ids.includes(top) && parent === null) return false;
  if (parent !== null && s.store.get('objects', parent)?.kind === 'instance') return false;
  for (const id of ids) if (parent !== null && subtreeOf(s.store, id).has(parent)) return false;
  const worlds = worldsOf(s);
  const space = parent === null ? undefined : worlds.get(parent);
  s.edit(`Moved ${chosenWords(s, ids)} in the tree`, (e) => {
    const rest = siblingsOf(s.store, parent).filter((o) => !ids.includes(o.id));
    const at = before === null ? rest.length : rest.findIndex((o) => o.id === before);
    let low = rest[at - 1]?.order ?? null;
    const high = rest[at]?.order ?? null;
    const names = new Set(rest.map((o) => o.name));
    for (const id of ids) {
      const o = s.store.get('objects', id);
      if (!o) continue;
      const order = orderBetween(low, high);
      low = order;
      const name = uniqueName(o.name, names);
      names.add(name);
      const world = worlds.get(id);
      const base = o.parent === parent || !world ? o.base : baseIn(o.base, world, space);
      e.update('objects', id, (x) => ({ ...x, parent, order, name, base }));
    }
  });
  return true;
}

/** The base that gives `world` within `space` (none: the piece's own), with the same pivot. */
export function baseIn(base: Base, world: Float64Array, space: Float64Array | undefined): Base {
  const m = new Float64Array(MAT);
  const inv = new Float64Array(MAT);
  if (space && invert(inv, 0, space, 0)) multiply(m, 0, inv, 0, world, 0);
  else m.set(world);
  const round = (n: number) => Math.round(n * 1e6) / 1e6 + 0;
  const parts = decompose(m, 0);
  const rotation = parts.rotation.map(round) as Vec3;
  const scale = parts.scale.map(round) as Vec3;
  const next: Base = { ...base, rotation, scale, position: [0, 0, 0] };
  const row = Float64Array.from([...next.position, ...next.rotation, ...next.scale, ...next.pivot]);
  const now = new Float64Array(MAT);
  composeLocal(now, 0, row, 0);
  const position = [0, 1, 2].map((k) => round((m[9 + k] as number) - (now[9 + k] as number))) as Vec3;
  return { ...next, position };
}

/** One place up or down among the siblings, into the sibling above, or out of the parent. */
export function stepInTree(s: Session, way: 'up' | 'down' | 'in' | 'out'): void {
  const id = s.state.object;
  const o = id === null ? undefined : s.store.get('objects', id);
  if (!o) return;
  const siblings = siblingsOf(s.store, o.parent);
  const at = siblings.findIndex((x) => x.id === o.id);
  if (way === 'up' && at > 0) moveInTree(s, [o.id], o.parent, siblings[at - 1]?.id ?? null);
  else if (way === 'down' && at < siblings.length - 1)
    moveInTree(s, [o.id], o.parent, siblings[at + 2]?.id ?? null);
  else if (way === 'in' && at > 0) moveInTree(s, [o.id], siblings[at - 1]?.id ?? null, null);
  else if (way === 'out' && o.parent !== null) {
    const parent = s.store.get('objects', o.parent);
    const aunts = siblingsOf(s.store, parent?.parent ?? null);
    const next = aunts[aunts.findIndex((x) => x.id === o.parent) + 1];
    moveInTree(s, [o.id], parent?.parent ?? null, next?.id ?? null);
  }
}

/** Where an object is and how it is turned and scaled, copied from one and put on others. */
type Placement = Pick<Base, 'position' | 'rotation' | 'scale' | 'pivot'>;
let placement: Placement | null = null;

export function copyPlacement(s: Session): void {
  const o = s.state.object === null ? undefined : s.store.get('objects', s.state.object);
  if (!o) return;
  const { position, rotation, scale, pivot } = o.base;
  placement = { position, rotation, scale, pivot };
}

export function hasPlacement(): boolean {
  return placement !== null;
}

export function pastePlacement(s: Session): void {
  const put = placement;
  if (!put) return;
  const ids = s.chosen;
  s.edit(`Placed ${chosenWords(s, ids)}`, (e) => {
    for (const id of ids) e.update('objects', id, (o) => ({ ...o, base: { ...o.base, ...put } }));
  });
}

/**
 * Which part of a newer file is which part of an older one: by id, then by name, then by what is drawn and where it lies,
 * then by likeness. Ids that programs number themselves (path12) count for less than what is drawn: a newly drawn part
 * moves all of them on.
 */
import { fnv1a32, pathBounds, type Subpath } from '../base/index.ts';
import type { Brought, SceneObject, Vec3 } from '../model/index.ts';
import { DRAWING, partAbove, signsIn } from './brought.ts';

/** An object that knows what it was in its file. */
export type Part = SceneObject & { readonly brought: Brought };

export const isPart = (o: SceneObject): o is Part => o.brought !== undefined;

/** More siblings than these are not compared with one another one by one. */
const MOST_COMPARED = 400;
/** Ids that programs number themselves. */
export const NUMBERED =
  /^#(svg|path|rect|circle|ellipse|polygon|polyline|line|g|group|use|text|tspan|image|layer|shape|object|vector|mask|clip-?path|clip|frame|x)?[-_ ]*\d[\d\w-]*$/i;

/** Parts of one file by what they lie in. The first holds all. */
class Tree {
  readonly root: Part;
  readonly byPart = new Map<string, Part>();
  readonly children: ReadonlyMap<string, Part[]>;
  /** A sign of what is drawn in a part and below it, by part. */
  readonly deep = new Map<string, string>();

  constructor(parts: readonly Part[]) {
    this.root = parts[0] as Part;
    for (const p of parts) this.byPart.set(p.brought.part, p);
    this.children = listed(parts.slice(1), (p) => {
      const above = partAbove(p.brought);
      // What it lay in may be gone by now.
      return above !== undefined && this.byPart.has(above) ? above : this.root.brought.part;
    });
    for (const list of this.children.values())
      list.sort((a, b) =>
        a.brought.order < b.brought.order ? -1 : a.brought.order > b.brought.order ? 1 : 0,
      );
    for (const p of this.topDown().toReversed()) {
      const below = this.below(p).map((c) => this.deep.get(c.brought.part));
      const own = signsIn(p.brought.was).get(DRAWING) ?? '';
      this.deep.set(
        p.brought.part,
        below.length === 0 ? own : fnv1a32(`${own} ${below.join(' ')}`).toString(36),
      );
    }
  }

  below(p: Part): readonly Part[] {
    return this.children.get(p.brought.part) ?? [];
  }

  topDown(): Part[] {
    const out = [this.root];
    for (let i = 0; i < out.length; i++) out.push(...this.below(out[i] as Part));
    return out;
  }
}

/**
 * For each part of `newer` that is in `older` too, which one; each is used once. Both have what holds all first. `known`: pairs
 * that are found already.
 */
export function pairParts(
  older: readonly Part[],
  newer: readonly Part[],
  known: readonly (readonly [now: Part, old: Part])[] = [],
): Map<Part, Part> {
  return older.length === 0 || newer.length === 0 ? new Map() : new Pairing(older, newer).run(known);
}

class Pairing {
  private readonly old: Tree;
  private readonly now: Tree;
  private readonly pairs = new Map<Part, Part>();
  private readonly taken = new Set<Part>();

  constructor(older: readonly Part[], newer: readonly Part[]) {
    this.old = new Tree(older);
    this.now = new Tree(newer);
  }

  run(found: readonly (readonly [now: Part, old: Part])[]): Map<Part, Part> {
    this.pair(this.now.root, this.old.root);
    for (const [p, q] of found) this.pair(p, q);
    const all = this.now.topDown();
    const byId = (wanted: (id: string) => boolean) => {
      for (const p of all)
        if (p.brought.part.startsWith('#') && wanted(p.brought.part))
          this.tryPair(p, this.old.byPart.get(p.brought.part));
    };
    byId((id) => !NUMBERED.test(id));
    this.byOnly((p) => (p.brought.named && !NUMBERED.test(`#${p.brought.name}`) ? p.brought.name : null));
    // Each round goes down a level further below what it has found.
    for (let known = -1; known !== this.pairs.size; ) {
      known = this.pairs.size;
      this.amongSiblings((p, tree) => tree.deep.get(p.brought.part) ?? '');
      if (known === this.pairs.size) byId(() => true);
      if (known === this.pairs.size) this.byLikeness();
      if (known === this.pairs.size) this.amongSiblings((p) => `${p.brought.kind} ${p.brought.part}`);
    }
    // What was put somewhere else without having been changed.
    this.byOnly((p, tree) => tree.deep.get(p.brought.part) ?? null);
    return this.pairs;
  }

  private pair(p: Part, q: Part): void {
    this.pairs.set(p, q);
    this.taken.add(q);
  }

  private tryPair(p: Part, q: Part | undefined): void {
    if (!q || this.pairs.has(p) || this.taken.has(q)) return;
    if ((p.brought.kind === 'group') === (q.brought.kind === 'group')) this.pair(p, q);
  }

  /** Parts that only one of each file gives this sign. */
  private byOnly(signOf: (p: Part, tree: Tree) => string | null): void {
    const found = [this.now, this.old].map((tree) => {
      const bySign = new Map<string, Part | null>();
      for (const p of tree.topDown()) {
        const sign = this.pairs.has(p) || this.taken.has(p) ? null : signOf(p, tree);
        if (sign !== null) bySign.set(sign, bySign.has(sign) ? null : p);
      }
      return bySign;
    }) as [Map<string, Part | null>, Map<string, Part | null>];
    for (const [sign, p] of found[0]) if (p) this.tryPair(p, found[1].get(sign) ?? undefined);
  }

  /** What is left below each pair, and how far what was found below it lies from where it was: its middle may have moved. */
  private *leftBelow(): Iterable<[now: Part[], old: Part[], moved: Vec3]> {
    for (const [p, q] of [...this.pairs]) {
      const now = this.now.below(p).filter((c) => !this.pairs.has(c));
      const old = this.old.below(q).filter((c) => !this.taken.has(c));
      if (now.length === 0 || old.length === 0) continue;
      const moves = this.now.below(p).flatMap((c): Vec3[] => {
        const was = this.pairs.get(c);
        return was ? [minus(c.brought.position, was.brought.position)] : [];
      });
      yield [now, old, medianOf(moves)];
    }
  }

  /** Siblings that have the same of this, each with the one that lies nearest. */
  private amongSiblings(sameOf: (p: Part, tree: Tree) => string): void {
    for (const [now, old, moved] of this.leftBelow()) {
      const alike = listed(old, (q) => sameOf(q, this.old));
      for (const p of now) {
        let best: Part | undefined;
        for (const q of alike.get(sameOf(p, this.now))?.slice(0, MOST_COMPARED) ?? [])
          if (!this.taken.has(q) && (best === undefined || farApart(p, q, moved) < farApart(p, best, moved)))
            best = q;
        this.tryPair(p, best);
      }
    }
  }

  /** Siblings of one kind, the likest first, as far as they lie within one another's size. */
  private byLikeness(): void {
    for (const [now, old, moved] of this.leftBelow()) {
      const all: [cost: number, p: Part, q: Part][] = [];
      for (const p of now.slice(0, MOST_COMPARED))
        for (const q of old.slice(0, MOST_COMPARED)) {
          const isOne = p.brought.kind === q.brought.kind && !areNamedApart(p, q);
          const cost = isOne ? unlike(p, q, moved) : Number.POSITIVE_INFINITY;
          if (cost < 1) all.push([cost, p, q]);
        }
      all.sort((a, b) => a[0] - b[0]);
      for (const [, p, q] of all) this.tryPair(p, q);
    }
  }
}

/** Whether somebody gave both a name, each its own. */
function areNamedApart({ brought: a }: Part, { brought: b }: Part): boolean {
  const isGiven = (x: Brought) => x.named === true && !NUMBERED.test(`#${x.name}`);
  return isGiven(a) && isGiven(b) && a.name !== b.name;
}

/** Things by what they have in common, in their order. */
export function listed<K, T>(all: readonly T[], keyOf: (x: T) => K): Map<K, T[]> {
  const lists = new Map<K, T[]>();
  for (const x of all) {
    const key = keyOf(x);
    const list = lists.get(key);
    if (list) list.push(x);
    else lists.set(key, [x]);
  }
  return lists;
}

const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** The median of each coordinate; none of nothing. */
export function medianOf(all: readonly Vec3[]): Vec3 {
  return [0, 1, 2].map((i) => {
    const sorted = all.map((v) => v[i] as number).sort((a, b) => a - b);
    return sorted[sorted.length >> 1] ?? 0;
  }) as Vec3;
}

/** Px between the places that two had in their files, of which all there moved by so much. */
function farApart(p: Part, q: Part, moved: Vec3): number {
  return Math.hypot(...minus(minus(p.brought.position, q.brought.position), moved));
}

/** 0 for two that are painted alike in one place, 1 and more for two that have nothing in common. */
function unlike(p: Part, q: Part, moved: Vec3): number {
  const size = Math.max(extent(p), extent(q), 1);
  const [a, b] = [signsIn(p.brought.was), signsIn(q.brought.was)];
  const isPaintedAlike = a.get('base.fill') === b.get('base.fill') && a.get('stroke') === b.get('stroke');
  return farApart(p, q, moved) / size + (isPaintedAlike ? 0 : 0.3);
}

/** The longer side of what a part itself draws, px; of a group what is below it is not looked at. */
export function extent(o: SceneObject): number {
  if ('subpaths' in o) {
    const [x0, y0, x1, y1] = pathBounds(o.subpaths as Subpath[]);
    return Math.max(x1 - x0, y1 - y0);
  }
  if (o.kind === 'group') return 100;
  return 'size' in o && Array.isArray(o.size) ? Math.max(...o.size) : 20;
}

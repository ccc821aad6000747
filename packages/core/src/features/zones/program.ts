/** Zones and what they notice, compiled to numbers. */
import type { Blocker, Collider, SceneObject } from '../../model/index.ts';
import type { Compiled, Compiling, CompilingPart } from '../../run/compiling.ts';
import { type ZoneShape, zoneShape } from '../../world/index.ts';

type ZoneOrNear = Exclude<Collider, Blocker>;

/** What notices things. */
export interface ColliderProgram {
  readonly collider: ZoneOrNear;
  /** Its number among all colliders, in document order. */
  readonly order: number;
  readonly shape: ZoneShape;
  /** Index into the values of its switch, where something writes that; −1: it is as its record says. */
  readonly switchAt: number;
  /** Its owner: the number of the object, and its place among the nodes that are tracked. */
  readonly object: number;
  readonly owner: number;
  /** By node its rank among the things with its tags, −1 for what it does not notice. Its owner may be among them. */
  readonly rank: Int32Array;
  /** Where its pairs with those begin in the state's row of pairs, and how many there are. */
  readonly firstPair: number;
  readonly count: number;
}

export interface ZonesProgram {
  readonly colliders: readonly ColliderProgram[];
  readonly index: ReadonlyMap<string, number>;
  readonly pairs: number;
  /** All that some zone may notice, by number, rising. */
  readonly things: readonly number[];
}

/** A zone with the number of its owner. */
interface Owned {
  readonly collider: ZoneOrNear;
  readonly order: number;
  readonly object: number;
}

/** The zones of a piece in the order of the document, those that no object has left out. */
function ownedZones({ piece, objects }: Compiling): Owned[] {
  const colliders = Object.values(piece.colliders);
  if (colliders.length === 0) return [];
  const owners = new Map<string, number>();
  objects.forEach((o, i) => {
    for (const id of o.colliders ?? []) if (!owners.has(id)) owners.set(id, i);
  });
  return colliders.flatMap((collider, order) => {
    const object = owners.get(collider.id);
    return object === undefined || collider.role === 'blocker' ? [] : [{ collider, order, object }];
  });
}

/** What tells which things a zone notices. */
const keyOf = ({ tags, visitor }: ZoneOrNear) => `${[...tags].sort().join()}${visitor ? ' visitor' : ''}`;

export class CompilingZones implements CompilingPart {
  readonly #owned: readonly Owned[];
  readonly #index: ReadonlyMap<string, number>;
  readonly #tags: ReadonlySet<string>;
  readonly #thingsBy = new Map<string, readonly number[]>();

  constructor(c: Compiling) {
    this.#owned = ownedZones(c);
    this.#index = new Map(this.#owned.map((z, k) => [z.collider.id, k]));
    this.#tags = new Set(this.#owned.flatMap((z) => z.collider.tags));
    for (const { collider, object } of this.#owned) {
      c.parts.tracking?.track(object);
      const key = keyOf(collider);
      if (this.#thingsBy.has(key)) continue;
      const things = c.objects.flatMap((o, i) =>
        o.tags.some((t) => collider.tags.includes(t)) || (i === c.visitor && collider.visitor) ? [i] : [],
      );
      this.#thingsBy.set(key, things);
      for (const i of things) c.parts.tracking?.track(i);
    }
  }

  /** The number of a zone; −1 for none. */
  number(collider: string): number {
    return this.#index.get(collider) ?? -1;
  }

  mayBeOther(object: SceneObject): boolean {
    return object.tags.some((t) => this.#tags.has(t));
  }

  part(c: Compiled): ZonesProgram {
    const { nodes, nodeOf } = c.parts.tracking?.tracked ?? { nodes: [], nodeOf: new Map<number, number>() };
    const ranks = new Map(
      [...this.#thingsBy].map(([key, things]) => {
        const rank = new Int32Array(nodes.length).fill(-1);
        things.forEach((i, n) => {
          rank[nodeOf.get(i) as number] = n;
        });
        return [key, { rank, count: things.length }];
      }),
    );
    let pairs = 0;
    const colliders = this.#owned.map(({ collider, order, object }): ColliderProgram => {
      const { rank, count } = ranks.get(keyOf(collider)) as { rank: Int32Array; count: number };
      const firstPair = pairs;
      pairs += count;
      const [owner, switchAt] = [nodeOf.get(object) as number, c.switchOf(collider.id)];
      return { collider, order, shape: zoneShape(collider), switchAt, object, owner, rank, firstPair, count };
    });
    const things = [...new Set([...this.#thingsBy.values()].flat())].sort((a, b) => a - b);
    return { colliders, index: this.#index, pairs, things };
  }
}

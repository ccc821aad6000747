/** How far things lie from the one who looks, where that is easily missed: in front of a solid, in a zone or beside it. */
import { invert, MAT, transformPoint } from '@apple-tick/core/base';
import { type Collider, isSolid, type Vec3 } from '@apple-tick/core/model';
import { isInZone, Stretches, stretchesIn, zoneShape } from '@apple-tick/core/world';
import { zoneOwner } from '../../features/zones/edit.ts';
import type { Session } from '../session.ts';
import { onScreen } from '../view/view-math.ts';
import { worldsOf } from './arrange.ts';
import { emptyBox, widen } from './box.ts';

const point = new Float64Array(3);

/** The greatest z, px in the piece, of the solids that stand behind a rectangle as it is seen from the front; null: none do. */
export function frontOfSolids(
  s: Session,
  rect: { x0: number; y0: number; x1: number; y1: number },
): number | null {
  const worlds = worldsOf(s);
  let front: number | null = null;
  for (const o of s.store.all('objects')) {
    const world = worlds.get(o.id);
    if (!isSolid(o) || !world) continue;
    const box = emptyBox();
    widen(box, o, world);
    const { least, most } = box;
    if (most[0] <= rect.x0 || least[0] >= rect.x1 || most[1] <= rect.y0 || least[1] >= rect.y1) continue;
    front = Math.max(front ?? -Infinity, most[2]);
  }
  return front;
}

/** Where the middles of the zones lie that notice the visitor, px in the piece, in the order of the document. */
export function zonesOfVisitor(s: Session): Vec3[] {
  const worlds = worldsOf(s);
  return s.store.all('colliders').flatMap((c): Vec3[] => {
    const owner = c.role !== 'blocker' && c.visitor ? zoneOwner(s.store, c.id) : undefined;
    const world = worlds.get(owner?.id ?? '');
    if (!owner || !world) return [];
    transformPoint(point, 0, world, 0, ...((c.role === 'near' ? owner.base.pivot : c.at) as Vec3));
    return [[...point] as unknown as Vec3];
  });
}

/** A thing that a zone would notice lies in it as it is seen, but so far in front of it (behind it: below 0), px. */
export interface Missed {
  readonly object: string;
  readonly by: number;
}

/** How far a line of sight is followed to either side, px. */
const SIGHT = 1e5;

export function missedInDepth(s: Session, zone: Collider): Missed[] {
  const owner = zoneOwner(s.store, zone.id);
  if (!owner || zone.role === 'near') return [];
  const worlds = worldsOf(s);
  const inverse = new Float64Array(MAT);
  if (!invert(inverse, 0, worlds.get(owner.id) as Float64Array, 0)) return [];
  const { azimuth, elevation } = s.state;
  const screen = { x: 0, y: 0, scale: 1, azimuth, elevation };
  // Toward the viewer, in the piece.
  const toward = [0, 1, 2].map(
    (k) => onScreen(screen, [0, 1, 2].map((n) => (n === k ? 1 : 0)) as Vec3)[2],
  ) as Vec3;
  const shape = zoneShape(zone);
  if (shape.is === 'near') return [];
  const visitor = zone.visitor ? s.store.head.visitor?.object : undefined;
  return s.store.all('objects').flatMap((o): Missed[] => {
    const notices = o.id === visitor || o.tags.some((t) => zone.tags.includes(t));
    const world = worlds.get(o.id);
    if (!notices || o.id === owner.id || !world || o.overlay) return [];
    const at = new Float64Array(3);
    transformPoint(at, 0, world, 0, ...(o.base.pivot as Vec3));
    const along = (far: number): Float64Array => {
      const out = new Float64Array(3);
      const p = [0, 1, 2].map((k) => (at[k] as number) + far * (toward[k] as number)) as Vec3;
      transformPoint(out, 0, inverse, 0, ...p);
      return out;
    };
    if (isInZone(shape, along(0))) return [];
    const found = new Stretches();
    stretchesIn(shape, along(-SIGHT), along(SIGHT), found);
    if (found.count === 0) return [];
    const ends = [found.at[0] as number, found.at[2 * found.count - 1] as number].map(
      (u) => (2 * u - 1) * SIGHT,
    );
    // Its nearest end: what lies toward the viewer from there is in front of the zone.
    const [a, b] = ends as [number, number];
    const by = Math.abs(a) < Math.abs(b) ? -a : -b;
    return [{ object: o.id, by: Math.round(by) }];
  });
}

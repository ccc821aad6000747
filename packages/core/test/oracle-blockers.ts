/**
 * Blockers in the plain interpreter of `oracle.ts`: boxes and balls of objects at the root, which turn about their own
 * middles, before a visitor that walks along x. What stops it is then a stretch of its line, where that crosses what
 * all corners span.
 */
import type { Collider, Piece } from '../src/model/index.ts';
import { convexHull } from '../src/world/index.ts';
import { basePose, type Found, type Place, type Pose } from './oracle-zones.ts';

type Point = readonly [x: number, y: number];
type Blocker = Collider & { role: 'blocker' };
/** What stops the visitor's pivot, as it stands now: where, along its line, and the corners round it. */
interface Bar {
  readonly id: string;
  readonly owner: string;
  readonly points: readonly Point[];
  readonly from: number;
  readonly to: number;
}

/** What stands deeper in a blocker than this is not stopped by it; deeper than that is crushed, px. */
const DEEP = 1e-6;
const CRUSHED = 0.01;
const TOUCH = 0.1;

export class BlockersNow {
  private readonly piece: Piece;
  /** The last pose, and what would have stopped the visitor in it. */
  private last: { readonly pose: Pose; readonly bars: readonly Bar[] } | null = null;
  private readonly touching = new Set<string>();
  private crushing = new Set<string>();
  private newlyCrushed: string[] = [];

  constructor(piece: Piece) {
    this.piece = piece;
  }

  get any(): boolean {
    return this.all().length > 0;
  }
  private all(): { blocker: Blocker; owner: string; index: number }[] {
    return Object.values(this.piece.colliders).flatMap((blocker, index) => {
      const owner = Object.values(this.piece.objects).find((o) => o.colliders?.includes(blocker.id));
      return blocker.role === 'blocker' && owner ? [{ blocker, owner: owner.id, index }] : [];
    });
  }
  private get visitor(): string {
    return this.piece.visitor?.object ?? '';
  }

  /** What would stop the visitor in a pose, in document order. */
  private bars(pose: Pose): Bar[] {
    const on = this.all().filter(({ blocker, owner }) => blocker.on && placeIn(pose, owner).shown);
    const pivot = placeIn(pose, this.visitor).x;
    const own = on
      .filter(({ owner }) => owner === this.visitor)
      .flatMap(({ blocker }) => cornersOf(blocker, pose, this.visitor))
      .map(([x, y]): Point => [x - pivot, y]);
    const body: readonly Point[] = own.length > 0 ? own : [[0, 0]];
    return on.flatMap(({ blocker, owner }) => {
      if (owner === this.visitor || !blocker.visitor) return [];
      const points = wrapped(
        cornersOf(blocker, pose, owner).flatMap(([x, y]) => body.map(([u, v]): Point => [x - u, y - v])),
      );
      return [{ id: blocker.id, owner, points, ...stretch(points) }];
    });
  }

  /** Where the visitor walks to that would go `way` along its line. */
  walk(pose: Pose, way: number): number {
    return goes(this.bars(pose), placeIn(pose, this.visitor).x, way);
  }

  /** Where the visitor is pushed to, after all values of a tick. */
  push(pose: Pose, jumped: (object: string) => boolean): number {
    const bars = this.bars(pose);
    const before = this.last;
    const here = placeIn(pose, this.visitor).x;
    let x = here;
    for (const bar of bars) {
      let to = x;
      if (before?.bars.some((b) => b.id === bar.id) && !jumped(this.visitor) && !jumped(bar.owner)) {
        // Seen from the blocker, which stands where it stands now: these turn about their middles, so those go as they do.
        const came = placeIn(pose, bar.owner).x - placeIn(before.pose, bar.owner).x;
        const start = placeIn(before.pose, this.visitor).x + came;
        to = goes([bar], start, x - start);
      }
      // Equally far from both ends it goes over the edge that is listed first, on the right.
      if (depthIn(bar.points, to) > DEEP) to = to - bar.from < bar.to - to - 1e-9 ? bar.from : bar.to;
      const others = bars.filter((o) => o !== bar);
      x = goes(others, x, to - x);
    }
    const stuck = bars.filter((bar) => depthIn(bar.points, x) > CRUSHED).map((b) => b.id);
    this.newlyCrushed = stuck.filter((id) => !this.crushing.has(id));
    this.crushing = new Set(stuck);
    // What only rounding moves stays with what gives its values.
    return stuck.length > 0 || Math.abs(x - here) < 1e-9 ? here : x;
  }

  /** A pose is published. */
  posed(pose: Pose): void {
    this.last = { pose, bars: this.bars(pose) };
  }

  /** What has been crushed, and what has come upon and gone off, in the last pose. */
  notice(tick: number): Found[] {
    if (!this.piece.visitor || !this.any) return [];
    if (!this.last) this.posed(basePose(this.piece));
    const { pose, bars } = this.last as NonNullable<typeof this.last>;
    const at = Math.max(0, tick - 1) / 60;
    const out: Found[] = [];
    const { x, shown } = placeIn(pose, this.visitor);
    const near = new Set(
      (shown ? bars : []).filter((bar) => distanceFrom(bar.points, x) <= TOUCH).map((bar) => bar.id),
    );
    for (const { blocker, owner, index } of this.all()) {
      const add = (event: string) =>
        out.push({
          event,
          collider: blocker.id,
          object: owner,
          other: this.visitor,
          at,
          order: index * 1000,
        });
      if (this.newlyCrushed.includes(blocker.id)) add('touch.crush');
      if (near.has(blocker.id) === this.touching.has(blocker.id)) continue;
      add(near.has(blocker.id) ? 'touch.begin' : 'touch.end');
      if (!this.touching.delete(blocker.id)) this.touching.add(blocker.id);
    }
    this.newlyCrushed = [];
    return out;
  }
}

function placeIn(pose: Pose, object: string): Place {
  const place = pose.get(object);
  if (!place) throw new Error('no such object');
  return place;
}

/** The corners of a blocker in the world; what is round has 32. */
function cornersOf(b: Blocker, pose: Pose, owner: string): Point[] {
  const { x, turn } = placeIn(pose, owner);
  const angle = (turn * Math.PI) / 180;
  const [w, h] = (b.size ?? [1, 1]).map((n) => Math.max(n, 1) / 2) as [number, number];
  const flat: Point[] =
    b.shape === 'box'
      ? [
          [-w, -h],
          [w, -h],
          [w, h],
          [-w, h],
        ]
      : Array.from({ length: 32 }, (_, n) => {
          const round = (n * Math.PI) / 16;
          return [(b.radius ?? 1) * Math.cos(round), (b.radius ?? 1) * Math.sin(round)];
        });
  return flat.map(([u, v]) => [
    x + u * Math.cos(angle) - v * Math.sin(angle),
    u * Math.sin(angle) + v * Math.cos(angle),
  ]);
}

/** Between where and where the line y = 0 lies within what is spanned by points round it. */
function stretch(points: readonly Point[]): { from: number; to: number } {
  let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const [x, y] of points)
    for (const [u, v] of points) {
      if (y > 0 || v < 0) continue;
      const at = v === y ? x : x + ((u - x) * (0 - y)) / (v - y);
      from = Math.min(from, at);
      to = Math.max(to, at);
    }
  return { from, to };
}

/** The corners of what the points span; hulls have a test of their own. */
function wrapped(points: readonly Point[]): Point[] {
  const hull = convexHull(points);
  return Array.from({ length: hull.length / 2 }, (_, i) => [
    hull[2 * i] as number,
    hull[2 * i + 1] as number,
  ]);
}

/** Each side of what is wrapped: how far inside it (x, 0) is, and its ends. */
function sides(points: readonly Point[], x: number): { inside: number; ends: [Point, Point] }[] {
  return points.map((p, i) => {
    const q = points[(i + 1) % points.length] as Point;
    const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
    return { inside: ((0 - p[1]) * dx - (x - p[0]) * dy) / Math.hypot(dx, dy), ends: [p, q] };
  });
}
/** How deep (x, 0) is in what the points span: how far from its nearest side; negative outside. */
function depthIn(points: readonly Point[], x: number): number {
  let least = Number.POSITIVE_INFINITY;
  for (const { inside } of sides(points, x)) least = Math.min(least, inside);
  return least;
}
/** How far (x, 0) is from what the points span; 0 within. */
function distanceFrom(points: readonly Point[], x: number): number {
  if (depthIn(points, x) >= 0) return 0;
  let least = Number.POSITIVE_INFINITY;
  for (const { ends } of sides(points, x)) {
    const [[px, py], [qx, qy]] = ends;
    const length = (qx - px) ** 2 + (qy - py) ** 2;
    const part = Math.max(0, Math.min(1, ((x - px) * (qx - px) - py * (qy - py)) / length));
    least = Math.min(least, Math.hypot(px + part * (qx - px) - x, py + part * (qy - py)));
  }
  return least;
}

/** Where what stands at x comes to that would go `way`: up to the first stretch that it meets from outside. */
function goes(bars: readonly Bar[], x: number, way: number): number {
  if (way === 0) return x;
  let end = x + way;
  for (const { points, from, to } of bars) {
    if (depthIn(points, x) > DEEP) continue;
    const isBefore = x < (from + to) / 2;
    if (way > 0 && isBefore && end > from) end = Math.max(x, from);
    if (way < 0 && !isBefore && end < to) end = Math.min(x, to);
  }
  return end;
}

/**
 * Zones in the plain interpreter of `oracle.ts`: objects at the root, which move along x and turn about z. Where a way
 * crosses a boundary is found by looking at very many points of it, and halving.
 */
import type { Collider, Condition, On, Piece } from '../src/model/index.ts';

/** Where an object is, how it is turned, whether it is shown. */
export interface Place {
  readonly x: number;
  readonly turn: number;
  readonly shown: boolean;
}
export type Pose = ReadonlyMap<string, Place>;
export interface Found {
  readonly event: string;
  readonly collider: string;
  readonly object: string;
  readonly other: string;
  readonly at: number;
  /** By zone and thing, as the document and the tree list them. */
  readonly order: number;
}
/** In which order what is noticed at once is told. */
export const byDate = (x: Found, y: Found): number =>
  (Math.abs(x.at - y.at) < 1e-10 ? 0 : x.at - y.at) ||
  Number(/\.(leave|end)$/.test(y.event)) - Number(/\.(leave|end)$/.test(x.event)) ||
  x.order - y.order;

const STEPS = 400;

export class ZonesNow {
  private readonly piece: Piece;
  private readonly inside = new Set<string>();
  private before: Pose | null = null;
  private last: Pose | null = null;
  /** What has jumped: before this tick since the last look, and in it. */
  private jumped = new Set<string>();
  private jumps = new Set<string>();
  private atDate: Pose | null = null;

  constructor(piece: Piece) {
    this.piece = piece;
  }

  get any(): boolean {
    return Object.keys(this.piece.colliders).length > 0;
  }
  begin(): void {
    this.jumped = this.jumps;
    this.jumps = new Set();
  }
  /** Whether the object has jumped in this tick. */
  readonly hasJumped = (object: string): boolean => this.jumps.has(object);
  dateBegins(pose: Pose): void {
    this.atDate = pose;
  }
  dateEnds(pose: Pose): void {
    for (const [id, now] of pose) {
      const was = this.atDate?.get(id);
      if (was && (Math.abs(was.x - now.x) > 1e-6 || Math.abs(was.turn - now.turn) > 1e-6)) this.jumps.add(id);
    }
  }
  posed(tick: number, pose: Pose): void {
    if (tick === 0) {
      for (const [id, { x, turn }] of pose)
        if (Math.abs(x - baseX(id)) > 1e-6 || Math.abs(turn) > 1e-6) this.jumps.add(id);
      this.before = basePose(this.piece);
      this.last = pose;
      return;
    }
    this.before = this.last;
    this.last = pose;
  }
  /** What has come and gone. */
  notice(tick: number): Found[] {
    const b = tick === 0 ? basePose(this.piece) : (this.last as Pose);
    const a = tick === 0 ? b : (this.before as Pose);
    const end = Math.max(0, tick - 1) / 60;
    const out: Found[] = [];
    for (const [n, c] of Object.values(this.piece.colliders).entries()) {
      if (c.role === 'blocker') continue;
      const owner = Object.values(this.piece.objects).find((o) => o.colliders?.includes(c.id))?.id as string;
      for (const [m, thing] of Object.values(this.piece.objects).entries()) {
        const order = n * 1000 + m;
        if (thing.id === owner || !thing.tags.some((t) => c.tags.includes(t))) continue;
        const pair = `${c.id}/${thing.id}`;
        const flip = (at: number) => {
          const enters = !this.inside.delete(pair);
          if (enters) this.inside.add(pair);
          out.push({
            ...{ event: `${c.role}.${enters ? 'enter' : 'leave'}`, collider: c.id, object: owner },
            ...{ other: thing.id, at, order },
          });
        };
        const is = (s: number) => this.within(c, a, b, owner, thing.id, s, this.inside.has(pair));
        const counts = (pose: Pose) => pose.get(owner)?.shown && pose.get(thing.id)?.shown;
        if (!counts(b)) {
          if (this.inside.has(pair)) flip(end);
          continue;
        }
        if (tick <= 1 || !counts(a) || this.jumped.has(owner) || this.jumped.has(thing.id)) {
          if (is(1) !== this.inside.has(pair)) flip(end);
          continue;
        }
        const crossed: number[] = [];
        for (let k = 0; k <= STEPS; k++) {
          const was = this.inside.has(pair) === (crossed.length % 2 === 0);
          const isIn = (s: number) => this.within(c, a, b, owner, thing.id, s, was);
          if (isIn(k / STEPS) === was) continue;
          let [low, high] = [Math.max(0, (k - 1) / STEPS), k / STEPS];
          for (let n = 0; n < 60; n++) {
            const middle = (low + high) / 2;
            if (isIn(middle) === was) low = middle;
            else high = middle;
          }
          // What only touches the boundary at the very end has not crossed it yet.
          if (high > 1 - 1e-9) continue;
          // A stretch that is too short is none.
          const before = crossed.at(-1);
          if (was && before !== undefined && high - before < 1e-9) crossed.pop();
          else crossed.push(high);
        }
        for (const s of crossed) flip((tick - 2 + s) / 60);
      }
    }
    return out;
  }

  /** Whether a thing is in the zone, part `s` of the way. */
  private within(
    c: Collider,
    a: Pose,
    b: Pose,
    owner: string,
    thing: string,
    s: number,
    was: boolean,
  ): boolean {
    const place = (pose: Pose): [number, number] => {
      const [o, t] = [pose.get(owner), pose.get(thing)];
      if (!o || !t) throw new Error('no such object');
      const d = t.x - o.x;
      if (c.role === 'near') return [d, 0];
      const angle = (o.turn * Math.PI) / 180;
      return [d * Math.cos(angle), -d * Math.sin(angle)];
    };
    const [from, to] = [place(a), place(b)];
    const [x, y] = [from[0] + (to[0] - from[0]) * s, from[1] + (to[1] - from[1]) * s];
    if (c.role === 'near') return Math.hypot(x, y) <= (was ? Math.max(c.enter, c.leave) : c.enter);
    const size = c.size as [number, number, number];
    return Math.abs(x - c.at[0]) <= size[0] / 2 && Math.abs(y - c.at[1]) <= size[1] / 2;
  }

  /** Whether an event of a zone is the one that is meant; `own`: the object of who asks. */
  hears(on: On, x: Readonly<Record<string, unknown>>, own: string): boolean {
    const tags = this.piece.objects[String(x['other'])]?.tags ?? [];
    if (on.other !== undefined && on.other !== x['other']) return false;
    if (on.tags && !on.tags.some((t) => tags.includes(t))) return false;
    return on.collider !== undefined ? on.collider === x['collider'] : (on.object ?? own) === x['object'];
  }

  holds(c: Extract<Condition, { fact: 'inside' | 'near' | 'count' }>): boolean {
    const things = Object.values(this.piece.objects).filter(
      (o) =>
        this.inside.has(`${c.collider}/${o.id}`) &&
        (!('other' in c) || c.other === undefined || c.other === o.id) &&
        (!c.tags || o.tags.some((t) => c.tags?.includes(t))),
    ).length;
    if (c.fact !== 'count') return things > 0 === (c.is ?? true);
    if (c.is !== undefined) return things === c.is;
    if (c.not !== undefined) return things !== c.not;
    if (c.atLeast !== undefined) return things >= c.atLeast;
    if (c.atMost !== undefined) return things <= c.atMost;
    return c.above !== undefined ? things > c.above : things < (c.below as number);
  }
}

/** Where the objects of these pieces stand in their base. */
export const baseX = (id: string) => (id === 'ob_c' ? 40 : 0);
export const basePose = (piece: Piece): Pose =>
  new Map(Object.keys(piece.objects).map((id) => [id, { x: baseX(id), turn: 0, shown: true }]));

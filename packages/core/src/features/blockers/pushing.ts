/**
 * What blockers push: the visitor, and what is dragged, out of the way of a blocker that comes upon them, after all values
 * of a tick and before they themselves move. Seen from the blocker a body goes toward it, so it is a slide like any other;
 * what that brings is a move among the other blockers. What is left no place is crushed, and logged once.
 */
import { CHANNELS } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import { hold } from '../../run/movers.ts';
import { JUMPED_NOW, NODE_ROW, type Tracked, type TrackingRows } from '../../run/overlap/tracked.ts';
import type { Program } from '../../run/program.ts';
import type { Scene } from '../../run/scene.ts';
import type { RunState } from '../../run/state.ts';
import { distanceTo, outOf, slide } from '../../world/index.ts';
import { type Blocking, BODIES, NO_DISTANCE, type Plane, planeOf } from './blocking.ts';
import type { BlockerProgram } from './program.ts';
import { type BlockerRows, PREVIOUS_ROW } from './rows.ts';

/** What is deeper in a blocker than this is crushed, and what is deeper than that is inside, px. */
const CRUSHED = 0.01;
const INSIDE = 1e-6;

type Near = ReturnType<Blocking['around']>['hulls'][number];
const middle = new Float64Array(3);

export class Pushing {
  readonly #run: Context;
  readonly #scene: Scene;
  readonly #blocking: Blocking;
  #of: Program | null = null;
  #state: RunState | null = null;
  /** What a body, and the blockers, were when nothing had to be done for it: where each was, and whether it counted. */
  #seen = new Float64Array(0);
  readonly #still = new Uint8Array(2);

  constructor(run: Context, scene: Scene, blocking: Blocking) {
    this.#run = run;
    this.#scene = scene;
    this.#blocking = blocking;
  }

  get #rows(): BlockerRows {
    return this.#run.state.parts.blockers as BlockerRows;
  }

  /** Pushes for one tick. */
  move(): void {
    if (this.#blocking.all.length === 0) return;
    const changed = this.#changed();
    for (const body of BODIES) {
      const object = this.#blocking.objectOf(body);
      if (object < 0) this.#still[body] = 0;
      else if (changed || this.#still[body] === 0 || this.#bodyMoved(body, object)) this.#push(body, object);
    }
  }

  /** The tick is over: what stands now is what was, in the next. */
  endTick(): void {
    const blockers = this.#blocking.all;
    if (blockers.length === 0) return;
    const { previous } = this.#rows;
    for (let n = 0; n < blockers.length; n++) {
      const b = blockers[n] as BlockerProgram;
      const o = n * PREVIOUS_ROW;
      const counts = this.#blocking.counts(b) ? 1 : 0;
      previous[o + 3] = counts;
      if (counts === 1) this.#blocking.middleInto(b, previous, o);
    }
    for (const body of BODIES) {
      const object = this.#blocking.objectOf(body);
      const o = (blockers.length + body) * PREVIOUS_ROW;
      // Of whom it was is part of it: another thing is dragged the next time.
      previous[o + 3] = object + 1;
      if (object < 0) continue;
      this.#blocking.pivotInto(object, previous, o);
      // What it does by itself is no reason to push it.
      this.#bodyMoved(body, object);
    }
  }

  /** Whether any blocker stands other than when it was last asked. */
  #changed(): boolean {
    const { program, state } = this.#run;
    const blockers = this.#blocking.all;
    const n = blockers.length;
    let any = false;
    if (this.#of !== program || this.#state !== state) {
      this.#of = program;
      this.#state = state;
      this.#seen = new Float64Array((n + BODIES.length) * 2).fill(Number.NaN);
      this.#still.fill(0);
      any = true;
    }
    for (let k = 0; k < n; k++) {
      const b = blockers[k] as BlockerProgram;
      any = this.#differs(k, b.object, this.#blocking.counts(b) ? 1 : 0) || any;
    }
    return any;
  }
  #bodyMoved(body: number, object: number): boolean {
    return this.#differs(this.#blocking.all.length + body, object, object);
  }
  #differs(row: number, object: number, mark: number): boolean {
    const seen = this.#seen;
    const o = row * 2;
    let any = seen[o + 1] !== mark;
    seen[o + 1] = mark;
    const version = this.#blocking.versionOf(object);
    if (seen[o] !== version) any = true;
    seen[o] = version;
    return any;
  }

  /** Whether the place, turn or size of an object, or of anything above it, has jumped in this tick. */
  #jumps(object: number): boolean {
    const { program, state } = this.#run;
    const { nodeOf } = program.parts.tracking as Tracked;
    const { nodes } = state.parts.tracking as TrackingRows;
    for (let o = object; o >= 0; o = program.geometry.parent[o] as number) {
      const node = nodeOf.get(o);
      if (node !== undefined && nodes[node * NODE_ROW + JUMPED_NOW] === 1) return true;
    }
    return state.tick === 0;
  }

  #push(body: number, object: number): void {
    const blockers = this.#blocking.all;
    const { previous, crushed } = this.#rows;
    const along = this.#blocking.along(body);
    const plane = planeOf(along);
    const line = plane.line ? ('xyz'.indexOf(along) === plane.axes[0] ? 0 : 1) : null;
    const other = this.#blocking.objectOf(1 - body);
    this.#still[body] = 1;
    const row = (blockers.length + body) * PREVIOUS_ROW;
    const hasMoved = (previous[row + 3] as number) === object + 1 && !this.#jumps(object);
    const sweeps = (n: number) =>
      hasMoved &&
      previous[n * PREVIOUS_ROW + 3] === 1 &&
      !this.#jumps((blockers[n] as BlockerProgram).object);
    /** Where a body at (x, y) comes to because of one blocker. */
    const led = ({ hull, blocker, middle }: Near, x: number, y: number): [number, number] => {
      let to: [number, number] = [x, y];
      if (sweeps(blocker)) {
        // As the blocker sees it, standing where it stands now.
        const back = (k: 0 | 1) => {
          const axis = plane.axes[k];
          const was = previous[row + axis] as number;
          return was - (previous[blocker * PREVIOUS_ROW + axis] as number) + (middle[axis] as number);
        };
        const start: [number, number] = [back(0), back(1)];
        const displacement: [number, number] = [x - start[0], y - start[1]];
        if (Math.abs(displacement[0]) > NO_DISTANCE || Math.abs(displacement[1]) > NO_DISTANCE)
          to = slide([hull], start, displacement, !plane.line);
      }
      return distanceTo(hull, to[0], to[1]) < -INSIDE ? outOf(hull, to[0], to[1], line) : to;
    };
    const isLed = (h: Near, x: number, y: number) => {
      const [u, v] = led(h, x, y);
      return Math.abs(u - x) > NO_DISTANCE || Math.abs(v - y) > NO_DISTANCE;
    };
    const near = this.#blocking.around(object, plane, this.#farthest(row), other);
    const [px, py] = near.from;
    if (!near.hulls.some((h) => isLed(h, px, py))) {
      for (let n = 0; n < blockers.length; n++) crushed[2 * n + body] = 0;
      return;
    }
    const { hulls } = this.#blocking.around(object, plane, Number.POSITIVE_INFINITY, other);
    let [x, y] = [px, py];
    for (const h of hulls) {
      if (!isLed(h, x, y)) continue;
      const [u, v] = led(h, x, y);
      const rest = hulls.filter((o) => o !== h).map((o) => o.hull);
      [x, y] = slide(rest, [x, y], [u - x, v - y], !plane.line);
    }
    const stuck = new Set(
      hulls.flatMap(({ hull, blocker }) => (distanceTo(hull, x, y) < -CRUSHED ? [blocker] : [])),
    );
    for (let n = 0; n < blockers.length; n++) {
      const at = 2 * n + body;
      if (!stuck.has(n)) crushed[at] = 0;
      else if (crushed[at] === 0) crushed[at] = 1;
    }
    if (stuck.size === 0) this.#put(object, plane, x - px, y - py);
  }

  /** How far a body and a blocker have come at most from one another in this tick, px. */
  #farthest(row: number): number {
    const blockers = this.#blocking.all;
    const { previous } = this.#rows;
    let most = 0;
    for (let n = 0; n < blockers.length; n++) {
      const o = n * PREVIOUS_ROW;
      if (previous[o + 3] !== 1) continue;
      this.#blocking.middleInto(blockers[n] as BlockerProgram, middle, 0);
      for (let r = 0; r < 3; r++)
        most = Math.max(most, Math.abs((middle[r] as number) - (previous[o + r] as number)));
    }
    const object = (previous[row + 3] as number) - 1;
    if (object >= 0) {
      this.#blocking.pivotInto(object, middle, 0);
      for (let r = 0; r < 3; r++) most += Math.abs((middle[r] as number) - (previous[row + r] as number));
    }
    return 2 * most + 1;
  }

  /** Moves a body by so much along the axes of its plane, in the world. */
  #put(object: number, { axes: [i, j] }: Plane, dx: number, dy: number): void {
    const { program, state, clock } = this.#run;
    const displacement = [0, 0, 0];
    displacement[i] = dx;
    displacement[j] = dy;
    const inParent = this.#scene.seenFromParent(object, displacement);
    for (let axis = 0; axis < 3; axis++) {
      const by = inParent[axis] as number;
      if (Math.abs(by) < NO_DISTANCE) continue;
      const at = object * CHANNELS + axis;
      const place = (state.values[at] as number) + by;
      hold(program, state, at, place, clock);
      state.values[at] = place;
      state.setAlone(at);
    }
  }
}

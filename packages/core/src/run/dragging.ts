/**
 * Dragging: a thing that the pointer holds goes along the axes that it may go, so far as the pointer has gone on the
 * screen since it took hold of it. Where it comes to is put, and stays when it is let go, unless it goes back.
 */
import { easeInPlace, HOLD, isStepped, LINEAR } from '../anim/index.ts';
import { clamp, SAME_DATE } from '../base/index.ts';
import { CHANNELS } from '../model/index.ts';
import type { Blocking } from './blocking.ts';
import type { Context } from './context.ts';
import { beginTween, hold } from './moving.ts';
import type { DragProgram, Program } from './program.ts';
import { isShownNow } from './reach.ts';
import { DRAG_ROW } from './rows.ts';
import type { Scene } from './scene.ts';
import type { Span } from './spawn-program.ts';
import {
  DRAG_TICK,
  DRAGS,
  DROPPED,
  DROPPED_DX,
  DROPPED_DY,
  DROPPED_REC,
  DROPPED_TICK,
  HELD,
  HELD_X,
  HELD_Y,
  POINTER_X,
  POINTER_Y,
  type RunState,
} from './state.ts';
import type { Cause } from './trace.ts';

/** Px on the screen after which a press becomes a drag. */
const BEGINS = 4;

export const AXES = { x: 0, y: 1, z: 2 } as const;
const progress = new Float64Array(1);
const u = new Float64Array(2);
const v = new Float64Array(2);
const way = new Float64Array(3);

/** How far an object was dragged from its base along an axis, px, in the newest pose: where it moves, how far it stands from it. */
export function wayDragged(
  { program, state, clock }: Pick<Context, 'program' | 'state' | 'clock'>,
  object: number,
  axis: keyof typeof AXES,
): number {
  const k = program.dragOf.get(object);
  const d = program.drags[k ?? -1];
  if (k === undefined || !d) return 0;
  const at = object * CHANNELS + AXES[axis];
  if (d.moves) return (state.values[at] as number) - (state.base[at] as number);
  return counted(program, state, k, AXES[axis], clock);
}

/** The way that thing k is counted to be, which goes back to 0 where it goes back. */
function counted(program: Program, s: RunState, k: number, axis: number, clock: Float64Array): number {
  const o = k * DRAG_ROW;
  const n = s.drags[o + axis] as number;
  const since = s.drags[o + 6] as number;
  const back = program.drags[k]?.back;
  if (since < 0 || !back) return n;
  const age = (clock[0] as number) - since;
  if (!(age < back.seconds - SAME_DATE)) return 0;
  const lead = back.curve >= 0 && isStepped(program.curves, back.curve) ? SAME_DATE : 0;
  progress[0] = age + lead <= 0 || back.curve === HOLD ? 0 : (age + lead) / back.seconds;
  if ((progress[0] as number) > 0 && back.curve !== LINEAR) easeInPlace(program.curves, back.curve, progress);
  return n * (1 - (progress[0] as number));
}

export class Dragging {
  readonly #run: Context;
  readonly #scene: Scene;
  readonly #blocking: Blocking;

  constructor(run: Context, scene: Scene, blocking: Blocking) {
    this.#run = run;
    this.#scene = scene;
    this.#blocking = blocking;
  }

  /** The pointer is pressed on `hit`: the innermost thing there that can be dragged is held. */
  press(hit: number): void {
    const { program, state, clock } = this.#run;
    const { one, drags, values } = state;
    one[HELD] = -1;
    one[DRAGS] = 0;
    let k: number | undefined;
    for (let o = hit; o >= 0 && k === undefined; o = program.geometry.parent[o] as number)
      k = program.dragOf.get(o);
    if (k === undefined) return;
    const d = program.drags[k] as DragProgram;
    one[HELD] = k;
    one[HELD_X] = one[POINTER_X] as number;
    one[HELD_Y] = one[POINTER_Y] as number;
    const o = k * DRAG_ROW;
    for (let axis = 0; axis < 3; axis++) {
      const at = d.object * CHANNELS + axis;
      drags[o + 3 + axis] = d.moves
        ? (values[at] as number) - (state.base[at] as number)
        : counted(program, state, k, axis, clock);
    }
    for (let axis = 0; axis < 3; axis++) drags[o + axis] = drags[o + 3 + axis] as number;
    drags[o + 6] = -1;
  }

  /** The pointer has moved while it is down. */
  moved(cause: Cause): void {
    const { one, tick } = this.#run.state;
    if ((one[HELD] as number) < 0) return;
    if (one[DRAGS] === 0) {
      const dx = (one[POINTER_X] as number) - (one[HELD_X] as number);
      const dy = (one[POINTER_Y] as number) - (one[HELD_Y] as number);
      if (dx * dx + dy * dy < BEGINS * BEGINS) return;
      one[DRAGS] = 1;
      one[DRAG_TICK] = tick;
      this.#tell('drag.start', one[HELD] as number, cause);
    } else if (one[DRAG_TICK] !== tick) {
      one[DRAG_TICK] = tick;
      this.#tell('drag.move', one[HELD] as number, cause);
    }
  }

  /** It is let go; whether it was dragged. It still goes the way up to there; what drops is told in the next tick, where it then is. */
  release(rec: number | null): boolean {
    const { one } = this.#run.state;
    const was = one[DRAGS] === 1;
    if (was) {
      one[DROPPED] = one[HELD] as number;
      one[DROPPED_REC] = rec ?? -1;
      one[DROPPED_TICK] = this.#run.state.tick;
      one[DROPPED_DX] = (one[POINTER_X] as number) - (one[HELD_X] as number);
      one[DROPPED_DY] = (one[POINTER_Y] as number) - (one[HELD_Y] as number);
    }
    one[HELD] = -1;
    one[DRAGS] = 0;
    return was;
  }

  /** Tells what was let go in the tick before; what is hidden is let go, too. */
  notice(): void {
    const { program, state, clock } = this.#run;
    const { one } = state;
    // Asked in each tick: to look for a thing of number −1 would cost memory.
    if (one[DRAGS] === 1) {
      const held = program.drags[one[HELD] as number];
      if (held && !isShownNow(program, state, held.object)) {
        // It goes no further, and is told at once.
        this.release(null);
        one[DROPPED_TICK] = -1;
      }
    }
    if ((one[DROPPED] as number) < 0 || one[DROPPED_TICK] === state.tick) return;
    const k = one[DROPPED] as number;
    const d = program.drags[k];
    if (!d) return;
    one[DROPPED] = -1;
    const rec = one[DROPPED_REC] as number;
    const zones = zonesOf(program, state, d.object);
    this.#tell('drag.drop', k, { rec: rec < 0 ? null : rec, depth: 0 }, zones);
    if (!d.back || d.back.unless.some((c) => zones.includes(c))) return;
    state.drags[k * DRAG_ROW + 6] = clock[0] as number;
    if (!d.moves) return;
    for (const axis of d.axes) {
      const at = d.object * CHANNELS + axis;
      const [from, to] = [state.values[at] as number, state.base[at] as number];
      this.#run.jumps.touch(at);
      beginTween(program, state, at, { from, to, ...d.back, n: 0 }, clock);
    }
  }

  /** These objects go: what of them is held, or was just let go, is dropped now, in no zone. */
  leave({ from, to }: Span, cause: Cause): void {
    const { program, state } = this.#run;
    const { one } = state;
    const goes = (k: number) => {
      const object = program.drags[k]?.object ?? -1;
      return object >= from && object < to;
    };
    for (const at of [HELD, DROPPED]) {
      const k = one[at] as number;
      if (!goes(k)) continue;
      const isDragged = at === DROPPED || one[DRAGS] === 1;
      one[at] = -1;
      if (at === HELD) one[DRAGS] = 0;
      if (isDragged) this.#tell('drag.drop', k, cause);
    }
  }

  #tell(
    event: 'drag.start' | 'drag.move' | 'drag.drop',
    k: number,
    cause: Cause,
    zones: readonly string[] = [],
  ): void {
    const run = this.#run;
    const { object } = run.program.drags[k] as DragProgram;
    const id = run.program.objects[object]?.id as string;
    const into = zones.length > 0 ? { colliders: zones } : {};
    run.queueEvent(
      run.raise({ kind: 'event', event, object: id, ...into }, cause),
      cause,
      object,
      -1,
      event === 'drag.drop' ? object : -1,
    );
  }

  /** Moves what is dragged, after all other values of the tick. */
  move(): void {
    const { state } = this.#run;
    const { one } = state;
    if ((one[DROPPED] as number) >= 0 && one[DROPPED_TICK] === state.tick)
      this.#move(one[DROPPED] as number, one[DROPPED_DX] as number, one[DROPPED_DY] as number);
    if (one[DRAGS] !== 1) return;
    const dx = (one[POINTER_X] as number) - (one[HELD_X] as number);
    const dy = (one[POINTER_Y] as number) - (one[HELD_Y] as number);
    this.#move(one[HELD] as number, dx, dy);
  }

  /** Thing k goes where the pointer has brought it, so far on the screen from where it was taken hold of. */
  #move(k: number, dx: number, dy: number): void {
    const { program, state, clock } = this.#run;
    const { drags, values } = state;
    const d = program.drags[k] as DragProgram;
    this.#wayOnAxes(d, dx, dy);
    const o = k * DRAG_ROW;
    this.#stopped(d, o);
    for (let n = 0; n < d.axes.length; n++) {
      const axis = d.axes[n] as number;
      const to = this.#limited(d, axis, (drags[o + 3 + axis] as number) + (way[axis] as number));
      drags[o + axis] = to;
      if (!d.moves) continue;
      const at = d.object * CHANNELS + axis;
      const place = (state.base[at] as number) + to;
      hold(program, state, at, place, clock);
      values[at] = place;
      state.setAlone(at);
    }
  }

  #limited(d: DragProgram, axis: number, to: number): number {
    return clamp(to, d.limits[2 * axis] as number, d.limits[2 * axis + 1] as number);
  }

  /** Shortens `way` to where it comes from where it now stands, for what blockers stop. */
  #stopped(d: DragProgram, o: number): void {
    const { program, state } = this.#run;
    if (!d.moves || program.blockers.length === 0) return;
    const { drags, values } = state;
    const step = new Float64Array(3);
    for (const axis of d.axes) {
      const to = this.#limited(d, axis, (drags[o + 3 + axis] as number) + (way[axis] as number));
      step[axis] =
        (state.base[d.object * CHANNELS + axis] as number) +
        to -
        (values[d.object * CHANNELS + axis] as number);
    }
    const inWorld = this.#scene.wayInWorld(d.object, step);
    this.#blocking.stop(d.object, inWorld, d.axes.map((a) => 'xyz'[a]).join(''));
    const left = this.#scene.seenFromParent(d.object, [...inWorld]);
    for (const axis of d.axes) {
      const at = (values[d.object * CHANNELS + axis] as number) + (left[axis] as number);
      way[axis] = at - (state.base[d.object * CHANNELS + axis] as number) - (drags[o + 3 + axis] as number);
    }
  }

  /** Writes to `way` how far along its axes the pointer has gone: where it then is on the screen, or as near as can be. */
  #wayOnAxes(d: DragProgram, dx: number, dy: number): void {
    way.fill(0);
    const [first = 0, second] = d.axes;
    this.#scene.axis(d.object, first, u);
    const [ux, uy] = [u[0] as number, u[1] as number];
    const uu = ux * ux + uy * uy;
    if (second !== undefined) {
      this.#scene.axis(d.object, second, v);
      const [vx, vy] = [v[0] as number, v[1] as number];
      const det = ux * vy - uy * vx;
      const vv = vx * vx + vy * vy;
      // Seen from the side the two are one line, along which the longer one goes.
      if (Math.abs(det) > 1e-3 * Math.max(uu, vv)) {
        way[first] = (dx * vy - dy * vx) / det;
        way[second] = (dy * ux - dx * uy) / det;
        return;
      }
      if (vv > uu) {
        way[second] = (dx * vx + dy * vy) / vv;
        return;
      }
    }
    // An axis that points at the viewer leads nowhere.
    if (uu > 1e-6) way[first] = (dx * ux + dy * uy) / uu;
  }
}

/** The zones that have an object in them, by id; what is only near is in none. */
function zonesOf({ meeting }: Program, s: RunState, object: number): string[] {
  const node = meeting.nodeOf.get(object) ?? -1;
  return meeting.colliders.flatMap(({ collider, rank, firstPair }) =>
    collider.role === 'zone' && (rank[node] ?? -1) >= 0 && s.noticed[firstPair + (rank[node] as number)] === 1
      ? [collider.id]
      : [],
  );
}

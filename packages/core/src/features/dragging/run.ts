/**
 * Dragging: a thing that the pointer holds goes along the axes that it may go, so far as the pointer has gone on the
 * screen since it took hold of it. Where it comes to is put, and stays when it is let go, unless it goes back.
 */
import { easeInPlace, HOLD, isStepped, LINEAR } from '../../anim/index.ts';
import { clamp, SAME_INSTANT } from '../../base/index.ts';
import { CHANNELS } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import { beginTween, hold } from '../../run/movers.ts';
import type { Phases } from '../../run/phases.ts';
import type { PlaceProgram, Span } from '../../run/place-program.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Scene } from '../../run/scene.ts';
import { POINTER_X, POINTER_Y } from '../../run/state.ts';
import type { Cause } from '../../run/trace.ts';
import { isShownNow } from '../../run/tree.ts';
import type { DraggingProgram, DragProgram } from './program.ts';
import {
  BACK_SINCE,
  DRAG_ROW,
  DRAG_TICK,
  DRAGS,
  DROPPED,
  DROPPED_DX,
  DROPPED_DY,
  DROPPED_REC,
  DROPPED_TICK,
  type DraggingRows,
  HELD,
  HELD_X,
  HELD_Y,
} from './rows.ts';

/** Px on the screen after which a press becomes a drag. */
const BEGINS = 4;

const progress = new Float64Array(1);
const u = new Float64Array(2);
const v = new Float64Array(2);
const displacement = new Float64Array(3);

export class Dragging implements Phases {
  readonly #run: Context;
  readonly #scene: Scene;

  constructor({ context, scene }: RunBase) {
    this.#run = context;
    this.#scene = scene;
    const { services } = context;
    services.dragDistance = (object, axis) => this.#dragDistance(object, axis);
    services.isDragging = () => this.#hand[DRAGS] === 1;
    services.dragged = () => {
      const d = this.#hand[DRAGS] === 1 ? this.#held : undefined;
      return d?.moves ? d.object : -1;
    };
    services.draggedAlong = () => (this.#held?.axes ?? []).map((a) => 'xyz'[a]).join('');
  }

  get #program(): DraggingProgram {
    return this.#run.program.parts.dragging as DraggingProgram;
  }
  get #rows(): DraggingRows {
    return this.#run.state.parts.dragging as DraggingRows;
  }
  get #hand(): Float64Array {
    return this.#rows.hand;
  }
  get #held(): DragProgram | undefined {
    return this.#program.drags[this.#hand[HELD] as number];
  }

  /**
   * How far an object was dragged from its base along an axis (0, 1, 2), px, in the newest pose: where it moves, how far it
   * stands from it.
   */
  #dragDistance(object: number, axis: number): number {
    const { drags, ofObject } = this.#program;
    const k = ofObject.get(object);
    const d = drags[k ?? -1];
    if (k === undefined || !d) return 0;
    const at = object * CHANNELS + axis;
    const { values, base } = this.#run.state;
    if (d.moves) return (values[at] as number) - (base[at] as number);
    return this.#counted(k, axis);
  }

  /** The way that thing k is counted to be, which goes back to 0 where it goes back. */
  #counted(k: number, axis: number): number {
    const { program, clock } = this.#run;
    const { drags } = this.#rows;
    const o = k * DRAG_ROW;
    const n = drags[o + axis] as number;
    const since = drags[o + BACK_SINCE] as number;
    const back = this.#program.drags[k]?.back;
    if (since < 0 || !back) return n;
    const age = (clock[0] as number) - since;
    if (!(age < back.seconds - SAME_INSTANT)) return 0;
    const lead = back.curve >= 0 && isStepped(program.curves, back.curve) ? SAME_INSTANT : 0;
    progress[0] = age + lead <= 0 || back.curve === HOLD ? 0 : (age + lead) / back.seconds;
    if ((progress[0] as number) > 0 && back.curve !== LINEAR)
      easeInPlace(program.curves, back.curve, progress);
    return n * (1 - (progress[0] as number));
  }

  /** The pointer is pressed on `hit`: the innermost thing there that can be dragged is held. */
  press(hit: number): void {
    const { program, state } = this.#run;
    const { one, values } = state;
    const { hand, drags } = this.#rows;
    hand[HELD] = -1;
    hand[DRAGS] = 0;
    let k: number | undefined;
    for (let o = hit; o >= 0 && k === undefined; o = program.geometry.parent[o] as number)
      k = this.#program.ofObject.get(o);
    if (k === undefined) return;
    const d = this.#program.drags[k] as DragProgram;
    hand[HELD] = k;
    hand[HELD_X] = one[POINTER_X] as number;
    hand[HELD_Y] = one[POINTER_Y] as number;
    const o = k * DRAG_ROW;
    for (let axis = 0; axis < 3; axis++) {
      const at = d.object * CHANNELS + axis;
      drags[o + 3 + axis] = d.moves
        ? (values[at] as number) - (state.base[at] as number)
        : this.#counted(k, axis);
    }
    for (let axis = 0; axis < 3; axis++) drags[o + axis] = drags[o + 3 + axis] as number;
    drags[o + BACK_SINCE] = -1;
  }

  /** The pointer has moved while it is down. */
  moved(cause: Cause): void {
    const { one, tick } = this.#run.state;
    const hand = this.#hand;
    if ((hand[HELD] as number) < 0) return;
    if (hand[DRAGS] === 0) {
      const dx = (one[POINTER_X] as number) - (hand[HELD_X] as number);
      const dy = (one[POINTER_Y] as number) - (hand[HELD_Y] as number);
      if (dx * dx + dy * dy < BEGINS * BEGINS) return;
      hand[DRAGS] = 1;
      hand[DRAG_TICK] = tick;
      this.#tell('drag.start', hand[HELD] as number, cause);
    } else if (hand[DRAG_TICK] !== tick) {
      hand[DRAG_TICK] = tick;
      this.#tell('drag.move', hand[HELD] as number, cause);
    }
  }

  /** It is let go; whether it was dragged. It still goes the way up to there; what drops is logged in the next tick, where it then is. */
  released(rec: number | null): boolean {
    const { one } = this.#run.state;
    const hand = this.#hand;
    const was = hand[DRAGS] === 1;
    if (was) {
      hand[DROPPED] = hand[HELD] as number;
      hand[DROPPED_REC] = rec ?? -1;
      hand[DROPPED_TICK] = this.#run.state.tick;
      hand[DROPPED_DX] = (one[POINTER_X] as number) - (hand[HELD_X] as number);
      hand[DROPPED_DY] = (one[POINTER_Y] as number) - (hand[HELD_Y] as number);
    }
    hand[HELD] = -1;
    hand[DRAGS] = 0;
    return was;
  }

  /** Tells what was let go in the tick before; what is hidden is let go, too. */
  detected(): void {
    const { program, state, clock } = this.#run;
    const { drags } = this.#program;
    const hand = this.#hand;
    // Asked in each tick: to look for a thing of number −1 would cost memory.
    if (hand[DRAGS] === 1) {
      const held = drags[hand[HELD] as number];
      if (held && !isShownNow(program, state, held.object)) {
        // It goes no further, and is logged at once.
        this.released(null);
        hand[DROPPED_TICK] = -1;
      }
    }
    if ((hand[DROPPED] as number) < 0 || hand[DROPPED_TICK] === state.tick) return;
    const k = hand[DROPPED] as number;
    const d = drags[k];
    if (!d) return;
    hand[DROPPED] = -1;
    const rec = hand[DROPPED_REC] as number;
    const zones = this.#run.services.zonesOf(d.object);
    this.#tell('drag.drop', k, { rec: rec < 0 ? null : rec, depth: 0 }, zones);
    if (!d.back || d.back.unless.some((c) => zones.includes(c))) return;
    this.#rows.drags[k * DRAG_ROW + BACK_SINCE] = clock[0] as number;
    if (!d.moves) return;
    for (const axis of d.axes) {
      const at = d.object * CHANNELS + axis;
      const [from, to] = [state.values[at] as number, state.base[at] as number];
      this.#run.discontinuities.touch(at);
      beginTween(program, state, at, { from, to, ...d.back, n: 0 }, clock);
    }
  }

  /** These objects go: what of them is held, or was just let go, is dropped now, in no zone. */
  left({ from, to }: Span, cause: Cause): void {
    const hand = this.#hand;
    const goes = (k: number) => {
      const object = this.#program.drags[k]?.object ?? -1;
      return object >= from && object < to;
    };
    for (const at of [HELD, DROPPED]) {
      const k = hand[at] as number;
      if (!goes(k)) continue;
      const isDragged = at === DROPPED || hand[DRAGS] === 1;
      hand[at] = -1;
      if (at === HELD) hand[DRAGS] = 0;
      if (isDragged) this.#tell('drag.drop', k, cause);
    }
  }

  setBack({ objects: { from, to } }: PlaceProgram): void {
    const { drags } = this.#rows;
    this.#program.drags.forEach(({ object }, k) => {
      if (object < from || object >= to) return;
      drags.fill(0, k * DRAG_ROW, (k + 1) * DRAG_ROW);
      drags[k * DRAG_ROW + BACK_SINCE] = -1;
    });
  }

  #tell(
    event: 'drag.start' | 'drag.move' | 'drag.drop',
    k: number,
    cause: Cause,
    zones: readonly string[] = [],
  ): void {
    const run = this.#run;
    const { object } = this.#program.drags[k] as DragProgram;
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
    const hand = this.#hand;
    if ((hand[DROPPED] as number) >= 0 && hand[DROPPED_TICK] === state.tick)
      this.#move(hand[DROPPED] as number, hand[DROPPED_DX] as number, hand[DROPPED_DY] as number);
    if (hand[DRAGS] !== 1) return;
    const dx = (one[POINTER_X] as number) - (hand[HELD_X] as number);
    const dy = (one[POINTER_Y] as number) - (hand[HELD_Y] as number);
    this.#move(hand[HELD] as number, dx, dy);
  }

  /** Thing k goes where the pointer has brought it, so far on the screen from where it was taken hold of. */
  #move(k: number, dx: number, dy: number): void {
    const { program, state, clock } = this.#run;
    const { values } = state;
    const { drags } = this.#rows;
    const d = this.#program.drags[k] as DragProgram;
    this.#projectOnAxes(d, dx, dy);
    const o = k * DRAG_ROW;
    this.#stopped(d, o);
    for (let n = 0; n < d.axes.length; n++) {
      const axis = d.axes[n] as number;
      const to = this.#limited(d, axis, (drags[o + 3 + axis] as number) + (displacement[axis] as number));
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
    const { state, services } = this.#run;
    if (!d.moves || !services.blocks()) return;
    const { values } = state;
    const { drags } = this.#rows;
    const step = new Float64Array(3);
    for (const axis of d.axes) {
      const to = this.#limited(d, axis, (drags[o + 3 + axis] as number) + (displacement[axis] as number));
      step[axis] =
        (state.base[d.object * CHANNELS + axis] as number) +
        to -
        (values[d.object * CHANNELS + axis] as number);
    }
    const inWorld = this.#scene.displacementInWorld(d.object, step);
    services.stop(d.object, inWorld, d.axes.map((a) => 'xyz'[a]).join(''));
    const left = this.#scene.seenFromParent(d.object, [...inWorld]);
    for (const axis of d.axes) {
      const at = (values[d.object * CHANNELS + axis] as number) + (left[axis] as number);
      displacement[axis] =
        at - (state.base[d.object * CHANNELS + axis] as number) - (drags[o + 3 + axis] as number);
    }
  }

  /** Writes to `way` how far along its axes the pointer has gone: where it then is on the screen, or as near as can be. */
  #projectOnAxes(d: DragProgram, dx: number, dy: number): void {
    displacement.fill(0);
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
        displacement[first] = (dx * vy - dy * vx) / det;
        displacement[second] = (dy * ux - dx * uy) / det;
        return;
      }
      if (vv > uu) {
        displacement[second] = (dx * vx + dy * vy) / vv;
        return;
      }
    }
    // An axis that points at the viewer leads nowhere.
    if (uu > 1e-6) displacement[first] = (dx * ux + dy * uy) / uu;
  }
}

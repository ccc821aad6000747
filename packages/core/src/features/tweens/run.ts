/** Tweens while a piece runs: where they begin and where they lead. What they come to is in `run/movers.ts`. */
import { atan2Deg, clamp } from '../../base/index.ts';
import { toNumber } from '../../logic/index.ts';
import {
  CHANNELS,
  canOffset,
  fitsProperty,
  type PropertyInfo,
  type SignalValue,
  wordsOf,
  writeValue,
} from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import { beginTween, goalOf, motorPart } from '../../run/movers.ts';
import { allOnScreen } from '../../run/on-screen.ts';
import type { Program } from '../../run/program.ts';
import type { RowMaker } from '../../run/rows.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Cause } from '../../run/trace.ts';

/** Where a tween takes a property. */
export interface Goal {
  readonly property: PropertyInfo;
  readonly mode: 'to' | 'by' | 'toBase';
  readonly value: () => SignalValue;
}
export interface TweenHow {
  readonly seconds: number;
  /** Place of its curve in the program; −1 hold, −2 linear. */
  readonly curve: number;
  /** `by` counts from what is on the screen, whatever it is on the way to. */
  readonly fromNow: boolean;
}

/** How many times something was tweened. */
export type TweenRows = Float64Array;
export const tweenRows = (_: Program, make: RowMaker): TweenRows => make.floats(1);

export class Tweens {
  readonly #run: Context;
  readonly #base: RunBase;

  constructor(base: RunBase) {
    this.#run = base.context;
    this.#base = base;
  }

  /** Which tweening of all it is; 0 for none. */
  tween(object: number, goals: readonly Goal[], how: TweenHow, cause: Cause): number {
    const run = this.#run;
    const { program, state, clock } = run;
    const id = run.idOf(object);
    if (id === undefined) return 0;
    // All goals are worked out from what stands now, then all begin.
    const begun = goals.flatMap((g) => this.#goalsOf(object, g, how.fromNow));
    for (const { at } of begun) run.discontinuities.touch(at);
    const n = this.#nextTween();
    for (const { at, from, to } of begun)
      beginTween(program, state, at, { from, to, seconds: how.seconds, curve: how.curve, n }, clock);
    const [only] = goals;
    const what = goals.length === 1 && only ? { property: only.property.name } : {};
    run.raise({ kind: 'action', action: 'tween', object: id, ...what }, cause);
    return n;
  }

  #nextTween(): number {
    const rows = this.#run.state.parts.tweens as TweenRows;
    const n = (rows[0] as number) + 1;
    rows[0] = n;
    return n;
  }

  /** Where the channels of a property start and where they lead. */
  #goalsOf(object: number, g: Goal, fromNow: boolean): { at: number; from: number; to: number }[] {
    const { program, state, clock } = this.#run;
    const { property } = g;
    const first = object * CHANNELS + property.channel;
    const from = Array.from({ length: property.width }, (_, k) =>
      allOnScreen(program, state, first + k, clock),
    );
    const isNumber = canOffset(property);
    if (g.mode === 'to') {
      const asked = g.value();
      const value = property.kind === 'text' ? wordsOf(asked) : asked;
      if (!fitsProperty(property, value)) return [];
      writeValue(property, value, written, 0);
    } else if (g.mode === 'toBase')
      for (let k = 0; k < property.width; k++)
        written[k] = (state.base[first + k] as number) + (isNumber ? toNumber(g.value()) : 0);
    else {
      if (!isNumber) return [];
      const isHeld = state.isPut(first) && !fromNow;
      const start = isHeld
        ? goalOf(program, state, first) + motorPart(program, state, first, clock)
        : (from[0] as number);
      written[0] = start + toNumber(g.value());
    }
    if (property.kind === 'amount') written[0] = clamp(written[0] as number, 0, 1);
    return from.map((n, k) => ({ at: first + k, from: n, to: written[k] as number }));
  }

  /** Turns about an axis (0, 1, 2) until it points at the pivot of another; which tweening it is. */
  face(object: number, toward: number, axis: number, how: TweenHow, cause: Cause): number {
    const run = this.#run;
    const { program, state, clock } = run;
    const id = run.idOf(object);
    if (id === undefined || toward < 0) return 0;
    const [at, point, own] = [object * CHANNELS + 3 + axis, new Float64Array(3), new Float64Array(3)];
    this.#base.standing.pivotAt(toward, point);
    this.#base.standing.pivotAt(object, own);
    const d = this.#base.scene.seenFromParent(
      object,
      [0, 1, 2].map((r) => (point[r] as number) - (own[r] as number)),
    );
    const [x, y, z] = d as [number, number, number];
    // Turned about x, +Z goes to (−y, z); about y to (x, z); about z it is +X that goes to (y, x).
    const wanted = axis === 0 ? atan2Deg(-y, z) : axis === 1 ? atan2Deg(x, z) : atan2Deg(y, x);
    const from = allOnScreen(program, state, at, clock);
    run.discontinuities.touch(at);
    const turn = (((wanted - from) % 360) + 540) % 360;
    const n = this.#nextTween();
    beginTween(program, state, at, { from, to: from + turn - 180, ...how, n }, clock);
    run.raise({ kind: 'action', action: 'face', object: id, property: `rotation.${'xyz'[axis]}` }, cause);
    return n;
  }
}

const written = new Float64Array(3);

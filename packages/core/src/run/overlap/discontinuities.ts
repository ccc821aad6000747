/**
 * What jumps: a place, turn, size or pivot that differs just before and just after one instant. Who changes something tells
 * it first; when the instant is over, what was told is compared.
 */
import { PLAY_ROW } from '../../anim/index.ts';
import { TICKS_PER_SECOND } from '../../base/index.ts';
import { CHANNELS } from '../../model/index.ts';
import type { Context, DiscontinuityListener } from '../context.ts';
import { playPlace } from '../layers.ts';
import { allOnScreenAt } from '../on-screen.ts';
import type { Phases } from '../phases.ts';
import type { PlaceProgram } from '../place-program.ts';
import { PLACE_CHANNELS } from '../places.ts';
import { PLAY } from '../program.ts';
import {
  JUMP,
  JUMPED,
  JUMPED_NOW,
  NODE_ROW,
  type Tracked,
  type TrackedLane,
  type TrackingRows,
} from './tracked.ts';

export class Discontinuities implements Phases, DiscontinuityListener {
  readonly #run: Context;
  /** What was told at this instant, with the values before. */
  readonly #before = new Map<number, number>();
  #of: unknown = null;
  #laneAt = new Map<number, TrackedLane>();
  #weighedBy = new Map<number, number[]>();

  constructor(run: Context) {
    this.#run = run;
    run.discontinuities = this;
  }

  get #tracked(): Tracked {
    return this.#run.program.parts.tracking as Tracked;
  }
  get #rows(): TrackingRows {
    return this.#run.state.parts.tracking as TrackingRows;
  }

  /** What was found in the tick before is looked at in this one. */
  beginTick(): void {
    const { nodes } = this.#rows;
    for (let o = 0; o < nodes.length; o += NODE_ROW) {
      nodes[o + JUMPED] = nodes[o + JUMPED_NOW] as number;
      nodes[o + JUMPED_NOW] = 0;
    }
  }

  /** The value at `at` is about to be changed by something other than time. */
  touch(at: number): void {
    if (this.#isNew(at)) this.#keep([at]);
  }

  /** Lane i is about to be led elsewhere. */
  touchLane(i: number): void {
    const places = this.#lane(i)?.places.filter((at) => this.#isNew(at)) ?? [];
    if (places.length > 0) this.#keep(places);
  }

  #isNew(at: number): boolean {
    const { nodeOf } = this.#tracked;
    if (nodeOf.size === 0 || at % CHANNELS >= PLACE_CHANNELS || this.#before.has(at)) return false;
    return nodeOf.has(Math.floor(at / CHANNELS));
  }

  /** Keeps what stands there now. */
  #keep(ats: readonly number[]): void {
    const now = this.#onScreen(ats);
    ats.forEach((at, k) => {
      this.#before.set(at, now[k] as number);
    });
  }

  #onScreen(ats: Iterable<number>): Float64Array {
    const { program, state, clock } = this.#run;
    const places = new Map([...ats].map((at, k) => [at, k]));
    const out = new Float64Array(places.size);
    allOnScreenAt(program, state, places, clock, out);
    return out;
  }

  /** A signal is about to change: lanes may count, or blend, by it. */
  touchSignal(signal: number): void {
    this.#know();
    for (const i of this.#weighedBy.get(signal) ?? []) this.touchLane(i);
  }

  #know(): void {
    const { program } = this.#run;
    if (this.#of === program) return;
    this.#of = program;
    this.#laneAt = new Map(this.#tracked.lanes.map((l) => [l.lane, l]));
    this.#weighedBy = new Map();
    for (const l of this.#tracked.lanes)
      for (const signal of l.weighedBy)
        this.#weighedBy.set(signal, [...(this.#weighedBy.get(signal) ?? []), l.lane]);
  }

  #lane(i: number): TrackedLane | undefined {
    if (this.#tracked.lanes.length === 0) return undefined;
    this.#know();
    return this.#laneAt.get(i);
  }

  #mark(at: number): void {
    this.#markNode(this.#tracked.nodeOf.get(Math.floor(at / CHANNELS)));
  }

  #markNode(node: number | undefined): void {
    if (node !== undefined) this.#rows.nodes[node * NODE_ROW + JUMPED_NOW] = 1;
  }

  /** The instant is over. */
  endInstant(): void {
    if (this.#before.size === 0) return;
    const now = this.#onScreen(this.#before.keys());
    let k = 0;
    for (const [at, was] of this.#before) if (Math.abs((now[k++] as number) - was) > JUMP) this.#mark(at);
    this.#before.clear();
  }

  /** The tick is over: what clips themselves make jump, and at the first tick whatever is not as in the base. */
  posed(): void {
    const { state } = this.#run;
    const { nodes, lanes } = this.#tracked;
    if (nodes.length === 0) return;
    if (state.tick === 0)
      for (let k = 0; k < nodes.length; k++) {
        const first = (nodes[k] as number) * CHANNELS;
        for (let at = first; at < first + PLACE_CHANNELS; at++)
          if (Math.abs((state.values[at] as number) - (state.base[at] as number)) > JUMP) this.#mark(at);
      }
    for (let k = 0; k < lanes.length; k++) this.#clipDiscontinuities(k, lanes[k] as TrackedLane);
  }

  /** What these objects are now is not what they were. */
  setBack({ objects: { from, to } }: PlaceProgram): void {
    for (let object = from; object < to; object++) this.#markNode(this.#tracked.nodeOf.get(object));
  }

  /** All that is in a run anew, after an edit. */
  all(): void {
    for (let k = 0; k < this.#tracked.nodes.length; k++) this.#markNode(k);
  }

  #clipDiscontinuities(k: number, { lane, discontinuities }: TrackedLane): void {
    if (!discontinuities) return;
    const { program, state, clock } = this.#run;
    const { previous } = this.#rows;
    const active = state.active[lane] as number;
    const s = program.lanes[lane]?.states[active];
    const entry = state.entry[lane] as number;
    const wasHere = previous[2 * k] === entry;
    const from = previous[2 * k + 1] as number;
    const to = s?.kind === PLAY ? playPlace(program, state, 2 * lane, s.clip, clock) : 0;
    previous[2 * k] = entry;
    previous[2 * k + 1] = to;
    const list = discontinuities[active];
    if (!wasHere || !list || list.length === 0) return;
    const turned = (state.turnT[lane] as number) > (state.tick - 1) / TICKS_PER_SECOND;
    const isForward = (state.plays[2 * lane * PLAY_ROW + 3] as number) > 0;
    for (const { t, at } of list) {
      if (t === null ? turned : crosses(t, from, to, turned, isForward)) this.#mark(at);
    }
  }
}

/** Whether a play that went from one place of its clip to another, perhaps round its end, has passed `t`. */
function crosses(t: number, from: number, to: number, turned: boolean, forward: boolean): boolean {
  if (turned) return forward ? t > from || t <= to : t < from || t >= to;
  return t > Math.min(from, to) && t <= Math.max(from, to);
}

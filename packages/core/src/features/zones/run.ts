/**
 * Zones: what has come into them, and what has left, between the last two poses on screen. Each pair of a zone and a
 * thing is swept, straight from where the thing was to where it is in the zone's own space; what has jumped is only
 * looked at. Candidates are found by sorting along x; what has not moved is not asked.
 * It is long since one sweep goes over pairs that all its parts narrow down, in arrays that they share.
 */
import { composeLocal, invert, MAT, multiply, TICKS_PER_SECOND, transformPoint } from '../../base/index.ts';
import { CH_SHOWN, CHANNELS, type EventName } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import type { Detections } from '../../run/detections.ts';
import {
  COUNTED,
  JUMPED,
  NODE_ROW,
  PIVOT,
  type Tracked,
  type TrackingRows,
} from '../../run/overlap/tracked.ts';
import type { Phases } from '../../run/phases.ts';
import type { Span } from '../../run/place-program.ts';
import type { Program } from '../../run/program.ts';
import type { RunBase } from '../../run/run-base.ts';
import { FRAME_HEIGHT, FRAME_WIDTH, type RunState } from '../../run/state.ts';
import { nearStretch, Stretches, stretchesIn } from '../../world/index.ts';
import { isIn, pointIn, range, STAYS, sortBy, zoneExtent } from './extents.ts';
import { topicOf } from './facts.ts';
import type { ColliderProgram, ZonesProgram } from './program.ts';
import type { ZoneRows } from './rows.ts';

/** What decides a node's matrix: its channels of place, and whether it is shown. */
const OWN = 13;

/** More than rounding can be wrong in what only chooses whom to ask, px. */
const SLACK = 1e-3;

const local = new Float64Array(MAT);
const from = new Float64Array(3);
const to = new Float64Array(3);

export class Zones implements Phases {
  readonly #run: Context;
  #of: Program | null = null;
  #state: RunState | null = null;
  /** By node, in the newest pose: its matrix, the place of its pivot, whether it counts, whether it has changed. */
  #world = new Float64Array(0);
  #pivots = new Float64Array(0);
  #counts = new Uint8Array(0);
  #changed = new Uint8Array(0);
  /**
   * Whether it had changed at the last look, and whether anything had: what came to rest on a boundary has not crossed it
   * by then, and is in from then on. Who has just been loaded does not know, and asks.
   */
  #lately = new Uint8Array(0);
  #restless = true;
  #jumped = new Uint8Array(0);
  /** By zone, whether it is switched on. */
  #isOn = new Uint8Array(0);
  /** What the matrices were made of. */
  #seen = new Float64Array(0);
  #frame = new Float64Array(2);
  /** Inverse matrix of the owner of the zone that is asked, now and before. */
  #inverse = new Float64Array(MAT);
  #inverseBefore = new Float64Array(MAT);
  /** Extents along x of zones and of the ways of things, and both sorted by where they begin. */
  #zoneLow = new Float64Array(0);
  #zoneHigh = new Float64Array(0);
  #zones: Int32Array = new Int32Array(0);
  #things: Int32Array = new Int32Array(0);
  #thingLow = new Float64Array(0);
  #thingHigh = new Float64Array(0);
  readonly #stretches = new Stretches();
  readonly #detections: Detections;

  constructor({ context, detections }: RunBase) {
    this.#run = context;
    this.#detections = detections;
    context.services.zonesOf = (object) => this.#zonesOf(object);
  }

  // What is asked again and again while a pose is looked at: of the program and the state of `#refresh`.
  #compiled: ZonesProgram = { colliders: [], index: new Map(), pairs: 0, things: [] };
  #nodes: Int32Array = new Int32Array(0);
  #rows: ZoneRows = {
    overlapping: new Uint8Array(0),
    zoneRec: new Float64Array(0),
    zoneOn: new Uint8Array(0),
  };
  /** Rows of the nodes in the pose before. */
  #before: Float64Array = new Float64Array(0);

  #refresh(): void {
    const { program, state } = this.#run;
    this.#compiled = program.parts.zones as ZonesProgram;
    this.#nodes = this.#tracked.nodes;
    this.#rows = state.parts.zones as ZoneRows;
    this.#before = (state.parts.tracking as TrackingRows).nodes;
  }
  get #tracked(): Tracked {
    return this.#run.program.parts.tracking as Tracked;
  }

  /** The objects that a zone has noticed, by id, in the order of the tree. */
  thingsIn(zone: string): string[] {
    this.#refresh();
    const { colliders, index, things } = this.#compiled;
    const collider = colliders[index.get(zone) ?? -1];
    if (!collider) return [];
    return things.flatMap((object) => {
      const rank = collider.rank[this.#tracked.nodeOf.get(object) as number] as number;
      const id = this.#run.program.objects[object]?.id as string;
      return rank >= 0 && this.#rows.overlapping[collider.firstPair + rank] === 1 ? [id] : [];
    });
  }

  /** The zones that have an object in them, by id; what is only near is in none. */
  #zonesOf(object: number): string[] {
    this.#refresh();
    const node = this.#tracked.nodeOf.get(object) ?? -1;
    return this.#compiled.colliders.flatMap(({ collider, rank, firstPair }) => {
      const at = rank[node] ?? -1;
      const isIn = collider.role === 'zone' && at >= 0 && this.#rows.overlapping[firstPair + at] === 1;
      return isIn ? [collider.id] : [];
    });
  }

  /** One look: all facts change; what has happened is logged with all else that is found. */
  detect(): void {
    const { program, state } = this.#run;
    this.#refresh();
    const zones = this.#compiled;
    if (zones.colliders.length === 0) return;
    if (this.#of !== program || this.#state !== state) this.#begin(program, state);
    const moved = this.#look(program, state);
    const switched = this.#switches(state, zones);
    if (!moved && !switched && !this.#restless) return;
    this.#extents(zones);
    this.#sweepAll(zones);
    this.#lately.set(this.#changed);
    this.#restless = moved || switched;
    this.#keep();
    this.#rows.zoneOn.set(this.#isOn);
  }

  /** These objects go: what is in their zones, and the zones that they are in, are left now. */
  leave({ from, to }: Span): void {
    const { t } = this.#run;
    this.#refresh();
    const { colliders } = this.#compiled;
    const { nodes, nodeOf } = this.#tracked;
    const { overlapping } = this.#rows;
    const leave = (c: number, node: number) => {
      const { rank, firstPair } = colliders[c] as ColliderProgram;
      const pair = firstPair + (rank[node] as number);
      if ((rank[node] as number) < 0 || overlapping[pair] !== 1) return;
      overlapping[pair] = 0;
      this.#add(c, node, false, t);
    };
    const going: number[] = [];
    for (let o = from; o < to; o++) {
      const node = nodeOf.get(o);
      if (node !== undefined) going.push(node);
    }
    if (going.length === 0) return;
    colliders.forEach(({ object }, c) => {
      if (object >= from && object < to) for (let node = 0; node < nodes.length; node++) leave(c, node);
      else for (const node of going) leave(c, node);
    });
  }

  #begin(program: Program, state: RunState): void {
    const { nodes, nodeOf } = this.#tracked;
    const { colliders, things } = this.#compiled;
    const n = nodes.length;
    this.#of = program;
    this.#state = state;
    this.#world = new Float64Array(n * MAT);
    this.#pivots = new Float64Array(n * 3);
    this.#counts = new Uint8Array(n);
    this.#changed = new Uint8Array(n);
    this.#lately = new Uint8Array(n).fill(1);
    this.#restless = true;
    this.#jumped = new Uint8Array(n);
    this.#seen = new Float64Array(n * OWN).fill(Number.NaN);
    this.#frame = new Float64Array(2).fill(Number.NaN);
    this.#isOn = new Uint8Array(colliders.length);
    this.#zoneLow = new Float64Array(colliders.length);
    this.#zoneHigh = new Float64Array(colliders.length);
    this.#thingLow = new Float64Array(n);
    this.#thingHigh = new Float64Array(n);
    this.#zones = Int32Array.from(colliders, (_, k) => k);
    this.#things = Int32Array.from(things, (i) => nodeOf.get(i) as number);
  }

  /** Brings the matrices up to the newest pose; false when nothing can have changed. */
  #look(program: Program, state: RunState): boolean {
    const { values, one } = state;
    const { nodes, above } = this.#tracked;
    const rows = this.#before;
    const seen = this.#seen;
    const { overlays } = program.geometry;
    const width = one[FRAME_WIDTH] as number;
    const height = one[FRAME_HEIGHT] as number;
    const framed = this.#frame[0] === width && this.#frame[1] === height;
    this.#frame[0] = width;
    this.#frame[1] = height;
    let any = state.tick === 0;
    for (let k = 0; k < nodes.length; k++) {
      const object = nodes[k] as number;
      const v = object * CHANNELS;
      const p = above[k] as number;
      const fixed = overlays[object];
      let same = (p < 0 || this.#changed[p] === 0) && (framed || !fixed);
      for (let c = 0; c < OWN; c++) {
        const now = values[c === 12 ? v + CH_SHOWN : v + c] as number;
        if (seen[k * OWN + c] === now) continue;
        seen[k * OWN + c] = now;
        same = false;
      }
      const o = k * NODE_ROW;
      const jumped = rows[o + JUMPED] === 1 || (p >= 0 && this.#jumped[p] === 1);
      this.#jumped[k] = jumped ? 1 : 0;
      if (!same) this.#place(program, k, object, p, values);
      // The row of the state tells what was: a run that was loaded knows nothing but that.
      let changed = this.#counts[k] !== rows[o + COUNTED] || jumped;
      for (let c = 0; c < MAT && !changed; c++) changed = this.#world[k * MAT + c] !== rows[o + c];
      for (let c = 0; c < 3 && !changed; c++) changed = this.#pivots[k * 3 + c] !== rows[o + PIVOT + c];
      this.#changed[k] = changed || state.tick === 0 ? 1 : 0;
      any ||= changed;
    }
    return any;
  }

  #place(program: Program, k: number, object: number, p: number, values: Float64Array): void {
    const v = object * CHANNELS;
    const world = this.#world;
    const fixed = program.geometry.overlays[object];
    // What is on top meets only what is on top too: places in the frame serve as well as those in the world.
    if (p < 0 || fixed) composeLocal(world, k * MAT, values, v);
    else {
      composeLocal(local, 0, values, v);
      multiply(world, k * MAT, world, p * MAT, local, 0);
    }
    if (fixed) {
      world[k * MAT + 9] =
        (world[k * MAT + 9] as number) + (fixed.ax * (this.#frame[0] as number)) / 2 + fixed.x;
      world[k * MAT + 10] =
        (world[k * MAT + 10] as number) + (fixed.ay * (this.#frame[1] as number)) / 2 + fixed.y;
    }
    const pivot = v + 9;
    transformPoint(
      this.#pivots,
      k * 3,
      world,
      k * MAT,
      values[pivot] as number,
      values[pivot + 1] as number,
      values[pivot + 2] as number,
    );
    this.#counts[k] = (values[v + CH_SHOWN] as number) >= 0.5 && (p < 0 || this.#counts[p] === 1) ? 1 : 0;
  }

  /** Which zones are switched on; true when any was switched since the last look, whose owner has then changed. */
  #switches(state: RunState, { colliders }: ZonesProgram): boolean {
    const { zoneOn } = this.#rows;
    let any = false;
    for (let c = 0; c < colliders.length; c++) {
      const { collider, owner, switchAt } = colliders[c] as ColliderProgram;
      const on = (switchAt < 0 ? collider.on : (state.values[switchAt] as number) >= 0.5) ? 1 : 0;
      this.#isOn[c] = on;
      if (zoneOn[c] === on) continue;
      this.#changed[owner] = 1;
      any = true;
    }
    return any;
  }

  /** How far along x each zone reaches in both poses, and each thing on its way. */
  #extents({ colliders }: ZonesProgram): void {
    const rows = this.#before;
    for (let k = 0; k < colliders.length; k++) {
      const { owner, shape } = colliders[k] as ColliderProgram;
      if (shape.is !== 'near' && this.#turns(rows, owner)) {
        // Straight in the space of what turns is anywhere in the world.
        this.#zoneLow[k] = Number.NEGATIVE_INFINITY;
        this.#zoneHigh[k] = Number.POSITIVE_INFINITY;
        continue;
      }
      zoneExtent(shape, this.#world, owner * MAT, this.#pivots, owner * 3);
      const low = range[0] as number;
      const high = range[1] as number;
      zoneExtent(shape, rows, owner * NODE_ROW, rows, owner * NODE_ROW + PIVOT);
      this.#zoneLow[k] = Math.min(low, range[0] as number) - SLACK;
      this.#zoneHigh[k] = Math.max(high, range[1] as number) + SLACK;
    }
    for (let n = 0; n < this.#things.length; n++) {
      const k = this.#things[n] as number;
      const a = rows[k * NODE_ROW + PIVOT] as number;
      const b = this.#pivots[k * 3] as number;
      this.#thingLow[k] = Math.min(a, b);
      this.#thingHigh[k] = Math.max(a, b);
    }
    sortBy(this.#zones, this.#zoneLow);
    sortBy(this.#things, this.#thingLow);
  }

  /** Whether a node is not turned, sized or slanted as it was. */
  #turns(rows: Float64Array, k: number): boolean {
    for (let c = 0; c < 9; c++) if (this.#world[k * MAT + c] !== rows[k * NODE_ROW + c]) return true;
    return false;
  }

  /** All pairs that overlap along x and one of which has changed, now or at the last look. */
  #sweepAll({ colliders }: ZonesProgram): void {
    const zones = this.#zones;
    const things = this.#things;
    let first = 0;
    let widest = 0;
    for (let n = 0; n < things.length; n++) {
      const k = things[n] as number;
      widest = Math.max(widest, (this.#thingHigh[k] as number) - (this.#thingLow[k] as number));
    }
    for (let z = 0; z < zones.length; z++) {
      const c = zones[z] as number;
      const collider = colliders[c] as ColliderProgram;
      const low = this.#zoneLow[c] as number;
      const high = this.#zoneHigh[c] as number;
      const moved = this.#changed[collider.owner] === 1 || this.#lately[collider.owner] === 1;
      // Zones come by where they begin, so no later one reaches further back.
      while (first < things.length && (this.#thingLow[things[first] as number] as number) + widest < low)
        first++;
      for (let n = first; n < things.length; n++) {
        const k = things[n] as number;
        if ((this.#thingLow[k] as number) > high) break;
        if ((this.#thingHigh[k] as number) < low) continue;
        if (!moved && this.#changed[k] === 0 && this.#lately[k] === 0) continue;
        const rank = collider.rank[k] as number;
        if (rank >= 0 && k !== collider.owner) this.#pair(c, collider, k, collider.firstPair + rank);
      }
    }
  }

  #pair(c: number, collider: ColliderProgram, k: number, pair: number): void {
    const { state, program } = this.#run;
    const { onTop } = program.geometry;
    const { owner, shape } = collider;
    const nodes = this.#nodes;
    if (onTop[nodes[owner] as number] !== onTop[nodes[k] as number]) return;
    const rows = this.#before;
    const { overlapping, zoneOn } = this.#rows;
    const wasIn = overlapping[pair] === 1;
    const isThere =
      this.#isOn[c] === 1 &&
      this.#counts[owner] === 1 &&
      this.#counts[k] === 1 &&
      invert(this.#inverse, 0, this.#world, owner * MAT);
    if (!isThere) {
      if (wasIn) this.#change(c, k, pair, 1);
      return;
    }
    const mine = owner * NODE_ROW;
    const its = k * NODE_ROW;
    // Both poses that tick 1 compares are of instant 0: what moves in no time has no way.
    const jumped =
      state.tick <= 1 ||
      zoneOn[c] === 0 ||
      this.#jumped[owner] === 1 ||
      this.#jumped[k] === 1 ||
      rows[mine + COUNTED] === 0 ||
      rows[its + COUNTED] === 0 ||
      !invert(this.#inverseBefore, 0, rows, mine);
    if (shape.is === 'near') {
      for (let r = 0; r < 3; r++) {
        to[r] = (this.#pivots[k * 3 + r] as number) - (this.#pivots[owner * 3 + r] as number);
        from[r] = (rows[its + PIVOT + r] as number) - (rows[mine + PIVOT + r] as number);
      }
    } else {
      pointIn(this.#inverse, this.#pivots, k * 3, to);
      if (!jumped) pointIn(this.#inverseBefore, rows, its + PIVOT, from);
    }
    if (jumped) {
      if (isIn(shape, wasIn, to) !== wasIn) this.#change(c, k, pair, 1);
      return;
    }
    const s = this.#stretches;
    if (shape.is === 'near') nearStretch(shape, wasIn, from, to, s);
    else stretchesIn(shape, from, to, s);
    let first = 0;
    if (wasIn) {
      const goesOn = s.count > 0 && (s.at[0] as number) <= 1e-9;
      const out = goesOn ? (s.at[1] as number) : 0;
      if (goesOn) first = 1;
      if (!(out < STAYS)) return;
      this.#change(c, k, pair, out);
    }
    for (let n = first; n < s.count; n++) {
      this.#change(c, k, pair, s.at[2 * n] as number);
      const out = s.at[2 * n + 1] as number;
      if (out < STAYS) this.#change(c, k, pair, out);
    }
  }

  /** Whoever was in it is so no more, and the other way round, at this part of the way. */
  #change(collider: number, node: number, pair: number, part: number): void {
    const { tick } = this.#run.state;
    const { overlapping } = this.#rows;
    const end = Math.max(0, tick - 1) / TICKS_PER_SECOND;
    // Of a whole way the instant is that of the newest pose, exactly.
    // The base, which the first of them compares with, is of instant 0, too.
    const at = part === 1 ? end : Math.max(0, (tick - 2 + part) / TICKS_PER_SECOND);
    const enters = overlapping[pair] === 0;
    overlapping[pair] = enters ? 1 : 0;
    this.#add(collider, node, enters, at);
  }

  #add(zone: number, node: number, enters: boolean, at: number): void {
    const { collider, order, object } = this.#compiled.colliders[zone] as ColliderProgram;
    const event: EventName = `${collider.role}.${enters ? 'enter' : 'leave'}`;
    const thing = this.#nodes[node] as number;
    const logged = (rec: number) => {
      this.#rows.zoneRec[zone] = rec;
    };
    this.#detections.add({
      ...{ event, begins: enters, at, collider: collider.id, order, object, thing, logged },
      topic: topicOf(zone),
    });
  }

  /** The newest pose is the one before, from now on. */
  #keep(): void {
    const nodes = this.#nodes;
    const rows = this.#before;
    for (let k = 0; k < nodes.length; k++) {
      if (this.#changed[k] === 0) continue;
      const o = k * NODE_ROW;
      for (let c = 0; c < MAT; c++) rows[o + c] = this.#world[k * MAT + c] as number;
      for (let c = 0; c < 3; c++) rows[o + PIVOT + c] = this.#pivots[k * 3 + c] as number;
      rows[o + COUNTED] = this.#counts[k] as number;
    }
  }
}

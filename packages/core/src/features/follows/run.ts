/** What follows: each tick it makes up a part of the way to its source, as it stands in the poses on screen. */
import { PLAY_ROW } from '../../anim/index.ts';
import { clamp, SAME_INSTANT, TICKS_PER_SECOND } from '../../base/index.ts';
import { toNumber } from '../../logic/index.ts';
import { type Signal, textNumber, wordsOf } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import type { Phases } from '../../run/phases.ts';
import type { PlaceProgram } from '../../run/place-program.ts';
import { isThere } from '../../run/presence.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Scene } from '../../run/scene.ts';
import { POINTER_KNOWN, POINTER_X, POINTER_Y } from '../../run/state.ts';
import { type FollowProgram, type FollowsProgram, mapFollowed } from './program.ts';
import { FOLLOW_ROW } from './rows.ts';

const a = new Float64Array(3);
const b = new Float64Array(3);
const x = new Float64Array(1);

export class Following implements Phases {
  readonly #run: Context;
  readonly #base: RunBase;
  readonly #scene: Scene;

  constructor(base: RunBase) {
    this.#run = base.context;
    this.#base = base;
    this.#scene = base.scene;
  }

  get #program(): FollowsProgram {
    return this.#run.program.parts.follows as FollowsProgram;
  }
  get #rows(): Float64Array {
    return this.#run.state.parts.follows as Float64Array;
  }

  /** One tick of all but what follows a drag; costs no memory but where words change or a cue is passed. */
  advance(): void {
    const { follows } = this.#program;
    for (let k = 0; k < follows.length; k++) {
      const f = follows[k] as FollowProgram;
      if (!isOfDrag(f) && this.#isThere(k)) this.#advance(k, f);
    }
  }

  /** One tick of what follows a drag, after that has moved; whether any of it is another now. */
  follow(): boolean {
    const { follows, anyOfDrag } = this.#program;
    if (!anyOfDrag) return false;
    const rows = this.#rows;
    let any = false;
    for (let k = 0; k < follows.length; k++) {
      const f = follows[k] as FollowProgram;
      if (!isOfDrag(f) || !this.#isThere(k)) continue;
      const before = rows[k * FOLLOW_ROW + 1] as number;
      const begun = rows[k * FOLLOW_ROW] === 1;
      this.#advance(k, f);
      any ||= !begun || rows[k * FOLLOW_ROW + 1] !== before;
    }
    return any;
  }

  #isThere(k: number): boolean {
    const place = this.#program.places[k] as number;
    return place < 0 || isThere(this.#run.state, place);
  }

  setBack(_place: PlaceProgram, k: number): void {
    const { places } = this.#program;
    for (let i = 0; i < places.length; i++)
      if (places[i] === k) this.#rows.fill(0, i * FOLLOW_ROW, (i + 1) * FOLLOW_ROW);
  }

  #advance(k: number, f: FollowProgram): void {
    const rows = this.#rows;
    const o = k * FOLLOW_ROW;
    this.#read(f);
    const source = x[0] as number;
    if (f.words) {
      if (rows[o] === 1 && rows[o + 2] === source) return;
      rows[o + 1] = this.#words(f, source);
    } else {
      const { from, to, clamp: stays } = f.follow;
      if (from && to) x[0] = mapFollowed(source, from, to, stays);
      const y = rows[o + 1] as number;
      rows[o + 1] = rows[o] === 1 ? y + ((x[0] as number) - y) * f.part : (x[0] as number);
    }
    rows[o] = 1;
    rows[o + 2] = source;
    // What follows is a property, or its lane is not in the program.
    if (f.lane < 0) return;
    if (f.clip >= 0) this.#place(f, rows[o + 1] as number);
    else this.#base.lanes.reweigh(f.lane);
  }

  /** Writes the source's number to `x[0]`; of a signal that is words, the number that stands for them in the state. */
  #read(f: FollowProgram): void {
    const { state, program } = this.#run;
    const { source } = f.follow;
    if ('signal' in source) {
      if (f.words || program.signals[f.signal]?.type === 'number')
        x[0] = f.signal < 0 ? 0 : (state.signals[f.signal] as number);
      else x[0] = toNumber(this.#run.signalValue(f.signal));
    } else if ('pointer' in source) {
      const isX = source.pointer === 'x';
      if (state.one[POINTER_KNOWN] === 0) {
        x[0] = 0;
        return;
      }
      x[0] = state.one[isX ? POINTER_X : POINTER_Y] as number;
      if (f.a < 0) return;
      this.#scene.pivot(f.a, true, a);
      x[0] -= a[isX ? 0 : 1] as number;
    } else if ('drag' in source) x[0] = this.#run.services.dragDistance(f.a, 'xyz'.indexOf(source.axis));
    else {
      const onScreen = f.a < 0 || f.b < 0;
      if (onScreen && state.one[POINTER_KNOWN] === 0) {
        x[0] = 0;
        return;
      }
      this.#end(f.a, onScreen, a);
      this.#end(f.b, onScreen, b);
      const [dx, dy] = [(a[0] as number) - (b[0] as number), (a[1] as number) - (b[1] as number)];
      const dz = onScreen ? 0 : (a[2] as number) - (b[2] as number);
      x[0] = Math.sqrt(dx * dx + dy * dy + dz * dz);
    }
  }

  #end(object: number, onScreen: boolean, out: Float64Array): void {
    const { one } = this.#run.state;
    if (object >= 0) {
      this.#scene.pivot(object, onScreen, out);
      return;
    }
    out[0] = one[POINTER_X] as number;
    out[1] = one[POINTER_Y] as number;
  }

  /** The words that a text takes from its source. */
  #words(f: FollowProgram, source: number): number {
    const { state, program } = this.#run;
    const { from, to, clamp: stays } = f.follow;
    const def = program.signals[f.signal] as Signal | undefined;
    const value = def ? state.signalValue(def, f.signal) : source;
    if (from && to) return textNumber(wordsOf(mapFollowed(toNumber(value), from, to, stays)));
    return textNumber(wordsOf(value));
  }

  /** A clip whose place follows: it stands there, and the cues that it has passed are served. */
  #place(f: FollowProgram, asked: number): void {
    const run = this.#run;
    const { state, program } = run;
    const s = run.activeState(f.lane);
    if (s?.clip !== f.clip) return;
    const to = clamp(asked, 0, program.plain.duration[f.clip] as number);
    const o = f.lane * 2 * PLAY_ROW;
    const from = state.plays[o] as number;
    state.plays[o + 1] = run.t;
    if (to === from) return;
    state.plays[o] = to;
    // A moment told in per cent may have been reached, or left.
    run.schedule.touch(f.lane);
    run.schedule.mark(f.lane);
    // In its first tick it only takes its place.
    const before = (state.tick - 1) / TICKS_PER_SECOND + SAME_INSTANT;
    if ((state.entered[f.lane] as number) <= before) this.#base.lanes.passed(f.lane, from, to);
  }
}

function isOfDrag(f: FollowProgram): boolean {
  return 'drag' in f.follow.source;
}

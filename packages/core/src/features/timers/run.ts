/** Timers while a piece runs: each firing is scheduled when the one before has come. */
import { drawUnit, SAME_INSTANT, snapInstant } from '../../base/index.ts';
import type { Context } from '../../run/context.ts';
import type { Phases } from '../../run/phases.ts';
import type { PlaceProgram } from '../../run/place-program.ts';
import { bornAt, isThere } from '../../run/presence.ts';
import type { Program, ReactionProgram } from '../../run/program.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Scheduled } from '../../run/state.ts';
import { NO_CAUSE } from '../../run/trace.ts';
import type { TimersProgram } from './program.ts';

export class Timers implements Phases {
  readonly #run: Context;
  readonly #what: number;

  constructor({ context }: RunBase) {
    this.#run = context;
    this.#what = context.scheduledNumber('timer');
  }

  get #program(): TimersProgram {
    return this.#run.program.parts.timers as TimersProgram;
  }
  #bornAt(reaction: number): number {
    return bornAt(this.#run.state, this.#run.program.spawns.ofReaction[reaction] ?? -1);
  }

  /** All timers of what begins. */
  start(place: PlaceProgram | null): void {
    const { is } = this.#program;
    const { from, to } = place?.reactions ?? { from: 0, to: is.length };
    for (let i = from; i < to; i++) if (is[i] === 1 && (place || this.#isThere(i))) this.#lay(i, 0);
  }

  #isThere(reaction: number): boolean {
    const place = this.#run.program.spawns.ofReaction[reaction] ?? -1;
    return place < 0 || isThere(this.#run.state, place);
  }

  /** Lays the timers of reactions that an edit has made, unless their only firings have passed. */
  edited(old: Program): void {
    const { is, first, every } = this.#program;
    const { reactions } = this.#run.program;
    for (let i = 0; i < is.length; i++) {
      if (is[i] !== 1 || !this.#isThere(i)) continue;
      const was = old.reactionIndex.get((reactions[i] as ReactionProgram).id) ?? -1;
      if (old.parts.timers?.is[was] === 1) continue;
      if ((every[i] as number) > 0 || (first[i] as number) > this.#run.t - this.#bornAt(i)) this.#lay(i, 0);
    }
  }

  /** Lays the nth firing of a reaction's timer on its grid, give or take its jitter. */
  #lay(reaction: number, n: number): void {
    const { state, t } = this.#run;
    const timers = this.#program;
    // What was spawned has timers since then.
    const born = this.#bornAt(reaction);
    const now = t - born;
    const first = timers.first[reaction] as number;
    const every = timers.every[reaction] as number;
    const jitter = timers.jitter[reaction] as number;
    const stream = timers.stream[reaction] as number;
    if (n > 0 && every === 0) return;
    // Firings that lie a whole round behind (the timer was changed in a run, or passed over) are not made up for.
    const behind = every === 0 ? 0 : Math.ceil((now - jitter - first - SAME_INSTANT) / every);
    const at = Math.max(n, behind);
    let item = first + at * every;
    if (jitter > 0 && stream >= 0) item += (2 * drawUnit(state.random, stream * 4) - 1) * jitter;
    const instant = Math.max(t, snapInstant(born + item));
    this.#run.addScheduled({ t: instant, what: this.#what, index: reaction, action: 0, n: at, cause: -1 });
  }

  fire(item: Scheduled): void {
    const { id, object } = this.#run.program.reactions[item.index] as ReactionProgram;
    const rec = this.#run.raise({ kind: 'event', event: 'timer', reaction: id }, NO_CAUSE);
    this.#run.queueEvent(rec, NO_CAUSE, object);
    this.passOver(item);
  }

  /** The firing does not come; the next one is scheduled. */
  passOver(item: Scheduled): void {
    this.#lay(item.index, item.n + 1);
  }
}

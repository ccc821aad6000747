/** Effects while a piece runs: what is set off, and when it is over. What they look like is in `shown.ts`. */
import { SAME_DATE } from '../../base/index.ts';
import type { Context } from '../../run/context.ts';
import type { Phases } from '../../run/phases.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { PlaceProgram } from '../../run/spawn-program.ts';
import type { RunState } from '../../run/state.ts';
import type { Cause } from '../../run/trace.ts';
import { type EffectProgram, lengthOf } from './program.ts';
import type { EffectRows } from './rows.ts';

/** So many flashes are shown of those that begin within a second: more would harm people. */
const MOST_FLASHES = 3;
const FLASH_WINDOW = 1;
/** So many effects are under way at once; what is more is told and not shown. */
const MOST_SHOWS = 8192;
export class Effects implements Phases {
  readonly #run: Context;
  readonly #base: RunBase;
  readonly #place = new Float64Array(3);

  constructor(base: RunBase) {
    this.#run = base.context;
    this.#base = base;
  }

  get #rows(): EffectRows {
    return this.#run.state.parts.effects as EffectRows;
  }
  #effect(i: number): EffectProgram {
    return this.#run.program.parts.effects?.effects[i] as EffectProgram;
  }

  /** Effect `i` begins at an object, or, with −1, over the frame. */
  begin(i: number, object: number, cause: Cause): void {
    const run = this.#run;
    const { t } = run;
    const { bursts, shows } = this.#rows;
    const { effect } = this.#effect(i);
    const id = run.idOf(object);
    const at = id === undefined ? {} : { object: id };
    if (!run.mayAct()) return;
    const full = shows.count >= MOST_SHOWS;
    if (effect.kind === 'burst') {
      if (id === undefined || full) return;
      const n = bursts[i] as number;
      bursts[i] = n + 1;
      const onTop = this.#base.standing.pivotAt(object, this.#place);
      const [x, y, z] = this.#place as unknown as [number, number, number];
      shows.add([i, object, t, n, x, y, z, onTop ? 1 : 0, 1]);
      run.raise({ kind: 'burst', effect: effect.id, burst: n, ...at }, cause);
      return;
    }
    const shown = !full && (effect.kind === 'shake' || this.#flashes(t) < MOST_FLASHES);
    if (shown) shows.add([i, object, t, 0, 0, 0, 0, 0, 1]);
    if (shown && effect.kind === 'flash') this.#shownFlashes(run.state).push(t);
    const unseen = shown ? {} : { shown };
    run.raise({ kind: 'action', action: effect.kind, effect: effect.id, ...at, ...unseen }, cause);
  }

  /** How many flashes that are shown began in the second before date t. */
  #flashes(t: number): number {
    const dates = this.#shownFlashes(this.#run.state);
    while (dates.length > 0 && (dates[0] as number) <= t - FLASH_WINDOW + SAME_DATE) dates.shift();
    return dates.length;
  }

  /** Their dates, as the state has them: looked for once, since there may be thousands of effects. */
  #shownFlashes(state: RunState): number[] {
    if (this.#dates.of !== state) {
      const { shows } = this.#rows;
      const dates: number[] = [];
      for (let k = 0; k < shows.count; k++)
        if (this.#effect(shows.at(k, 0)).effect.kind === 'flash') dates.push(shows.at(k, 2));
      this.#dates = { of: state, dates: dates.sort((x, y) => x - y) };
    }
    return this.#dates.dates;
  }
  #dates: { readonly of: RunState | null; readonly dates: number[] } = { of: null, dates: [] };

  /** What is over is dropped. A flash is remembered for as long as it counts. */
  posed(): void {
    const { shows } = this.#rows;
    for (let k = shows.count - 1; k >= 0; k--) {
      const { effect } = this.#effect(shows.at(k, 0));
      const rest = effect.kind === 'flash' ? FLASH_WINDOW : 0;
      if (shows.at(k, 2) + Math.max(rest, lengthOf(effect)) <= this.#run.t) shows.drop(k);
    }
  }

  setBack({ objects }: PlaceProgram): void {
    const { shows } = this.#rows;
    for (let k = shows.count - 1; k >= 0; k--) {
      const object = shows.at(k, 1);
      // A burst is in the world, and stays there.
      const goes = object >= objects.from && object < objects.to;
      if (goes && this.#effect(shows.at(k, 0)).effect.kind !== 'burst') shows.drop(k);
    }
  }
}

/** Effects while a piece runs: what is set off, and when it is over. What they look like is in `frame.ts`. */
import { SAME_INSTANT } from '../../base/index.ts';
import type { Context } from '../../run/context.ts';
import type { Phases } from '../../run/phases.ts';
import type { PlaceProgram } from '../../run/place-program.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { RunState } from '../../run/state.ts';
import type { Cause } from '../../run/trace.ts';
import { type EffectProgram, lengthOf } from './program.ts';
import type { EffectRows } from './rows.ts';

/** So many flashes are shown of those that begin within a second: more would harm people. */
const MOST_FLASHES = 3;
const FLASH_WINDOW = 1;
/** So many effects are under way at once; what is more is logged and not shown. */
const MOST_ACTIVE = 8192;
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
    const { bursts, active } = this.#rows;
    const { effect } = this.#effect(i);
    const id = run.idOf(object);
    const at = id === undefined ? {} : { object: id };
    if (!run.mayGoAhead()) return;
    const full = active.count >= MOST_ACTIVE;
    if (effect.kind === 'burst') {
      if (id === undefined || full) return;
      const n = bursts[i] as number;
      bursts[i] = n + 1;
      const onTop = this.#base.standing.pivotAt(object, this.#place);
      const [x, y, z] = this.#place as unknown as [number, number, number];
      active.add([i, object, t, n, x, y, z, onTop ? 1 : 0, 1]);
      run.raise({ kind: 'burst', effect: effect.id, burst: n, ...at }, cause);
      return;
    }
    const shown = !full && (effect.kind === 'shake' || this.#flashes(t) < MOST_FLASHES);
    if (shown) active.add([i, object, t, 0, 0, 0, 0, 0, 1]);
    if (shown && effect.kind === 'flash') this.#shownFlashes(run.state).push(t);
    const unseen = shown ? {} : { shown };
    run.raise({ kind: 'action', action: effect.kind, effect: effect.id, ...at, ...unseen }, cause);
  }

  /** How many flashes that are shown began in the second before instant t. */
  #flashes(t: number): number {
    const instants = this.#shownFlashes(this.#run.state);
    while (instants.length > 0 && (instants[0] as number) <= t - FLASH_WINDOW + SAME_INSTANT)
      instants.shift();
    return instants.length;
  }

  /** Their instants, as the state has them: looked for once, since there may be thousands of effects. */
  #shownFlashes(state: RunState): number[] {
    if (this.#instants.of !== state) {
      const { active } = this.#rows;
      const instants: number[] = [];
      for (let k = 0; k < active.count; k++)
        if (this.#effect(active.at(k, 0)).effect.kind === 'flash') instants.push(active.at(k, 2));
      this.#instants = { of: state, instants: instants.sort((x, y) => x - y) };
    }
    return this.#instants.instants;
  }
  #instants: { readonly of: RunState | null; readonly instants: number[] } = { of: null, instants: [] };

  /** What is over is dropped. A flash is remembered for as long as it counts. */
  posed(): void {
    const { active } = this.#rows;
    for (let k = active.count - 1; k >= 0; k--) {
      const { effect } = this.#effect(active.at(k, 0));
      const rest = effect.kind === 'flash' ? FLASH_WINDOW : 0;
      if (active.at(k, 2) + Math.max(rest, lengthOf(effect)) <= this.#run.t) active.drop(k);
    }
  }

  setBack({ objects }: PlaceProgram): void {
    const { active } = this.#rows;
    for (let k = active.count - 1; k >= 0; k--) {
      const object = active.at(k, 1);
      // A burst is in the world, and stays there.
      const goes = object >= objects.from && object < objects.to;
      if (goes && this.#effect(active.at(k, 0)).effect.kind !== 'burst') active.drop(k);
    }
  }
}

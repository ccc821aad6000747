/** Sounds while a piece runs. */
import type { Context } from '../../run/context.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Cause } from '../../run/trace.ts';

export class Sounds {
  readonly #run: Context;

  constructor({ context }: RunBase) {
    this.#run = context;
  }

  /** `object`: number of what it is heard from, −1 for nothing; `volume`: 0–1. */
  begin(sound: string, volume: number, object: number, cause: Cause): void {
    const id = this.#run.idOf(object);
    const loud = volume === 1 ? {} : { volume };
    this.#run.raise({ kind: 'sound', sound, ...loud, ...(id === undefined ? {} : { object: id }) }, cause);
  }

  stop(sound: string, cause: Cause): void {
    this.#run.raise({ kind: 'action', action: 'stopSound', sound }, cause);
  }
}

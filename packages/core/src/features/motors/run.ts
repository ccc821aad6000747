/** Motors while a piece runs: how they begin and stop. What they add is in `run/movers.ts`. */
import { CHANNELS, canOffset, type PropertyInfo } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import { beginMotor, stopMotor } from '../../run/movers.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Cause } from '../../run/trace.ts';

export class Motors {
  readonly #run: Context;

  constructor({ context }: RunBase) {
    this.#run = context;
  }

  /** In units of the property a second, and a second more each second, up to the limit. */
  begin(object: number, property: PropertyInfo, motor: Parameters<typeof beginMotor>[3], cause: Cause): void {
    const run = this.#run;
    const id = run.idOf(object);
    if (id === undefined || !canOffset(property)) return;
    beginMotor(run.program, run.state, object * CHANNELS + property.channel, motor, run.clock);
    run.raise({ kind: 'action', action: 'motor', object: id, property: property.name }, cause);
  }

  /** `goes`: what it has added goes with it. */
  stop(object: number, property: PropertyInfo, goes: boolean, cause: Cause): void {
    const run = this.#run;
    const id = run.idOf(object);
    if (id === undefined) return;
    run.discontinuities.touch(object * CHANNELS + property.channel);
    stopMotor(run.program, run.state, object * CHANNELS + property.channel, goes, run.clock);
    run.raise({ kind: 'action', action: 'stopMotor', object: id, property: property.name }, cause);
  }
}

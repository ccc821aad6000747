/**
 * What one noticing has found, zones and touches alike, told in one order: by the date at which it came about, of one date
 * leaves and ends first, then by collider in the document's order, then by thing in the tree's.
 */
import type { EventName } from '../model/index.ts';
import type { Context } from './context.ts';
import type { Cause } from './trace.ts';

export interface Found {
  readonly event: EventName;
  /** Whether it is the beginning of something, not its end. */
  readonly begins: boolean;
  /** Its date, seconds. */
  readonly at: number;
  readonly collider: string;
  /** The collider's number in document order. */
  readonly order: number;
  /** Numbers of the collider's object, and of the thing. */
  readonly object: number;
  readonly thing: number;
  /** Of a zone its number, for whoever asks what it has noticed; −1 for a blocker. */
  readonly zone: number;
}

export class Notices {
  readonly #run: Context;
  #found: Found[] = [];

  constructor(run: Context) {
    this.#run = run;
  }

  add(found: Found): void {
    this.#found.push(found);
  }

  /** Raises all that was found; by then all facts have changed. */
  tell(cause: Cause): void {
    const found = this.#found;
    if (found.length === 0) return;
    this.#found = [];
    const run = this.#run;
    const { program, state } = run;
    found.sort(
      (x, y) => x.at - y.at || Number(x.begins) - Number(y.begins) || x.order - y.order || x.thing - y.thing,
    );
    for (const { zone } of found) run.agenda.markThose(program.asking.byCollider[zone]);
    for (const { event, collider, object, thing, at, zone } of found) {
      const ids = {
        object: program.objects[object]?.id as string,
        other: program.objects[thing]?.id as string,
      };
      const rec = run.raise({ kind: 'event', event, collider, ...ids, at }, cause);
      if (zone >= 0) state.zoneRec[zone] = rec.id;
      run.queueEvent(rec, cause, object, -1, thing);
    }
  }
}

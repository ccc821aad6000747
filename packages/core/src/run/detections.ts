/**
 * What one look at a pose has found, overlaps and contacts alike, logged in one order: by the instant at which it came
 * about, of one instant ends first, then by collider in the document's order, then by thing in the tree's.
 */
import type { EventName } from '../model/index.ts';
import type { Context } from './context.ts';
import type { Cause } from './trace.ts';

export interface Found {
  readonly event: EventName;
  /** Whether it is the beginning of something, not its end. */
  readonly begins: boolean;
  /** Its instant, seconds. */
  readonly at: number;
  readonly collider: string;
  /** The collider's number in document order. */
  readonly order: number;
  /** Numbers of the collider's object, and of the thing. */
  readonly object: number;
  readonly thing: number;
  /** What conditions may have asked, by its name, and who keeps the record that tells of it. */
  readonly topic?: string;
  readonly logged?: (rec: number) => void;
}

export class Detections {
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
    const { asking, objects } = run.program;
    found.sort(
      (x, y) => x.at - y.at || Number(x.begins) - Number(y.begins) || x.order - y.order || x.thing - y.thing,
    );
    for (const { topic } of found) if (topic !== undefined) run.schedule.markThose(asking.byTopic.get(topic));
    for (const { event, collider, object, thing, at, logged } of found) {
      const ids = { object: objects[object]?.id as string, other: objects[thing]?.id as string };
      const rec = run.raise({ kind: 'event', event, collider, ...ids, at }, cause);
      logged?.(rec.id);
      run.queueEvent(rec, cause, object, -1, thing);
    }
  }
}

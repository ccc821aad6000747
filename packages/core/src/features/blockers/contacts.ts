/**
 * What touches a blocker: the visitor, and what is dragged, found in the newest pose, and logged among what zones find.
 * Nobody is asked while neither they nor a blocker has moved.
 */
import { TICKS_PER_SECOND } from '../../base/index.ts';
import type { Context } from '../../run/context.ts';
import type { Detections } from '../../run/detections.ts';
import type { Span } from '../../run/place-program.ts';
import type { Program } from '../../run/program.ts';
import type { RunState } from '../../run/state.ts';
import { isShownNow } from '../../run/tree.ts';
import { type Blocking, BODIES } from './blocking.ts';
import type { BlockerProgram } from './program.ts';
import type { BlockerRows } from './rows.ts';

/** What decides who touches whom: where it is, and whether a blocker counts or which object a body is. */
const ROW = 2;

export class Contacts {
  readonly #run: Context;
  readonly #blocking: Blocking;
  #of: Program | null = null;
  #state: RunState | null = null;
  /** Rows of the blockers, then of both bodies, as they were last looked at. */
  #seen = new Float64Array(0);

  readonly #detections: Detections;

  constructor(run: Context, blocking: Blocking, detections: Detections) {
    this.#run = run;
    this.#detections = detections;
    this.#blocking = blocking;
  }

  get #rows(): BlockerRows {
    return this.#run.state.parts.blockers as BlockerRows;
  }

  detect(): void {
    const { program, state } = this.#run;
    const blockers = this.#blocking.all;
    if (blockers.length === 0) return;
    this.#crushes(state);
    if (!this.#changed(program, state)) return;
    const at = Math.max(0, state.tick - 1) / TICKS_PER_SECOND;
    const { contacts } = this.#rows;
    for (const body of BODIES) {
      const object = this.#bodyOf(body);
      const now = new Set(object < 0 ? [] : this.#blocking.contacts(object, this.#blocking.along(body)));
      for (let blocker = 0; blocker < blockers.length; blocker++) {
        const was = contacts[2 * blocker + body] as number;
        const is = now.has(blocker) ? object + 1 : 0;
        if (was === is) continue;
        if (was > 0) this.#add('touch.end', blocker, was - 1, at);
        if (is > 0) this.#add('touch.begin', blocker, object, at);
        contacts[2 * blocker + body] = is;
      }
    }
  }

  /** The object that may touch something, −1 where there is none or it is hidden. */
  #bodyOf(body: number): number {
    const { program, state } = this.#run;
    const object = this.#blocking.objectOf(body);
    return object >= 0 && isShownNow(program, state, object) ? object : -1;
  }

  /** These objects go: what touches them, and what they touch, is let go now. */
  leave({ from, to }: Span): void {
    const { contacts } = this.#rows;
    const goes = (object: number) => object >= from && object < to;
    this.#blocking.all.forEach(({ object }, k) => {
      for (const body of BODIES) {
        const who = (contacts[2 * k + body] as number) - 1;
        if (who < 0 || !(goes(object) || goes(who))) continue;
        contacts[2 * k + body] = 0;
        this.#add('touch.end', k, who, this.#run.t);
      }
    });
  }

  /** Tells once of what was crushed in the last pose. */
  #crushes(state: RunState): void {
    const { crushed } = this.#rows;
    for (let k = 0; k < crushed.length; k++) {
      if (crushed[k] !== 1) continue;
      crushed[k] = 2;
      const who = this.#blocking.objectOf(k & 1);
      const at = Math.max(0, state.tick - 1) / TICKS_PER_SECOND;
      if (who >= 0) this.#add('touch.crush', k >> 1, who, at);
    }
  }

  #add(event: 'touch.begin' | 'touch.end' | 'touch.crush', k: number, thing: number, at: number): void {
    const { blocker, order, object } = this.#blocking.all[k] as BlockerProgram;
    const begins = event !== 'touch.end';
    this.#detections.add({ event, begins, at, collider: blocker.id, order, object, thing });
  }

  /** Whether anything has changed since it was last looked. */
  #changed(program: Program, state: RunState): boolean {
    const blockers = this.#blocking.all;
    const n = blockers.length;
    let any = false;
    if (this.#of !== program || this.#state !== state) {
      this.#of = program;
      this.#state = state;
      this.#seen = new Float64Array((n + BODIES.length) * ROW);
      any = true;
    }
    for (let k = 0; k < n; k++) {
      const b = blockers[k] as BlockerProgram;
      any = this.#differs(k, b.object, this.#blocking.counts(b) ? 1 : 0) || any;
    }
    for (const body of BODIES) {
      const object = this.#bodyOf(body);
      any = this.#differs(n + body, object, object) || any;
    }
    return any;
  }

  /** Whether an object stands other than in its row; then it is written there. */
  #differs(row: number, object: number, mark: number): boolean {
    const seen = this.#seen;
    const o = row * ROW;
    let any = seen[o + ROW - 1] !== mark;
    seen[o + ROW - 1] = mark;
    if (object < 0) return any;
    const version = this.#blocking.versionOf(object);
    if (seen[o] !== version) any = true;
    seen[o] = version;
    return any;
  }
}

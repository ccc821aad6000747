/**
 * What touches a blocker: the visitor, and what is dragged, noticed in the newest pose after the zones. Nobody is asked while
 * neither they nor a blocker has moved.
 */
import { TICKS_PER_SECOND } from '../base/index.ts';
import { type Blocking, BODIES } from './blocking.ts';
import type { Context } from './context.ts';
import type { Program } from './program.ts';
import type { Span } from './spawn-program.ts';
import type { RunState } from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

/** What decides who touches whom: where it is, and whether a blocker counts or which object a body is. */
const ROW = 2;

interface Found {
  readonly begins: boolean;
  readonly blocker: number;
  readonly body: number;
}

export class Touching {
  readonly #run: Context;
  readonly #blocking: Blocking;
  #of: Program | null = null;
  #state: RunState | null = null;
  /** Rows of the blockers, then of both bodies, as they were last looked at. */
  #seen = new Float64Array(0);

  constructor(run: Context, blocking: Blocking) {
    this.#run = run;
    this.#blocking = blocking;
  }

  notice(): void {
    const { program, state } = this.#run;
    if (program.blockers.length === 0) return;
    this.#crushes(program, state);
    if (!this.#changed(program, state)) return;
    const found: Found[] = [];
    for (const body of BODIES) {
      const object = this.#blocking.objectOf(body);
      const now = new Set(object < 0 ? [] : this.#blocking.touched(object, this.#blocking.along(body)));
      for (let blocker = 0; blocker < program.blockers.length; blocker++) {
        const was = state.touched[2 * blocker + body] as number;
        const is = now.has(blocker) ? object + 1 : 0;
        if (was === is) continue;
        if (was > 0) found.push({ begins: false, blocker, body: was - 1 });
        if (is > 0) found.push({ begins: true, blocker, body: object });
        state.touched[2 * blocker + body] = is;
      }
    }
    // Ends are first, then blockers in the document's order, then things in the tree's.
    found.sort((a, b) => Number(a.begins) - Number(b.begins) || a.blocker - b.blocker || a.body - b.body);
    const at = Math.max(0, state.tick - 1) / TICKS_PER_SECOND;
    for (const { begins, blocker, body } of found) {
      const { blocker: collider, object } = program.blockers[blocker] as Program['blockers'][number];
      this.#tell(begins ? 'touch.begin' : 'touch.end', collider.id, object, body, at, NO_CAUSE);
    }
  }

  /** These objects go: what touches them, and what they touch, is let go now. */
  leave({ from, to }: Span, cause: Cause): void {
    const { program, state } = this.#run;
    const goes = (object: number) => object >= from && object < to;
    program.blockers.forEach(({ blocker: { id }, object }, k) => {
      for (const body of BODIES) {
        const who = (state.touched[2 * k + body] as number) - 1;
        if (who < 0 || !(goes(object) || goes(who))) continue;
        state.touched[2 * k + body] = 0;
        this.#tell('touch.end', id, object, who, this.#run.t, cause);
      }
    });
  }

  /** Tells once of what was crushed in the last pose. */
  #crushes(program: Program, state: RunState): void {
    for (let k = 0; k < state.crushed.length; k++) {
      if (state.crushed[k] !== 1) continue;
      state.crushed[k] = 2;
      const { blocker, object } = program.blockers[k >> 1] as Program['blockers'][number];
      const who = this.#blocking.objectOf(k & 1);
      const at = Math.max(0, state.tick - 1) / TICKS_PER_SECOND;
      if (who >= 0) this.#tell('touch.crush', blocker.id, object, who, at, NO_CAUSE);
    }
  }

  #tell(
    event: 'touch.begin' | 'touch.end' | 'touch.crush',
    collider: string,
    object: number,
    body: number,
    at: number,
    cause: Cause,
  ): void {
    const { program } = this.#run;
    const ids = { object: program.objects[object]?.id as string, other: program.objects[body]?.id as string };
    const rec = this.#run.raise({ kind: 'event', event, collider, ...ids, at }, cause);
    this.#run.queueEvent(rec, cause, object, -1, body);
  }

  /** Whether anything has changed since it was last looked. */
  #changed(program: Program, state: RunState): boolean {
    const n = program.blockers.length;
    let any = false;
    if (this.#of !== program || this.#state !== state) {
      this.#of = program;
      this.#state = state;
      this.#seen = new Float64Array((n + BODIES.length) * ROW);
      any = true;
    }
    for (let k = 0; k < n; k++) {
      const b = program.blockers[k] as Program['blockers'][number];
      any = this.#differs(k, b.object, this.#blocking.counts(b) ? 1 : 0) || any;
    }
    for (const body of BODIES) {
      const object = this.#blocking.objectOf(body);
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

/** Reactions, actions, timers and everything delayed. */
import { clamp, snapInstant } from '../base/index.ts';
import { toNumber } from '../logic/index.ts';
import {
  CHANNELS,
  fitsProperty,
  fitsSignal,
  type PropertyInfo,
  type Signal,
  type SignalValue,
  wordsOf,
  writeValue,
} from '../model/index.ts';
import { type Context, listAsks } from './context.ts';
import type { Fade } from './fade.ts';
import type { LaneMoves } from './lane-moves.ts';
import { hold, letGo, stopMotor } from './movers.ts';
import type { RunParts } from './parts.ts';
import { boundValue, isThere } from './presence.ts';
import type { ReactionProgram } from './program.ts';
import type { CompiledAction, RunActions } from './run-actions.ts';
import { POINTER_PRESSED, PRESSES, type Scheduled } from './state.ts';
import type { Cause } from './trace.ts';

/** Seconds after which a press is a long one. */
const LONG = 0.5;

export class ActionRunner implements RunActions {
  readonly #run: Context;
  readonly #laneMoves: LaneMoves;

  constructor(run: Context, laneMoves: LaneMoves) {
    this.#run = run;
    this.#laneMoves = laneMoves;
  }

  // What comes later.

  #delay(what: string, index: number, action: number, cause: Cause, seconds: number): void {
    const t = snapInstant(this.#run.t + seconds);
    const number = this.#run.scheduledNumber(what);
    this.#run.addScheduled({
      t,
      what: number,
      index,
      action,
      n: 1 + (cause.other ?? -1),
      cause: cause.rec ?? -1,
    });
  }

  /** A reaction, or an action of a list, comes after its delay: the thing of the event is known by its number. */
  runDelayedReaction({ index, n }: Scheduled, cause: Cause): void {
    this.#reactNow(index, { ...cause, other: n - 1 });
  }
  runDelayedAction({ index, action, n }: Scheduled, cause: Cause): void {
    this.#runAction(index, action, { ...cause, other: n - 1 });
  }

  /** A press that `cause` tells of, the nth: it is long if it still lasts then. */
  waitForLong(n: number, cause: Cause): void {
    this.#delay('long press', n, 0, cause, LONG);
  }

  /** The nth press may have become a long one. */
  long(n: number, cause: Cause): void {
    const run = this.#run;
    const { one } = run.state;
    const pressed = one[POINTER_PRESSED] as number;
    const id = run.idOf(pressed);
    if (one[PRESSES] !== n || id === undefined || run.services.isDragging()) return;
    run.queueEvent(run.raise({ kind: 'event', event: 'pointer.long', object: id }, cause), cause, pressed);
  }

  /** A reaction whose guards hold: now, or after its delay. */
  react(index: number, cause: Cause): void {
    const { actions, cooldown, limited, after } = this.#run.program.reactions[index] as ReactionProgram;
    if (!this.#run.mayGoAhead(listAsks(actions))) return;
    const s = this.#run.state;
    s.cooldownUntil[index] = this.#run.t + cooldown;
    if (limited) s.spent[index] = 1;
    if (after > 0) this.#delay('reaction', index, 0, cause, after);
    else this.#reactNow(index, cause);
  }

  #reactNow(index: number, cause: Cause): void {
    const { id, of, actions } = this.#run.program.reactions[index] as ReactionProgram;
    const rec = this.#run.raise({ kind: 'reaction', reaction: id, object: of }, cause);
    this.runActions(actions, { ...cause, rec: rec.id }, false);
  }

  /** All actions of a list; `inState`: of an onEntry or onExit, where a `go` counts one deeper, like an event. */
  runActions(list: number, cause: Cause, inState: boolean): void {
    const { first, after, delayed, goes } = this.#run.program.lists;
    const from = first[list] as number;
    const end = first[list + 1] as number;
    for (let k = from; k < end; k++) {
      const seconds = delayed[list] ? (after[k] as number) : 0;
      if (seconds > 0) this.#delay('action', list, k - from, cause, seconds);
      else this.#runAction(list, k - from, inState && goes[k] ? { ...cause, depth: cause.depth + 1 } : cause);
    }
  }

  #runAction(list: number, number: number, cause: Cause): void {
    const { program, state } = this.#run;
    const { first, compiled, place } = program.lists;
    const stands = place[list] as number;
    // An action before this one may have removed what acts.
    if (stands >= 0 && !isThere(state, stands)) return;
    if (!this.#run.mayGoAhead(listAsks(list))) return;
    (compiled[(first[list] as number) + number] as CompiledAction)(this, cause);
  }

  // What actions do.

  get parts(): RunParts {
    return this.#run.parts;
  }
  get random(): Uint32Array {
    return this.#run.state.random;
  }
  signal(i: number): SignalValue {
    return this.#run.signalValue(i);
  }

  /** Sets a signal at once; its change is queued. A value that does not fit is brought into range or ignored. */
  setSignal(i: number, value: SignalValue, cause: Cause): void {
    const run = this.#run;
    const def = run.program.signals[i];
    if (!def) return;
    if (def.type === 'pulse') {
      if (value === true) this.pulse(i, cause);
      return;
    }
    const to = intoRange(def, value);
    if (to === null || to === run.state.signalValue(def, i)) return;
    run.discontinuities.touchSignal(i);
    run.state.writeSignal(i, to);
    const rec = run.raise({ kind: 'signal', event: 'signal.change', signal: def.id, to }, cause);
    run.state.signalRec[i] = rec.id;
    if (def.type === 'number') this.#laneMoves.speedChanged(i);
    run.schedule.markThose(run.program.asking.bySignal[i]);
    run.queueEvent(rec, cause);
    for (const b of run.program.spawns.bound[i] ?? [])
      this.setSignal(b.inner, boundValue(b, to), { ...cause, rec: rec.id, depth: cause.depth + 1 });
  }

  pulse(i: number, cause: Cause): void {
    const run = this.#run;
    const { state } = run;
    state.pulseSerial[i] = (state.pulseSerial[i] as number) + 1;
    const signal = run.program.signals[i]?.id as string;
    const rec = run.raise({ kind: 'signal', event: 'pulse', signal }, cause);
    state.signalRec[i] = rec.id;
    run.schedule.markThose(run.program.asking.bySignal[i]);
    run.queueEvent(rec, cause);
  }

  send(message: string, cause: Cause, tags?: readonly string[]): void {
    const to = tags ? { tags } : {};
    this.#run.queueEvent(
      this.#run.raise({ kind: 'message', event: 'message', message, ...to }, cause),
      cause,
    );
  }

  put(object: number, property: PropertyInfo, asked: SignalValue, cause: Cause): void {
    const run = this.#run;
    const id = run.idOf(object);
    const value = property.kind === 'text' ? wordsOf(asked) : asked;
    if (id === undefined || !fitsProperty(property, value)) return;
    const at = object * CHANNELS + property.channel;
    writeValue(property, property.kind === 'amount' ? clamp(value as number, 0, 1) : value, written, 0);
    run.discontinuities.touch(at);
    for (let k = 0; k < property.width; k++)
      hold(run.program, run.state, at + k, written[k] as number, run.clock);
    const what = { action: 'put', object: id, property: property.name, to: value };
    run.raise({ kind: 'action', ...what }, cause);
  }

  release(object: number, property: PropertyInfo, cause: Cause): void {
    const run = this.#run;
    if (object < 0) return;
    const at = object * CHANNELS + property.channel;
    run.discontinuities.touch(at);
    for (let k = 0; k < property.width; k++) letGo(run.program, run.state, at + k);
    stopMotor(run.program, run.state, at, true, run.clock);
    const id = run.idOf(object) as string;
    run.raise({ kind: 'action', action: 'release', object: id, property: property.name }, cause);
  }

  play(lane: number, state: number, again: 'restart' | 'ignore' | 'queue', cause: Cause): number {
    return this.#laneMoves.play(lane, state, again, cause);
  }
  stop(lane: number, cause: Cause): void {
    this.#laneMoves.stop(lane, cause);
  }

  go(lane: number, state: number, fade: Fade, cause: Cause): void {
    this.#laneMoves.go(lane, state, fade, cause);
  }
}

const written = new Float64Array(3);

function intoRange(def: Signal, value: SignalValue): SignalValue | null {
  if (def.type !== 'number') return fitsSignal(def, value) ? value : null;
  let n = toNumber(value);
  if (!Number.isFinite(n)) return null;
  if (def.whole) n = Math.round(n);
  return clamp(n, def.min ?? Number.NEGATIVE_INFINITY, def.max ?? Number.POSITIVE_INFINITY);
}

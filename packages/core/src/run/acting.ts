/** Reactions, actions, timers and everything delayed. */
import { atan2Deg, clamp, drawUnit, SAME_DATE, snapDate } from '../base/index.ts';
import { toNumber } from '../logic/index.ts';
import {
  CHANNELS,
  canOffset,
  fitsProperty,
  fitsSignal,
  type PropertyInfo,
  type Signal,
  type SignalValue,
  textOf,
  wordsOf,
  writeValue,
} from '../model/index.ts';
import type { Act } from './acts.ts';
import { type Context, listAsks, NOBODY, type Requester } from './context.ts';
import type { CaptionHow, Deeds, Goal, TweenHow } from './deeds.ts';
import type { Fade } from './fade.ts';
import type { Motion } from './motion.ts';
import { beginMotor, beginTween, goalOf, hold, letGo, motorPart, stopMotor } from './moving.ts';
import { allOnScreen, isWritten } from './on-screen.ts';
import type { ReactionProgram } from './program.ts';
import type { Scene } from './scene.ts';
import { Sheets } from './sheets.ts';
import { Showing } from './showing.ts';
import { bornAt, boundValue, isThere } from './spawned.ts';
import { Spawning } from './spawning.ts';
import {
  DRAGS,
  DUE_ACTION,
  DUE_CAPTION,
  DUE_CUE,
  DUE_CUE_ACT,
  DUE_LONG,
  DUE_REACTION,
  DUE_SHEET,
  DUE_SPAWN,
  DUE_TIMER,
  type Due,
  POINTER_PRESSED,
  PRESSES,
  TWEENED,
} from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

/** Seconds after which a press is a long one. */
const LONG = 0.5;

export class Acting implements Deeds {
  readonly #run: Context;
  readonly #motion: Motion;
  readonly #scene: Scene;
  readonly showing: Showing;
  readonly sheets: Sheets;
  readonly spawning: Spawning;

  constructor(run: Context, motion: Motion, scene: Scene) {
    this.#run = run;
    this.#motion = motion;
    this.#scene = scene;
    this.showing = new Showing(run, scene);
    this.sheets = new Sheets(run, this);
    this.spawning = new Spawning(run, {
      scene,
      pivotAt: (object, out) => this.showing.pivotAt(object, out),
      enterInitial: (lane, cause) => motion.enterInitial(lane, cause),
      addTimer: (reaction, n) => this.addTimer(reaction, n),
      captionsGone: (objects, cause) => this.showing.removed(objects, cause),
    });
  }

  // Timers and delays.

  #delay(what: number, index: number, action: number, cause: Cause, seconds: number): void {
    const t = snapDate(this.#run.t + seconds);
    this.#run.addDue({ t, what, index, action, n: 1 + (cause.other ?? -1), cause: cause.rec ?? -1 });
  }

  /** Lays the nth firing of a reaction's timer on its grid, give or take its jitter. */
  addTimer(reaction: number, n: number): void {
    const { program, state, t } = this.#run;
    // What was spawned has timers since then.
    const born = bornAt(state, program.spawns.ofReaction[reaction] ?? -1);
    const now = t - born;
    const { first, every, jitter, jitterStream } = program.reactions[reaction] as ReactionProgram;
    if (n > 0 && every === 0) return;
    // Firings that lie a whole round behind (the timer was changed in a run, or passed over) are not made up for.
    const behind = every === 0 ? 0 : Math.ceil((now - jitter - first - SAME_DATE) / every);
    const at = Math.max(n, behind);
    let due = first + at * every;
    if (jitter > 0 && jitterStream >= 0) due += (2 * drawUnit(state.random, jitterStream * 4) - 1) * jitter;
    const date = Math.max(t, snapDate(born + due));
    this.#run.addDue({ t: date, what: DUE_TIMER, index: reaction, action: 0, n: at, cause: -1 });
  }

  /** Lays the timer of a reaction that an edit has made in a running piece, unless its only firing has passed. */
  addTimerLate(reaction: number): void {
    const { first, every } = this.#run.program.reactions[reaction] as ReactionProgram;
    const born = bornAt(this.#run.state, this.#run.program.spawns.ofReaction[reaction] ?? -1);
    if (every > 0 || first > this.#run.t - born) this.addTimer(reaction, 0);
  }

  /** Who has asked for what is due. */
  requesterOf({ what, index }: Due): Requester {
    const { program } = this.#run;
    if (what === DUE_ACTION) return listAsks(index);
    if (what === DUE_TIMER || what === DUE_REACTION) return listAsks(program.reactions[index]?.actions ?? -1);
    if (what === DUE_CUE || what === DUE_CUE_ACT) return listAsks(program.cues[index]?.list ?? -1);
    if (what === DUE_SHEET) return listAsks(program.cues[program.sheets[index]?.first ?? -1]?.list ?? -1);
    return NOBODY;
  }

  due(d: Due): void {
    const other = d.what === DUE_ACTION || d.what === DUE_REACTION ? d.n - 1 : -1;
    const cause: Cause = { rec: d.cause < 0 ? null : d.cause, depth: 0, other };
    if (d.what === DUE_ACTION) this.#act(d.index, d.action, cause);
    else if (d.what === DUE_REACTION) this.#reactNow(d.index, cause);
    else if (d.what === DUE_LONG) this.#long(d.index, cause);
    else if (d.what === DUE_CAPTION) this.showing.over(d.index, cause);
    else if (d.what === DUE_SPAWN) this.spawning.due(d);
    else if (d.what !== DUE_TIMER) this.sheets.due(d, cause);
    else {
      const { id, object } = this.#run.program.reactions[d.index] as ReactionProgram;
      const rec = this.#run.raise({ kind: 'event', event: 'timer', reaction: id }, NO_CAUSE);
      this.#run.queueEvent(rec, NO_CAUSE, object);
      this.addTimer(d.index, d.n + 1);
    }
  }

  /** A press that `cause` tells of, the nth: it is long if it still lasts then. */
  waitForLong(n: number, cause: Cause): void {
    this.#delay(DUE_LONG, n, 0, cause, LONG);
  }

  #long(n: number, cause: Cause): void {
    const run = this.#run;
    const { one } = run.state;
    const pressed = one[POINTER_PRESSED] as number;
    const id = run.idOf(pressed);
    if (one[PRESSES] !== n || id === undefined || one[DRAGS] === 1) return;
    run.queueEvent(run.raise({ kind: 'event', event: 'pointer.long', object: id }, cause), cause, pressed);
  }

  /** A reaction whose guards hold: now, or after its delay. */
  react(index: number, cause: Cause): void {
    const { actions, cooldown, limited, after } = this.#run.program.reactions[index] as ReactionProgram;
    if (!this.#run.mayAct(listAsks(actions))) return;
    const s = this.#run.state;
    s.cooldownUntil[index] = this.#run.t + cooldown;
    if (limited) s.spent[index] = 1;
    if (after > 0) this.#delay(DUE_REACTION, index, 0, cause, after);
    else this.#reactNow(index, cause);
  }

  #reactNow(index: number, cause: Cause): void {
    const { id, of, actions } = this.#run.program.reactions[index] as ReactionProgram;
    const rec = this.#run.raise({ kind: 'reaction', reaction: id, object: of }, cause);
    this.actAll(actions, { ...cause, rec: rec.id }, false);
  }

  /** All actions of a list; `inState`: of an onEntry or onExit, where a `go` counts one deeper, like an event. */
  actAll(list: number, cause: Cause, inState: boolean): void {
    const { first, after, delayed, goes } = this.#run.program.lists;
    const from = first[list] as number;
    const end = first[list + 1] as number;
    for (let k = from; k < end; k++) {
      const seconds = delayed[list] ? (after[k] as number) : 0;
      if (seconds > 0) this.#delay(DUE_ACTION, list, k - from, cause, seconds);
      else this.#act(list, k - from, inState && goes[k] ? { ...cause, depth: cause.depth + 1 } : cause);
    }
  }

  #act(list: number, number: number, cause: Cause): void {
    const { program, state } = this.#run;
    const { first, acts, place } = program.lists;
    const stands = place[list] as number;
    // An action before this one may have removed what acts.
    if (stands >= 0 && !isThere(state, stands)) return;
    if (!this.#run.mayAct(listAsks(list))) return;
    (acts[(first[list] as number) + number] as Act)(this, cause);
  }

  // Deeds.

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
    run.jumps.touchSignal(i);
    run.state.writeSignal(i, to);
    const rec = run.raise({ kind: 'signal', event: 'signal.change', signal: def.id, to }, cause);
    run.state.signalRec[i] = rec.id;
    if (def.type === 'number') this.#motion.speedChanged(i);
    run.agenda.markThose(run.program.asking.bySignal[i]);
    run.queueEvent(rec, cause);
    for (const b of run.program.spawns.bound[i] ?? [])
      this.setSignal(b.inner, boundValue(b, to), { ...cause, rec: rec.id, depth: cause.depth + 1 });
  }

  /** Signals that lie in properties are set to what is written there, in each tick in which something is. */
  setParts(): void {
    const { program, state, clock } = this.#run;
    for (const { at, signal } of program.spawns.parts) {
      const def = program.signals[signal];
      if (!def || !isWritten(program, state, at, clock)) continue;
      const n = allOnScreen(program, state, at, clock);
      const value = def.type === 'number' ? n : def.type === 'switch' ? n >= 0.5 : textOf(n);
      if (!Object.is(value, state.signalValue(def, signal))) this.setSignal(signal, value, NO_CAUSE);
    }
  }

  pulse(i: number, cause: Cause): void {
    const run = this.#run;
    const { state } = run;
    state.pulseSerial[i] = (state.pulseSerial[i] as number) + 1;
    const signal = run.program.signals[i]?.id as string;
    const rec = run.raise({ kind: 'signal', event: 'pulse', signal }, cause);
    state.signalRec[i] = rec.id;
    run.agenda.markThose(run.program.asking.bySignal[i]);
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
    run.jumps.touch(at);
    for (let k = 0; k < property.width; k++)
      hold(run.program, run.state, at + k, written[k] as number, run.clock);
    const what = { action: 'put', object: id, property: property.name, to: value };
    run.raise({ kind: 'action', ...what }, cause);
  }

  release(object: number, property: PropertyInfo, cause: Cause): void {
    const run = this.#run;
    if (object < 0) return;
    const at = object * CHANNELS + property.channel;
    run.jumps.touch(at);
    for (let k = 0; k < property.width; k++) letGo(run.program, run.state, at + k);
    stopMotor(run.program, run.state, at, true, run.clock);
    const id = run.idOf(object) as string;
    run.raise({ kind: 'action', action: 'release', object: id, property: property.name }, cause);
  }

  tween(object: number, goals: readonly Goal[], how: TweenHow, cause: Cause): number {
    const run = this.#run;
    const { program, state, clock } = run;
    const id = run.idOf(object);
    if (id === undefined) return 0;
    // All goals are worked out from what stands now, then all begin.
    const begun = goals.flatMap((g) => this.#goalsOf(object, g, how.fromNow));
    for (const { at } of begun) run.jumps.touch(at);
    const n = this.#nextTween();
    for (const { at, from, to } of begun)
      beginTween(program, state, at, { from, to, seconds: how.seconds, curve: how.curve, n }, clock);
    const [only] = goals;
    const what = goals.length === 1 && only ? { property: only.property.name } : {};
    run.raise({ kind: 'action', action: 'tween', object: id, ...what }, cause);
    return n;
  }

  #nextTween(): number {
    const { one } = this.#run.state;
    const n = (one[TWEENED] as number) + 1;
    one[TWEENED] = n;
    return n;
  }

  /** Where the channels of a property start and where they lead. */
  #goalsOf(object: number, g: Goal, fromNow: boolean): { at: number; from: number; to: number }[] {
    const { program, state, clock } = this.#run;
    const { property } = g;
    const first = object * CHANNELS + property.channel;
    const from = Array.from({ length: property.width }, (_, k) =>
      allOnScreen(program, state, first + k, clock),
    );
    const isNumber = canOffset(property);
    if (g.mode === 'to') {
      const asked = g.value();
      const value = property.kind === 'text' ? wordsOf(asked) : asked;
      if (!fitsProperty(property, value)) return [];
      writeValue(property, value, written, 0);
    } else if (g.mode === 'toBase')
      for (let k = 0; k < property.width; k++)
        written[k] = (state.base[first + k] as number) + (isNumber ? toNumber(g.value()) : 0);
    else {
      if (!isNumber) return [];
      const isHeld = state.isPut(first) && !fromNow;
      const start = isHeld
        ? goalOf(program, state, first) + motorPart(program, state, first, clock)
        : (from[0] as number);
      written[0] = start + toNumber(g.value());
    }
    if (property.kind === 'amount') written[0] = clamp(written[0] as number, 0, 1);
    return from.map((n, k) => ({ at: first + k, from: n, to: written[k] as number }));
  }

  motor(object: number, property: PropertyInfo, motor: Parameters<typeof beginMotor>[3], cause: Cause): void {
    const run = this.#run;
    const id = run.idOf(object);
    if (id === undefined || !canOffset(property)) return;
    beginMotor(run.program, run.state, object * CHANNELS + property.channel, motor, run.clock);
    run.raise({ kind: 'action', action: 'motor', object: id, property: property.name }, cause);
  }

  stopMotor(object: number, property: PropertyInfo, goes: boolean, cause: Cause): void {
    const run = this.#run;
    const id = run.idOf(object);
    if (id === undefined) return;
    run.jumps.touch(object * CHANNELS + property.channel);
    stopMotor(run.program, run.state, object * CHANNELS + property.channel, goes, run.clock);
    run.raise({ kind: 'action', action: 'stopMotor', object: id, property: property.name }, cause);
  }

  face(object: number, toward: number, axis: number, how: TweenHow, cause: Cause): number {
    const run = this.#run;
    const { program, state, clock } = run;
    const id = run.idOf(object);
    if (id === undefined || toward < 0) return 0;
    const [at, point, own] = [object * CHANNELS + 3 + axis, new Float64Array(3), new Float64Array(3)];
    this.showing.pivotAt(toward, point);
    this.showing.pivotAt(object, own);
    const d = this.#scene.seenFromParent(
      object,
      [0, 1, 2].map((r) => (point[r] as number) - (own[r] as number)),
    );
    const [x, y, z] = d as [number, number, number];
    // Turned about x, +Z goes to (−y, z); about y to (x, z); about z it is +X that goes to (y, x).
    const wanted = axis === 0 ? atan2Deg(-y, z) : axis === 1 ? atan2Deg(x, z) : atan2Deg(y, x);
    const from = allOnScreen(program, state, at, clock);
    run.jumps.touch(at);
    const turn = (((wanted - from) % 360) + 540) % 360;
    const n = this.#nextTween();
    beginTween(program, state, at, { from, to: from + turn - 180, ...how, n }, clock);
    run.raise({ kind: 'action', action: 'face', object: id, property: `rotation.${'xyz'[axis]}` }, cause);
    return n;
  }

  play(lane: number, state: number, again: 'restart' | 'ignore' | 'queue', cause: Cause): number {
    return this.#motion.play(lane, state, again, cause);
  }
  stop(lane: number, cause: Cause): void {
    this.#motion.stop(lane, cause);
  }

  sound(sound: string, volume: number, object: number, cause: Cause): void {
    const id = this.#run.idOf(object);
    const loud = volume === 1 ? {} : { volume };
    this.#run.raise({ kind: 'sound', sound, ...loud, ...(id === undefined ? {} : { object: id }) }, cause);
  }
  stopSound(sound: string, cause: Cause): void {
    this.#run.raise({ kind: 'action', action: 'stopSound', sound }, cause);
  }
  spawn(...of: Parameters<Deeds['spawn']>): void {
    this.spawning.spawn(...of);
  }
  remove(object: number, cause: Cause): void {
    this.spawning.remove(object, cause);
  }
  sheet(sheet: number, cause: Cause): void {
    this.sheets.ask(sheet, cause);
  }
  stopSheet(sheet: number, cause: Cause): void {
    this.sheets.stop(sheet, cause);
  }
  effect(effect: number, object: number, cause: Cause): void {
    this.showing.effect(effect, object, cause);
  }
  caption(object: number, words: SignalValue, how: CaptionHow, cause: Cause): number {
    return this.showing.caption(object, wordsOf(words), how, cause);
  }

  go(lane: number, state: number, fade: Fade, cause: Cause): void {
    this.#motion.go(lane, state, fade, cause);
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

/**
 * Tweens and motors. A tween is a put whose value is worked out anew until it has come to its goal; a motor adds to
 * whatever else there is, in closed form since its start. Both have rows only where some action may ask for them.
 */
import { easeInPlace, HOLD, isStepped, LINEAR, MIX_COLOR, MIX_SWITCH } from '../anim/index.ts';
import { clamp, SAME_INSTANT } from '../base/index.ts';
import type { Program } from './program.ts';
import { MOTOR_ROW, TWEEN_ROW } from './row-widths.ts';
import type { RunState } from './state.ts';

const NONE = 0;
/** Stopped, keeping what it added. */
const STILL = 1;
const RUNS = 2;

const progress = new Float64Array(1);

/** Whether tween k is under way at instant `clock[0]`; writes its value then to `out[0]`, at its end the goal. */
function tweenInto(
  program: Program,
  s: RunState,
  k: number,
  clock: Float64Array,
  out: Float64Array,
): boolean {
  const { tweens } = s;
  const o = k * TWEEN_ROW;
  const [from, to] = [tweens[o + 3] as number, tweens[o + 4] as number];
  const age = (clock[0] as number) - (tweens[o + 1] as number);
  const length = tweens[o + 2] as number;
  if (!(age < length - SAME_INSTANT)) {
    out[0] = to;
    return false;
  }
  const curve = tweens[o + 5] as number;
  const lead = curve >= 0 && isStepped(program.curves, curve) ? SAME_INSTANT : 0;
  progress[0] = age + lead <= 0 || curve === HOLD ? 0 : (age + lead) / length;
  if ((progress[0] as number) > 0 && curve !== LINEAR) easeInPlace(program.curves, curve, progress);
  const x = progress[0] as number;
  const mode = program.tweenModes[k] as number;
  if (mode === MIX_SWITCH) out[0] = x < 0.5 ? from : to;
  else out[0] = from + (to - from) * (mode === MIX_COLOR ? clamp(x, 0, 1) : x);
  return true;
}

const value = new Float64Array(1);

/** What is put at `at` at instant `clock[0]`, where something is. */
export function putNow(program: Program, s: RunState, at: number, clock: Float64Array): number {
  const k = program.tweenRows.get(at);
  if (k === undefined || s.tweens[k * TWEEN_ROW] === 0) return s.putV[at] as number;
  tweenInto(program, s, k, clock, value);
  return value[0] as number;
}

/** Where what is put leads. */
export function goalOf(program: Program, s: RunState, at: number): number {
  const k = program.tweenRows.get(at);
  return k === undefined || s.tweens[k * TWEEN_ROW] === 0
    ? (s.putV[at] as number)
    : (s.tweens[k * TWEEN_ROW + 4] as number);
}

/** Lists what is under way, so that a pose asks nothing else. */
export function listMovers(s: RunState): void {
  s.moversChanged = false;
  const { tweensOn, motorsOn } = s;
  s.tweenCount = 0;
  for (let k = 0; k < tweensOn.length; k++) if (s.tweens[k * TWEEN_ROW] !== 0) tweensOn[s.tweenCount++] = k;
  s.motorCount = 0;
  for (let k = 0; k < motorsOn.length; k++)
    if (s.motors[k * MOTOR_ROW] !== NONE) motorsOn[s.motorCount++] = k;
}

/** Brings what is tweened to instant `clock[0]`, without cost where none is under way. */
export function poseTweens(program: Program, s: RunState, clock: Float64Array): void {
  const { tweenAts } = program;
  for (let n = 0; n < s.tweenCount; n++) {
    const k = s.tweensOn[n] as number;
    if (s.tweens[k * TWEEN_ROW] === 0) continue;
    if (!tweenInto(program, s, k, clock, value)) {
      s.tweens[k * TWEEN_ROW] = 0;
      s.moversChanged = true;
    }
    s.putV[tweenAts[k] as number] = value[0] as number;
  }
}

/** Puts a value at once, in the place of what was put or tweened there, and takes in what a motor has added. */
export function hold(program: Program, s: RunState, at: number, v: number, clock: Float64Array): void {
  takeIn(program, s, at, clock);
  putAside(program, s, at);
  s.setPut(at, v);
}

/** Takes back what is put or tweened. */
export function letGo(program: Program, s: RunState, at: number): void {
  putAside(program, s, at);
  s.clearPut(at);
}

/** A tween there is over. */
function putAside(program: Program, s: RunState, at: number): void {
  const k = program.tweenRows.get(at);
  if (k !== undefined) s.tweens[k * TWEEN_ROW] = 0;
}

/** Begins a tween from `from` to `to`. */
export function beginTween(
  program: Program,
  s: RunState,
  at: number,
  tween: {
    readonly from: number;
    readonly to: number;
    readonly seconds: number;
    readonly curve: number;
    readonly n: number;
  },
  clock: Float64Array,
): void {
  const k = program.tweenRows.get(at);
  hold(program, s, at, tween.seconds > 0 ? tween.from : tween.to, clock);
  if (k === undefined || !(tween.seconds > 0)) return;
  s.tweens.set(
    [1, clock[0] as number, tween.seconds, tween.from, tween.to, tween.curve, tween.n],
    k * TWEEN_ROW,
  );
  s.moversChanged = true;
}

/** What motor k has added by instant `clock[0]`, written to `out[0]`. */
function motorInto(s: RunState, k: number, clock: Float64Array, out: Float64Array): void {
  const { motors } = s;
  const o = k * MOTOR_ROW;
  const added = motors[o + 2] as number;
  if (motors[o] !== RUNS) {
    out[0] = motors[o] === NONE ? 0 : added;
    return;
  }
  const age = (clock[0] as number) - (motors[o + 1] as number);
  const rate = motors[o + 3] as number;
  const a = motors[o + 4] as number;
  // It gains speed until its limit is reached, and keeps it from then on.
  const edge = a > 0 ? (motors[o + 5] as number) : -(motors[o + 5] as number);
  const until = a === 0 ? Number.POSITIVE_INFINITY : (edge - rate) / a;
  out[0] =
    age <= until
      ? added + rate * age + (a * age * age) / 2
      : added + rate * until + (a * until * until) / 2 + edge * (age - until);
}

/** What a motor adds at `at` at instant `clock[0]`; 0 where there is none. */
export function motorPart(program: Program, s: RunState, at: number, clock: Float64Array): number {
  const k = program.motorRows.get(at);
  if (k === undefined) return 0;
  motorInto(s, k, clock, value);
  return value[0] as number;
}

/** Whether a motor adds at `at`. */
export function hasMotor(program: Program, s: RunState, at: number): boolean {
  const k = program.motorRows.get(at);
  return k !== undefined && s.motors[k * MOTOR_ROW] !== NONE;
}

/** Adds what motors have added to the values of instant `clock[0]`. */
export function poseMotors(program: Program, s: RunState, clock: Float64Array): void {
  const { motorAts } = program;
  for (let n = 0; n < s.motorCount; n++) {
    const k = s.motorsOn[n] as number;
    if (s.motors[k * MOTOR_ROW] === NONE) continue;
    const at = motorAts[k] as number;
    motorInto(s, k, clock, value);
    s.values[at] = (s.values[at] as number) + (value[0] as number);
    s.setAlone(at);
  }
}

/** Begins a motor; what one before it has added stays. */
export function beginMotor(
  program: Program,
  s: RunState,
  at: number,
  motor: { readonly rate: number; readonly acceleration: number; readonly limit: number },
  clock: Float64Array,
): void {
  const k = program.motorRows.get(at);
  if (k === undefined) return;
  const added = motorPart(program, s, at, clock);
  const limit = Math.abs(motor.limit);
  const rate = clamp(motor.rate, -limit, limit);
  s.motors.set([RUNS, clock[0] as number, added, rate, motor.acceleration, limit], k * MOTOR_ROW);
  s.moversChanged = true;
}

/** Stops a motor: what it has added stays, or goes. */
export function stopMotor(
  program: Program,
  s: RunState,
  at: number,
  goes: boolean,
  clock: Float64Array,
): void {
  const k = program.motorRows.get(at);
  if (k === undefined || s.motors[k * MOTOR_ROW] === NONE) return;
  const added = motorPart(program, s, at, clock);
  s.motors.set([goes ? NONE : STILL, clock[0] as number, goes ? 0 : added, 0, 0, 0], k * MOTOR_ROW);
  if (goes) s.loose.push(at);
}

/** A put or tween takes in what a motor has added: its part begins again at 0, and one that runs goes on as fast. */
function takeIn(program: Program, s: RunState, at: number, clock: Float64Array): void {
  const k = program.motorRows.get(at);
  if (k === undefined) return;
  const o = k * MOTOR_ROW;
  const { motors } = s;
  if (motors[o] === NONE) return;
  if (motors[o] === RUNS) {
    const limit = motors[o + 5] as number;
    const age = (clock[0] as number) - (motors[o + 1] as number);
    motors[o + 3] = clamp((motors[o + 3] as number) + (motors[o + 4] as number) * age, -limit, limit);
  }
  motors[o + 1] = clock[0] as number;
  motors[o + 2] = 0;
}

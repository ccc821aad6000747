/**
 * What effects look like at an instant, in closed form: nothing is stepped, so any tick can be drawn by itself. Formulas:
 * docs/semantics.md, "Effects".
 */
import { easeInPlace, HOLD, LINEAR } from '../../anim/index.ts';
import { cosDeg, drawUnit, exp, MAT, seedStream, sinDeg, transformPoint } from '../../base/index.ts';
import type { Burst, Shake } from '../../model/index.ts';
import type { Program } from '../../run/program.ts';
import type { Angle } from '../../run/scene.ts';
import { type RunState, SEED, TICK } from '../../run/state.ts';
import { viewMatrix } from '../../world/index.ts';
import type { EffectProgram } from './program.ts';

/** Numbers that each particle draws: life, direction, speed, depth, size, spin, fill, turn. */
const DRAWS = 8;

/** All that the particles of the nth burst of an effect draw, of the stream `effect/n`. */
export function drawsOf(effect: Burst, n: number, seed: number): Float64Array {
  const stream = new Uint32Array(4);
  seedStream(stream, 0, seed, `${effect.id}/${n}`);
  return Float64Array.from({ length: DRAWS * effect.count }, () => drawUnit(stream, 0));
}

/** Of a particle: where it is from where it began (px, x, y, z), size, turn in degrees, opacity, number of its colour. */
export const PARTICLE = 7;

/**
 * Particle `i` of a burst, `age` seconds after it began, into `out`; false when it is no longer there. With speed v,
 * gravity g and drag k the way is vτ + gτ²/2, or for k > 0 vE + g(τ − E)/k with E = (1 − e^(−kτ))/k.
 */
export function particleInto(
  effect: Burst,
  draws: Float64Array,
  i: number,
  age: number,
  out: Float64Array,
): boolean {
  const u = (k: number) => draws[i * DRAWS + k] as number;
  const between = ([a, b]: readonly [number, number], part: number) => a + (b - a) * part;
  const life = between(effect.seconds, u(0));
  if (age < 0 || age >= life) return false;
  const direction = effect.direction + (u(1) - 0.5) * effect.spread;
  const speed = between(effect.speed, u(2));
  const { drag: k, gravity } = effect;
  const e = k > 0 ? (1 - exp(Math.max(-700, -k * age))) / k : age;
  const fallen = k > 0 ? (age - e) / k : (age * age) / 2;
  out[0] = speed * cosDeg(direction) * e + gravity[0] * fallen;
  out[1] = speed * sinDeg(direction) * e + gravity[1] * fallen;
  out[2] = (2 * u(3) - 1) * effect.depth * speed * e + gravity[2] * fallen;
  out[3] = between(effect.size, u(4));
  out[4] = 360 * u(7) + between(effect.spin, u(5)) * age;
  const fades = effect.fade * life;
  out[5] = fades > 0 ? Math.min(1, (life - age) / fades) : 1;
  out[6] = Math.floor(u(6) * effect.fills.length);
  return true;
}

/**
 * The way of the fastest and longest lived particle, in so many steps: points from where it began. `part`: where its
 * direction lies in the spread, 0–1.
 */
export function burstPath(effect: Burst, part: number, steps: number): [number, number, number][] {
  const draws = Float64Array.of(1, part, 1, 0.5, 0.5, 0.5, 0, 0);
  const out = new Float64Array(PARTICLE);
  const life = Math.max(...effect.seconds);
  const of = { ...effect, speed: [0, Math.max(...effect.speed)], seconds: [0, life * 1.000001] } as Burst;
  return Array.from({ length: steps + 1 }, (_, i) => {
    particleInto(of, draws, 0, (life * i) / steps, out);
    return [out[0], out[1], out[2]] as [number, number, number];
  });
}

/** How strong a flash is, 0–1, `age` seconds after it began; `curves`: those of the program. */
function flashAt({ effect, curve }: EffectProgram, curves: Float64Array, age: number): number {
  if (effect.kind !== 'flash' || age < 0 || age >= effect.seconds) return 0;
  progress[0] = curve === HOLD ? 0 : age / effect.seconds;
  if (curve !== HOLD && curve !== LINEAR) easeInPlace(curves, curve, progress);
  return Math.min(1, Math.max(0, effect.opacity * (1 - (progress[0] as number))));
}
const progress = new Float64Array(1);

/** Adds what a shake moves, `age` seconds after it began, to `out`: px to the right, px up, degrees. */
function shakeInto(effect: Shake, age: number, out: Float64Array): void {
  if (age < 0 || age >= effect.seconds) return;
  const rest = (1 - age / effect.seconds) ** 2;
  const swing = (part: number) => rest * sinDeg(360 * part * effect.frequency * age);
  out[0] = (out[0] as number) + effect.amount[0] * swing(1);
  out[1] = (out[1] as number) + effect.amount[1] * swing(1.37);
  out[2] = (out[2] as number) + effect.turn * swing(0.83);
}

/** A colour over the frame or a thing. */
export interface Tint {
  /** 0xrrggbb. */
  readonly rgb: number;
  readonly strength: number;
}
/** Px to the right and up on the screen, and degrees, by which the frame or a thing trembles. */
export type Tremor = Float64Array;

/** One effect that is under way. */
export interface ActiveEffect {
  /** Which of the program's, and of a burst which of them. */
  readonly effect: EffectProgram;
  readonly n: number;
  /** Number of the object, −1 for the frame. */
  readonly object: number;
  /** Seconds since it began. */
  readonly age: number;
  /** Of a burst: where it began, in the world, or, on top, in the frame. */
  readonly origin: readonly [number, number, number];
  readonly onTop: boolean;
  /** False for a flash that is too many. */
  readonly shown: boolean;
}

/** The effects of a run that are under way, in the order of their beginning. */
export function activeEffects(program: Program, state: RunState): ActiveEffect[] {
  const now = (state.one[TICK] as number) / 60;
  const [rows, effects] = [state.parts.effects, program.parts.effects?.effects ?? []];
  return Array.from({ length: rows?.active.count ?? 0 }, (_, k) => {
    const at = (i: number) => rows?.active.at(k, i) as number;
    return {
      effect: effects[at(0)] as EffectProgram,
      n: at(3),
      object: at(1),
      age: now - at(2),
      origin: [at(4), at(5), at(6)],
      onTop: at(7) === 1,
      shown: at(8) === 1,
    };
  });
}

export const seedOf = (state: RunState): number => state.one[SEED] as number;

/** What is drawn of effects, worked out for a frame of the screen; used again for each. */
export class EffectFrame {
  /** Rows of particles: x and y from the frame's middle (px, y up), size, turn, opacity, colour 0xrrggbb; then the burst. */
  particles = new Float64Array(6 * 64);
  count = 0;
  /** Per particle the effect that it is of. */
  readonly of: Burst[] = [];
  flash: Tint | null = null;
  readonly tints = new Map<number, Tint>();
  readonly shake: Tremor = new Float64Array(3);
  readonly tremors = new Map<number, Tremor>();
  readonly #draws = new Map<string, Float64Array>();
  readonly #view = new Float64Array(MAT);
  readonly #one = new Float64Array(PARTICLE);
  readonly #point = new Float64Array(3);

  /** Whether anything is to be drawn. */
  get isEmpty(): boolean {
    const still = this.shake.every((n) => n === 0) && this.tremors.size === 0;
    return still && this.count === 0 && this.flash === null && this.tints.size === 0;
  }

  build(active: readonly ActiveEffect[], curves: Float64Array, seed: number, angle: Angle): void {
    this.count = 0;
    this.of.length = 0;
    this.flash = null;
    this.tints.clear();
    this.tremors.clear();
    this.shake.fill(0);
    if (active.length === 0) {
      this.#draws.clear();
      return;
    }
    viewMatrix(angle, this.#view);
    for (const show of active) {
      const { effect } = show.effect;
      if (effect.kind === 'burst') this.#burst(show, effect, seed);
      else if (effect.kind === 'shake') this.#shake(show, effect);
      else if (show.shown) this.#flash(show, effect.fill, flashAt(show.effect, curves, show.age));
    }
  }

  #burst({ n, age, origin, onTop }: ActiveEffect, effect: Burst, seed: number): void {
    const key = `${effect.id}/${n}`;
    let draws = this.#draws.get(key);
    if (draws?.length !== DRAWS * effect.count) {
      draws = drawsOf(effect, n, seed);
      this.#draws.set(key, draws);
    }
    const [one, point] = [this.#one, this.#point];
    const fills = effect.fills.map(rgbOf);
    for (let i = 0; i < effect.count; i++) {
      if (!particleInto(effect, draws, i, age, one)) continue;
      point[0] = origin[0] + (one[0] as number);
      point[1] = origin[1] + (one[1] as number);
      const z = origin[2] + (one[2] as number);
      if (!onTop) transformPoint(point, 0, this.#view, 0, point[0], point[1], z);
      if ((this.count + 1) * 6 > this.particles.length) {
        const more = new Float64Array(this.particles.length * 2);
        more.set(this.particles);
        this.particles = more;
      }
      const at = this.count * 6;
      this.particles[at] = point[0] as number;
      this.particles[at + 1] = point[1] as number;
      this.particles[at + 2] = one[3] as number;
      this.particles[at + 3] = one[4] as number;
      this.particles[at + 4] = one[5] as number;
      this.particles[at + 5] = fills[one[6] as number] ?? 0;
      this.of.push(effect);
      this.count++;
    }
  }

  /** The strongest counts. */
  #flash({ object }: ActiveEffect, fill: string, strength: number): void {
    const before = object < 0 ? this.flash : this.tints.get(object);
    if (strength <= (before?.strength ?? 0)) return;
    const tint = { rgb: rgbOf(fill), strength };
    if (object < 0) this.flash = tint;
    else this.tints.set(object, tint);
  }

  #shake({ object, age }: ActiveEffect, effect: Shake): void {
    if (object < 0) {
      shakeInto(effect, age, this.shake);
      return;
    }
    const tremor = this.tremors.get(object) ?? new Float64Array(3);
    this.tremors.set(object, tremor);
    shakeInto(effect, age, tremor);
  }
}

/** 0xrrggbb of `#rrggbb`. */
const rgbOf = (hex: string) => Number.parseInt(hex.slice(1), 16);

/** The animations of a glTF model as clips. Between keys they are as exact as a straight line can be made to be. */
import type { Animation, AnimationChannel, Node } from '@gltf-transform/core';
import { decompose, type IdKind } from '../base/index.ts';
import { type Clip, type Key, namer, type Track, type Vec3 } from '../model/index.ts';

/** An object that stands for a node: px to one unit, and what is added to the node's own place, px. */
export interface Placed {
  readonly id: string;
  readonly k: number;
  readonly add: Vec3;
}

type Value = readonly number[];
const PATHS = { translation: 'position', rotation: 'rotation', scale: 'scale' } as const;
type Path = keyof typeof PATHS;
/** How far a straight line may be from what the file says half-way between two keys: px, degrees, parts of the size. */
const SLACK: Record<Path, number> = { translation: 0.15, rotation: 0.25, scale: 0.005 };
/** Halvings between two keys of the file, and keys of one model. */
const MAX_HALVINGS = 7;
const MAX_KEYS = 100_000;

/** The clips of `animations` on the object `root`, and how many things in them are not read. */
export function clipsOf(
  animations: readonly Animation[],
  root: string,
  placed: ReadonlyMap<Node, Placed>,
  newId: (kind: IdKind) => string,
): { clips: Clip[]; morphs: number; isCut: boolean } {
  const clips: Clip[] = [];
  const names = namer([]);
  let [morphs, keys] = [0, 0];
  for (const a of animations) {
    const tracks: Track[] = [];
    let duration = 0;
    for (const channel of a.listChannels()) {
      const path = channel.getTargetPath();
      const node = channel.getTargetNode();
      const to = node ? placed.get(node) : undefined;
      if (path === 'weights') morphs++;
      if (!path || path === 'weights' || !to || keys > MAX_KEYS) continue;
      for (const t of tracksOf(channel, path, to)) {
        tracks.push(t);
        keys += t.keys.length;
        duration = Math.max(duration, t.keys.at(-1)?.t ?? 0);
      }
    }
    if (tracks.length === 0) continue;
    clips.push({
      id: newId('clips'),
      name: names(a.getName() || 'Motion'),
      root,
      duration: duration < 0.001 ? 0 : duration,
      loop: 'once',
      tracks,
      cues: [],
    });
  }
  return { clips, morphs, isCut: keys > MAX_KEYS };
}

function tracksOf(channel: AnimationChannel, path: Path, to: Placed): Track[] {
  const sampler = channel.getSampler();
  const input = sampler?.getInput();
  const output = sampler?.getOutput();
  if (!sampler || !input || !output) return [];
  const times = Array.from({ length: input.getCount() }, (_, i) => input.getScalar(i));
  const isSound = times.every((t, i) => t >= 0 && t < 3600 && t > (times[i - 1] ?? -1));
  const how = sampler.getInterpolation();
  if (times.length === 0 || !isSound || output.getCount() < times.length * (how === 'CUBICSPLINE' ? 3 : 1))
    return [];
  const at = (i: number): Value => output.getElement(i, []);
  /** What the file says between key `i` and the next, `u` from 0 to 1. glTF 2.0, appendix C. */
  const between = (i: number, u: number): Value => {
    if (how === 'CUBICSPLINE') return cubic(at, times, i, u, path === 'rotation');
    const [a, b] = [at(i), u === 0 ? at(i) : at(i + 1)];
    if (how === 'STEP' || u === 0) return a;
    return path === 'rotation' ? slerp(a, b, u) : a.map((x, k) => x + u * ((b[k] as number) - x));
  };
  const valueAt = (i: number, u: number, near: Vec3 | null): Vec3 => {
    const v = between(i, u);
    if (path === 'translation') return v.map((x, k) => x * to.k + (to.add[k] as number)) as Vec3;
    return path === 'scale' ? ([v[0], v[1], v[2]] as Vec3) : nearest(eulerOf(v), near);
  };
  const samples: Sample[] = [];
  for (const [i, t] of times.entries()) {
    const value = valueAt(i, 0, samples.at(-1)?.value ?? null);
    samples.push({ t, value });
    const next = times[i + 1];
    if (next === undefined || how === 'STEP' || (how === 'LINEAR' && path !== 'rotation')) continue;
    bent(
      (u, near) => valueAt(i, u, near),
      [0, value],
      [1, valueAt(i, 1, value)],
      SLACK[path],
      0,
      (u, v) => samples.push({ t: t + u * (next - t), value: v }),
    );
  }
  const easing = how === 'STEP' ? 'hold' : 'linear';
  return ([0, 1, 2] as const).map((k) => {
    const all = samples.map((x): Key => ({ t: exact(x.t), value: exact(x.value[k]), easing }));
    return {
      object: to.id,
      property: `${PATHS[path]}.${'xyz'[k]}`,
      mode: 'absolute',
      keys: how === 'STEP' ? all : withoutStraight(all, SLACK[path] / 5),
    };
  });
}

interface Sample {
  readonly t: number;
  readonly value: Vec3;
}

/** Puts what lies between two values, halved until straight lines are near enough. */
function bent(
  at: (u: number, near: Vec3) => Vec3,
  [u0, a]: readonly [number, Vec3],
  [u1, b]: readonly [number, Vec3],
  slack: number,
  depth: number,
  put: (u: number, value: Vec3) => void,
): void {
  if (depth >= MAX_HALVINGS) return;
  const u = (u0 + u1) / 2;
  const middle = at(u, a);
  const end = depth === 0 ? at(u1, middle) : b;
  const off = Math.max(...middle.map((x, k) => Math.abs(x - ((a[k] as number) + (end[k] as number)) / 2)));
  // A wave may cross its middle: once it is always looked at from nearer.
  if (off <= slack && depth > 0) return;
  bent(at, [u0, a], [u, middle], slack, depth + 1, put);
  put(u, middle);
  bent(at, [u, middle], [u1, end], slack, depth + 1, put);
}

/** So many keys in a row are compared with one line. */
const LONGEST = 200;

/** Keys without those that lie within `slack` of the straight line that is left. */
function withoutStraight(keys: readonly Key[], slack: number): Key[] {
  const out: Key[] = [];
  let from = 0;
  for (let i = 1; i < keys.length; i++) {
    const [a, b] = [keys[from] as Key, keys[i + 1]];
    out.push(...(i === 1 ? [a] : []));
    const isStraight =
      b !== undefined &&
      i - from < LONGEST &&
      keys.slice(from + 1, i + 1).every((x) => {
        const line = Number(a.value) + ((x.t - a.t) / (b.t - a.t || 1)) * (Number(b.value) - Number(a.value));
        return Math.abs(Number(x.value) - line) <= slack;
      });
    if (isStraight) continue;
    out.push(keys[i] as Key);
    from = i;
  }
  return keys.length === 1 ? [...keys] : out;
}

const exact = (x: number) => Math.round(x * 1e4) / 1e4 + 0;

/** A cubic spline with the tangents of the file; of turns made a unit quaternion again. */
function cubic(
  at: (i: number) => Value,
  times: readonly number[],
  i: number,
  u: number,
  isTurn: boolean,
): Value {
  const p0 = at(3 * i + 1);
  if (u === 0) return p0;
  const d = (times[i + 1] as number) - (times[i] as number);
  const [out, into, p1] = [at(3 * i + 2), at(3 * i + 3), at(3 * i + 4)];
  const [u2, u3] = [u * u, u * u * u];
  const v = p0.map(
    (x, k) =>
      (2 * u3 - 3 * u2 + 1) * x +
      d * (u3 - 2 * u2 + u) * (out[k] as number) +
      (3 * u2 - 2 * u3) * (p1[k] as number) +
      d * (u3 - u2) * (into[k] as number),
  );
  return isTurn ? v.map((x) => x / (Math.hypot(...v) || 1)) : v;
}

/** The shorter way round between two turns, at an even pace. Shoemake 1985. */
function slerp(a: Value, b: Value, u: number): Value {
  const dot = a.reduce((sum, x, k) => sum + x * (b[k] as number), 0);
  const angle = Math.acos(Math.min(1, Math.abs(dot)));
  const sin = Math.sin(angle);
  const [p, q] = sin < 1e-6 ? [1 - u, u] : [Math.sin((1 - u) * angle) / sin, Math.sin(u * angle) / sin];
  return a.map((x, k) => p * x + (dot < 0 ? -q : q) * (b[k] as number));
}

const matrix = new Float64Array(12);

/** A unit quaternion as degrees about x, y, z. */
function eulerOf([x = 0, y = 0, z = 0, w = 1]: Value): Vec3 {
  matrix.set([
    ...[1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)],
    ...[2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)],
    ...[2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)],
    ...[0, 0, 0],
  ]);
  return decompose(matrix, 0).rotation as Vec3;
}

/** The same turn, by whole turns and by its other name (x + 180, 180 − y, z + 180), as near to another as can be. */
function nearest(turn: Vec3, to: Vec3 | null): Vec3 {
  if (!to) return turn;
  const wound = (v: Vec3) => v.map((n, k) => n + 360 * Math.round(((to[k] as number) - n) / 360)) as Vec3;
  const [a, b] = [wound(turn), wound([turn[0] + 180, 180 - turn[1], turn[2] + 180])];
  const far = (v: Vec3) => v.reduce((sum, n, k) => sum + Math.abs(n - (to[k] as number)), 0);
  return far(b) < far(a) - 1e-6 ? b : a;
}

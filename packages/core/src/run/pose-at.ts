/** Poses outside a run: the base, or a clip at a place, for the view while working and for pictures. */
import { MIX_COLOR, sampleTrack, valueAt } from '../anim/index.ts';
import { composeLocal, MAT, multiply, oklabToRgb, rgbToHex, transformPoint } from '../base/index.ts';
import {
  CHANNELS,
  fitsSignal,
  initialValue,
  lookName,
  type PropertyValue,
  propertyInfo,
  type SignalValue,
  textOf,
} from '../model/index.ts';
import { boundAmounts } from './layers.ts';
import { boundValue } from './presence.ts';
import type { ClipProgram, Program } from './program.ts';

const sampled = new Float64Array(3);

/**
 * Writes the base values to `out`; with a clip, over them those that a run shows which only plays that clip, at `place`
 * seconds: what it keys, and what follows signals and distances, which it may key, too. Nobody points at anything, nothing
 * is dragged, and what is followed softly has arrived.
 */
export function poseClip(program: Program, clipId: string | null, place: number, out: Float64Array): void {
  out.set(program.base);
  const c = clipId === null ? undefined : program.clips[program.clipIndex.get(clipId) ?? -1];
  c?.clip.tracks.forEach((_, i) => {
    poseTrack(program, c, i, place, out);
  });
  if (c) program.driver?.poseAtRest(out, signalsIn(program, out));
  boundAmounts(out);
}

/** The signals of a piece at rest, but for those of instances that a row of values gives. */
function signalsIn(program: Program, values: Float64Array): SignalValue[] {
  const out = program.signals.map((x): SignalValue => initialValue(x) ?? false);
  const set = (i: number, value: SignalValue) => {
    const def = program.signals[i];
    if (!def || !fitsSignal(def, value)) return;
    out[i] = value;
    for (const b of program.spawns.bound[i] ?? []) set(b.inner, boundValue(b, value));
  };
  program.signals.forEach((_, i) => {
    if (program.spawns.bound[i]?.length) set(i, out[i] as SignalValue);
  });
  for (const { at, signal } of program.spawns.parts) {
    const def = program.signals[signal];
    const n = values[at] as number;
    if (!def || n === program.base[at]) continue;
    set(signal, def.type === 'number' ? n : def.type === 'switch' ? n >= 0.5 : textOf(n));
  }
  return out;
}

function poseTrack(program: Program, c: ClipProgram, i: number, place: number, out: Float64Array): void {
  const track = c.clip.tracks[i];
  const object = track && program.objectIndex.get(track.object);
  const info = track && propertyInfo(track.property);
  if (object === undefined || !info) return;
  sampleTrack(c.data, i, place, sampled, 0);
  const n = c.data.mode[i] === MIX_COLOR ? 3 : 1;
  const at = object * CHANNELS + info.channel;
  // An offset track adds to where the object stands by itself, as a play that begins there would.
  if (c.data.offset[i] === 1)
    sampled[0] = (program.base[at] as number) + (sampled[0] as number) - valueAt(c.data, i, 0);
  for (let k = 0; k < n; k++) out[at + k] = sampled[k] as number;
}

/** A property's value out of a row of values, as files write it. */
export function propertyValue(values: Float64Array, object: number, property: string): PropertyValue | null {
  const info = propertyInfo(property);
  if (!info || object < 0) return null;
  const at = object * CHANNELS + info.channel;
  if (info.kind === 'color')
    return rgbToHex(oklabToRgb(values[at] as number, values[at + 1] as number, values[at + 2] as number));
  if (info.kind === 'look') return lookName(values[at] as number);
  if (info.kind === 'text') return textOf(values[at] as number);
  if (info.kind === 'switch') return (values[at] as number) >= 0.5;
  return values[at] as number;
}

/**
 * Where an object's pivot is while a clip plays: x, y, z in the piece's space, px, for each of `times` (seconds within the
 * clip), one after another. Null for what stands at the frame's edge, and for an object that is not there.
 */
export function pathOf(
  program: Program,
  clipId: string,
  object: number,
  times: readonly number[],
): Float64Array | null {
  const { parent, overlays } = program.geometry;
  const chain: number[] = [];
  for (let i = object; i >= 0; i = parent[i] as number) {
    if (overlays[i]) return null;
    chain.push(i);
  }
  if (chain.length === 0) return null;
  const values = program.base.slice();
  // Only what moves the object or something above it is asked.
  const c = program.clips[program.clipIndex.get(clipId) ?? -1];
  const above = new Set(chain);
  const tracks = (c?.clip.tracks ?? []).flatMap((t, i) =>
    above.has(program.objectIndex.get(t.object) ?? -1) ? [i] : [],
  );
  const [local, world, next] = [new Float64Array(MAT), new Float64Array(MAT), new Float64Array(MAT)];
  const out = new Float64Array(3 * times.length);
  times.forEach((t, n) => {
    for (const i of tracks) if (c) poseTrack(program, c, i, t, values);
    composeLocal(world, 0, values, object * CHANNELS);
    for (const i of chain.slice(1)) {
      composeLocal(local, 0, values, i * CHANNELS);
      multiply(next, 0, local, 0, world, 0);
      world.set(next);
    }
    const at = object * CHANNELS + 9;
    transformPoint(
      out,
      3 * n,
      world,
      0,
      values[at] as number,
      values[at + 1] as number,
      values[at + 2] as number,
    );
  });
  return out;
}

/** Who sets a property: what the layers of `layers.ts` come to for one of them. */
import { CHANNELS, propertyInfo } from '../model/index.ts';
import { directsOf, laneAmount, laneGives } from './layers.ts';
import { hasMotor } from './movers.ts';
import type { LaneProgram } from './program.ts';
import type { Run } from './run.ts';

/** One of those who set a property now: the base below all, then direct plays, then lanes with their state and the clip it plays, then a follow, then a put or tween, then a motor. */
export interface Writer {
  readonly by: 'base' | 'play' | 'lane' | 'follow' | 'put' | 'motor';
  readonly follow?: string;
  readonly lane?: string;
  readonly state?: string;
  readonly clip?: string;
  /** How much of the lane's value counts, 0–1; less than 1 lets through what lies below. */
  readonly weight: number;
}

/** Who sets a property of an object (its number) now, the lowest first; empty for what is no property of the piece. */
export function writersOf(run: Run, object: number, property: string): Writer[] {
  const { program, state: s } = run;
  const clock = new Float64Array([run.time]);
  const info = propertyInfo(property);
  if (!info || object < 0 || object >= program.objects.length) return [];
  const at = object * CHANNELS + info.channel;
  const out: Writer[] = [{ by: 'base', weight: 1 }];
  const lanes = [...directsOf(s), ...program.lanes.keys()].filter((i, n, all) => all.indexOf(i) === n);
  for (const i of lanes) {
    const lane = program.lanes[i] as LaneProgram;
    const slot = lane.slots.indexOf(at);
    if (slot < 0) continue;
    const n = lane.slots.length;
    const [v, w] = [new Float64Array(n), new Float64Array(n)];
    laneGives(program, s, i, clock, v, w);
    // What a stack adds has no weight of its own.
    const own = w[slot] === 0 && v[slot] !== 0 ? 1 : (w[slot] as number);
    const weight = own * laneAmount(program, s, lane);
    if (weight === 0) continue;
    const active = lane.states[s.active[i] as number];
    const clip = program.clips[active?.clip ?? -1]?.clip.id;
    if (lane.direct) out.push({ by: 'play', clip: lane.direct.clip, weight });
    else
      out.push({
        by: 'lane',
        lane: lane.lane.id,
        ...(active ? { state: active.state.id } : {}),
        ...(clip === undefined ? {} : { clip }),
        weight,
      });
  }
  const { driver } = program;
  if (driver?.sets(s.parts, at)) out.push({ by: 'follow', follow: driver.recordOf(at), weight: 1 });
  if (s.isPut(at)) out.push({ by: 'put', weight: 1 });
  if (hasMotor(program, s, at)) out.push({ by: 'motor', weight: 1 });
  return out;
}

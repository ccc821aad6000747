/** States that play several clips at once, compiled. */
import { type ClipPlay, clipsPlayed, type Play } from '../../model/index.ts';
import type { Names } from '../../run/names.ts';
import type { BlendProgram, ClipProgram, Driven } from '../../run/program.ts';
import { Blend } from './blend.ts';

/** `driven`: what gives its number; `slots`: by clip, those of its tracks. */
export function compileBlend(
  play: Exclude<Play, string | ClipPlay>,
  driven: Driven | null,
  names: Names,
  clips: readonly ClipProgram[],
  slots: readonly Int32Array[],
): BlendProgram {
  const ids = clipsPlayed(play);
  const range = 'range' in play ? play.range : null;
  // In the order of the range: its points may be written in any.
  const order = ids.map((_, k) => k);
  if (range) order.sort((a, b) => (range.points[a]?.at ?? 0) - (range.points[b]?.at ?? 0) || a - b);
  const amount = (k: number) => ('stack' in play ? play.stack[k]?.amount : undefined) ?? 1;
  const blended = order.map((k) => clips[names.clip(ids[k] as string)] as ClipProgram);
  const longest = Math.max(...blended.map((c) => c.data.duration));
  const common = range?.phase === 'common' && longest > 0;
  const once = blended.every((c) => c.clip.loop === 'once');
  return new Blend({
    clips: Int32Array.from(order, (k) => names.clip(ids[k] as string)),
    at: range ? Float64Array.from(order, (k) => range.points[k]?.at ?? 0) : null,
    signal: range ? names.signal(range.signal) : -1,
    driven: range ? driven : null,
    amounts: Float64Array.from(order, (k) => (typeof amount(k) === 'number' ? (amount(k) as number) : 1)),
    amountSignals: Int32Array.from(order, (k) => {
      const by = amount(k);
      return typeof by === 'number' ? -1 : names.signal(by.signal);
    }),
    common,
    slots: order.map((k) => slots[k] as Int32Array),
    met: common ? blended.map((c) => asWhole(c, once)) : blended,
    once,
    longest,
  });
}

/** A clip as one that lasts 1, which a common phase goes through. */
function asWhole(c: ClipProgram, once: boolean): ClipProgram {
  const part = (t: number) => (c.data.duration > 0 ? t / c.data.duration : 0);
  const cues = c.clip.cues.map((q) => ({ ...q, t: part(q.t) }));
  return {
    ...c,
    clip: { ...c.clip, duration: 1, loop: once ? 'once' : 'loop', cues },
    data: { ...c.data, duration: 1 },
    cueTimes: c.cueTimes.map(part),
  };
}

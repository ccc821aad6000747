/** Gradients whose stops something writes: how their objects are painted at an instant. */
import { oklabToRgb, rgbToHex } from '../base/index.ts';
import { CHANNELS, type Gradient, type Part, propertyInfo, type StopPart, stopOf } from '../model/index.ts';
import type { FaceStyle } from './drawing.ts';

interface WrittenStop extends StopPart {
  /** Where its value lies in the flat array of values: one number, or three of a colour. */
  readonly at: number;
  readonly width: 1 | 3;
}

/** The written stops of one object. */
export class WrittenStops {
  readonly #stops: WrittenStop[] = [];
  /** What they are when nothing writes them, side by side. */
  readonly #own: number[] = [];
  /** The style and the values that `#made` was made of: most frames have the same. */
  #of: FaceStyle | null = null;
  readonly #seen: number[] = [];
  #made: FaceStyle | null = null;

  add(stop: WrittenStop, base: Float64Array): void {
    this.#stops.push(stop);
    for (let k = 0; k < stop.width; k++) this.#own.push(base[stop.at + k] as number);
    this.#of = null;
  }

  /** The style with the stops as they are written: one that has its own value is as the style says it. */
  style(of: FaceStyle, values: Float64Array): FaceStyle {
    let same = this.#of === of;
    let n = 0;
    for (const { at, width } of this.#stops)
      for (let k = 0; k < width; k++, n++) {
        const value = values[at + k] as number;
        if (this.#seen[n] !== value) same = false;
        this.#seen[n] = value;
      }
    if (!same || !this.#made) {
      this.#of = of;
      this.#made = this.#written(of);
    }
    return this.#made;
  }

  #written(of: FaceStyle): FaceStyle {
    const { stroke } = of;
    const fill = of.gradient && this.#gradient(of.gradient, 'fill');
    const color = stroke && typeof stroke.color === 'object' ? this.#gradient(stroke.color, 'stroke') : null;
    if (fill === of.gradient && (!color || color === stroke?.color)) return of;
    return { ...of, gradient: fill, stroke: stroke && color ? { ...stroke, color } : stroke };
  }

  #gradient(g: Gradient, paint: StopPart['paint']): Gradient {
    const stops = [...g.stops];
    let n = 0;
    let changed = false;
    for (const { index, field, width, ...stop } of this.#stops) {
      const at = n;
      n += width;
      const old = stops[index];
      const now = this.#seen.slice(at, n);
      if (stop.paint !== paint || !old || now.every((v, k) => v === this.#own[at + k])) continue;
      const [a, b = 0, c = 0] = now as [number, number?, number?];
      stops[index] =
        field === 'at'
          ? { ...old, at: Math.max(0, Math.min(1, a)) }
          : { ...old, color: rgbToHex(oklabToRgb(a, b, c)) };
      changed = true;
    }
    if (!changed) return g;
    // A stop that lies before the one before it lies where that lies (SVG 2, 14.2.4.2).
    for (let i = 1; i < stops.length; i++) {
      const [before, stop] = [stops[i - 1], stops[i]] as [
        Gradient['stops'][number],
        Gradient['stops'][number],
      ];
      if (stop.at < before.at) stops[i] = { ...stop, at: before.at };
    }
    return { ...g, stops };
  }
}

/** By the number of an object, its stops that are written; null where no object has any. */
export function writtenStops(
  parts: readonly Part[],
  index: ReadonlyMap<string, number>,
  base: Float64Array,
): ReadonlyMap<number, WrittenStops> | null {
  const all = new Map<number, WrittenStops>();
  for (const part of parts) {
    const stop = stopOf(`${part.of}.${part.what}`);
    const [object, lies] = [index.get(part.object), index.get(part.id)];
    const info = propertyInfo(part.property);
    if (!stop || !info || object === undefined || lies === undefined) continue;
    const own = all.get(object) ?? new WrittenStops();
    all.set(object, own);
    own.add({ ...stop, at: lies * CHANNELS + info.channel, width: info.width }, base);
  }
  return all.size === 0 ? null : all;
}

/**
 * Colours: `#rrggbb` in files, OKLab (L 0–1, a and b about ±0.4) while running, so that mixes look even.
 * Formulas: sRGB transfer after IEC 61966-2-1; OKLab after B. Ottosson, "A perceptual color space for image
 * processing", as given in CSS Color 4. Powers come from base/math, so every engine gives the same bits.
 */
import { cbrt, clamp, pow24, root24 } from './math.ts';

function toLinear(byte: number): number {
  const c = byte / 255;
  return c <= 0.04045 ? c / 12.92 : pow24((c + 0.055) / 1.055);
}

function toByte(linear: number): number {
  const c = linear <= 0.0031308 ? linear * 12.92 : 1.055 * root24(linear) - 0.055;
  return Math.round(clamp(c, 0, 1) * 255);
}

/** Writes L, a, b of `#rrggbb` to `out[at…at+2]`. The text must already be a valid colour. */
export function hexToOklab(hex: string, out: Float64Array, at: number): void {
  const n = Number.parseInt(hex.slice(1), 16);
  const r = toLinear((n >> 16) & 255);
  const g = toLinear((n >> 8) & 255);
  const b = toLinear(n & 255);
  const l = cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  out[at] = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
  out[at + 1] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s;
  out[at + 2] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s;
}

/** The 24-bit number 0xrrggbb of an OKLab colour, clipped to sRGB. */
export function oklabToRgb(L: number, a: number, b: number): number {
  const l_ = L + 0.3963377774 * a + 0.2158037573 * b;
  const m_ = L - 0.1055613458 * a - 0.0638541728 * b;
  const s_ = L - 0.0894841775 * a - 1.291485548 * b;
  const l = l_ * l_ * l_;
  const m = m_ * m_ * m_;
  const s = s_ * s_ * s_;
  const r = toByte(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s);
  const g = toByte(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s);
  const bb = toByte(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s);
  return (r << 16) | (g << 8) | bb;
}

/** 0xrrggbb of linear red, green and blue, 0–1 each. */
export function linearToRgb(r: number, g: number, b: number): number {
  return (toByte(r) << 16) | (toByte(g) << 8) | toByte(b);
}

export function rgbToHex(rgb: number): string {
  return `#${rgb.toString(16).padStart(6, '0')}`;
}

/**
 * A colour (0xrrggbb) in more or less light than 1. What lies in the shade turns a little toward the sky's blue and what
 * is lit toward the sun's yellow, so that no shade is grey.
 */
export function shadeRgb(rgb: number, factor: number): number {
  const k = factor - 1;
  const r = Math.min(255, Math.round(((rgb >> 16) & 255) * (1 + 1.08 * k)));
  const g = Math.min(255, Math.round(((rgb >> 8) & 255) * (1 + k)));
  const b = Math.min(255, Math.round((rgb & 255) * (1 + 0.8 * k)));
  return (r << 16) | (g << 8) | b;
}

/** What a surface of one colour (0xrrggbb) gives back of light of another: each part of it times the other's. */
export function timesRgb(a: number, b: number): number {
  let out = 0;
  for (let s = 0; s < 24; s += 8) out |= Math.round((((a >> s) & 255) * ((b >> s) & 255)) / 255) << s;
  return out;
}

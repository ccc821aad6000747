/** Colours as an eye tells them apart: how light, how strong, which hue. OKLab in polar form, as CSS Color 4 has it. */
import { clamp, hexToOklab, oklabToRgb, rgbToHex } from '@apple-tick/core/base';

export interface Shade {
  /** 0 black to 1 white. */
  readonly light: number;
  /** 0 grey to 1, the strongest that a screen can show of this light and hue. */
  readonly strength: number;
  /** Degrees, 0 up to 360. */
  readonly hue: number;
}

const lab = new Float64Array(3);
/** Colours closer than this in OKLab are one to a screen of 8 bits. */
const SAME = 0.006;
/** More chroma than any colour of a screen has. */
const MOST_CHROMA = 0.4;

function isShown(light: number, chroma: number, hue: number): boolean {
  const [a, b] = across(chroma, hue);
  hexToOklab(rgbToHex(oklabToRgb(light, a, b)), lab, 0);
  return Math.hypot((lab[0] as number) - light, (lab[1] as number) - a, (lab[2] as number) - b) < SAME;
}

const across = (chroma: number, hue: number): [number, number] => [
  chroma * Math.cos((hue * Math.PI) / 180),
  chroma * Math.sin((hue * Math.PI) / 180),
];

/** The greatest chroma that a screen can show. */
function strongest(light: number, hue: number): number {
  let [low, high] = [0, MOST_CHROMA];
  for (let n = 0; n < 12; n++) {
    const middle = (low + high) / 2;
    if (isShown(light, middle, hue)) low = middle;
    else high = middle;
  }
  return low;
}

/** `#rrggbb` of a shade. */
export function shadeHex({ light, strength, hue }: Shade): string {
  const [a, b] = across(strength * strongest(light, hue), hue);
  return rgbToHex(oklabToRgb(light, a, b));
}

/** The shade of `#rrggbb`; a grey keeps the hue that it is given, and what is black or white the strength too. */
export function shadeOf(hex: string, like: Shade = { light: 0, strength: 0, hue: 0 }): Shade {
  hexToOklab(hex, lab, 0);
  const [light, a, b] = [clamp(lab[0] as number, 0, 1), lab[1] as number, lab[2] as number];
  const chroma = Math.hypot(a, b);
  if (light < 0.01 || light > 0.995) return { ...like, light };
  if (chroma < 0.004) return { light, strength: 0, hue: like.hue };
  const hue = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
  return { light, strength: Math.min(1, chroma / (strongest(light, hue) || 1)), hue };
}

/** A colour that was typed, as `#rrggbb`: with or without #, of three digits or six; null when it is none. */
export function readHex(text: string): string | null {
  const digits = text.trim().replace(/^#/, '').toLowerCase();
  if (/^[0-9a-f]{6}$/.test(digits)) return `#${digits}`;
  return /^[0-9a-f]{3}$/.test(digits) ? `#${[...digits].map((d) => d + d).join('')}` : null;
}

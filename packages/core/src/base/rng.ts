/**
 * Seeded random streams. One stream per consumer (a lane, a timer, …), so that adding a consumer never changes
 * what another one draws. A stream is four 32-bit words that live in the run state and are part of snapshots.
 *
 * Generator: sfc32 ("small fast counter", C. Doty-Humphrey, PractRand). Seeding: FNV-1a 32 (Fowler–Noll–Vo).
 */

/** FNV-1a 32 of the UTF-8 bytes of `text`; an unsigned 32-bit integer. */
export function fnv1a32(text: string): number {
  let h = 0x811c9dc5;
  for (const ch of text) {
    const c = ch.codePointAt(0) as number;
    if (c < 0x80) h = mix(h, c);
    else if (c < 0x800) h = mix(mix(h, 0xc0 | (c >> 6)), 0x80 | (c & 63));
    else if (c < 0x10000) h = mix(mix(mix(h, 0xe0 | (c >> 12)), 0x80 | ((c >> 6) & 63)), 0x80 | (c & 63));
    else
      h = mix(
        mix(mix(mix(h, 0xf0 | (c >> 18)), 0x80 | ((c >> 12) & 63)), 0x80 | ((c >> 6) & 63)),
        0x80 | (c & 63),
      );
  }
  return h >>> 0;
}

function mix(h: number, byte: number): number {
  return Math.imul(h ^ byte, 0x01000193);
}

/** Writes the four words of the stream of `consumerId` under `seed` (decimal in the hash) at `words[at…at+3]`. */
export function seedStream(words: Uint32Array, at: number, seed: number, consumerId: string): void {
  for (let i = 0; i < 4; i++) words[at + i] = fnv1a32(`${seed}/${consumerId}/${i}`);
  for (let i = 0; i < 12; i++) drawUint(words, at);
}

/** The next unsigned 32-bit integer of the stream at `words[at…at+3]`; advances it. */
export function drawUint(words: Uint32Array, at: number): number {
  const a = words[at] as number;
  const b = words[at + 1] as number;
  const c = words[at + 2] as number;
  const counter = words[at + 3] as number;
  const t = (a + b + counter) | 0;
  words[at + 3] = counter + 1;
  words[at] = b ^ (b >>> 9);
  words[at + 1] = c + (c << 3);
  words[at + 2] = ((c << 21) | (c >>> 11)) + t;
  return t >>> 0;
}

/** The next value in [0, 1): u32 ÷ 2³². */
export function drawUnit(words: Uint32Array, at: number): number {
  return drawUint(words, at) / 4294967296;
}

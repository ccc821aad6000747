/** The one source of chance in tests and benches: seeded, so that a failing case can be found again. */

/** Numbers in [0, 1), the same for the same seed in every engine. */
export type Random = () => number;

/** A stream of its own by its seed, a whole number. Mixes a counter with multiplications, as 32-bit hashes do. */
export function seeded(seed: number): Random {
  let s = seed >>> 0;
  return () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = Math.imul(s ^ (s >>> 15), s | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

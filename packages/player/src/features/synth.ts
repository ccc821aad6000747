/**
 * Small sounds worked out by themselves, by the name of their making: so many samples in a row, the same each time. A
 * struck thing is a sum of sines that die away, what rubs or splashes is noise with an edge.
 */

type Voice = (t: number, noise: () => number) => number;
interface Recipe {
  readonly seconds: number;
  readonly voice: () => Voice;
}

const sine = (hz: number, t: number) => Math.sin(2 * Math.PI * hz * t);
const fade = (t: number, half: number) => 2 ** (-t / half);
/** Partials of a struck thing: how high, how loud, seconds until it is half as loud. */
const struck = (partials: readonly (readonly [number, number, number])[]) => (): Voice => (t) =>
  partials.reduce((sum, [hz, loud, half]) => sum + loud * sine(hz, t) * fade(t, half), 0);

const RECIPES: Readonly<Record<string, Recipe>> = {
  bell: {
    seconds: 2,
    voice: struck([
      [587, 0.34, 0.3],
      [1174, 0.2, 0.22],
      [1410, 0.14, 0.18],
      [1762, 0.1, 0.12],
      [2400, 0.07, 0.06],
    ]),
  },
  knock: {
    seconds: 0.25,
    voice: struck([
      [170, 0.6, 0.03],
      [410, 0.25, 0.015],
      [980, 0.12, 0.006],
    ]),
  },
  tick: {
    seconds: 0.06,
    voice: struck([
      [2300, 0.35, 0.004],
      [3900, 0.2, 0.002],
    ]),
  },
  // Wood that sticks and lets go, ever faster.
  creak: {
    seconds: 0.55,
    voice: () => {
      let phase = 0;
      let last = 0;
      return (t, noise) => {
        phase += (t - last) * (55 + 90 * t);
        last = t;
        const stick = phase % 1;
        return (
          0.45 *
          fade(stick, 0.12) *
          sine(740 + 160 * noise(), stick / 60) *
          Math.min(1, t * 12, (0.55 - t) * 5)
        );
      };
    },
  },
  // Noise that grows duller while it dies away.
  splash: {
    seconds: 0.7,
    voice: () => {
      let dull = 0;
      return (t, noise) => {
        dull += (noise() - dull) * (0.55 * fade(t, 0.12) + 0.04);
        return 0.8 * dull * fade(t, 0.13) * Math.min(1, t * 60);
      };
    },
  },
};

/** The names of what can be made. */
export const SYNTHS = Object.keys(RECIPES);

/** The samples of a made sound, −1 to 1, so many a second; null for a name that says nothing here. */
export function synthesized(name: string, rate: number): Float32Array<ArrayBuffer> | null {
  const recipe = Object.hasOwn(RECIPES, name) ? RECIPES[name] : undefined;
  if (!recipe) return null;
  let seed = 1;
  const noise = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) | 0;
    return seed / 2 ** 31;
  };
  const voice = recipe.voice();
  const out = new Float32Array(Math.ceil(recipe.seconds * rate));
  for (let i = 0; i < out.length; i++)
    out[i] = Math.max(
      -1,
      Math.min(1, voice(i / rate, noise) * Math.min(1, (out.length - i) / (0.005 * rate))),
    );
  return out;
}

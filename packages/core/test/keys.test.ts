import { describe, expect, it } from 'vitest';
import { compileClip, sampleTrack } from '../src/anim/index.ts';
import {
  type Clip,
  changeKeys,
  copyKeys,
  type Easing,
  type KeyId,
  moveKeys,
  pasteKeys,
  reverseKeys,
  stretchClip,
  stretchKeys,
  withoutKeys,
} from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';

const EASINGS: Easing[] = [
  'linear',
  'hold',
  { bezier: [0.3, 0.1, 0.4, 1] },
  { family: 'back', way: 'in' },
  { steps: 4, position: 'jump-end' },
  { linear: [0, [0.7, 20], 0.4, 1] },
];
const OBJECTS = ['ob_a', 'ob_b'];
const PROPERTIES = ['position.x', 'rotation.z', 'opacity'];

function randomClip(random: () => number): Clip {
  const some = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)] as T;
  return {
    ...{ id: 'cl_a', name: 'a', root: 'ob_a', duration: 3, loop: 'once', cues: [] },
    tracks: OBJECTS.flatMap((object) =>
      PROPERTIES.map((property) => {
        let t = 0;
        return {
          ...{ object, property, mode: 'absolute' as const },
          keys: Array.from({ length: 1 + Math.floor(random() * 5) }, () => {
            t += 0.1 + Math.round(random() * 5) / 10;
            return { t, value: Math.round(random() * 100) / 100, easing: some(EASINGS) };
          }),
        };
      }),
    ),
  };
}
const allOf = (c: Clip): KeyId[] =>
  c.tracks.flatMap((t) => t.keys.map((k) => ({ object: t.object, property: t.property, t: k.t })));
const someOf = (c: Clip, random: () => number) => allOf(c).filter(() => random() < 0.5);
const inOrder = (c: Clip) =>
  c.tracks.every(
    (t) => t.keys.length > 0 && t.keys.every((k, i) => i === 0 || k.t > (t.keys[i - 1]?.t as number)),
  );
const sorted = (keys: readonly KeyId[]) =>
  keys.map((k) => `${k.object} ${k.property} ${k.t.toFixed(6)}`).sort();

describe('many keys at once', () => {
  it('whatever is done, each track stays in order, and what was not meant and not overrun stays as it was', () => {
    const random = seeded(31);
    for (let n = 0; n < 500; n++) {
      const clip = randomClip(random);
      const ids = someOf(clip, random);
      if (ids.length === 0) continue;
      const done = [
        moveKeys(clip, ids, Math.round((random() - 0.5) * 20) / 10),
        stretchKeys(clip, ids, 0.5, 0.3 + random() * 2),
        reverseKeys(clip, ids),
        changeKeys(clip, ids, (k) => ({ ...k, easing: 'linear' })),
      ][n % 4] as ReturnType<typeof moveKeys>;
      expect(inOrder(done.clip)).toBe(true);
      // The new names are those of keys that are there.
      const there = new Set(sorted(allOf(done.clip)));
      for (const k of sorted(done.keys)) expect(there.has(k)).toBe(true);
      const meant = new Set(sorted(ids));
      const moved = new Set(sorted(done.keys));
      for (const [i, track] of clip.tracks.entries())
        for (const k of track.keys) {
          const [name] = sorted([{ object: track.object, property: track.property, t: k.t }]) as [string];
          if (meant.has(name) || moved.has(name)) continue;
          expect(done.clip.tracks[i]?.keys).toContainEqual(k);
        }
      expect(done.clip.duration).toBeGreaterThanOrEqual(Math.max(...done.keys.map((k) => k.t)));
    }
  });

  it('moving there and back, stretching and stretching back, and reversing twice lead back', () => {
    const random = seeded(7);
    const near = (a: Clip, b: Clip) => {
      const flat = (c: Clip) => c.tracks.map((t) => t.keys.map((k) => ({ ...k, t: Number(k.t.toFixed(9)) })));
      expect(flat(a)).toEqual(flat(b));
    };
    for (let n = 0; n < 100; n++) {
      const clip = randomClip(random);
      const ids = allOf(clip);
      const away = moveKeys(clip, ids, 0.7);
      near(moveKeys(away.clip, away.keys, -0.7).clip, clip);
      const wide = stretchKeys(clip, ids, 0, 2.5);
      near(stretchKeys(wide.clip, wide.keys, 0, 0.4).clip, clip);
      const back = reverseKeys(clip, ids);
      const again = reverseKeys(back.clip, back.keys);
      // The easing after the last key of a track has no segment, so nothing is seen of it.
      const seen = (c: Clip) => ({
        ...c,
        tracks: c.tracks.map((t) => ({
          ...t,
          keys: t.keys.map((k, i) => (i + 1 < t.keys.length ? k : { ...k, easing: 'linear' as const })),
        })),
      });
      const bezier = (c: Clip): Clip =>
        JSON.parse(JSON.stringify(c), (_, v) => (typeof v === 'number' ? Number(v.toFixed(9)) : v)) as Clip;
      near(bezier(seen(again.clip)), bezier(seen(clip)));
    }
  });

  it('moved to the left they stop at 0 together', () => {
    const clip = randomClip(seeded(4));
    const ids = allOf(clip);
    const first = Math.min(...ids.map((k) => k.t));
    const { keys } = moveKeys(clip, ids, -99);
    expect(Math.min(...keys.map((k) => k.t))).toBe(0);
    expect(sorted(keys)).toEqual(sorted(ids.map((k) => ({ ...k, t: k.t - first }))));
  });

  it('reversed, the motion is seen backwards', () => {
    const random = seeded(12);
    const value = (c: Clip, i: number, t: number) => {
      const out = new Float64Array(3);
      sampleTrack(compileClip(c), i, t, out, 0);
      return out[0] as number;
    };
    for (let n = 0; n < 60; n++) {
      const clip = randomClip(random);
      const ids = allOf(clip);
      const times = ids.map((k) => k.t);
      const sum = Math.min(...times) + Math.max(...times);
      const back = reverseKeys(clip, ids).clip;
      for (let t = 0.013; t < sum; t += 0.0917)
        for (const [i] of clip.tracks.entries())
          expect(value(back, i, sum - t), `${n} ${i} at ${t}`).toBeCloseTo(value(clip, i, t), 6);
    }
  });

  it('copied and pasted later they are the same motion later, also on another object', () => {
    const random = seeded(19);
    for (let n = 0; n < 60; n++) {
      const clip = randomClip(random);
      const ids = someOf(clip, random);
      if (ids.length === 0) continue;
      const copy = copyKeys(clip, ids);
      const first = Math.min(...ids.map((k) => k.t));
      const empty = { ...clip, tracks: [], duration: 0 };
      const { clip: there, keys } = pasteKeys(empty, copy, first, (o) => o);
      expect(sorted(allOf(there))).toEqual(sorted(ids));
      expect(sorted(keys)).toEqual(sorted(ids));
      const other = pasteKeys(clip, copy, 10, (o) => (o === 'ob_a' ? 'ob_c' : undefined));
      expect(other.keys.every((k) => k.object === 'ob_c' && k.t >= 10 - 1e-9)).toBe(true);
      expect(withoutKeys(other.clip, other.keys).tracks).toEqual(clip.tracks);
      expect(inOrder(other.clip)).toBe(true);
    }
  });

  it('a clip drawn out to another length keeps its shape', () => {
    const clip = {
      ...randomClip(seeded(2)),
      cues: [{ id: 'cu_a', t: 3, when: 'forwards' as const, actions: [] }],
    };
    const long = stretchClip(clip, 6);
    expect(long.cues[0]?.t).toBe(6);
    expect(allOf(long).map((k) => k.t)).toEqual(allOf(clip).map((k) => k.t * 2));
    expect(stretchClip(clip, 0)).toEqual({ ...clip, duration: 0 });
  });
});

/** Hits at one point while things move, against all faces looked through anew each time. */
import { expect, it } from 'vitest';
import { CHANNELS, emptyPiece, type SceneObject } from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { hitTop, PointHits, viewMatrix } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

/** A tree of things of several kinds, some masked, some on top, some with a hit shape or another look. */
function tree(random: () => number, n: number) {
  const p = emptyPiece('p', 'Hits');
  const between = (a: number, b: number) => a + random() * (b - a);
  for (let i = 0; i < n; i++) {
    const id = `ob_${i}`;
    const parent = i > 0 && random() < 0.6 ? `ob_${Math.floor(random() * i)}` : null;
    const size3: [number, number, number] = [between(20, 120), between(20, 120), between(20, 120)];
    const size: [number, number] = [size3[0], size3[1]];
    const form = [
      { kind: 'group' },
      { kind: 'rect', size, radius: 5 },
      { kind: 'ellipse', size },
      { kind: 'box', size: size3 },
      { kind: 'ball', size: size3 },
    ][Math.floor(random() * 5)] as Partial<SceneObject>;
    const more: Record<string, unknown> = { parent, order: `a${String(i).padStart(4, '0')}` };
    if (random() < 0.15) more['hitShape'] = { kind: 'rect', size: [60, 60], at: [10, 0] };
    if (random() < 0.12 && i > 1)
      more['mask'] = { by: `ob_${Math.floor(random() * i)}`, side: random() < 0.5 ? 'inside' : 'outside' };
    if (random() < 0.1) more['overlay'] = { anchor: 'top-left', offset: [40, -40], ofOwn: [0, 0] };
    if (form.kind === 'rect' && random() < 0.3)
      more['looks'] = [{ id: `lo_${i}`, name: 'Large', size: [200, 30] }];
    p.objects[id] = objectOf(id, { ...form, ...more } as never, {
      position: [between(-150, 150), between(-100, 100), between(-80, 80)],
      rotation: [0, 0, between(-180, 180)],
      pivot: [between(-20, 20), between(-20, 20), 0],
    });
  }
  return compile(p);
}

it('agree with all faces looked through, whatever moves, turns, grows, hides or is looked at from elsewhere', () => {
  let hit = 0;
  for (let seed = 1; seed <= 60; seed++) {
    const random = seeded(seed);
    const program = tree(random, 3 + Math.floor(random() * 25));
    const values = program.base.slice();
    const hits = new PointHits(program.geometry, values, program.guides);
    const builder = new FaceBuilder();
    let angle = { azimuth: 0, elevation: 0 };
    let frame = { width: 960, height: 540 };
    let point: [number, number] = [0, 0];
    const look = () =>
      hits.look({ view: viewMatrix(angle), halfWidth: frame.width / 2, halfHeight: frame.height / 2 });
    look();
    for (let step = 0; step < 80; step++) {
      const moved = new Int32Array(6);
      let count = 0;
      for (let k = Math.floor(random() * 4); k > 0; k--) {
        const i = Math.floor(random() * program.objects.length);
        const channel = [0, 1, 2, 3, 4, 5, 5, 5, 6, 9, 12, 13, 17][Math.floor(random() * 13)] as number;
        const at = i * CHANNELS + channel;
        const by = channel === 12 ? Math.floor(random() * 3) / 2 : random() < 0.7 ? 1 : 0;
        const look = program.geometry.looks[i]?.keys().next().value ?? 0;
        if (channel < 3 || channel === 9) values[at] = (values[at] as number) + (random() - 0.5) * 60;
        else if (channel < 6) values[at] = (values[at] as number) + (random() - 0.5) * 50;
        else if (channel === 6) values[at] = 0.3 + random() * 2;
        else values[at] = channel === 17 ? (random() < 0.5 ? look : 0) : by;
        moved[count++] = at;
      }
      hits.change(values, moved, count);
      if (random() < 0.1) {
        angle =
          random() < 0.3
            ? { azimuth: 0, elevation: 0 }
            : { azimuth: random() * 360 - 180, elevation: random() * 180 - 90 };
        frame = random() < 0.5 ? { width: 400, height: 720 } : { width: 960, height: 540 };
        look();
      }
      if (random() < 0.4) point = [(random() - 0.5) * 300, (random() - 0.5) * 240];
      const faces = builder.place(program, values, angle, program.guides, frame);
      const want = hitTop(faces, point[0], point[1]);
      if (want >= 0) hit++;
      expect(hits.hit(point[0], point[1]), `seed ${seed}, step ${step}`).toBe(want);
    }
  }
  // Both answers must be common.
  expect(hit).toBeGreaterThan(500);
  expect(hit).toBeLessThan(60 * 80 - 500);
});

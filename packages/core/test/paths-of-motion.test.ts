import { expect, it } from 'vitest';
import type { Clip } from '../src/model/index.ts';
import { CHANNELS, emptyPiece } from '../src/model/index.ts';
import { compile, FaceBuilder, pathOf, poseClip } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

const BOX = { kind: 'box', size: [40, 40, 40] };

it('a path of motion is where the engine says that the pivot is, however deep, turned and scaled', () => {
  const random = seeded(8);
  const some = (n: number) => Math.round((random() - 0.5) * 2 * n);
  for (let round = 0; round < 40; round++) {
    const p = emptyPiece('p', 'Path');
    const ids = ['ob_a', 'ob_b', 'ob_c', 'ob_d'];
    ids.forEach((id, i) => {
      const o = objectOf(id, BOX, {}, { parent: i === 0 ? null : ids[i - 1] });
      p.objects[id] = {
        ...o,
        base: {
          ...o.base,
          position: [some(90), some(90), some(90)],
          rotation: [some(180), some(180), some(180)],
          scale: [0.5 + random(), 0.5 + random(), 0.5 + random()],
          pivot: [some(30), some(30), some(30)],
        },
      };
    });
    const clip: Clip = {
      ...{ id: 'cl_a', name: 'a', root: 'ob_a', duration: 1, loop: 'once', cues: [] },
      tracks: ids.flatMap((object) =>
        ['position.x', 'rotation.y', 'scale.z', 'pivot.y'].map((property) => ({
          ...{ object, property, mode: 'absolute' as const },
          keys: [0, 0.4, 1].map((t) => ({ t, value: some(60), easing: 'auto' as const })),
        })),
      ),
    };
    p.clips[clip.id] = clip;
    const program = compile(p);
    const times = Array.from({ length: 20 }, () => random());
    for (const id of ids) {
      const object = program.objectIndex.get(id) as number;
      const path = pathOf(program, 'cl_a', object, times) as Float64Array;
      const values = program.base.slice();
      const b = new FaceBuilder();
      times.forEach((t, n) => {
        poseClip(program, 'cl_a', t, values);
        b.place(program, values, { azimuth: 0, elevation: 0 });
        const m = b.world.subarray(object * 12, object * 12 + 12);
        const pivot = values.subarray(object * CHANNELS + 9, object * CHANNELS + 12);
        for (let k = 0; k < 3; k++) {
          const want =
            (m[9 + k] as number) +
            [0, 1, 2].reduce((sum, c) => sum + (m[c * 3 + k] as number) * (pivot[c] as number), 0);
          expect(Math.abs((path[3 * n + k] as number) - want)).toBeLessThan(1e-9 * (1 + Math.abs(want)));
        }
      });
    }
  }
});

it('what stands at the frame’s edge has no path of the piece', () => {
  const p = emptyPiece('p', 'Path');
  p.objects['ob_a'] = {
    ...objectOf('ob_a', BOX),
    overlay: { anchor: 'top', offset: [0, 0], ofOwn: [0, 0] },
  } as (typeof p.objects)[string];
  expect(pathOf(compile(p), 'cl_a', 0, [0])).toBeNull();
  expect(pathOf(compile(p), 'cl_a', -1, [0])).toBeNull();
});

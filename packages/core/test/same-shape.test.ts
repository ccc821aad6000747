import { expect, it } from 'vitest';
import type { Clip, Piece } from '../src/model/index.ts';
import { clipOnto, emptyPiece, partsAt, partsOfClip } from '../src/model/index.ts';
import { compile, propertyValue, Run } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { go, objectOf, play } from './box-piece.ts';

const part = (id: string, name: string, parent: string | null) =>
  ({ ...objectOf(id, { kind: 'group' }, {}, { parent }), name }) as Piece['objects'][string];
const rig = (n: number, legs = 2) => [
  part(`ob_r${n}`, `Rig ${n}`, null),
  part(`ob_b${n}`, 'Body', `ob_r${n}`),
  ...Array.from({ length: legs }, (_, k) => part(`ob_l${n}${k}`, `Leg ${k}`, `ob_b${n}`)),
];
const key = (t: number, value: number) => ({ t, value, easing: 'linear' as const });
const walk: Clip = {
  ...{ id: 'cl_w', name: 'walk', root: 'ob_r0', duration: 1, loop: 'once', cues: [] },
  tracks: [
    ['ob_r0', 'position.x'],
    ['ob_b0', 'rotation.z'],
    ['ob_l00', 'rotation.z'],
    ['ob_l01', 'rotation.z'],
  ].map(([object, property], i) => ({
    ...{ object: object as string, property: property as string, mode: 'absolute' as const },
    keys: [key(0, 0), key(1, 10 * (i + 1))],
  })),
};

it('parts are found by their names below the root; what is missing is told', () => {
  const all = [...rig(0), ...rig(1, 1)];
  expect([...partsAt(all, walk, 'ob_r1')]).toEqual([
    ['ob_r0', 'ob_r1'],
    ['ob_b0', 'ob_b1'],
    ['ob_l00', 'ob_l10'],
    ['ob_l01', null],
  ]);
});

it('a clip put onto another object moves what stands for its parts, by hand too, and no property twice', () => {
  const parts = new Map<string, string | null>(partsAt([...rig(0), ...rig(1, 1)], walk, 'ob_r1'));
  expect(clipOnto(walk, 'ob_r1', parts).tracks.map((t) => t.object)).toEqual(['ob_r1', 'ob_b1', 'ob_l10']);
  parts.set('ob_l01', 'ob_l10');
  const doubled = clipOnto(walk, 'ob_r1', parts);
  expect(doubled.tracks.map((t) => t.keys.at(-1)?.value)).toEqual([10, 20, 30]);
  parts.set('ob_l01', 'ob_r1');
  expect(clipOnto(walk, 'ob_r1', parts).tracks.map((t) => [t.object, t.property])).toEqual([
    ['ob_r1', 'position.x'],
    ['ob_b1', 'rotation.z'],
    ['ob_l10', 'rotation.z'],
    ['ob_r1', 'rotation.z'],
  ]);
});

it('what it becomes is what the run plays there by path', () => {
  const random = seeded(5);
  for (let n = 0; n < 60; n++) {
    const all = [...rig(0, 3), ...rig(1, Math.floor(random() * 4))];
    const keep = all.filter((o) => o.id === 'ob_r0' || o.id === 'ob_r1' || random() > 0.15);
    const ids = new Set(keep.map((o) => o.id));
    const objects = keep.filter((o) => o.parent === null || ids.has(o.parent));
    const there = new Set(objects.map((o) => o.id));
    const clip = { ...walk, tracks: walk.tracks.filter((t) => there.has(t.object)) };
    const run = (made: Clip) => {
      const p = emptyPiece('p', 'Shapes');
      for (const o of objects) p.objects[o.id] = o;
      p.clips[made.id] = made;
      p.machines['ma_a'] = {
        ...{ id: 'ma_a', name: 'm', object: 'ob_r1' },
        lanes: [
          {
            ...{ id: 'la_a', name: 'l', initial: 'st_a', unkeyed: 'base', amount: 1, blend: 'replace' },
            ...{ states: [{ id: 'st_a', name: 'a', play: play(made.id) }], transitions: [] },
          },
        ],
      } as Piece['machines'][string];
      const r = new Run(compile(p));
      go(r, 31);
      return objects.flatMap((o) =>
        ['position.x', 'rotation.z'].map((q) =>
          propertyValue(r.state.values, r.program.objectIndex.get(o.id) ?? -1, q),
        ),
      );
    };
    expect(run(clip)).toEqual(run(clipOnto(clip, 'ob_r1', partsAt(objects, clip, 'ob_r1'))));
  }
  expect(partsOfClip(walk)).toHaveLength(4);
});

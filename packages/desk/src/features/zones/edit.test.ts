import { checkIntegrity } from '@apple-tick/core/check';
import {
  defaultBase,
  Editor,
  emptyPiece,
  type Piece,
  PieceStore,
  type SceneObject,
  type Zone,
} from '@apple-tick/core/model';
import { expect, it } from 'vitest';
import { fitted, giveZone, newZone, noticeable, zoneOwner, zoneRings, zonesOf } from './edit.ts';

function piece(): Piece {
  const p = emptyPiece('p', 'Zones');
  const add = (
    id: string,
    kind: object,
    base: Partial<SceneObject['base']>,
    more: Partial<SceneObject> = {},
  ) => {
    p.objects[id] = {
      ...{ id, name: id, parent: null, order: id, tags: [], hint: '', base: { ...defaultBase(), ...base } },
      ...kind,
      ...more,
    } as SceneObject;
  };
  p.tags['ta_a'] = { id: 'ta_a', name: 'fruit' };
  add('ob_flat', { kind: 'rect', size: [80, 40], radius: 0 }, { position: [500, 0, 0] });
  add('ob_box', { kind: 'box', size: [80, 40, 20] }, { rotation: [0, 30, 0] });
  add('ob_group', { kind: 'group' }, { position: [9, 9, 9] });
  add(
    'ob_left',
    { kind: 'rect', size: [20, 20], radius: 0 },
    { position: [-40, 0, 0] },
    { parent: 'ob_group' },
  );
  add(
    'ob_right',
    { kind: 'rect', size: [20, 60], radius: 0 },
    { position: [40, 10, 0], rotation: [0, 0, 90] },
    { parent: 'ob_group', tags: ['ta_a'] },
  );
  add('ob_empty', { kind: 'group' }, {});
  return p;
}

it('a zone fits its object in its own space: flat it is endless in depth, a group holds all below it', () => {
  const store = new PieceStore(piece());
  expect(fitted(store, 'ob_flat', 'box')).toMatchObject({ at: [0, 0, 0], size: [80, 40, 1], through: true });
  expect(fitted(store, 'ob_box', 'box')).toMatchObject({ size: [80, 40, 20], through: false });
  // From −50 to 70, and from −10 to 20: the right one lies on its side.
  expect(fitted(store, 'ob_group', 'box')).toMatchObject({ at: [10, 5, 0], size: [120, 30, 1] });
  expect(fitted(store, 'ob_group', 'ball')).toMatchObject({ radius: 60 });
  expect(fitted(store, 'ob_empty', 'box')).toMatchObject({ size: [100, 100, 100] });
  expect(fitted(store, 'ob_flat', 'near')).toEqual({ role: 'near', enter: 100, leave: 130 });
  expect(fitted(store, 'ob_flat', 'outline')).toMatchObject({
    points: [
      [-40, -20],
      [40, -20],
      [40, 20],
      [-40, 20],
    ],
  });
});

it('a new zone has a name of its own and the only tag; it is sound, owned, and knows what it may notice', () => {
  const store = new PieceStore(piece());
  const e = new Editor(store);
  for (const [id, kind] of [
    ['co_a', 'box'],
    ['co_b', 'ball'],
    ['co_c', 'outline'],
    ['co_d', 'near'],
  ] as const)
    giveZone(e, 'ob_box', newZone(store, id, 'ob_box', kind));
  e.done();
  expect(zonesOf(store, 'ob_box').map((c) => c.name)).toEqual([
    'ob_box zone',
    'ob_box zone 2',
    'ob_box zone 3',
    'ob_box',
  ]);
  expect(store.get('colliders', 'co_a')?.tags).toEqual(['ta_a']);
  expect(zoneOwner(store, 'co_c')?.id).toBe('ob_box');
  expect(noticeable(store, 'co_a').map((o) => o.id)).toEqual(['ob_right']);
  expect(checkIntegrity(store.toPiece())).toEqual([]);
});

it('what is drawn of a zone are its two faces and the edges between; one that is endless is flat', () => {
  const store = new PieceStore(piece());
  const solid = newZone(store, 'co_a', 'ob_box', 'box') as Zone;
  expect(zoneRings(solid).map((r) => r.length)).toEqual([4, 4, 2, 2, 2, 2]);
  expect(zoneRings({ ...solid, through: true })).toHaveLength(1);
  const ball = newZone(store, 'co_b', 'ob_box', 'ball') as Zone;
  for (const ring of zoneRings(ball))
    for (const [x, y, z] of ring) expect(Math.hypot(x, y, z)).toBeCloseTo(40, 9);
});

import 'fake-indexeddb/auto';
import { emptyPiece, History, PieceStore, type SceneObject } from '@apple-tick/core/model';
import { expect, it } from 'vitest';
import { Session } from '../session.ts';
import { addObject } from './add-object.ts';
import { outsideAt } from './outside.ts';

it('a thing that waits on a side touches the frame nowhere, turned or with another pivot too', () => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  const s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
  addObject(s, 'rect');
  const id = s.state.object as string;
  const { width, height } = s.store.head.frame;
  for (const [pivot, turn] of [
    [[0, 0, 0], 0],
    [[-60, 40, 0], 0],
    [[-60, 0, 0], 90],
  ] as const) {
    s.edit('x', (e) =>
      e.update(
        'objects',
        id,
        (o) =>
          ({
            ...o,
            base: { ...o.base, position: [30, -20, 0], pivot: [...pivot], rotation: [0, 0, turn] },
          }) as SceneObject,
      ),
    );
    const object = s.store.get('objects', id) as SceneObject;
    // Its four corners, worked out by hand: a rectangle of 120 × 80, turned by a right angle or not.
    const corners = (at: readonly [number, number]) =>
      [-60, 60].flatMap((u) =>
        [-40, 40].map((v) => {
          const [x, y] = [u - pivot[0], v - pivot[1]];
          const [p, q] = turn === 90 ? [-y, x] : [x, y];
          return [at[0] + p + pivot[0], at[1] + q + pivot[1]] as const;
        }),
      );
    const right = outsideAt(s, object, [1, 0]);
    expect(Math.min(...corners(right).map((c) => c[0]))).toBeCloseTo(width / 2 + 8, 6);
    expect(right[1]).toBe(-20);
    const below = outsideAt(s, object, [-1, -1]);
    expect(Math.max(...corners(below).map((c) => c[0]))).toBeCloseTo(-width / 2 - 8, 6);
    expect(Math.max(...corners(below).map((c) => c[1]))).toBeCloseTo(-height / 2 - 8, 6);
    expect(outsideAt(s, object, [0, 0])).toEqual([30, -20]);
  }
});

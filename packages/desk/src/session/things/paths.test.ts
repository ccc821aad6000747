import { controls, distanceToContours, flatten, type Subpath } from '@apple-tick/core/base';
import { expect, it } from 'vitest';
import { insertNode, moveHandle, moveNode, nearestOnPaths, removeNode, toggleSmooth } from './paths.ts';

const leaf: Subpath[] = [
  {
    closed: true,
    nodes: [
      { at: [-60, 0], in: [25, -40], out: [25, 40] },
      { at: [60, 0], in: [-25, 40], out: [-25, -40] },
      { at: [0, -90] },
    ],
  },
];
const first = { path: 0, node: 0 };

it('a node on a segment leaves the curve as it was, wherever it is put', () => {
  for (const node of [0, 1, 2])
    for (const t of [0.1, 0.37, 0.5, 0.9]) {
      const more = insertNode(leaf, { path: 0, node }, t);
      expect(more[0]?.nodes).toHaveLength(4);
      const flat = flatten(more);
      const before = flatten(leaf).points;
      for (let i = 0; i < before.length; i += 2)
        expect(distanceToContours(flat, before[i] as number, before[i + 1] as number)).toBeLessThan(0.11);
    }
});

it('a straight segment stays straight', () => {
  const square: Subpath[] = [{ closed: false, nodes: [{ at: [0, 0] }, { at: [10, 0] }] }];
  expect(insertNode(square, first, 0.5)[0]?.nodes[1]).toEqual({ at: [5, 0] });
});

it('a node moves with its handles; a handle turns the opposite one along, or goes alone', () => {
  expect(moveNode(leaf, first, [1, 2])[0]?.nodes[0]).toEqual({ at: [1, 2], in: [25, -40], out: [25, 40] });
  const turned = moveHandle(leaf, first, 'out', [-60, 10], false)[0]?.nodes[0];
  expect(turned?.out).toEqual([0, 10]);
  expect(turned?.in?.[0]).toBe(0);
  expect(turned?.in?.[1]).toBeCloseTo(-Math.hypot(25, 40), 1);
  expect(moveHandle(leaf, first, 'out', [-60, 10], true)[0]?.nodes[0]?.in).toEqual([25, -40]);
  // Nothing that was handed in has changed.
  expect(leaf[0]?.nodes[0]?.at).toEqual([-60, 0]);
});

it('corners become smooth along their neighbours, and smooth points corners', () => {
  const smooth = toggleSmooth(leaf, { path: 0, node: 2 });
  const n = smooth[0]?.nodes[2];
  expect(n?.out).toEqual([-20, 0]);
  expect(n?.in).toEqual([20, 0]);
  expect(toggleSmooth(smooth, { path: 0, node: 2 })[0]?.nodes[2]).toEqual({ at: [0, -90] });
});

it('nodes are taken out until an outline is left with one: then it goes', () => {
  const two = removeNode(leaf, first);
  expect(two?.[0]?.nodes).toHaveLength(2);
  expect(removeNode(two ?? [], first)).toBeNull();
});

it('the nearest place on the paths is on the segment where it was asked for', () => {
  const c = controls(leaf[0]?.nodes[0] as never, leaf[0]?.nodes[1] as never);
  const half = [0, 1].map(
    (k) =>
      ((c[k] as number) + 3 * (c[k + 2] as number) + 3 * (c[k + 4] as number) + (c[k + 6] as number)) / 8,
  );
  const hit = nearestOnPaths(leaf, half[0] as number, (half[1] as number) + 1);
  expect(hit?.at).toEqual(first);
  expect(hit?.t).toBe(0.5);
  expect(hit?.far).toBeCloseTo(1, 6);
});

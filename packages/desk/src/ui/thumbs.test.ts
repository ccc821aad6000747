import { emptyPiece } from '@apple-tick/core/model';
import { expect, it } from 'vitest';
import { newSignal } from '../session/doings/signals.ts';
import { partFor } from './thumbs.ts';

const group = (id: string, parent: string | null) => ({
  id,
  name: id,
  parent,
  order: id,
  kind: 'group' as const,
  tags: [],
  hint: '',
  base: {
    position: [0, 0, 0] as [number, number, number],
    rotation: [0, 0, 0] as [number, number, number],
    scale: [1, 1, 1] as [number, number, number],
    pivot: [0, 0, 0] as [number, number, number],
    opacity: 1,
    shown: true,
    fill: '#000000',
  },
});
const clip = (id: string) => ({
  id,
  name: id,
  root: 'ob_a',
  duration: 1,
  loop: 'once' as const,
  tracks: [],
  cues: [],
});
const piece = {
  ...emptyPiece('p', 'Test'),
  objects: {
    ob_a: group('ob_a', null),
    ob_b: group('ob_b', 'ob_a'),
    ob_c: group('ob_c', 'ob_b'),
    ob_d: group('ob_d', null),
  },
  clips: { cl_a: clip('cl_a'), cl_b: clip('cl_b') },
  signals: { si_a: newSignal('si_a', 'a', 'switch') },
};

it('a thumbnail is asked for with no more than it needs', () => {
  const part = partFor(piece, 'ob_b', 'cl_b');
  expect(Object.keys(part.objects)).toEqual(['ob_b', 'ob_c']);
  expect(part.objects['ob_b']?.parent).toBeNull();
  expect(Object.keys(part.clips)).toEqual(['cl_b']);
  expect(part.signals).toEqual({});
  // The piece itself is as it was.
  expect(piece.objects.ob_b.parent).toBe('ob_a');
});

it('of the whole piece every object is needed, and no clip', () => {
  const part = partFor(piece, undefined, null);
  expect(Object.keys(part.objects)).toHaveLength(4);
  expect(part.clips).toEqual({});
});

import { defaultBase, emptyPiece, type Piece } from '@apple-tick/core/model';
import { compile, FaceBuilder } from '@apple-tick/core/run';
import { beforeAll, expect, it } from 'vitest';
import { paintFaces } from './index.ts';

/** A canvas context that writes down what is asked of it. */
class Recorder {
  readonly calls: [string, ...unknown[]][] = [];
  fillStyle = '';
  strokeStyle = '';
  globalAlpha = 1;
  lineWidth = 1;
  private transform: number[] = [];
  setTransform(...m: number[]) {
    this.transform = m;
    this.calls.push(['transform', ...m]);
  }
  fill() {
    this.calls.push(['fill', this.fillStyle, this.globalAlpha, [...this.transform]]);
  }
  stroke() {
    this.calls.push(['stroke']);
  }
  save() {
    this.calls.push(['save']);
  }
  restore() {
    this.calls.push(['restore']);
  }
  clip() {
    this.calls.push(['clip']);
  }
  beginPath() {}
  closePath() {}
  lineTo(x: number, y: number) {
    this.calls.push(['lineTo', x, y]);
  }
  createLinearGradient(...line: number[]) {
    const stops: [number, string][] = [];
    this.calls.push(['gradient', line, stops]);
    return { addColorStop: (at: number, color: string) => stops.push([at, color]) };
  }
}
beforeAll(() => {
  class Path {
    ellipse() {}
    rect() {}
    roundRect() {}
    moveTo() {}
    bezierCurveTo() {}
    lineTo() {}
    closePath() {}
  }
  Object.assign(globalThis, { Path2D: Path });
});

function paint(objects: Piece['objects'], scale = 2, elevation = 0): Recorder {
  const program = compile({ ...emptyPiece('p', 'Test'), objects });
  const faces = new FaceBuilder().build(program, program.base, { azimuth: 0, elevation });
  const ctx = new Recorder();
  paintFaces(ctx as unknown as CanvasRenderingContext2D, faces, { x: 100, y: 50, scale });
  return ctx;
}
const rect = (id: string, part: Partial<ReturnType<typeof defaultBase>> = {}): Piece['objects'][string] => ({
  id,
  name: id,
  parent: null,
  order: id,
  kind: 'rect',
  size: [20, 10],
  radius: 0,
  base: { ...defaultBase(), ...part },
  tags: [],
  hint: '',
});
const fills = (r: Recorder) => r.calls.filter((c) => c[0] === 'fill');

it('places the origin, scales, and lets y point up', () => {
  const made = fills(paint({ ob_a: rect('ob_a', { position: [10, 5, 0], fill: '#336699', opacity: 0.5 }) }));
  // The face's v points up, the canvas' y down. Adding 0 makes −0 a 0.
  expect(made.map(([, fill, alpha, m]) => [fill, alpha, (m as number[]).map((n) => n + 0)])).toEqual([
    ['#336699', 0.5, [2, 0, 0, -2, 120, 40]],
  ]);
});

it('paints in the order of the tree what lies in one plane, and nothing that is not shown', () => {
  const ctx = paint({
    ob_a: rect('ob_a', { fill: '#111111' }),
    ob_b: rect('ob_b', { fill: '#222222', shown: false }),
    ob_c: rect('ob_c', { fill: '#333333' }),
  });
  expect(fills(ctx).map((c) => c[1])).toEqual(['#111111', '#333333']);
});

it('leaves the context as it was: no transform, full opacity, as many restores as saves', () => {
  const ctx = paint({
    ob_a: rect('ob_a', { rotation: [0, 50, 0] }),
    ob_b: rect('ob_b', { rotation: [0, -50, 0], opacity: 0.3 }),
  });
  expect(ctx.globalAlpha).toBe(1);
  expect(ctx.calls.at(-1)).toEqual(['transform', 1, 0, 0, 1, 0, 0]);
  const count = (name: string) => ctx.calls.filter((c) => c[0] === name).length;
  // Two sheets through each other are split: their parts are clipped.
  expect(count('clip')).toBeGreaterThan(0);
  expect(count('save')).toBe(count('restore'));
});

it('only solids get an outline', () => {
  const { radius: _, ...flat } = rect('ob_a') as Extract<Piece['objects'][string], { kind: 'rect' }>;
  const box = { ...flat, kind: 'box' as const, size: [20, 10, 5] as [number, number, number] };
  const strokes = (r: Recorder) => r.calls.filter((c) => c[0] === 'stroke').length;
  expect(strokes(paint({ ob_a: rect('ob_a') }))).toBe(0);
  expect(strokes(paint({ ob_a: box }))).toBeGreaterThan(0);
});

const solid = (id: string, kind: 'box' | 'cylinder', size: [number, number, number], y: number) => {
  const { radius: _, ...flat } = rect(id) as Extract<Piece['objects'][string], { kind: 'rect' }>;
  return { ...flat, kind, size, base: { ...defaultBase(), position: [0, y, 0], fill: '#888888' } } as never;
};

it('a shadow lies on the ground only, within it, and under what stands there', () => {
  const ctx = paint(
    { ob_a: solid('ob_a', 'box', [200, 10, 200], -5), ob_b: solid('ob_b', 'box', [40, 40, 40], 20) },
    1,
    40,
  );
  const names = ctx.calls.map((c) => c[0]);
  const clip = names.indexOf('clip');
  const drawn = ctx.calls.slice(clip, names.indexOf('restore', clip));
  // In the plane of the ground, whose u and v are x and −z.
  expect(
    drawn.filter((c) => c[0] === 'lineTo').map(([, x, y]) => [Math.abs(x as number), Math.abs(y as number)]),
  ).toEqual(Array.from({ length: 4 }, () => [expect.closeTo(20, 9), expect.closeTo(20, 9)]));
  expect(names.filter((n) => n === 'clip')).toHaveLength(1);
  const ground = ctx.calls.findIndex((c) => c[0] === 'fill');
  expect(clip).toBeGreaterThan(ground);
  expect(names.lastIndexOf('restore')).toBeLessThan(names.lastIndexOf('fill'));
});

it('the wall of a cylinder runs from colour to colour, each piece beginning where the one before ends', () => {
  const ctx = paint({ ob_a: solid('ob_a', 'cylinder', [60, 40, 60], 0) }, 1);
  const made = ctx.calls.filter((c) => c[0] === 'gradient').map((c) => c[2] as [number, string][]);
  expect(made.length).toBeGreaterThan(10);
  const ends = made.map((stops) => stops.map((s) => s[1]));
  const known = new Set(ends.map((e) => e[0]));
  // All but those at the sides have a neighbour.
  expect(ends.filter((e) => known.has(e[1])).length).toBeGreaterThanOrEqual(ends.length - 2);
});

/** Stops of gradients that are keyed, put, and read back; and how their objects are painted then. */
import { describe, expect, it } from 'vitest';
import { hexToOklab, oklabToRgb, rgbToHex } from '../src/base/index.ts';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import {
  emptyPiece,
  type Gradient,
  ownValue,
  type Piece,
  propertyLabel,
  type SceneObject,
  stopOf,
  stopsOf,
  withOwnValue,
} from '../src/model/index.ts';
import { compile, FaceBuilder, loadRun, poseClip, poseReader, Run, saveRun } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import { Case } from './case.ts';

const stops: Gradient['stops'] = [
  { at: 0, color: '#ff0000' },
  { at: 0.5, color: '#00ff00', opacity: 0.5 },
  { at: 1, color: '#0000ff' },
];
const line: Gradient = { gradient: 'linear', from: [-20, 0], to: [20, 0], stops };
const spot: Gradient = { gradient: 'radial', centre: [0, 0], radius: 30, stops };
const stroke = { color: spot, width: 4, cap: 'butt', join: 'miter' } as const;

function pieceWith(tracks: readonly [property: string, from: string | number, to: string | number][]): Piece {
  const p = emptyPiece('p', 'P');
  const shape = { kind: 'rect', size: [40, 40], radius: 0 };
  p.objects['ob_a'] = objectOf('ob_a', shape, { fill: line }, { stroke });
  p.clips['cl_k'] = {
    ...{ id: 'cl_k', name: 'k', root: 'ob_a', duration: 1, loop: 'once', cues: [] },
    tracks: tracks.map(([property, from, to]) => ({
      ...{ object: 'ob_a', property, mode: 'absolute' as const },
      keys: [
        { t: 0, value: from, easing: 'linear' as const },
        { t: 1, value: to, easing: 'linear' as const },
      ],
    })),
  };
  expect(checkIntegrity(p)).toEqual([]);
  return p;
}

/** How the one object is painted t seconds into its clip. */
function paintedAt(p: Piece, t: number): { fill: Gradient | null; stroke: unknown } {
  const program = compile(p);
  const values = program.base.slice();
  poseClip(program, 'cl_k', t, values);
  const faces = new FaceBuilder().build(program, values, { azimuth: 0, elevation: 0 });
  const style = faces.style[faces.order[0] as number];
  return { fill: style?.gradient ?? null, stroke: style?.stroke?.color };
}

const mixed = (a: string, b: string, w: number) => {
  const [x, y] = [new Float64Array(3), new Float64Array(3)];
  hexToOklab(a, x, 0);
  hexToOklab(b, y, 0);
  const [l, m, n] = [0, 1, 2].map((k) => (x[k] as number) * (1 - w) + (y[k] as number) * w);
  return rgbToHex(oklabToRgb(l as number, m as number, n as number));
};

describe('stops', () => {
  it('are named from 1, with their paint; what is no stop is none', () => {
    const o = pieceWith([]).objects['ob_a'] as SceneObject;
    expect(stopsOf(o)).toHaveLength(12);
    for (const name of stopsOf(o)) {
      expect(stopOf(name)).not.toBeNull();
      expect(propertyLabel(name)).toMatch(/^(stroke, )?stop [1-3] (colour|place)$/);
    }
    for (const name of ['fill', 'fill.0.color', 'fill.65.at', 'fill.1', 'text.1.color', 'fill.01.at'])
      expect(stopOf(name)).toBeNull();
  });

  it('are set alone, and only where they are', () => {
    const o = pieceWith([]).objects['ob_a'] as SceneObject;
    for (const name of stopsOf(o)) {
      const to = name.endsWith('color') ? '#123456' : 0.25;
      const changed = withOwnValue(o, name, to);
      for (const other of stopsOf(o))
        expect(ownValue(changed, other)).toBe(other === name ? to : ownValue(o, other));
    }
    expect(ownValue(o, 'fill.4.color')).toBeNull();
    expect(withOwnValue(o, 'fill.4.color', '#123456')).toBe(o);
  });

  it('go from key to key as colours and numbers do, and are painted so', () => {
    const p = pieceWith([
      ['fill.2.color', '#00ff00', '#804020'],
      ['fill.2.at', 0.5, 0.9],
      ['stroke.1.color', '#ff0000', '#101010'],
    ]);
    const random = seeded(5);
    for (let i = 0; i < 50; i++) {
      const t = random();
      const { fill, stroke: own } = paintedAt(p, t);
      expect(fill?.stops[1]?.at).toBeCloseTo(0.5 + 0.4 * t, 9);
      expect(fill?.stops[1]?.color).toBe(mixed('#00ff00', '#804020', t));
      expect(fill?.stops[1]?.opacity).toBe(0.5);
      expect((own as Gradient).stops[0]?.color).toBe(mixed('#ff0000', '#101010', t));
      expect(fill?.stops[0]).toEqual(stops[0]);
    }
    expect(paintedAt(p, 0)).toEqual({ fill: line, stroke: spot });
  });

  it('never lie before the one before them', () => {
    expect(paintedAt(pieceWith([['fill.1.at', 0, 1]]), 0.75).fill?.stops.map((s) => s.at)).toEqual([
      0.75, 0.75, 1,
    ]);
  });

  it('that the gradient has not, or of what has a colour, change nothing', () => {
    const p = pieceWith([['fill.9.color', '#000000', '#ffffff']]);
    expect(paintedAt(p, 0.5)).toEqual({ fill: line, stroke: spot });
    const plain = p.objects['ob_a'] as SceneObject;
    p.objects['ob_a'] = { ...plain, base: { ...plain.base, fill: '#aabbcc' } };
    expect(checkIntegrity(p)).toEqual([]);
    expect(paintedAt(p, 0.5).fill).toBeNull();
  });

  it('must be given what suits them, which is said with its place', () => {
    const p = pieceWith([['fill.1.at', 0, 1]]);
    const at = (value: string | number) => {
      const file = JSON.parse(JSON.stringify(p));
      file.clips.cl_k.tracks[0].keys[0].value = value;
      return readPieceJson(file);
    };
    expect(at(0.5)).toMatchObject({ ok: true });
    const wrong = at('#ffffff');
    expect(!wrong.ok && wrong.problems).toMatchObject([
      { code: 'type', path: 'clips.cl_k.tracks[0].keys[0].value' },
    ]);
  });

  it('are put and tweened in a run, read back, and survive a snapshot', () => {
    const p = pieceWith([]);
    p.reactions['re_p'] = {
      ...{ id: 're_p', object: 'ob_a', on: { event: 'key.down', key: 'p' }, when: [], after: 0, cooldown: 0 },
      limit: 'always',
      actions: [
        { do: 'put', object: 'ob_a', property: 'fill.1.color', to: '#123456' },
        { do: 'put', object: 'ob_a', property: 'stroke.3.at', to: 0.7 },
      ],
    };
    const c = new Case(p);
    const read = (run: Run, name: string) => poseReader(run, `ob_a.${name}`)?.();
    expect([read(c.run, 'fill.1.color'), read(c.run, 'stroke.3.at')]).toEqual(['#ff0000', 1]);
    c.key('p').ticks(2);
    const again = loadRun(new Run(compile(p)), saveRun(c.run));
    for (const run of [c.run, again])
      expect([read(run, 'fill.1.color'), read(run, 'stroke.3.at'), read(run, 'fill.2.color')]).toEqual([
        '#123456',
        0.7,
        '#00ff00',
      ]);
    expect(poseReader(c.run, 'ob_a.fill.9.color')).toBeNull();
  });
});

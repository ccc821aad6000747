import { describe, expect, it } from 'vitest';
import { readPieceJson } from '../src/check/index.ts';
import { defaultBase, emptyPiece, type KindOf, layoutText, resized, sizeOf } from '../src/model/index.ts';
import { lineWidth } from '../src/model/text-layout.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { hitTop } from '../src/world/index.ts';

const words = (part: Partial<KindOf<'text'>> = {}): KindOf<'text'> => ({
  id: 'ob_t',
  name: 'Words',
  parent: null,
  order: 'a0',
  tags: [],
  hint: '',
  base: defaultBase(),
  kind: 'text',
  text: 'Cider\n20 pints',
  font: 'sans',
  size: 40,
  weight: 400,
  align: 'left',
  ...part,
});

describe('texts', () => {
  it('are as wide as their letters, evenly heavier between two weights, twice as wide at twice the size', () => {
    const w = (text: string, weight = 400, size = 1000) => lineWidth(text, 'serif', size, weight);
    expect(w('ab')).toBeCloseTo(w('a') + w('b'), 9);
    expect(w('abc', 550)).toBeCloseTo((w('abc', 400) + w('abc', 700)) / 2, 9);
    expect(w('abc', 400, 20)).toBeCloseTo(w('abc', 400, 10) * 2, 9);
    // In a font of one width every letter takes the same room.
    expect(lineWidth('iiii', 'mono', 50, 400)).toBeCloseTo(lineWidth('WMé…', 'mono', 50, 400), 9);
    expect(w('')).toBe(0);
    // A character without a width takes some.
    expect(w('漢')).toBeGreaterThan(0);
  });

  it('lines are put one below another and aligned within the widest', () => {
    for (const align of ['left', 'center', 'right'] as const) {
      const l = layoutText(words({ align }));
      const [a, b] = l.lines as [(typeof l.lines)[number], (typeof l.lines)[number]];
      expect(l.height).toBe(100);
      expect(a.y - b.y).toBe(50);
      const room = l.width - lineWidth('Cider', 'sans', 40, 400);
      expect(a.x).toBeCloseTo(
        -l.width / 2 + (align === 'left' ? 0 : align === 'center' ? room / 2 : room),
        9,
      );
      expect(b.x).toBeCloseTo(-l.width / 2, 9);
    }
  });

  it('are hit by their box, also between the letters and without a fill', () => {
    for (const fill of ['#112233', 'none'] as const) {
      const t = words({
        base: { ...defaultBase(), fill },
        stroke: { color: '#000000', width: 1, cap: 'butt', join: 'miter' },
      });
      const program = compile({ ...emptyPiece('p', 'x'), objects: { ob_t: t } });
      const faces = new FaceBuilder().build(program, program.base, { azimuth: 0, elevation: 0 });
      const [w, h] = sizeOf(t);
      expect(hitTop(faces, w / 2 - 1, h / 2 - 1)).toBe(0);
      expect(hitTop(faces, w / 2 + 2, 0)).toBe(-1);
    }
  });

  it('keep their form when sized', () => {
    const [w, h] = sizeOf(words());
    const wide = resized(words(), 0, w * 2);
    expect(sizeOf(wide)[0]).toBeCloseTo(w * 2, 9);
    expect(sizeOf(wide)[1]).toBeCloseTo(h * 2, 9);
  });

  it('are read with the values that a file leaves out', () => {
    const { font: _, weight: __, align: ___, ...bare } = words();
    const r = readPieceJson({ ...emptyPiece('p', 'x'), objects: { ob_t: bare } });
    expect(r.ok && r.value.objects['ob_t']).toMatchObject({ font: 'sans', weight: 400, align: 'left' });
  });
});

/** What a drawing's transforms, style sheets, markers and groups come to, against slow references. */
import { describe, expect, it } from 'vitest';
import { importSvg } from '../src/formats/index.ts';
import { withoutEntities } from '../src/formats/svg-entities.ts';
import { markerPlaces } from '../src/formats/svg-markers.ts';
import {
  apply,
  inverse,
  type Matrix,
  parseTransform,
  times,
  turnAndScale,
} from '../src/formats/svg-matrix.ts';
import { readDeclarations } from '../src/formats/svg-select.ts';
import { viewportMatrix } from '../src/formats/svg-view.ts';
import { emptyPiece, type Piece, type SceneObject } from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';

const svg = (inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000" overflow="visible">${inner}</svg>`;
function read(text: string) {
  let n = 0;
  const r = importSvg(text, 'Picture', (kind) => `${kind.slice(0, 2)}_${n++}`, { width: 1e4, height: 1e4 });
  if (!r.ok) throw new Error(r.problems[0]?.message);
  return r.value;
}
const pieceOf = (objects: readonly SceneObject[]): Piece => ({
  ...emptyPiece('p', 'Test'),
  objects: Object.fromEntries(objects.map((o) => [o.id, o])),
});
const VIEW = { azimuth: 0, elevation: 0 };
const facesOf = (piece: Piece) => {
  const program = compile(piece);
  return { program, faces: new FaceBuilder().build(program, program.base, VIEW) };
};

/** A transform as text, and as the matrix that the standard says it is. */
function randomTransform(random: () => number): { text: string; m: Matrix } {
  const n = (a: number, z: number) => Math.round((a + (z - a) * random()) * 100) / 100;
  const kind = Math.floor(random() * 5);
  const [x, y, a] = [n(-50, 50), n(-50, 50), n(-180, 180)];
  const [c, s] = [Math.cos((a * Math.PI) / 180), Math.sin((a * Math.PI) / 180)];
  // A number that begins with a sign needs nothing before it.
  const pair = y < 0 ? `${x}${y}` : `${x},${y}`;
  if (kind === 0) return { text: `translate(${pair})`, m: [1, 0, 0, 1, x, y] };
  if (kind === 1) return { text: `rotate(${a})`, m: [c, s, -s, c, 0, 0] };
  if (kind === 2)
    return { text: `rotate(${a} ${x} ${y})`, m: [c, s, -s, c, x - c * x + s * y, y - s * x - c * y] };
  const [kx, ky] = [n(0.3, 2) * (random() < 0.3 ? -1 : 1), n(0.3, 2)];
  if (kind === 3) return { text: `scale(${kx} ${ky})`, m: [kx, 0, 0, ky, 0, 0] };
  const tan = Math.tan((n(-30, 30) * Math.PI) / 180);
  return { text: `matrix(1 0 ${tan} 1 ${x} ${y})`, m: [1, 0, tan, 1, x, y] };
}

describe('places', () => {
  it('what lies in transforms in one another comes to stand where the standard says', () => {
    const random = seeded(20261203);
    for (let turn = 0; turn < 200; turn++) {
      const all = Array.from({ length: 1 + Math.floor(random() * 4) }, () => randomTransform(random));
      const open = all.map(({ text }) => `<g transform="${text}">`).join('');
      const { objects } = read(
        svg(`${open}<rect x="-5" y="-7" width="30" height="20"/>${'</g>'.repeat(all.length)}`),
      );
      const { faces } = facesOf(pieceOf(objects));
      const m = all.reduce<Matrix>((before, { m: next }) => times(before, next), [1, 0, 0, 1, 0, 0]);
      // The middle of the rectangle; the view box's middle is the piece's, whose y points up.
      const [x, y] = apply(m, 10, 3);
      expect(faces.count, open).toBe(1);
      const outline = faces.outline[0]?.bounds ?? [0, 0, 0, 0];
      const [u, v] = [(outline[0] + outline[2]) / 2, (outline[1] + outline[3]) / 2];
      const p = faces.plane;
      const at = (k: number) => (p[k] as number) + (p[3 + k] as number) * u + (p[6 + k] as number) * v;
      expect(at(0), open).toBeCloseTo(x - 500, 1);
      expect(at(1), open).toBeCloseTo(500 - y, 1);
      // It covers as much as it does there, mirrored or not.
      const area = Math.abs((p[3] as number) * (p[7] as number) - (p[4] as number) * (p[6] as number));
      const want = Math.abs(m[0] * m[3] - m[1] * m[2]) * 600;
      const size = [outline[2] - outline[0], outline[3] - outline[1]] as const;
      if (all.every(({ text }) => !text.startsWith('matrix')))
        expect(area * size[0] * size[1], open).toBeCloseTo(want, 0);
    }
  });

  it('a turn about a point is a pivot there, and a turn and mirroring are kept as such', () => {
    const { objects } = read(
      svg(
        '<rect id="a" x="100" y="100" width="40" height="20" transform="rotate(30 100 100)"/>' +
          '<g id="b" transform="translate(300 0) scale(-1 1)"><circle r="10"/></g>',
      ),
    );
    const by = (name: string) => objects.find((o) => o.name === name)?.base;
    expect(by('a')).toMatchObject({ rotation: [0, 0, -30], pivot: [-20, 10, 0], scale: [1, 1, 1] });
    expect(by('b')).toMatchObject({ rotation: [0, 0, 0], scale: [-1, 1, 1] });
  });

  it('matrices: inverse, turn and scale, per cent and units of CSS, what is not sound', () => {
    const random = seeded(7);
    for (let i = 0; i < 200; i++) {
      const { m } = randomTransform(random);
      const back = inverse(m) as Matrix;
      const [x, y] = apply(back, ...apply(m, 3, -8));
      expect(x).toBeCloseTo(3, 6);
      expect(y).toBeCloseTo(-8, 6);
      const parts = turnAndScale(m);
      if (!parts) continue;
      const a = (parts.turn * Math.PI) / 180;
      const [kx, ky] = parts.scale;
      for (const [k, want] of [
        Math.cos(a) * kx,
        Math.sin(a) * kx,
        -Math.sin(a) * ky,
        Math.cos(a) * ky,
      ].entries())
        expect(m[k]).toBeCloseTo(want, 6);
    }
    expect(turnAndScale([1, 0, 0.5, 1, 0, 0])).toBeNull();
    expect(inverse([1, 2, 2, 4, 0, 0])).toBeNull();
    expect(
      parseTransform('translate(50%, 10px) rotate(.25turn)', [200, 100])?.map((x) => Math.round(x)),
    ).toEqual([...[0, 1, -1, 0, 100, 10]]);
    expect(parseTransform('rotate(5) spin(2)')).toBeNull();
    expect(parseTransform('rotate()')).toBeNull();
    expect(parseTransform(' none ')).toEqual([1, 0, 0, 1, 0, 0]);
  });

  it('a view box is fitted, cut and stretched', () => {
    const box = [10, 20, 100, 50] as const;
    expect(viewportMatrix(box, 200, 200, undefined)).toEqual([2, 0, 0, 2, -20, 10]);
    expect(viewportMatrix(box, 200, 200, 'xMinYMax slice')).toEqual([4, 0, 0, 4, -40, -80]);
    expect(viewportMatrix(box, 200, 200, 'none')).toEqual([2, 0, 0, 4, -20, -80]);
  });

  it('a linear gradient under any map has the same colour at the same place', () => {
    const random = seeded(11);
    for (let i = 0; i < 60; i++) {
      const { text, m } = randomTransform(random);
      const [x2, y2] = [Math.round(100 + 300 * random()), Math.round(500 * random())];
      const { objects } = read(
        svg(
          `<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="90" y1="70" x2="${x2}" y2="${y2}" gradientTransform="${text}"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="1000" height="1000" fill="url(#g)"/>`,
        ),
      );
      const fill = objects[1]?.base.fill;
      if (typeof fill !== 'object' || fill.gradient !== 'linear') throw new Error(text);
      const [dx, dy] = [x2 - 90, y2 - 70];
      for (let k = 0; k < 5; k++) {
        const [px, py] = [1000 * random(), 1000 * random()];
        const [gx, gy] = apply(inverse(m) as Matrix, px, py);
        const want = ((gx - 90) * dx + (gy - 70) * dy) / (dx * dx + dy * dy);
        const [ax, ay] = [fill.to[0] - fill.from[0], fill.to[1] - fill.from[1]];
        const got = ((px - 500 - fill.from[0]) * ax + (500 - py - fill.from[1]) * ay) / (ax * ax + ay * ay);
        expect(got, text).toBeCloseTo(want, 2);
      }
    }
  });
});

describe('style sheets', () => {
  const fills = (css: string, inner: string) =>
    Object.fromEntries(read(svg(`<style>${css}</style>${inner}`)).objects.map((o) => [o.name, o.base.fill]));

  it('what is more specific wins, then what comes later, and importance over all', () => {
    const inner = '<g id="g" class="a"><rect id="r" class="b c" width="9" height="9" fill="#111111"/></g>';
    expect(fills('rect{fill:#222222}', inner)).toMatchObject({ r: '#222222' });
    expect(fills('.b{fill:#333333} rect{fill:#222222}', inner)).toMatchObject({ r: '#333333' });
    expect(fills('.b{fill:#333333} .c{fill:#444444}', inner)).toMatchObject({ r: '#444444' });
    expect(fills('g.a .b{fill:#555555} .b.c{fill:#444444}', inner)).toMatchObject({ r: '#555555' });
    expect(fills('#r{fill:#666666} g.a>.b.c{fill:#555555}', inner)).toMatchObject({ r: '#666666' });
    expect(fills('rect{fill:#222222!important} #r{fill:#666666}', inner)).toMatchObject({ r: '#222222' });
    expect(fills('svg>rect{fill:#222222} [width="9"]{fill:#777777}', inner)).toMatchObject({ r: '#777777' });
    expect(fills(':root .z{fill:#222222} *{fill:#888888}', inner)).toMatchObject({ r: '#888888' });
  });

  it('of two declarations of one property the later holds, unless the earlier is important', () => {
    expect(readDeclarations('fill:red;fill:blue')['fill']?.value).toBe('blue');
    expect(readDeclarations('fill:red!important;fill:blue')['fill']).toEqual({
      value: 'red',
      important: true,
    });
    expect(readDeclarations('')).toEqual({});
  });
});

it('entities are written out, within bounds', () => {
  expect(withoutEntities('<!DOCTYPE svg [<!ENTITY a "x&b;"><!ENTITY b \'y\'>]><svg>&a;&amp;&c;</svg>')).toBe(
    '<svg>xy&amp;&c;</svg>',
  );
  expect(withoutEntities('<svg/>')).toBe('<svg/>');
  expect(withoutEntities('<!DOCTYPE svg [<!ENTITY a "&a;&a;">]><svg>&a;</svg>')).toBeNull();
});

it('markers stand at each point, turned halfway between the line before and after', () => {
  const line = (points: [number, number][], closed = false) =>
    markerPlaces([{ closed, nodes: points.map((at) => ({ at })) }]);
  const corner = line([
    [0, 0],
    [10, 0],
    [10, 10],
  ]);
  expect(corner.map((p) => p.at)).toEqual(['marker-start', 'marker-mid', 'marker-end']);
  expect(corner.map((p) => Math.round(p.angle))).toEqual([0, 45, 90]);
  const closed = line(
    [
      [0, 0],
      [10, 0],
      [10, 10],
    ],
    true,
  );
  expect(closed).toHaveLength(4);
  expect(closed[3]).toMatchObject({ x: 0, y: 0, at: 'marker-end' });
  // A curve is turned as its handles are.
  const [start] = markerPlaces([{ closed: false, nodes: [{ at: [0, 0], out: [0, 5] }, { at: [9, 9] }] }]);
  expect(start?.angle).toBe(90);
});

describe('what is painted as one', () => {
  const group =
    '<g id="g" opacity=".5"><g id="h" opacity=".4"><rect id="r" width="9" height="9" opacity=".3"/></g><rect id="s" width="9" height="9"/></g>';

  it('a face has its opacity within the innermost of it, and each of these its own', () => {
    const { program, faces } = facesOf(pieceOf(read(svg(group)).objects));
    const number = (name: string) => program.objects.findIndex((o) => o.name === name);
    const [r, s] = [0, 1];
    expect([...faces.whole].slice(0, 2)).toEqual([number('h'), number('g')]);
    expect(faces.opacity[r]).toBeCloseTo(0.3, 9);
    expect(faces.opacity[s]).toBe(1);
    expect(faces.wholeOpacity[number('h')]).toBeCloseTo(0.4, 9);
    expect(faces.wholeOpacity[number('g')]).toBeCloseTo(0.5, 9);
    expect(faces.wholeAbove[number('h')]).toBe(number('g'));
    expect(faces.wholeAbove[number('g')]).toBe(-1);
  });

  it('what is opaque is none, what has a blend is, and what is wholly transparent is not there', () => {
    const one = (inner: string) => facesOf(pieceOf(read(svg(inner)).objects));
    expect(one('<g><rect width="9" height="9" opacity=".5"/></g>').faces.whole[0]).toBe(-1);
    const blended = one('<rect width="9" height="9" opacity=".5" style="mix-blend-mode:screen"/>').faces;
    expect(blended.whole[0]).toBe(1);
    expect(blended.opacity[0]).toBe(1);
    expect(blended.wholeOpacity[1]).toBeCloseTo(0.5, 9);
    expect(one('<g opacity="0"><rect width="9" height="9"/></g>').faces.count).toBe(0);
  });
});

import { describe, expect, it } from 'vitest';
import { type IdKind, newId } from '../src/base/index.ts';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import { importSvg } from '../src/formats/index.ts';
import { emptyPiece, type KindOf, layoutText, type Piece, type SceneObject } from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { hitTop } from '../src/world/index.ts';

const ids = () => {
  const taken = new Set<string>();
  return (kind: IdKind) => {
    const id = newId(kind, (x) => taken.has(x), Math.random);
    taken.add(id);
    return id;
  };
};
const svg = (inner: string, attributes = 'viewBox="0 0 200 100"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inner}</svg>`;
const read = (text: string, room = { width: 960, height: 540 }) => {
  const r = importSvg(text, 'Picture', ids(), room);
  if (!r.ok) throw new Error(r.problems[0]?.message);
  return r.value;
};
const problem = (text: string) => {
  const r = importSvg(text, 'Picture', ids(), { width: 960, height: 540 });
  return r.ok ? null : (r.problems[0]?.message ?? '');
};
const pieceOf = (objects: SceneObject[]): Piece => ({
  ...emptyPiece('p', 'Test'),
  objects: Object.fromEntries(objects.map((o) => [o.id, o])),
});
/** The name of what is hit at a point of the SVG (y down, viewBox 0 0 200 100). */
const hit = (objects: SceneObject[], x: number, y: number) => {
  const program = compile(pieceOf(objects));
  const faces = new FaceBuilder().build(program, program.base, { azimuth: 0, elevation: 0 });
  return program.objects[hitTop(faces, x - 100, 50 - y)]?.name ?? null;
};

describe('SVG', () => {
  it('groups are kept, names are unique, and what comes out is a sound piece', () => {
    const { objects } = read(
      svg(
        '<g id="press"><rect id="a" width="10" height="10"/><g><circle r="5"/><circle r="5" cx="20"/></g></g>',
      ),
    );
    expect(objects.map((o) => o.name)).toEqual([
      ...['Picture', 'press', 'a', 'Group', 'Circle', 'Circle 2'],
      // What reaches beyond the page is cut off.
      'Page',
    ]);
    expect(objects[0]?.mask).toMatchObject({ by: objects[6]?.id, side: 'inside' });
    expect(checkIntegrity(pieceOf(objects))).toEqual([]);
    expect(readPieceJson(JSON.parse(JSON.stringify(pieceOf(objects))))).toMatchObject({ ok: true });
  });

  it('basic shapes stay what they are, and what turns them is their own turn', () => {
    const { objects } = read(
      svg(
        '<rect x="10" y="20" width="40" height="30" rx="5"/><ellipse cx="100" cy="50" rx="20" ry="10"/>' +
          '<rect x="10" y="20" width="40" height="30" transform="rotate(30)"/><rect x="90" y="20" width="40" height="30" transform="skewX(3)"/><line x1="0" y1="0" x2="9" y2="9" stroke="red"/>',
      ),
    );
    expect(objects.map((o) => o.kind)).toEqual(['group', 'rect', 'ellipse', 'rect', 'path', 'path', 'path']);
    expect(objects[1]).toMatchObject({ size: [40, 30], radius: 5 });
    expect(hit(objects, 11, 21)).toBeNull();
    expect(hit(objects, 13, 23)).toBe('Rectangle');
    expect(hit(objects, 100, 59)).toBe('Ellipse');
  });

  it('nested transforms are worked in: moved, scaled, turned about a point, skewed, mirrored', () => {
    const { objects } = read(
      svg(
        '<g transform="translate(100 50) scale(2)"><rect id="s" x="5" y="5" width="10" height="10"/></g>' +
          '<rect id="t" x="0" y="0" width="20" height="4" transform="rotate(90 10 10)"/>' +
          '<path id="k" d="M0 0h10v10h-10z" transform="translate(20 80) skewX(45)"/>',
      ),
    );
    expect(hit(objects, 120, 70)).toBe('s');
    expect(hit(objects, 131, 70)).toBeNull();
    // (0…20, 0…4) turned a quarter about (10, 10): x 16…20, y 0…20.
    expect(hit(objects, 18, 19)).toBe('t');
    expect(hit(objects, 5, 2)).toBeNull();
    expect(hit(objects, 38, 89)).toBe('k');
    expect(hit(objects, 22, 88)).toBeNull();
  });

  it('paths: arcs, quadratics, relative commands, holes by rule', () => {
    const ring =
      'M50 50m-40 0a40 40 0 1 0 80 0a40 40 0 1 0 -80 0z M50 50m-20 0a20 20 0 1 0 40 0a20 20 0 1 0 -40 0z';
    const { objects } = read(
      svg(`<path id="r" fill-rule="evenodd" d="${ring}"/><path id="q" d="M120 80q30-80 60 0z"/>`),
    );
    expect(hit(objects, 50, 50)).toBeNull();
    expect(hit(objects, 50, 20)).toBe('r');
    expect(hit(objects, 150, 60)).toBe('q');
    expect(hit(objects, 150, 30)).toBeNull();
  });

  it('paint: names, hsl, style, classes, inheritance, opacities, strokes, gradients by box and by user space', () => {
    const { objects, notes } = read(
      svg(
        '<style>.k{fill:#0a0;stroke:rgb(10,20,30)} #z{stroke-width:3}</style>' +
          '<defs><linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="100%" stop-color="#00f" stop-opacity=".5"/></linearGradient>' +
          '<radialGradient id="h" xlink:href="#g" gradientUnits="userSpaceOnUse" cx="50" cy="50" r="30"/></defs>' +
          '<g fill="hsl(120, 100%, 50%)" opacity=".5"><rect id="a" width="9" height="9"/></g>' +
          '<rect id="b" width="9" height="9" style="fill:tomato;fill-opacity:50%"/>' +
          '<rect class="k" id="z" width="9" height="9" stroke-linecap="round"/>' +
          '<rect id="c" x="10" width="20" height="10" fill="url(#g)"/><circle id="d" cx="50" cy="50" r="30" fill="url(#h)"/>' +
          '<path id="e" d="M0 0h9" fill="none" stroke="#abc"/>',
      ),
    );
    const by = (name: string) => objects.find((o) => o.name === name) as SceneObject;
    expect(by('a').base.fill).toBe('#00ff00');
    expect(by('b').base).toMatchObject({ fill: '#ff6347', opacity: 0.5 });
    expect(by('z')).toMatchObject({
      base: { fill: '#00aa00' },
      stroke: { color: '#0a141e', width: 3, cap: 'round' },
    });
    expect(by('c').base.fill).toEqual({
      gradient: 'linear',
      from: [-10, 5],
      to: [10, 5],
      stops: [
        { at: 0, color: '#ff0000' },
        { at: 1, color: '#0000ff', opacity: 0.5 },
      ],
    });
    expect(by('d').base.fill).toMatchObject({ gradient: 'radial', centre: [0, 0], radius: 30 });
    expect(by('e').base.fill).toBe('none');
    expect(notes).toEqual([]);
  });

  it('style sheets are read as CSS: comments, strings, rules within others, what is broken and what is not understood', () => {
    const { objects, notes } = read(
      svg(
        `<style>
          /* .a { fill: black } */
          .a, rect { fill: #0a0 !important; font-family: "a;b}c" }
          @media print { .b { fill: #f00 } }
          .b { fill: #00f; stroke: ; ; }
          .c > rect { fill: #fff }
          rect:nth-child(2) { fill: #fff }
          .broken { fill: #123
        </style>` +
          '<rect id="a" class="a" width="9" height="9"/><circle id="b" class="b" r="9"/>' +
          '<circle id="c" style="fill : #abcdef ; opacity:.5;" r="9"/>',
      ),
    );
    const by = (name: string) => objects.find((o) => o.name === name) as SceneObject;
    expect(by('a').base.fill).toBe('#00aa00');
    expect(by('b').base.fill).toBe('#0000ff');
    expect(by('c').base).toMatchObject({ fill: '#abcdef', opacity: 0.5 });
    expect(notes.join(' ')).toContain('begin with @');
    expect(notes.join(' ')).toContain('the style rule "rect:nth-child(2)"');
  });

  it('texts keep their size, turn, alignment and lines', () => {
    const { objects, notes } = read(
      svg(
        '<text x="100" y="50" font-size="20" font-family="Georgia, serif" font-weight="bold" text-anchor="middle" fill="#123456">Fresh <tspan>cider</tspan>\n <tspan x="100" dy="24">daily</tspan></text>' +
          '<text x="20" y="90" transform="rotate(-90 20 90)">up</text>',
      ),
    );
    const [, a, b] = objects as [SceneObject, SceneObject, SceneObject];
    expect(a).toMatchObject({
      kind: 'text',
      text: 'Fresh cider\ndaily',
      font: 'serif',
      weight: 700,
      size: 20,
      align: 'center',
      base: { fill: '#123456' },
    });
    expect(hit(objects, 100, 44)).toBe('Fresh cider');
    expect(b.base.rotation[2]).toBe(90);
    expect(hit(objects, 15, 80)).toBe('up');
    expect(notes).toEqual([]);
  });

  it('parts of a text that stand elsewhere or look otherwise are texts of their own, each at its place', () => {
    const texts = (inner: string) => {
      const { objects, notes } = read(svg(inner));
      expect(notes).toEqual([]);
      const parent = new Map(objects.map((o) => [o.id, o]));
      return objects.flatMap((o) => {
        if (o.kind !== 'text') return [];
        let x = 100 - layoutText(o).width / 2;
        for (let at: SceneObject | undefined = o; at; at = parent.get(at.parent ?? ''))
          x += at.base.position[0];
        return [{ o, x, text: o.text, fill: o.base.fill }];
      });
    };
    const width = (text: string, size: number, weight = 400) =>
      layoutText({ text, font: 'sans', size, weight, align: 'left' }).width;
    // Words in turn, though what stands after a part is read after it.
    const [a, b, c] = texts(
      '<text x="10" y="50" font-size="20" fill="#111111">one <tspan fill="#cc0000" font-weight="700">two</tspan> three</text>',
    );
    expect([a, b, c].map((t) => [t?.text, t?.fill])).toEqual([
      ['one', '#111111'],
      ['two', '#cc0000'],
      ['three', '#111111'],
    ]);
    expect(a?.x).toBeCloseTo(10, 1);
    expect(b?.x).toBeCloseTo(10 + width('one ', 20), 1);
    expect(c?.x).toBeCloseTo(10 + width('one ', 20) + width('two', 20, 700) + width(' ', 20), 1);
    // Anchored together, and set on by dx.
    const [d, e] = texts(
      '<text x="100" y="50" font-size="10" text-anchor="middle">ab<tspan dx="6" fill="#cc0000">cd</tspan></text>',
    );
    const all = width('ab', 10) + 6 + width('cd', 10);
    expect(d?.x).toBeCloseTo(100 - all / 2, 1);
    expect(e?.x).toBeCloseTo(100 - all / 2 + width('ab', 10) + 6, 1);
    // Letters one by one, and the rest after the last of them.
    const letters = texts('<text x="10 40 90" y="20 50" font-size="10">abcd</text>');
    expect(letters.map((t) => t.text)).toEqual(['a', 'b', 'cd']);
    expect(letters.map((t) => Math.round(t.x))).toEqual([10, 40, 90]);
    // Lines that are not as far apart as ours are texts of their own; so is one that is set in.
    expect(texts('<text x="0" y="10" font-size="10">a<tspan x="0" y="40">b</tspan></text>')).toHaveLength(2);
    expect(texts('<text x="0" y="10" font-size="10">a<tspan x="8" y="22">b</tspan></text>')).toHaveLength(2);
    expect(
      texts('<text x="0" y="10" font-size="10">a<tspan x="0" y="22">b</tspan></text>').map((t) => t.text),
    ).toEqual(['a\nb']);
    // Per cent of the page: 200 by 100.
    const [middle] = texts('<text x="50%" y="50%" text-anchor="middle">ab</text>');
    expect(middle?.x).toBeCloseTo(100 - width('ab', 16) / 2, 1);
    // Half opaque as a whole, not twice.
    const half = texts('<text opacity="0.5">a<tspan fill="red">b</tspan></text>');
    expect(half.map(({ o }) => o.base.opacity)).toEqual([1, 1]);
    expect(read(svg('<text>木</text>')).notes).toEqual(['letters that the fonts here lack']);
  });

  it('a clip path becomes a window', () => {
    const { objects } = read(
      svg(
        '<clipPath id="c"><circle cx="50" cy="50" r="20"/></clipPath><rect id="r" width="200" height="100" clip-path="url(#c)"/>',
      ),
    );
    expect(hit(objects, 50, 50)).toBe('r');
    expect(hit(objects, 80, 50)).toBeNull();
  });

  it('<use> is followed, and what goes round in circles or bursts comes to an end', () => {
    const { objects } = read(
      svg('<defs><rect id="a" width="10" height="10"/></defs><use href="#a" x="50" y="50"/>'),
    );
    expect(hit(objects, 55, 55)).toBe('a');
    expect(read(svg('<g id="a"><use href="#a"/><rect width="5" height="5"/></g>')).notes.join()).toContain(
      'too deep',
    );
    const levels = Array.from(
      { length: 12 },
      (_, i) => `<g id="l${i + 1}">${`<use href="#l${i}"/>`.repeat(10)}</g>`,
    ).join('');
    expect(
      read(
        svg(`<defs><rect id="l0" width="1" height="1"/>${levels}</defs><use href="#l12"/><circle r="3"/>`),
      ).notes.join(),
    ).toContain('too many');
  });

  it('what is not understood is listed, with how often, and can never run', () => {
    const { objects, notes } = read(
      svg(
        '<script>alert(1)</script><foreignObject><body onload="x()"/></foreignObject>' +
          '<rect id="&quot;&gt;&lt;img src=x onerror=alert(1)&gt;" onclick="alert(1)" width="9" height="9" filter="url(#f)"/>' +
          '<image href="https://example.org/x.png"/><animate/><animate/><use href="other.svg#a"/>',
      ),
    );
    expect(notes).toEqual([
      '<script>',
      '<foreignObject>',
      'a script in onclick',
      'a reference to another file',
      '<animate> (2 times)',
      'a filter',
      'a picture of another file',
      'a <use> of another file',
    ]);
    expect(JSON.stringify(objects)).not.toContain('onclick');
    expect(objects[1]?.name).toBe('"><img src=x onerror=alert(1)>');
  });

  it('letters keep what lies between them, their slant, their line and their case', () => {
    const { objects } = read(
      svg(
        '<g font-style="italic" letter-spacing="0.5em"><text y="50" font-size="20" text-decoration="underline">cider</text>' +
          '<text y="80" style="letter-spacing:3px;font-style:normal;text-decoration-line:line-through;text-transform:capitalize">old price</text></g>',
      ),
    );
    const [, , a, b] = objects as [SceneObject, SceneObject, SceneObject, SceneObject];
    expect(a).toMatchObject({ text: 'cider', spacing: 10, italic: true, decoration: 'underline' });
    expect(b).toMatchObject({ text: 'Old Price', spacing: 3, decoration: 'line-through' });
    expect('italic' in b).toBe(false);
    // Each of five letters is followed by 10 px.
    const plain = layoutText({ ...(a as KindOf<'text'>), spacing: 0 });
    expect(layoutText(a as KindOf<'text'>).width).toBeCloseTo(plain.width + 50, 9);
  });

  it.each([
    ['<text textLength="90">a</text>', 'textLength="90" of a <text>'],
    ['<text style="text-transform:uppercase">a</text>', ''],
    ['<text rotate="0 30">ab</text>', 'rotate="0 30" of a <text>'],
    ['<text text-decoration="underline overline">a</text>', 'a line over a text, or the second of two'],
    ['<text style="text-transform:none;line-height:2">a</text>', ''],
    ['<text dominant-baseline="middle">a</text>', 'dominant-baseline="middle" of a <text>'],
    ['<text dominant-baseline="auto" letter-spacing="0">a</text>', ''],
    ['<text word-spacing="3">a</text>', 'word-spacing="3" of a <text>'],
    ['<path d="M0 0H9V9z" pathLength="1" stroke-dasharray="1"/>', 'pathLength="1" of a <path>'],
    ['<rect width="9" height="9" data-x="1" inkscape:y="2" class="k" shape-rendering="crispEdges"/>', ''],
    ['<rect width="9" height="9" glow="3"/><sparkle/>', 'glow="3" of a <rect>, <sparkle>'],
    ['<rect width="9" height="9" style="mix-blend-mode:plus-lighter"/>', 'the blend "plus-lighter"'],
  ])('what draws and is not read is told, and nothing else: %s', (inner, told) => {
    expect(read(svg(inner)).notes.join(', ')).toBe(told);
  });

  it('what passes the sanitising is unharmed: signs in texts and styles, prefixes, lines of the file', () => {
    const { objects, notes } = read(
      `<svg:svg xmlns:svg="http://www.w3.org/2000/svg" viewBox="0 0 200 100">
        <svg:metadata><rdf/></svg:metadata>
        <svg:style><![CDATA[ /* a < b & c */ .k { fill: #123456 } ]]></svg:style>
        <svg:rect class="k"
          width="9" height="9" id="a &amp; b &lt;c&gt;"/>
        <svg:text x="50" y="50">Cider &amp; more &lt;fresh&gt;</svg:text>
        <svg:path d="M nonsense"/>
      </svg:svg>`,
    );
    expect(objects[1]).toMatchObject({ name: 'a & b <c>', base: { fill: '#123456' } });
    expect(objects[2]).toMatchObject({ kind: 'text', text: 'Cider & more <fresh>' });
    expect(notes).toEqual(['<path> without a sound outline, in line 7']);
  });

  it('broken, hostile or empty files get one sentence', () => {
    expect(problem('hello')).toContain('cannot be read as SVG');
    expect(problem('<svg><g></svg>')).toContain('cannot be read as SVG');
    expect(problem('<html/>')).toContain('its root is not <svg>');
    expect(problem(svg(''))).toContain('holds nothing');
    const bomb = Array.from({ length: 9 }, (_, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`).join(
      '',
    );
    expect(problem(`<!DOCTYPE svg [<!ENTITY e0 "boom">${bomb}]>${svg('<text>&e9;</text>')}`)).toContain(
      'entities',
    );
    const wide = `<!ENTITY a "${'a'.repeat(10_000)}">`;
    expect(problem(`<!DOCTYPE svg [${wide}]>${svg(`<text>${'&a;'.repeat(9_999)}</text>`)}`)).toContain(
      'entities',
    );
    expect(
      problem(`<!DOCTYPE svg [<!ENTITY f SYSTEM "file:///etc/passwd">]>${svg('<text>&f;</text>')}`),
    ).toContain('cannot be read as SVG');
    expect(problem(svg('<g>'.repeat(300) + '</g>'.repeat(300)))).toContain('nested more than 150 deep');
    expect(problem(svg('<path d="M0 0 L nonsense"/>'))).toContain('holds nothing');
  });

  it('numbers out of all bounds never come into a piece', () => {
    for (const inner of [
      '<rect width="1e300" height="5"/><rect width="1" height="1"/>',
      '<path d="M0 0L1e12 0L0 5Z"/>',
      '<g transform="scale(1e200)"><rect width="9" height="9" transform="rotate(3)"/></g>',
      '<rect width="9" height="9" stroke="red" stroke-width="1e9"/>',
      '<text font-size="1e9">big</text>',
    ]) {
      const r = importSvg(svg(inner), 'Picture', ids(), { width: 960, height: 540 });
      if (r.ok) {
        const read = readPieceJson(JSON.parse(JSON.stringify(pieceOf(r.value.objects))));
        expect([inner, read.ok]).toEqual([inner, true]);
      } else expect(r.problems[0]?.message).toMatch(/\.$/);
    }
    // One such shape is told; the sentence says which.
    expect(problem(svg('<rect id="wall" width="1e300" height="5"/>'))).toContain('"wall"');
  });

  it('windows that refer to themselves, and groups that are measured in one another, come to an end', () => {
    const self = '<clipPath id="c"><rect width="9" height="9" clip-path="url(#c)"/></clipPath>';
    expect(read(svg(`${self}<rect width="5" height="5" clip-path="url(#c)"/>`)).objects.length).toBeLessThan(
      40,
    );
    const box = '<clipPath id="b" clipPathUnits="objectBoundingBox"><rect width="1" height="1"/></clipPath>';
    const deep = '<g clip-path="url(#b)">'.repeat(60);
    expect(
      read(svg(`${box}${deep}<rect width="5" height="5"/>${'</g>'.repeat(60)}`)).objects.length,
    ).toBeLessThan(300);
  });

  it('what is measured once more leaves nothing behind', () => {
    const png =
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
    const text = svg(
      `<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width="1" height="1"/></clipPath><g clip-path="url(#c)"><image width="9" height="9" href="data:image/png;base64,${png}"/><rect width="9" height="9" glow="1"/></g>`,
    );
    const r = importSvg(text, 'Picture', ids(), { width: 960, height: 540 }, { paintsParts: true });
    if (!r.ok) throw new Error(r.problems[0]?.message);
    expect(r.value.pictures).toHaveLength(1);
    expect(r.value.objects.filter((o) => o.kind === 'image')).toHaveLength(1);
    expect(r.value.notes).toEqual(['glow="1" of a <rect>']);
  });

  it('a large picture is made small enough for the frame', () => {
    const { objects } = read(svg('<rect width="4000" height="2000"/>', 'viewBox="0 0 4000 2000"'), {
      width: 800,
      height: 600,
    });
    expect(objects[1]).toMatchObject({ size: [800, 400] });
  });
});

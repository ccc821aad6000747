/**
 * What is painted, against pictures made without any of our own code: flat things against an SVG drawn by Chromium,
 * solids against rays cast through boxes and balls. Three view angles each.
 */
import { expect, type Page, test } from '@playwright/test';

type V = [number, number, number];
type M = [V, V, V];
const rad = (d: number) => (d * Math.PI) / 180;
const dot = (a: V, b: V) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const apply = (m: M, p: V): V => [dot(m[0], p), dot(m[1], p), dot(m[2], p)];
const times = (a: M, b: M): M => {
  const column = (k: 0 | 1 | 2): V => apply(a, [b[0][k], b[1][k], b[2][k]]);
  const [x, y, z] = [column(0), column(1), column(2)];
  return [0, 1, 2].map((r) => [x[r], y[r], z[r]]) as M;
};
const about = (k: 0 | 1 | 2, degrees: number): M => {
  const [c, s] = [Math.cos(rad(degrees)), Math.sin(rad(degrees))];
  if (k === 0) return [[1, 0, 0], [0, c, -s], [0, s, c]]; // biome-ignore format: a matrix
  if (k === 1) return [[c, 0, s], [0, 1, 0], [-s, 0, c]]; // biome-ignore format: a matrix
  return [[c, -s, 0], [s, c, 0], [0, 0, 1]]; // biome-ignore format: a matrix
};
const turn = (r: V): M => times(about(0, r[0]), times(about(1, r[1]), about(2, r[2])));

interface View {
  azimuth: number;
  elevation: number;
}
const VIEWS: View[] = [
  { azimuth: 0, elevation: 0 },
  { azimuth: 35, elevation: 29 },
  { azimuth: -60, elevation: 50 },
];
/** Right, up, and toward the viewer. */
const eye = ({ azimuth, elevation }: View): M => {
  const [sa, ca] = [Math.sin(rad(azimuth)), Math.cos(rad(azimuth))];
  const [se, ce] = [Math.sin(rad(elevation)), Math.cos(rad(elevation))];
  return [
    [ca, 0, -sa],
    [-sa * se, ce, -ca * se],
    [sa * ce, se, ca * ce],
  ];
};

interface Thing {
  id: string;
  kind: Record<string, unknown>;
  at?: V;
  turn?: V;
  fill: string;
  shown?: boolean;
  mask?: object;
  more?: object;
  look?: string;
}
const GROUND = '#dce7e2';
const pieceOf = (things: Thing[], view: View) => ({
  format: 'apple-tick',
  version: 1,
  id: 'compared',
  name: 'Compared',
  frame: { width: 960, height: 540, background: GROUND, fit: 'contain' },
  view,
  light: { azimuth: -40, elevation: 55, contact: false },
  objects: Object.fromEntries(
    things.map((t, i) => [
      t.id,
      {
        id: t.id,
        name: t.id,
        parent: null,
        order: `a${i}`,
        ...t.kind,
        ...(t.mask ? { mask: t.mask } : {}),
        ...t.more,
        base: {
          position: t.at ?? [0, 0, 0],
          rotation: t.turn ?? [0, 0, 0],
          fill: t.fill,
          shown: t.shown ?? true,
          ...(t.look ? { look: t.look } : {}),
        },
      },
    ]),
  ),
});
const open = async (page: Page, piece: object) => {
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'p.tick.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(piece)),
  });
  await expect(page.getByRole('treeitem').first()).toBeVisible();
  await page.locator('body').press('Escape');
};

/** The share of pixels within the frame that differ from the SVG's, drawn by the browser at the same place. */
const differing = (page: Page, svg: string) =>
  page
    .locator('canvas')
    .first()
    .evaluate(async (canvas: HTMLCanvasElement, text) => {
      const k =
        Math.min((canvas.clientWidth - 36) / 960, (canvas.clientHeight - 28) / 540) *
        (canvas.width / canvas.clientWidth);
      const [w, h] = [960 * k, 540 * k];
      const [x0, y0] = [(canvas.width - w) / 2, (canvas.height - h) / 2];
      const image = new Image();
      image.src = `data:image/svg+xml,${encodeURIComponent(text)}`;
      await image.decode();
      const other = document.createElement('canvas');
      other.width = canvas.width;
      other.height = canvas.height;
      const ctx = other.getContext('2d') as CanvasRenderingContext2D;
      ctx.drawImage(image, x0, y0, w, h);
      const a = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? [];
      const b = ctx.getImageData(0, 0, canvas.width, canvas.height).data;
      const ground = [0xdc, 0xe7, 0xe2];
      let asked = 0;
      let wrong = 0;
      let drawn = 0;
      for (let y = Math.ceil(y0 + 1); y < y0 + h - 1; y++)
        for (let x = Math.ceil(x0 + 1); x < x0 + w - 1; x++) {
          const i = (y * canvas.width + x) * 4;
          let far = 0;
          let off = 0;
          for (let n = 0; n < 3; n++) {
            far = Math.max(far, Math.abs((a[i + n] as number) - (b[i + n] as number)));
            off = Math.max(off, Math.abs((b[i + n] as number) - (ground[n] as number)));
          }
          asked++;
          if (far > 40) wrong++;
          if (off > 40) drawn++;
        }
      return { wrong: wrong / asked, drawn: drawn / asked };
    }, svg);

/** A shape of SVG in the plane of a flat thing, as it is seen. */
const flat = (t: Thing, view: View, shape: string, rest: string) => {
  const m = times(eye(view), turn(t.turn ?? [0, 0, 0]));
  const [x, y] = apply(eye(view), t.at ?? [0, 0, 0]);
  // The plane's y points up, the SVG's down.
  const matrix = [m[0][0], -m[1][0], m[0][1], -m[1][1], x, -y];
  return shape.replace('/>', ` transform="matrix(${matrix.map((n) => n.toFixed(9)).join(' ')})" ${rest}/>`);
};
const svg = (inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="960" height="540" viewBox="-480 -270 960 540"><rect x="-480" y="-270" width="960" height="540" fill="${GROUND}"/>${inner}</svg>`;

const DISC = '<ellipse rx="90" ry="60"/>';
const HEART = 'M0 -60 C 90 0 60 70 0 40 C -60 70 -90 0 0 -60 Z';
const heart = {
  kind: 'path',
  rule: 'nonzero',
  subpaths: [
    {
      closed: true,
      nodes: [
        { at: [0, -60], out: [90, 60], in: [-90, 60] },
        { at: [0, 40], in: [60, 30], out: [-60, 30] },
      ],
    },
  ],
};

for (const view of VIEWS)
  test(`A5, A6: masks and looks look as the same drawing in SVG, seen from ${view.azimuth}° / ${view.elevation}°`, async ({
    page,
  }) => {
    const things: Thing[] = [
      {
        id: 'ob_disc',
        kind: { kind: 'ellipse', size: [180, 120] },
        at: [-250, 60, 0],
        turn: [0, 20, 15],
        fill: '#ffffff',
        shown: false,
      },
      {
        id: 'ob_strip',
        kind: { kind: 'rect', size: [60, 400], radius: 0 },
        at: [-230, 60, 0],
        turn: [0, 0, 30],
        fill: '#ffffff',
        shown: false,
      },
      {
        id: 'ob_in',
        kind: { kind: 'rect', size: [240, 160], radius: 0 },
        at: [-250, 60, 0],
        fill: '#b23529',
        mask: { by: 'ob_disc', side: 'inside' },
      },
      {
        id: 'ob_out',
        kind: { kind: 'rect', size: [200, 150], radius: 0 },
        at: [-250, -150, 0],
        fill: '#356d47',
        mask: { by: 'ob_strip', side: 'outside' },
      },
      // Within a window that is itself cut by another.
      { id: 'ob_both', kind: { kind: 'group' }, fill: '#000000', mask: { by: 'ob_heart', side: 'inside' } },
      { id: 'ob_heart', kind: heart, at: [120, 60, 0], fill: '#ffffff', shown: false },
      {
        id: 'ob_nested',
        kind: { kind: 'rect', size: [300, 90], radius: 0 },
        at: [120, 60, 0],
        fill: '#2f6785',
        mask: { by: 'ob_strip2', side: 'outside' },
        more: { parent: 'ob_both' },
      },
      {
        id: 'ob_strip2',
        kind: { kind: 'rect', size: [30, 400], radius: 0 },
        at: [120, 60, 0],
        turn: [0, 0, -40],
        fill: '#ffffff',
        shown: false,
      },
      // Its look is another shape in another colour.
      {
        id: 'ob_looks',
        kind: { kind: 'rect', size: [100, 100], radius: 0 },
        at: [120, -150, 0],
        turn: [30, 0, 0],
        fill: '#000000',
        look: 'lk_a',
        more: { looks: [{ id: 'lk_a', name: 'ripe', kind: 'ellipse', size: [180, 120], fill: '#dfa83f' }] },
      },
    ] as Thing[];
    const by = (id: string) => things.find((t) => t.id === id) as Thing;
    const rect = (w: number, h: number) => `<rect x="${-w / 2}" y="${-h / 2}" width="${w}" height="${h}"/>`;
    // Outside a window is the whole frame with the window as a hole.
    const outside = (id: string, t: Thing, shape: string) =>
      `<mask id="${id}" maskUnits="userSpaceOnUse" x="-480" y="-270" width="960" height="540"><rect x="-480" y="-270" width="960" height="540" fill="white"/>${flat(t, view, shape, 'fill="black"')}</mask>`;
    const drawing = svg(
      `<defs><clipPath id="disc">${flat(by('ob_disc'), view, DISC, '')}</clipPath>` +
        `<clipPath id="heart">${flat(by('ob_heart'), view, `<path d="${HEART}"/>`, '')}</clipPath>` +
        `${outside('strip', by('ob_strip'), rect(60, 400))}${outside('strip2', by('ob_strip2'), rect(30, 400))}</defs>` +
        `<g clip-path="url(#disc)">${flat(by('ob_in'), view, rect(240, 160), 'fill="#b23529"')}</g>` +
        `<g mask="url(#strip)">${flat(by('ob_out'), view, rect(200, 150), 'fill="#356d47"')}</g>` +
        `<g clip-path="url(#heart)"><g mask="url(#strip2)">${flat(by('ob_nested'), view, rect(300, 90), 'fill="#2f6785"')}</g></g>` +
        flat(by('ob_looks'), view, DISC, 'fill="#dfa83f"'),
    );
    await open(page, pieceOf(things, view));
    await expect.poll(async () => (await differing(page, drawing)).wrong).toBeLessThan(0.002);
    // There was something to compare, and the comparison sees a wrong colour.
    expect((await differing(page, drawing)).drawn).toBeGreaterThan(0.015);
    expect((await differing(page, drawing.replace('#b23529', '#7b4a70'))).wrong).toBeGreaterThan(0.003);
  });

interface Solid {
  id: string;
  half: V;
  at: V;
  turn: V;
  fill: string;
  ball?: boolean;
}
/** Where the ray through the screen point first meets the solid: its depth, and the normal there; null when it misses. */
function meets(s: Solid, m: M, x: number, y: number): { depth: number; normal: V } | null {
  const r = turn(s.turn);
  const back = (p: V): V =>
    [0, 1, 2].map((k) => r[0][k as 0] * p[0] + r[1][k as 0] * p[1] + r[2][k as 0] * p[2]) as V;
  const from = [0, 1, 2].map((k) => m[0][k as 0] * x + m[1][k as 0] * y - (s.at[k as 0] as number)) as V;
  const [o, d] = [back(from), back(m[2])];
  if (s.ball) {
    const [a, b, c] = [dot(d, d), dot(o, d), dot(o, o) - s.half[0] ** 2];
    const disc = b * b - a * c;
    return disc < 0 ? null : { depth: (-b + Math.sqrt(disc)) / a, normal: [0, 0, 1] };
  }
  // Toward the viewer is along +d: the last side left is the one that is seen.
  let [enter, leave, side] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY, 0];
  for (const k of [0, 1, 2] as const) {
    if (Math.abs(d[k]) < 1e-12) {
      if (Math.abs(o[k]) > s.half[k]) return null;
      continue;
    }
    const [p, q] = [(-s.half[k] - o[k]) / d[k], (s.half[k] - o[k]) / d[k]];
    enter = Math.max(enter, Math.min(p, q));
    if (Math.max(p, q) < leave) {
      leave = Math.max(p, q);
      side = k;
    }
  }
  if (enter > leave) return null;
  const way = Math.sign(d[side as 0] as number);
  return { depth: leave, normal: [r[0][side as 0] * way, r[1][side as 0] * way, r[2][side as 0] * way] };
}

const LIGHT = eye({ azimuth: -40, elevation: 55 })[2];
/** Half of what is turned from the light is lit; what looks at the viewer is nearer its own fill; shade is bluish. */
const lit = (fill: string, normal: V, m: M) => {
  const level = 0.78 + 0.27 * (0.5 + 0.5 * dot(normal, LIGHT));
  const more = (1 - level) * (0.35 * Math.max(0, dot(normal, m[2])) - 1);
  return [1.08, 1, 0.8].map((k, i) =>
    Math.min(255, Number.parseInt(fill.slice(1 + 2 * i, 3 + 2 * i), 16) * (1 + k * more)),
  );
};

/** Colours of the view at points of the piece. */
const colours = (page: Page, points: [number, number][]) =>
  page
    .locator('canvas')
    .first()
    .evaluate((canvas: HTMLCanvasElement, list) => {
      const k =
        Math.min((canvas.clientWidth - 36) / 960, (canvas.clientHeight - 28) / 540) *
        (canvas.width / canvas.clientWidth);
      const data = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? [];
      return list.map(([x, y]) => {
        const i =
          (Math.floor(canvas.height / 2 - y * k) * canvas.width + Math.floor(canvas.width / 2 + x * k)) * 4;
        return [data[i] ?? 0, data[i + 1] ?? 0, data[i + 2] ?? 0];
      });
    }, points);

const box = (id: string, size: V, at: V, fill: string, turned: V = [0, 0, 0]): Solid => ({
  id,
  half: size.map((n) => n / 2) as V,
  at,
  turn: turned,
  fill,
});
/** A slab with boxes on and in it; three beams, each over the next. */
const SCENE: Solid[] = [
  box('ob_slab', [420, 20, 300], [-160, -80, 0], '#b0c593'),
  box('ob_on', [60, 60, 60], [-260, -40, 60], '#c4935a'),
  box('ob_through', [50, 140, 50], [-120, -60, -60], '#9a9180', [0, 30, 12]),
  box('ob_leaning', [30, 160, 40], [-60, 0, 90], '#7b9fae', [0, 0, 35]),
  box('ob_a', [200, 24, 24], [270, 60, 0], '#c14436', [0, 12, 0]),
  box('ob_b', [200, 24, 24], [300, 40, 0], '#dfa83f', [0, 12, 120]),
  box('ob_c', [200, 24, 24], [240, 40, 0], '#356d47', [0, 12, 240]),
];
const asThing = (s: Solid): Thing => ({
  id: s.id,
  kind: { kind: s.ball ? 'ball' : 'box', size: s.half.map((n) => 2 * n) },
  at: s.at,
  turn: s.turn,
  fill: s.fill,
});

/** Compares the view with the rays, but for points at the rim of something, where a pixel is of two colours. */
async function compare(
  page: Page,
  view: View,
  seen: (x: number, y: number) => { key: string; rgb: number[] },
) {
  const points: [number, number][] = [];
  for (let x = -450; x <= 450; x += 7) for (let y = -250; y <= 250; y += 7) points.push([x + 0.3, y + 0.7]);
  const near = [-3, -1.5, 0, 1.5, 3];
  const inner = points.filter(([x, y]) => {
    const { key } = seen(x, y);
    return near.every((dx) => near.every((dy) => seen(x + dx, y + dy).key === key));
  });
  const got = await colours(page, inner);
  const wrong = inner.filter(([x, y], i) =>
    seen(x, y).rgb.some((n, k) => Math.abs(n - (got[i]?.[k] ?? 0)) > 6),
  );
  const things = new Set(inner.map(([x, y]) => seen(x, y).key));
  return { asked: inner.length, things: things.size, wrong, view };
}

for (const view of VIEWS)
  test(`solids, a slab under boxes and a ring of beams, are where rays meet them, seen from ${view.azimuth}° / ${view.elevation}°`, async ({
    page,
  }) => {
    const m = eye(view);
    const seen = (x: number, y: number) => {
      let best: { depth: number; normal: V; s: Solid } | null = null;
      for (const s of SCENE) {
        const hit = meets(s, m, x, y);
        if (hit && (!best || hit.depth > best.depth)) best = { ...hit, s };
      }
      if (!best) return { key: '', rgb: [0xdc, 0xe7, 0xe2] };
      const { s, normal } = best;
      return { key: `${s.id}/${normal.map((n) => n.toFixed(3))}`, rgb: lit(s.fill, normal, m) };
    };
    await open(page, pieceOf(SCENE.map(asThing), view));
    const result = await compare(page, view, seen);
    expect(result.asked).toBeGreaterThan(6000);
    expect(result.things).toBeGreaterThan(view.azimuth === 0 ? 6 : 12);
    expect(result.wrong).toEqual([]);
  });

for (const view of VIEWS)
  test(`solids masked by solids show where rays pass through the window, seen from ${view.azimuth}° / ${view.elevation}°`, async ({
    page,
  }) => {
    const window = { ...box('ob_window', [120, 120, 120], [-200, 20, 40], '#ffffff', [20, 40, 0]) };
    const ball = { ...box('ob_ball', [180, 180, 180], [200, 0, 0], '#ffffff'), ball: true };
    const inside = box('ob_inside', [220, 90, 160], [-200, 0, 0], '#c4935a', [0, 25, 0]);
    const outside = box('ob_outside', [260, 200, 60], [200, 0, 0], '#7b9fae', [0, 0, 15]);
    const m = eye(view);
    const seen = (x: number, y: number) => {
      for (const [s, by, wanted] of [
        [inside, window, true],
        [outside, ball, false],
      ] as const) {
        const hit = meets(s, m, x, y);
        if (hit && (meets(by, m, x, y) !== null) === wanted)
          return { key: `${s.id}/${hit.normal.map((n) => n.toFixed(3))}`, rgb: lit(s.fill, hit.normal, m) };
      }
      return { key: '', rgb: [0xdc, 0xe7, 0xe2] };
    };
    const hidden = (s: Solid): Thing => ({ ...asThing(s), shown: false });
    await open(
      page,
      pieceOf(
        [
          hidden(window),
          hidden(ball),
          { ...asThing(inside), mask: { by: 'ob_window', side: 'inside' } },
          { ...asThing(outside), mask: { by: 'ob_ball', side: 'outside' } },
        ],
        view,
      ),
    );
    const result = await compare(page, view, seen);
    expect(result.things).toBeGreaterThan(2);
    expect(result.wrong).toEqual([]);
  });

/** Fills and strokes of SVG with colours and gradients (SVG 2, 13 and 14), in the px of what is painted, y up. */
import type { Fill, Gradient, Stroke } from '../model/index.ts';
import {
  apply,
  areaScale,
  inverse,
  type Matrix,
  parseTransform,
  round,
  times,
  turnAndScale,
} from './svg-matrix.ts';
import {
  emOf,
  readAmount,
  readColor,
  readLength,
  type Style,
  type StyleSource,
  styleOf,
} from './svg-style.ts';
import type { SvgElement } from './svg-tree.ts';

/** What of a drawing paint is read from. */
export interface PaintSource extends StyleSource {
  readonly byId: ReadonlyMap<string, SvgElement>;
  /** Width and height of the viewport, px: what per cent are of. */
  readonly viewport: readonly [number, number];
}

/** What is painted: how its own space becomes the piece's px, its middle there, and its box in its own space, if it has one. */
export interface Painted {
  readonly matrix: Matrix;
  readonly middle: readonly [number, number];
  /** Left, top, right, bottom. */
  readonly box: () => readonly [number, number, number, number];
}

/** A colour or gradient, and how opaque it is besides; null for none. */
interface Paint {
  readonly paint: string | Gradient;
  readonly opacity: number;
}

/** The id in `url(#id)`; undefined for what is no such reference. */
export function urlId(text: string | undefined): string | undefined {
  return /^url\(\s*["']?#([^"')]+)["']?\s*\)/.exec(text ?? '')?.[1];
}

function paintOf(text: string, style: Style, amount: number, of: Painted, source: PaintSource): Paint | null {
  if (text === 'none' || text === 'transparent') return null;
  const id = urlId(text);
  if (id !== undefined) {
    const gradient = gradientOf(id, of, amount, source);
    if (gradient !== undefined) return gradient;
    const instead = text.replace(/^url\([^)]*\)\s*/, '');
    return instead === '' ? null : paintOf(instead, style, amount, of, source);
  }
  const c = readColor(text, style.color);
  if (!c) {
    source.note(`the colour "${text.slice(0, 30)}"`);
    return { paint: '#000000', opacity: amount };
  }
  return { paint: c.color, opacity: amount * c.opacity };
}

/** The fill, and how opaque it is. */
export function fillOf(style: Style, of: Painted, source: PaintSource): { fill: Fill; opacity: number } {
  const made = paintOf(style.fill ?? 'black', style, readAmount(style['fill-opacity']), of, source);
  return made ? { fill: made.paint, opacity: made.opacity } : { fill: 'none', opacity: 1 };
}

/** The stroke; null for none. */
export function strokeOf(style: Style, of: Painted, source: PaintSource): Stroke | null {
  const text = style.stroke ?? 'none';
  const em = emOf(style);
  const full = Math.hypot(...source.viewport) / Math.SQRT2;
  const length = (t: string | undefined, fallback: number) => readLength(t, fallback, full, em);
  const width = length(style['stroke-width'], 1);
  if (text === 'none' || !(width > 0)) return null;
  const made = paintOf(text, style, readAmount(style['stroke-opacity']), of, source);
  if (!made) return null;
  const isFixed = style['vector-effect'] === 'non-scaling-stroke';
  const scale = turnAndScale(of.matrix);
  const isEven =
    scale !== null &&
    Math.abs(Math.abs(scale.scale[0]) - Math.abs(scale.scale[1])) < 1e-3 * Math.abs(scale.scale[0]);
  if (!isFixed && !isEven) source.note('a stroke under an uneven scale, which has its mean width');
  const k = areaScale(of.matrix);
  const seen = Math.max(0.01, Math.min(1000, round(width * k)));
  const cap = style['stroke-linecap'];
  const join = style['stroke-linejoin'];
  const miter = Number(style['stroke-miterlimit'] ?? 4);
  const dashes = dashesOf(style['stroke-dasharray'], length).map((n) => round(n * k));
  const start = round(length(style['stroke-dashoffset'], 0) * k);
  const order = (style['paint-order'] ?? 'normal').trim().split(/\s+/);
  const isUnder =
    order.includes('stroke') && (order.indexOf('stroke') < order.indexOf('fill') || !order.includes('fill'));
  const isSharp = join !== 'round' && join !== 'bevel';
  return {
    color: made.paint,
    width: seen,
    cap: cap === 'round' || cap === 'square' ? cap : 'butt',
    join: join === 'round' || join === 'bevel' ? join : 'miter',
    ...(made.opacity < 1 ? { opacity: made.opacity } : {}),
    ...(isSharp && miter >= 1 && miter !== 10 ? { miter: Math.min(1000, miter) } : {}),
    ...(dashes.length > 0 ? { dashes } : {}),
    ...(dashes.length > 0 && start !== 0 ? { dashStart: start } : {}),
    ...(isUnder ? { under: true } : {}),
    ...(isFixed ? { fixed: true } : {}),
  };
}

/** Lengths of lines and gaps; none for no dashes, or what is not sound. */
function dashesOf(text: string | undefined, length: (t: string, fallback: number) => number): number[] {
  if (!text || text === 'none') return [];
  const all = text
    .trim()
    .split(/[\s,]+/)
    .map((t) => length(t, Number.NaN));
  const isSound = all.length <= 64 && all.every((n) => n >= 0) && all.some((n) => n > 0);
  return isSound ? all : [];
}

type Stop = Gradient['stops'][number];

function stopsOf(el: SvgElement, amount: number, source: PaintSource): Stop[] {
  let least = 0;
  return el.children
    .filter((c) => c.name === 'stop')
    .slice(0, 64)
    .map((c) => {
      const s = styleOf(c, {}, source);
      const color = readColor(s['stop-color'] ?? 'black', s.color) ?? { color: '#000000', opacity: 1 };
      const opacity = readAmount(s['stop-opacity']) * color.opacity * amount;
      // None comes before the one that is written before it.
      least = Math.max(least, readAmount(c.attributes['offset'], 0));
      return { at: least, color: color.color, ...(opacity < 1 ? { opacity } : {}) };
    });
}

/** The gradient of an id; null where nothing is painted; undefined where there is no such gradient. */
function gradientOf(id: string, of: Painted, amount: number, source: PaintSource): Paint | null | undefined {
  const chain: SvgElement[] = [];
  for (let at = source.byId.get(id); at && chain.length < 10; ) {
    chain.push(at);
    const href = at.attributes['href'] ?? at.attributes['xlink:href'];
    at = href?.startsWith('#') ? source.byId.get(href.slice(1)) : undefined;
  }
  const el = chain[0];
  if (el?.name !== 'linearGradient' && el?.name !== 'radialGradient') {
    // Of a pattern it is told where the element is read.
    if (el?.name !== 'pattern')
      source.note(el ? `a fill by <${el.name}>` : 'a fill by something that is not there');
    return undefined;
  }
  const get = (k: string) => {
    const value = chain.find((e) => e.attributes[k] !== undefined && e.attributes[k] !== '')?.attributes[k];
    return value;
  };
  const holder = chain.find((e) => e.children.some((c) => c.name === 'stop'));
  const stops = holder ? stopsOf(holder, amount, source) : [];
  const last = stops.at(-1);
  if (!last) return null;
  const only: Paint = { paint: last.color, opacity: last.opacity ?? 1 };
  if (stops.length === 1) return only;
  const isOfBox = get('gradientUnits') !== 'userSpaceOnUse';
  let unit: Matrix = [1, 0, 0, 1, 0, 0];
  if (isOfBox) {
    const [x0, y0, x1, y1] = of.box();
    // In parts of a box without an area nothing is painted.
    if (!(x1 > x0 && y1 > y0)) return null;
    unit = [x1 - x0, 0, 0, y1 - y0, x0, y0];
  }
  const own = parseTransform(get('gradientTransform')) ?? [1, 0, 0, 1, 0, 0];
  const away: Matrix = [1, 0, 0, 1, -of.middle[0], -of.middle[1]];
  const space = times(times(times(away, of.matrix), unit), own);
  const [fullX, fullY] = isOfBox ? [1, 1] : source.viewport;
  const n = (k: string, fallback: string, full: number) => readLength(get(k) ?? fallback, 0, full);
  const spread = get('spreadMethod');
  const goesOn: Pick<Gradient, 'spread'> = spread === 'reflect' || spread === 'repeat' ? { spread } : {};
  if (el.name === 'linearGradient') {
    const from: [number, number] = [n('x1', '0%', fullX), n('y1', '0%', fullY)];
    const to: [number, number] = [n('x2', '100%', fullX), n('y2', '0%', fullY)];
    const line = lineOf(space, from, to);
    // Where it has no length, the last stop's colour is everywhere.
    return line ? { paint: { gradient: 'linear', ...line, ...goesOn, stops }, opacity: 1 } : only;
  }
  const full = isOfBox ? 1 : Math.hypot(fullX, fullY) / Math.SQRT2;
  const radius = n('r', '50%', full);
  if (!(radius > 0) || !inverse(space)) return only;
  const centre: [number, number] = [n('cx', '50%', fullX), n('cy', '50%', fullY)];
  const focus: [number, number] = [
    get('fx') === undefined ? centre[0] : n('fx', '0', fullX),
    get('fy') === undefined ? centre[1] : n('fy', '0', fullY),
  ];
  const inner = get('fr') === undefined ? 0 : n('fr', '0', full);
  const hasFocus = focus[0] !== centre[0] || focus[1] !== centre[1];
  const even = turnAndScale(space);
  const k =
    even && Math.abs(Math.abs(even.scale[0]) - Math.abs(even.scale[1])) < 1e-6 * Math.abs(even.scale[0]);
  if (k) {
    const at = (p: [number, number]): [number, number] => {
      const [x, y] = apply(space, ...p);
      return [round(x), round(y)];
    };
    const size = areaScale(space);
    const shape = {
      centre: at(centre),
      radius: round(radius * size),
      ...(hasFocus ? { focus: at(focus) } : {}),
      ...(inner > 0 ? { focusRadius: round(inner * size) } : {}),
    };
    return { paint: { gradient: 'radial', ...shape, ...goesOn, stops }, opacity: 1 };
  }
  // An ellipse: the circle of radius 100 in a space of its own, whose numbers keep their places when rounded.
  const unitSpace = times(space, [radius / 100, 0, 0, radius / 100, ...centre]);
  const inUnits = (p: [number, number]): [number, number] => [
    round(((p[0] - centre[0]) / radius) * 100),
    round(((p[1] - centre[1]) / radius) * 100),
  ];
  const shape = {
    centre: [0, 0] as [number, number],
    radius: 100,
    ...(hasFocus ? { focus: inUnits(focus) } : {}),
    ...(inner > 0 ? { focusRadius: round((inner / radius) * 100) } : {}),
    matrix: unitSpace.map((x) => Math.round(x * 1e6) / 1e6 + 0) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ],
  };
  return { paint: { gradient: 'radial', ...shape, ...goesOn, stops }, opacity: 1 };
}

/**
 * Where a linear gradient lies once its space has been bent: along it the colour is a linear function of the place, whose
 * gradient, through the inverse of the map, is the new direction. Null where it has no length.
 */
function lineOf(
  space: Matrix,
  from: readonly [number, number],
  to: readonly [number, number],
): { from: [number, number]; to: [number, number] } | null {
  const back = inverse(space);
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = dx * dx + dy * dy;
  if (!back || !(length > 0)) return null;
  const gx = (back[0] * dx + back[1] * dy) / length;
  const gy = (back[2] * dx + back[3] * dy) / length;
  const square = gx * gx + gy * gy;
  const [x, y] = apply(space, ...from);
  return { from: [round(x), round(y)], to: [round(x + gx / square), round(y + gy / square)] };
}

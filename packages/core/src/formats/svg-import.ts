/**
 * SVG pictures as objects: groups kept, every shape a rectangle, ellipse or path in the piece's px (y up). Transforms
 * are worked into the shapes, so that what is skewed or mirrored comes out right. What is not understood is listed.
 * Formulas: SVG 2; arcs and relative commands are turned into cubics by the package svgpath.
 * It is long since each kind of element is read with what it inherits, along one walk.
 */
import { type IdKind, pathBounds, type Result, type Subpath } from '../base/index.ts';
import {
  type Fill,
  type Gradient,
  layoutText,
  namer,
  orderBetween,
  type SceneObject,
  type Stroke,
} from '../model/index.ts';
import { unsound } from './made.ts';
import { readCleanSvg } from './svg-clean.ts';
import { apply, areaScale, type Matrix, parseTransform, round, times } from './svg-matrix.ts';
import { centred, outlineText, simpleShape, toSubpaths } from './svg-shapes.ts';
import {
  fontOf,
  readAmount,
  readColor,
  readLength,
  readRules,
  type Style,
  type StyleRule,
  styleOf,
} from './svg-style.ts';
import type { SvgElement } from './svg-tree.ts';

export interface SvgImport {
  /** Parents before children; the first is the group that holds all. */
  readonly objects: SceneObject[];
  /** What is in the file but was left out or taken otherwise, each with how often. */
  readonly notes: string[];
}

/** What stands for an element until its place within its parent is known. */
interface Node {
  object: SceneObject;
  /** Least x, least y, greatest x, greatest y in the piece; null for an empty group. */
  bounds: [number, number, number, number] | null;
  children: Node[];
}

const MAX_USES = 2_000;
/** Shapes and groups: more of them are a picture, not things to animate. */
const MAX_SHAPES = 5_000;
const GROUPS = new Set(['g', 'a', 'switch', 'svg']);
const SHAPES = new Set(['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon']);

/**
 * Reads an SVG text. `name` names the group that holds all; `newId` gives ids that are free in the piece; `room` is
 * the size, px, that the picture is made smaller to fit into, when it is larger.
 */
export function importSvg(
  text: string,
  name: string,
  newId: (kind: IdKind) => string,
  room: { readonly width: number; readonly height: number },
): Result<SvgImport> {
  const counts = new Map<string, number>();
  const tree = readCleanSvg(text, (what) => counts.set(what, (counts.get(what) ?? 0) + 1));
  return tree.ok ? new Importer(tree.value, newId, counts).run(name, room) : tree;
}

class Importer {
  private readonly root: SvgElement;
  private readonly newId: (kind: IdKind) => string;
  private readonly byId = new Map<string, SvgElement>();
  private readonly rules: StyleRule[];
  /** What was left out or taken otherwise, and how often. */
  private readonly counts: Map<string, number>;
  private uses = 0;

  constructor(root: SvgElement, newId: (kind: IdKind) => string, counts: Map<string, number>) {
    this.root = root;
    this.counts = counts;
    this.newId = newId;
    const sheets: SvgElement[] = [];
    const visit = (el: SvgElement) => {
      const { id } = el.attributes;
      if (id !== undefined && !this.byId.has(id)) this.byId.set(id, el);
      if (el.name === 'style') sheets.push(el);
      for (const c of el.children) visit(c);
    };
    visit(root);
    this.rules = readRules(sheets, (what) => this.note(what));
  }

  run(name: string, room: { width: number; height: number }): Result<SvgImport> {
    const [x, y, w, h] = this.viewBox();
    const k = Math.min(1, room.width / w, room.height / h);
    const toPiece: Matrix = [k, 0, 0, -k, -k * (x + w / 2), k * (y + h / 2)];
    const style = styleOf(this.root, { fill: 'black', stroke: 'none' }, this.rules);
    const children = this.children(this.root, toPiece, style, 0);
    const top = this.group(name, children, style);
    if (children.length === 0)
      return {
        ok: false,
        problems: [{ code: 'svg', path: '', message: 'The picture holds nothing that can be brought in.' }],
      };
    const objects: SceneObject[] = [];
    place(top, null, [0, 0], 'a0', objects);
    const wrong =
      objects.length > MAX_SHAPES
        ? `The picture holds ${objects.length.toLocaleString('en')} shapes and groups; at most ${MAX_SHAPES.toLocaleString('en')} can be brought in: join some, or bring it in as a PNG.`
        : unsound(objects);
    if (wrong) return { ok: false, problems: [{ code: 'svg', path: '', message: wrong }] };
    const notes = [...this.counts].map(([what, n]) => (n === 1 ? what : `${what} (${n} times)`));
    return { ok: true, value: { objects, notes } };
  }

  private note(what: string): void {
    this.counts.set(what, (this.counts.get(what) ?? 0) + 1);
  }

  private viewBox(): [number, number, number, number] {
    const a = this.root.attributes;
    const box = (a['viewBox'] ?? '')
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (box.length === 4 && box.every(Number.isFinite) && (box[2] as number) > 0 && (box[3] as number) > 0)
      return box as [number, number, number, number];
    return [0, 0, readLength(a['width'], 300) || 300, readLength(a['height'], 150) || 150];
  }

  private children(el: SvgElement, m: Matrix, style: Style, depth: number): Node[] {
    const out: Node[] = [];
    for (const c of el.children) {
      const made = this.element(c, m, style, depth + 1);
      if (made) out.push(...made);
    }
    return out;
  }

  private element(el: SvgElement, parent: Matrix, inherited: Style, depth: number): Node[] | null {
    if (!GROUPS.has(el.name) && !SHAPES.has(el.name) && el.name !== 'use' && el.name !== 'text') return null;
    const style = styleOf(el, inherited, this.rules);
    for (const [k, words] of [
      ['filter', 'a filter'],
      ['mask', 'a mask by brightness'],
    ] as const)
      if (style[k] && style[k] !== 'none') this.note(words);
    const m = times(parent, parseTransform(el.attributes['transform']));
    const node = this.node(el, m, style, depth);
    if (!node) return null;
    return this.clipped(node, m, style, depth);
  }

  private node(el: SvgElement, m: Matrix, style: Style, depth: number): Node | null {
    if (el.name === 'use') return this.use(el, m, style, depth);
    if (el.name === 'text') return this.words(el, m, style);
    if (GROUPS.has(el.name)) return this.group(nameOf(el), this.children(el, m, style, depth), style);
    return this.shape(el, m, style);
  }

  private group(name: string, children: Node[], style: Style): Node {
    const bounds = children.reduce<Node['bounds']>((b, c) => join(b, c.bounds), null);
    return { object: this.object(name, style, { kind: 'group' }), bounds, children };
  }

  private use(el: SvgElement, m: Matrix, style: Style, depth: number): Node | null {
    const href = el.attributes['href'] ?? el.attributes['xlink:href'] ?? '';
    const target = href.startsWith('#') ? this.byId.get(href.slice(1)) : undefined;
    if (!target) {
      this.note(href.startsWith('#') ? 'a <use> of something that is not there' : 'a <use> of another file');
      return null;
    }
    if (++this.uses > MAX_USES || depth > 40) {
      this.note('a <use> too many or too deep');
      return null;
    }
    const at: Matrix = [1, 0, 0, 1, readLength(el.attributes['x'], 0), readLength(el.attributes['y'], 0)];
    const moved = times(m, at);
    const inner =
      target.name === 'symbol'
        ? this.children(target, moved, styleOf(target, style, this.rules), depth + 1)
        : (this.element(target, moved, style, depth + 1) ?? []);
    return this.group(nameOf(el), inner, style);
  }

  /** A clip path becomes a window: a group that is not shown, which masks the element. */
  private clipped(node: Node, m: Matrix, style: Style, depth: number): Node[] {
    const id = /^url\(\s*["']?#([^"')]+)["']?\s*\)/.exec(style['clip-path'] ?? '')?.[1];
    const clip = id === undefined ? undefined : this.byId.get(id);
    if (!clip) {
      if (style['clip-path'] && style['clip-path'] !== 'none') this.note('a clip path that is not there');
      return [node];
    }
    if (clip.attributes['clipPathUnits'] === 'objectBoundingBox') {
      this.note('a clip path in parts of a bounding box');
      return [node];
    }
    const inside = times(m, parseTransform(clip.attributes['transform']));
    const window = this.group(
      `${node.object.name} window`,
      this.children(clip, inside, { fill: 'black' }, depth + 1),
      {},
    );
    window.object = { ...window.object, base: { ...window.object.base, shown: false } };
    node.object = { ...node.object, mask: { by: window.object.id, side: 'inside' } };
    return [window, node];
  }

  private shape(el: SvgElement, m: Matrix, style: Style): Node | null {
    const straight = m[1] === 0 && m[2] === 0;
    const plain = straight ? simpleShape(el, m) : null;
    const subpaths = plain ? null : toSubpaths(outlineText(el), m);
    if (subpaths && subpaths.length === 0) {
      this.note(`<${el.name}> without a sound outline, in line ${el.line}`);
      return null;
    }
    const bounds = plain ? plain.bounds : pathBounds(subpaths as Subpath[]);
    const middle: [number, number] = [(bounds[0] + bounds[2]) / 2, (bounds[1] + bounds[3]) / 2];
    const shape = plain
      ? plain.shape
      : {
          kind: 'path',
          rule: style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero',
          subpaths: centred(subpaths as Subpath[], middle),
        };
    const object = this.object(nameOf(el), style, shape, m, bounds, middle);
    return { object, bounds, children: [] };
  }

  /** A text with its own turn and size; lines come from its tspans. Its letters may be another font's. */
  private words(el: SvgElement, m: Matrix, style: Style): Node | null {
    const parts: { text: string; x: number; y: number; newLine: boolean }[] = [];
    const start = { x: readLength(el.attributes['x'], 0), y: readLength(el.attributes['y'], 0) };
    const visit = (e: SvgElement) => {
      const newLine = e !== el && (e.attributes['y'] !== undefined || (e.attributes['dy'] ?? '0') !== '0');
      const text = e.text.replace(/\s+/g, ' ').trim();
      if (text !== '') parts.push({ text, ...start, newLine });
      for (const c of e.children) {
        if (c.name === 'tspan') visit(c);
        else this.note(`<${c.name}> in a text`);
      }
    };
    visit(el);
    const text = parts.map((p, i) => (i === 0 ? '' : p.newLine ? '\n' : ' ') + p.text).join('');
    if (text === '') return null;
    const { size, weight, font } = fontOf(style);
    const anchor = style['text-anchor'];
    const align = anchor === 'middle' ? 'center' : anchor === 'end' ? 'right' : 'left';
    const k = areaScale(m);
    const shape = { kind: 'text', text, font, size: Math.max(1, round(size * k)), weight, align } as const;
    const layout = layoutText(shape);
    // The anchor lies on the first line's baseline; the box's middle is found from it along the turned axes.
    const dx = align === 'center' ? 0 : align === 'left' ? layout.width / 2 : -layout.width / 2;
    const dy = -(layout.lines[0]?.y ?? 0);
    const [ax, ay] = apply(m, start.x, start.y);
    const angle = Math.atan2(m[1], m[0]);
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const middle: [number, number] = [ax + dx * c - dy * s, ay + dx * s + dy * c];
    const reach = Math.hypot(layout.width, layout.height) / 2;
    const [hw, hh] = angle === 0 ? [layout.width / 2, layout.height / 2] : [reach, reach];
    const bounds: [number, number, number, number] = [
      middle[0] - hw,
      middle[1] - hh,
      middle[0] + hw,
      middle[1] + hh,
    ];
    const object = this.object(text.split('\n')[0]?.slice(0, 40) ?? 'Text', style, shape, m, bounds, middle);
    const turned = { ...object, base: { ...object.base, rotation: [0, 0, round((angle * 180) / Math.PI)] } };
    return { object: turned as SceneObject, bounds, children: [] };
  }

  private object(
    name: string,
    style: Style,
    shape: object,
    m: Matrix = [1, 0, 0, 1, 0, 0],
    bounds: [number, number, number, number] = [0, 0, 0, 0],
    middle: [number, number] = [0, 0],
  ): SceneObject {
    const isGroup = 'kind' in shape && shape.kind === 'group';
    const stroke = isGroup ? null : this.stroke(style, m);
    const { fill, opacity } = isGroup
      ? { fill: '#c9c2ae' as Fill, opacity: 1 }
      : this.fill(style, m, bounds, middle, stroke !== null);
    const hidden = style.display === 'none' || style.visibility === 'hidden';
    return {
      id: this.newId('objects'),
      name,
      parent: null,
      order: 'a0',
      tags: [],
      hint: '',
      ...(stroke ? { stroke } : {}),
      base: {
        position: [0, 0, 0],
        rotation: [0, 0, 0],
        scale: [1, 1, 1],
        pivot: [0, 0, 0],
        opacity: readAmount(style.opacity) * opacity,
        shown: !hidden,
        fill,
      },
      ...shape,
    } as unknown as SceneObject;
  }

  private fill(
    style: Style,
    m: Matrix,
    bounds: [number, number, number, number],
    middle: [number, number],
    stroked: boolean,
  ): { fill: Fill; opacity: number } {
    const text = style.fill ?? 'black';
    const amount = readAmount(style['fill-opacity']);
    if (text === 'none' || text === 'transparent') return { fill: 'none', opacity: 1 };
    const id = /^url\(\s*["']?#([^"')]+)["']?\s*\)/.exec(text)?.[1];
    if (id !== undefined) {
      const gradient = this.gradient(id, m, bounds, middle, amount);
      return { fill: gradient ?? 'none', opacity: 1 };
    }
    const c = readColor(text, style.color);
    if (!c) {
      this.note(`the colour "${text.slice(0, 30)}"`);
      return { fill: '#000000', opacity: 1 };
    }
    const opacity = amount * c.opacity;
    if (opacity < 1 && stroked) this.note('a fill more transparent than its stroke');
    return { fill: c.color, opacity: stroked ? 1 : opacity };
  }

  private stroke(style: Style, m: Matrix): Stroke | null {
    const text = style.stroke ?? 'none';
    if (text === 'none') return null;
    const c = readColor(text, style.color);
    if (!c) {
      this.note(text.startsWith('url') ? 'a gradient along a stroke' : `the colour "${text.slice(0, 30)}"`);
      return null;
    }
    const width = readLength(style['stroke-width'], 1) * areaScale(m);
    if (!(width >= 0.01)) return null;
    const opacity = readAmount(style['stroke-opacity']) * c.opacity;
    const cap = style['stroke-linecap'];
    const join = style['stroke-linejoin'];
    return {
      color: c.color,
      width: Math.min(1000, round(width)),
      cap: cap === 'round' || cap === 'square' ? cap : 'butt',
      join: join === 'round' || join === 'bevel' ? join : 'miter',
      ...(opacity < 1 ? { opacity } : {}),
    };
  }

  private gradient(
    id: string,
    m: Matrix,
    bounds: [number, number, number, number],
    middle: [number, number],
    amount: number,
  ): Gradient | null {
    const chain: SvgElement[] = [];
    for (let at = this.byId.get(id); at && chain.length < 10; ) {
      chain.push(at);
      const href = at.attributes['href'] ?? at.attributes['xlink:href'];
      at = href?.startsWith('#') ? this.byId.get(href.slice(1)) : undefined;
    }
    const el = chain[0];
    if (el?.name !== 'linearGradient' && el?.name !== 'radialGradient') {
      this.note(el ? `a fill by <${el.name}>` : 'a fill by something that is not there');
      return null;
    }
    const get = (k: string) => chain.find((e) => e.attributes[k] !== undefined)?.attributes[k];
    const stops = (chain.find((e) => e.children.some((c) => c.name === 'stop'))?.children ?? [])
      .filter((c) => c.name === 'stop')
      .map((c) => {
        const s = styleOf(c, {}, this.rules);
        const color = readColor(s['stop-color'] ?? 'black', undefined) ?? { color: '#000000', opacity: 1 };
        const opacity = readAmount(s['stop-opacity']) * color.opacity * amount;
        return {
          at: readAmount(c.attributes['offset'], 0),
          color: color.color,
          ...(opacity < 1 ? { opacity } : {}),
        };
      });
    const only = stops[0];
    if (!only) return null;
    if (stops.length === 1) stops.push({ ...only, at: 1 });
    // In parts of the bounding box the box itself is the unit, y down as in the file.
    const ofBox = get('gradientUnits') !== 'userSpaceOnUse';
    const [w, h] = [bounds[2] - bounds[0], bounds[3] - bounds[1]];
    const unit: Matrix = ofBox ? [w, 0, 0, -h, bounds[0], bounds[3]] : m;
    const space = times(unit, parseTransform(get('gradientTransform')));
    const full = ofBox ? 1 : 100;
    const n = (k: string, fallback: string) => readLength(get(k) ?? fallback, 0, full);
    const at = (x: number, y: number): [number, number] => {
      const [px, py] = apply(space, x, y);
      return [round(px - middle[0]), round(py - middle[1])];
    };
    if (get('spreadMethod') && get('spreadMethod') !== 'pad') this.note('a gradient that repeats');
    if (el.name === 'linearGradient')
      return {
        gradient: 'linear',
        from: at(n('x1', '0'), n('y1', '0')),
        to: at(n('x2', ofBox ? '1' : '100%'), n('y2', '0')),
        stops,
      };
    const half = ofBox ? '0.5' : '50%';
    const centre = at(n('cx', half), n('cy', half));
    const focus = at(n('fx', get('cx') ?? half), n('fy', get('cy') ?? half));
    const radius = round(n('r', half) * areaScale(space));
    return {
      gradient: 'radial',
      centre,
      radius,
      ...(focus.join() === centre.join() ? {} : { focus }),
      stops,
    };
  }
}

function nameOf(el: SvgElement): string {
  const given = el.attributes['inkscape:label'] ?? el.attributes['id'];
  const kinds: Record<string, string> = {
    g: 'Group',
    rect: 'Rectangle',
    circle: 'Circle',
    use: 'Copy',
    svg: 'Group',
  };
  const name = (given ?? kinds[el.name] ?? el.name.charAt(0).toUpperCase() + el.name.slice(1)).trim();
  return name === '' ? 'Shape' : name.slice(0, 200);
}

function join(a: Node['bounds'], b: Node['bounds']): Node['bounds'] {
  if (!a || !b) return a ?? b;
  return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];
}

/** Gives a node its place within its parent, whose middle is at `origin`, and the names and order of its children. */
function place(
  node: Node,
  parent: string | null,
  origin: [number, number],
  order: string,
  out: SceneObject[],
): void {
  const b = node.bounds ?? [origin[0], origin[1], origin[0], origin[1]];
  const middle: [number, number] = [(b[0] + b[2]) / 2, (b[1] + b[3]) / 2];
  const position: [number, number, number] = [round(middle[0] - origin[0]), round(middle[1] - origin[1]), 0];
  out.push({ ...node.object, parent, order, base: { ...node.object.base, position } });
  const unique = namer([]);
  let last: string | null = null;
  for (const c of node.children) {
    last = orderBetween(last, null);
    c.object = { ...c.object, name: unique(c.object.name) };
    place(c, node.object.id, middle, last, out);
  }
}

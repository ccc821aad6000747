/**
 * SVG pictures as objects: groups kept, every shape a rectangle, ellipse or path in the piece's px (y up). A transform that
 * turns, scales or mirrors becomes the place, turn and scale of its object; one that skews is worked into the shapes. What
 * is not understood is listed. Formulas: SVG 2; arcs and relative commands are turned into cubics by the package svgpath.
 * It is long since each kind of element is read with what it inherits, along one walk.
 */
import { type IdKind, pathBounds, type Result, type Subpath } from '../base/index.ts';
import { BLENDS, type Blend, type SceneObject } from '../model/index.ts';
import type { ElementOf } from './brought.ts';
import type { Uses } from './copies.ts';
import { sound } from './made.ts';
import type { PictureHead } from './picture-head.ts';
import { readCleanSvg } from './svg-clean.ts';
import { markerPlaces } from './svg-markers.ts';
import {
  apply,
  areaScale,
  inverse,
  type Matrix,
  parseTransform,
  round,
  times,
  turnAndScale,
  turningPoint,
} from './svg-matrix.ts';
import { fillOf, type Painted, type PaintSource, strokeOf, urlId } from './svg-paint.ts';
import { partText, type SvgPart, type WholeDrawing } from './svg-parts.ts';
import { imageOf } from './svg-picture.ts';
import {
  type Bounds,
  boundsIn,
  elementsOf,
  givenName,
  join,
  type Node,
  nameOf,
  type Pose,
  place,
} from './svg-place.ts';
import { readRules } from './svg-select.ts';
import { centred, type Lengths, outlineText, simpleShape, toSubpaths } from './svg-shapes.ts';
import { emOf, readAmount, readColor, readLength, type Style, styleOf } from './svg-style.ts';
import { wordsOf } from './svg-text.ts';
import type { SvgElement } from './svg-tree.ts';
import { readViewBox, type ViewBox, viewportMatrix } from './svg-view.ts';

/** A picture that lay in the file, by the id of the asset that objects name. */
export interface SvgPicture extends PictureHead {
  readonly id: string;
  readonly name: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

export interface SvgImport {
  /** Parents before children; the first is the group that holds all. */
  readonly objects: SceneObject[];
  /** What is known of their elements, by their ids. */
  readonly elements: ReadonlyMap<string, ElementOf>;
  readonly seen: SvgSeen;
  readonly pictures: SvgPicture[];
  /** Of each symbol (or whatever else is used more than once) the groups that are its copies. */
  readonly uses: Uses[];
  /** Parts that a browser has to paint before the objects that show them are whole; none unless they are asked for. */
  readonly parts: SvgPart[];
  /** What is in the file but was left out or taken otherwise, each with how often. */
  readonly notes: string[];
}

/** The page; the point of it that became the middle; px of the piece to one of the file. */
export type SvgSeen = readonly [
  x: number,
  y: number,
  width: number,
  height: number,
  midX: number,
  midY: number,
  k: number,
];

const MAX_USES = 4_000;
/** Shapes and groups: more of them are a picture, not things to animate. */
const MAX_SHAPES = 10_000;
const GROUPS = new Set(['g', 'a', 'switch']);
const SHAPES = new Set(['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon']);
const LINES = new Set(['path', 'line', 'polyline', 'polygon']);
const DRAWN = new Set([...GROUPS, ...SHAPES, 'svg', 'use', 'text', 'image']);
/** A scale beyond these is worked into the shapes: rounded numbers would be seen. */
const [LEAST_SCALE, MOST_SCALE] = [0.02, 50];
/** Px of the longer side of a part that is painted, and of all together. */
const MAX_PART = 1_600;
const MAX_PART_PIXELS = 24_000_000;
/** Parts are at least as fine as if the whole drawing were so many px large. */
const LEAST_DRAWING = 512;
/** Windows in one another, and measurings within measurings. */
const MAX_WINDOWS = 8;
const MAX_TRIES = 2;
const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

/**
 * Reads an SVG text. `name` names the group that holds all; `newId` gives ids that are free in the piece; `room` is
 * the size, px, that the picture is made smaller to fit into, when it is larger; `seen`: how an older version of it was, which
 * it is to lie over. `paintsParts`: what cannot be shapes is
 * given back as drawings that the caller paints; else it is left out, which is told.
 */
export function importSvg(
  text: string,
  name: string,
  newId: (kind: IdKind) => string,
  room: { readonly width: number; readonly height: number },
  options: { readonly paintsParts?: boolean; readonly seen?: SvgSeen | undefined } = {},
): Result<SvgImport> {
  const counts = new Map<string, number>();
  const tree = readCleanSvg(text, (what) => counts.set(what, (counts.get(what) ?? 0) + 1));
  return tree.ok
    ? new Importer(tree.value, newId, counts, options.paintsParts ?? false).run(name, room, options.seen)
    : tree;
}

class Importer implements PaintSource {
  private readonly whole: WholeDrawing;
  private readonly root: SvgElement;
  private readonly newId: (kind: IdKind) => string;
  readonly byId = new Map<string, SvgElement>();
  readonly #parents = new Map<SvgElement, SvgElement>();
  readonly rules: PaintSource['rules'];
  readonly parentOf = (el: SvgElement) => this.#parents.get(el);
  viewport: [number, number] = [0, 0];
  /** Width and height of the whole drawing, in its own px. */
  private drawing: [number, number] = [0, 0];
  /** What was left out or taken otherwise, and how often. */
  private readonly counts: Map<string, number>;
  private readonly pictures: SvgPicture[] = [];
  private readonly parts: SvgPart[] = [];
  /** Whether what cannot be a shape is to be painted as a picture. */
  private paintsParts: boolean;
  /** How many px of the piece a px of what is being read takes, and px of bitmaps asked for. */
  private scale = 1;
  private partPixels = 0;
  private uses = 0;
  private readonly usesOf = new Map<SvgElement, string[]>();
  /** How many windows in one another are being made, in which only outlines count; and how often parts are measured so. */
  private windows = 0;
  private tries = 0;

  constructor(
    whole: WholeDrawing,
    newId: (kind: IdKind) => string,
    counts: Map<string, number>,
    paintsParts: boolean,
  ) {
    const { root } = whole;
    this.whole = whole;
    this.root = root;
    this.paintsParts = paintsParts;
    this.counts = counts;
    this.newId = newId;
    const sheets: SvgElement[] = [];
    const visit = (el: SvgElement) => {
      const { id } = el.attributes;
      if (id !== undefined && !this.byId.has(id)) this.byId.set(id, el);
      if (el.name === 'style') sheets.push(el);
      for (const c of el.children) {
        this.#parents.set(c, el);
        visit(c);
      }
    };
    visit(root);
    this.rules = readRules(sheets, this.note);
  }

  run(name: string, room: { width: number; height: number }, was?: SvgSeen): Result<SvgImport> {
    const box = this.rootBox();
    const [x, y, w, h] = box;
    this.viewport = [w, h];
    this.drawing = [w, h];
    const [midX, midY, k] = was
      ? seenAs(box, was)
      : [x + w / 2, y + h / 2, Math.min(1, room.width / w, room.height / h)];
    const toPiece: Matrix = [k, 0, 0, -k, -k * midX, k * midY];
    const style = styleOf(this.root, { fill: 'black', stroke: 'none' }, this);
    const turn = this.transformOf(this.root, style);
    const children = this.children(this.root, times(toPiece, turn), style, 0);
    const seen = this.page(this.group(name, children, style), toPiece, box, style);
    const fail = (message: string): Result<SvgImport> => ({
      ok: false,
      problems: [{ code: 'svg', path: '', message }],
    });
    if (children.length === 0) return fail('The picture holds nothing that can be brought in.');
    const objects: SceneObject[] = [];
    place(seen, null, [0, 0], 'a0', objects);
    if (objects.length > MAX_SHAPES)
      return fail(
        `The picture holds ${objects.length.toLocaleString('en')} shapes and groups; at most ${MAX_SHAPES.toLocaleString('en')} can be brought in: join some, or bring it in as a PNG.`,
      );
    const read = sound(objects);
    if (!read.ok) return read;
    const notes = [...this.counts].map(([what, n]) => (n === 1 ? what : `${what} (${n} times)`));
    const elements = elementsOf(seen);
    const { pictures, parts } = this;
    const ids = new Set(objects.map((o) => o.id));
    const uses = [...this.usesOf].flatMap(([target, all]) => {
      const there = all.filter((id) => ids.has(id));
      return there.length > 1 ? [{ name: nameOf(target), ids: there }] : [];
    });
    return {
      ok: true,
      value: { objects: read.value, elements, seen: [...box, midX, midY, k], pictures, uses, parts, notes },
    };
  }

  readonly note = (what: string): void => {
    this.counts.set(what, (this.counts.get(what) ?? 0) + 1);
  };

  private rootBox(): ViewBox {
    const a = this.root.attributes;
    const size = (text: string | undefined, fallback: number) =>
      text?.includes('%') ? fallback : readLength(text, fallback) || fallback;
    return readViewBox(a['viewBox']) ?? [0, 0, size(a['width'], 300), size(a['height'], 150)];
  }

  /** A length by the attribute's name: across, down, or neither. */
  private readonly length = (el: SvgElement, name: string): number => this.amount(el, name, 16);

  private amount(el: SvgElement, name: string, em: number, fallback = 0): number {
    const [w, h] = this.viewport;
    const full = /^(x|x1|x2|cx|rx|fx|width|dx|refX|markerWidth)$/.test(name)
      ? w
      : /^r$/.test(name)
        ? Math.hypot(w, h) / Math.SQRT2
        : h;
    return readLength(el.attributes[name], fallback, full, em);
  }

  /** Its own transform, which its style may give, about the point that it says. */
  private transformOf(el: SvgElement, style: Style): Matrix {
    const text = style.transform ?? el.attributes['transform'];
    const own = parseTransform(text, this.viewport);
    if (!own) {
      this.note(`the transform "${(text ?? '').slice(0, 40)}"`);
      return IDENTITY;
    }
    const origin = this.originOf(style);
    if (!origin || own === IDENTITY) return own;
    return times(times([1, 0, 0, 1, ...origin], own), [1, 0, 0, 1, -origin[0], -origin[1]]);
  }

  private originOf(style: Style): [number, number] | null {
    const text = style['transform-origin'];
    if (!text || text === '0 0') return null;
    if (style['transform-box'] === 'fill-box' && /%|center|left|right|top|bottom/.test(text)) {
      this.note('a transform about a part of its own box');
      return null;
    }
    const words: Record<string, string> = {
      left: '0%',
      top: '0%',
      center: '50%',
      right: '100%',
      bottom: '100%',
    };
    const given = text.trim().split(/\s+/);
    if (/^(top|bottom)$/.test(given[0] ?? '') || /^(left|right)$/.test(given[1] ?? '')) given.reverse();
    const at = (i: number) =>
      readLength(words[given[i] ?? 'center'] ?? given[i], 0, this.viewport[i], emOf(style));
    return [at(0), at(1)];
  }

  private children(el: SvgElement, m: Matrix, style: Style, depth: number): Node[] {
    const out: Node[] = [];
    for (const c of el.children) {
      const made = this.element(c, m, style, depth + 1);
      if (made) out.push(...made);
      // Of several for other readers the first that is for everybody, or for those who read English, is drawn.
      if (el.name === 'switch' && made) break;
    }
    return out;
  }

  private element(el: SvgElement, parent: Matrix, inherited: Style, depth: number): Node[] | null {
    if (!DRAWN.has(el.name)) return null;
    const languages = el.attributes['systemLanguage'];
    if (languages !== undefined && !/(^|[\s,])en\b/i.test(languages)) return null;
    const style = styleOf(el, inherited, this);
    const own = this.transformOf(el, style);
    const m = times(parent, own);
    const what = this.windows > 0 || style.display === 'none' ? null : this.unshapely(el, style);
    if (what !== null) {
      const painted = this.paintsParts ? this.part(el, parent, m, inherited, style, depth) : null;
      this.note(painted ? `${what}, painted as a picture` : what);
      if (painted) {
        painted.element = { ...this.elementOf(el), painted: what };
        return [painted];
      }
    }
    const pose = this.poseOf(parent, own, style);
    const was = this.scale;
    if (pose) this.scale *= areaScale(pose.toParent);
    const node = this.node(el, pose?.inner ?? m, style, depth);
    this.scale = was;
    if (!node) return null;
    node.element = this.elementOf(el);
    if (pose) node.pose = pose;
    return this.masked(el, this.clipped(el, [node], m, style, depth), m, style, depth);
  }

  private elementOf(el: SvgElement): ElementOf {
    return { id: el.attributes['id'] || undefined, named: Boolean(givenName(el)?.trim()) };
  }

  /** The turn and scale that an element keeps, and how its own space becomes its own px; null where all is worked in. */
  private poseOf(parent: Matrix, own: Matrix, style: Style): (Pose & { readonly inner: Matrix }) | null {
    const k = parent[0];
    if (this.windows > 0 || parent[1] !== 0 || parent[2] !== 0 || !(k > 0) || parent[3] !== -k) return null;
    const parts = turnAndScale(own);
    if (!parts || (parts.turn === 0 && parts.scale[0] === 1 && parts.scale[1] === 1)) return null;
    if (!parts.scale.every((n) => Math.abs(n) >= LEAST_SCALE && Math.abs(n) <= MOST_SCALE)) return null;
    const inner: Matrix = [k, 0, 0, -k, 0, 0];
    const back = inverse(inner);
    if (!back) return null;
    const point = this.originOf(style) ?? turningPoint(style.transform);
    return {
      inner,
      toParent: times(times(parent, own), back),
      turn: -parts.turn,
      scale: parts.scale,
      pivot: point ? apply(inner, ...point) : null,
    };
  }

  private node(el: SvgElement, m: Matrix, style: Style, depth: number): Node | null {
    if (el.name === 'use') return this.use(el, m, style, depth);
    if (el.name === 'text') return this.words(el, m, style);
    if (el.name === 'image') return this.picture(el, m, style);
    if (el.name === 'svg') return this.viewed(el, el, m, style, depth);
    if (GROUPS.has(el.name)) return this.group(nameOf(el), this.children(el, m, style, depth), style);
    return this.withMarkers(el, this.shape(el, m, style), m, style, depth);
  }

  /** What of an element cannot be a shape, in words; null where all of it can. */
  private unshapely(el: SvgElement, style: Style): string | null {
    if (style.filter && style.filter !== 'none') return 'a filter';
    const mask = this.byId.get(urlId(style.mask) ?? '');
    if (mask?.name === 'mask') {
      const own = styleOf(mask, { fill: 'black' }, this);
      if (!this.isPlain(mask, own, own['mask-type'] === 'alpha')) return 'a mask by brightness';
    }
    if (!SHAPES.has(el.name) && el.name !== 'text') return null;
    const isPattern = (text: string | undefined) => this.byId.get(urlId(text) ?? '')?.name === 'pattern';
    return isPattern(style.fill) || isPattern(style.stroke) ? 'a pattern' : null;
  }

  /** A part as a picture that is yet to be painted, in its place; null where it would be too large, or has none. */
  private part(
    el: SvgElement,
    parent: Matrix,
    m: Matrix,
    inherited: Style,
    style: Style,
    depth: number,
  ): Node | null {
    const k = parent[0];
    const back = inverse(parent);
    const region = parent[1] === 0 && parent[2] === 0 && k > 0 ? this.regionOf(el, m, style, depth) : null;
    if (!back || !region) return null;
    const [x0, y1] = apply(back, region[0], region[1]);
    const [x1, y0] = apply(back, region[2], region[3]);
    const [w, h] = [region[2] - region[0], region[3] - region[1]];
    // Twice as fine as it is used, for screens that are so; an icon is likely to be made larger.
    const whole = Math.max(...this.drawing) * k;
    const fine = Math.min(Math.max(2, LEAST_DRAWING / whole) * this.scale, MAX_PART / Math.max(w, h));
    const [width, height] = [Math.max(1, Math.ceil(w * fine)), Math.max(1, Math.ceil(h * fine))];
    this.partPixels += width * height;
    if (!(w > 0 && h > 0) || this.partPixels > MAX_PART_PIXELS) return null;
    const id = this.newId('assets');
    const name = nameOf(el);
    const box = [x0, y0, x1 - x0, y1 - y0] as const;
    this.parts.push({
      id,
      name,
      svg: partText(this.whole, el, inherited, box, width, height),
      width,
      height,
    });
    const shape = { kind: 'image', asset: id, size: [round(w), round(h)], pixel: false };
    // Its opacity is in the picture already.
    const { opacity: _, ...seen } = style;
    return { object: this.object(name, seen, shape), bounds: region, children: [] };
  }

  /** How far a part can reach, in px of what it lies in: with its strokes, and what its filter adds. */
  private regionOf(el: SvgElement, m: Matrix, style: Style, depth: number): Bounds | null {
    const node = this.tried(() => this.node(el, m, { ...style, filter: 'none', mask: 'none' }, depth));
    if (!node?.bounds) return null;
    const widest = (n: Node): number =>
      n.children.reduce((most, c) => Math.max(most, widest(c)), n.object.stroke?.width ?? 0);
    let [x0, y0, x1, y1] = node.bounds;
    const filter = this.byId.get(urlId(style.filter) ?? '');
    if (filter?.name === 'filter' || style.filter) {
      const [w, h] = [x1 - x0, y1 - y0];
      const isOfDrawing = filter?.attributes['filterUnits'] === 'userSpaceOnUse';
      const at = (name: string, fallback: string) =>
        readLength(
          filter?.attributes[name] ?? fallback,
          0,
          isOfDrawing ? this.viewport[/^(y|height)$/.test(name) ? 1 : 0] : 1,
        );
      const [fx, fy, fw, fh] = [at('x', '-10%'), at('y', '-10%'), at('width', '120%'), at('height', '120%')];
      if (isOfDrawing) {
        const corners = [
          apply(m, fx, fy),
          apply(m, fx + fw, fy),
          apply(m, fx, fy + fh),
          apply(m, fx + fw, fy + fh),
        ];
        const [xs, ys] = [corners.map((p) => p[0]), corners.map((p) => p[1])];
        return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
      }
      [x0, x1] = [x0 + Math.min(0, fx) * w, x0 + Math.max(1, fx + fw) * w];
      // Down in the file is up here.
      [y0, y1] = [y1 - Math.max(1, fy + fh) * h, y1 - Math.min(0, fy) * h];
    }
    const reach = widest(node) * 2 + 1;
    return [x0 - reach, y0 - reach, x1 + reach, y1 + reach];
  }

  private group(name: string, children: Node[], style: Style): Node {
    const bounds = children.reduce<Node['bounds']>((b, c) => join(b, boundsIn(c)), null);
    return { object: this.object(name, style, { kind: 'group' }), bounds, children };
  }

  /**
   * A drawing within the drawing, `of` an element that says where it lies (a `<use>`, or itself); `whole`: how that one is
   * painted.
   */
  private viewed(
    el: SvgElement,
    of: SvgElement,
    m: Matrix,
    style: Style,
    depth: number,
    whole = style,
  ): Node {
    const outer = this.viewport;
    const size = (name: 'width' | 'height', i: 0 | 1) => {
      const given = [of, el].find((e) => e.attributes[name] !== undefined && e.attributes[name] !== 'auto');
      return given ? this.amount(given, name, emOf(style), outer[i]) : outer[i];
    };
    const [w, h] = [size('width', 0), size('height', 1)];
    const isSymbol = el.name === 'symbol';
    const at: Matrix =
      isSymbol || of !== el ? IDENTITY : [1, 0, 0, 1, this.length(el, 'x'), this.length(el, 'y')];
    const box = readViewBox(el.attributes['viewBox']);
    const outside = times(m, at);
    const inside = box
      ? times(outside, viewportMatrix(box, w, h, el.attributes['preserveAspectRatio']))
      : outside;
    this.viewport = box ? [box[2], box[3]] : [w, h];
    const children = this.children(el, inside, style, depth);
    this.viewport = outer;
    const seen = this.cut(children, outside, [0, 0, w, h], style, `${nameOf(el)} window`);
    const { opacity, display, 'mix-blend-mode': blend } = whole === style ? {} : style;
    const isOwn = readAmount(opacity) < 1 || display === 'none' || (blend && blend !== 'normal');
    return this.group(nameOf(of), isOwn ? [this.group(nameOf(el), seen, style)] : seen, whole);
  }

  /** The window of a viewport that nodes are seen through; null where nothing reaches beyond it. */
  private viewportWindow(
    nodes: Node[],
    m: Matrix,
    [x, y, w, h]: ViewBox,
    style: Style,
    name: string,
  ): Node | null {
    const all = nodes.reduce<Node['bounds']>((b, c) => join(b, boundsIn(c)), null);
    if (!all || style.overflow === 'visible' || style.overflow === 'auto' || !(w > 0 && h > 0)) return null;
    const subpaths = toSubpaths(`M${x} ${y}h${w}v${h}h${-w}Z`, m);
    const bounds = pathBounds(subpaths) as Bounds;
    const slack = 0.002 * Math.max(bounds[2] - bounds[0], bounds[3] - bounds[1]);
    const isWithin = all.every((n, i) =>
      i < 2 ? n >= (bounds[i] as number) - slack : n <= (bounds[i] as number) + slack,
    );
    if (isWithin) return null;
    const middle: [number, number] = [(bounds[0] + bounds[2]) / 2, (bounds[1] + bounds[3]) / 2];
    const shape = { kind: 'path', rule: 'nonzero', subpaths: centred(subpaths, middle) };
    return { object: hidden(this.object(name, { fill: 'black' }, shape)), bounds, children: [] };
  }

  /** What is seen of nodes in a viewport. */
  private cut(nodes: Node[], m: Matrix, box: ViewBox, style: Style, name: string): Node[] {
    const window = this.viewportWindow(nodes, m, box, style, name);
    return window ? this.through(window, nodes) : nodes;
  }

  /** The whole drawing, seen through its page where it reaches beyond that; the page lies in it, and moves with it. */
  private page(top: Node, m: Matrix, box: ViewBox, style: Style): Node {
    const window = this.viewportWindow([top], m, box, style, 'Page');
    if (!window) return top;
    const mask = { by: window.object.id, side: 'inside' as const };
    return { object: { ...top.object, mask }, bounds: window.bounds, children: [...top.children, window] };
  }

  /** Nodes seen through a window, which stands before them. */
  private through(window: Node, nodes: Node[]): Node[] {
    const only = nodes.length === 1 ? nodes[0] : undefined;
    const seen =
      only && !only.object.mask ? only : this.group(window.object.name.replace(/ window$/, ''), nodes, {});
    seen.object = { ...seen.object, mask: { by: window.object.id, side: 'inside' } };
    return [window, seen];
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
    // Within a clip path a copy of anything but a shape or a text is an error, and clips all away.
    if (this.windows > 0 && !SHAPES.has(target.name) && target.name !== 'text') return null;
    const moved = times(m, [1, 0, 0, 1, this.length(el, 'x'), this.length(el, 'y')]);
    const isViewed = target.name === 'symbol' || target.name === 'svg';
    const copy = isViewed
      ? this.viewed(target, el, moved, styleOf(target, style, this), depth + 1, style)
      : this.group(nameOf(el), this.element(target, moved, style, depth + 1) ?? [], style);
    const others = this.usesOf.get(target);
    if (others) others.push(copy.object.id);
    else this.usesOf.set(target, [copy.object.id]);
    return copy;
  }

  /** What something comes to, made once more and thrown away: nothing is told of it, and nothing of it stays. */
  private tried(make: () => Node | null): Node | null {
    // Each that lies in another would double the work.
    if (this.tries >= MAX_TRIES) return null;
    this.tries++;
    const [counts, uses, painting] = [new Map(this.counts), this.uses, this.paintsParts];
    const pictures = this.pictures.length;
    this.paintsParts = false;
    const made = make();
    this.tries--;
    this.paintsParts = painting;
    this.uses = uses;
    this.pictures.length = pictures;
    this.counts.clear();
    for (const [what, n] of counts) this.counts.set(what, n);
    return made;
  }

  /** The box of an element in its own space. */
  private boxOf(el: SvgElement, style: Style, depth: number): Bounds | null {
    if (SHAPES.has(el.name)) {
      const subpaths = toSubpaths(outlineText(el, this.length), IDENTITY);
      return subpaths.length > 0 ? (pathBounds(subpaths) as Bounds) : null;
    }
    return this.tried(() => this.node(el, IDENTITY, style, depth))?.bounds ?? null;
  }

  /** A clip path becomes a window: a group that is not shown, which masks the element. */
  private clipped(el: SvgElement, nodes: Node[], m: Matrix, style: Style, depth: number): Node[] {
    const text = style['clip-path'];
    if (!text || text === 'none') return nodes;
    const id = urlId(text);
    const clip = id === undefined ? undefined : this.byId.get(id);
    if (clip?.name !== 'clipPath') {
      this.note(id === undefined ? `the clip path "${text.slice(0, 30)}"` : 'a clip path that is not there');
      return nodes;
    }
    const own = styleOf(clip, {}, this);
    let inside = times(m, this.transformOf(clip, own));
    if (clip.attributes['clipPathUnits'] === 'objectBoundingBox') {
      const box = this.boxOf(el, style, depth);
      if (!box) return nodes;
      inside = times(inside, [box[2] - box[0], 0, 0, box[3] - box[1], box[0], box[1]]);
    }
    const made = this.through(this.window(clip, inside, nodes[0]?.object.name ?? 'Clip', depth), nodes);
    // A clip path may itself be clipped.
    return own['clip-path'] && depth < 30 ? this.clipped(el, made, m, own, depth + 1) : made;
  }

  private window(el: SvgElement, m: Matrix, name: string, depth: number): Node {
    this.windows++;
    // A clip path is made of shapes alone; groups in it do not count.
    const own =
      el.name === 'clipPath' ? { ...el, children: el.children.filter((c) => !GROUPS.has(c.name)) } : el;
    // One that refers to itself is an error, and lets nothing through.
    const parts = this.windows > MAX_WINDOWS ? [] : this.children(own, m, { fill: 'black' }, depth + 1);
    this.windows--;
    const window = this.group(`${name} window`, parts, {});
    return { ...window, object: hidden(window.object) };
  }

  /** A mask whose parts are all wholly white, or by alpha wholly opaque, is a window; any other is told. */
  private masked(el: SvgElement, nodes: Node[], m: Matrix, style: Style, depth: number): Node[] {
    const text = style.mask;
    if (!text || text === 'none') return nodes;
    const id = urlId(text);
    const mask = id === undefined ? undefined : this.byId.get(id);
    if (mask?.name !== 'mask') return nodes;
    const own = styleOf(mask, { fill: 'black' }, this);
    if (depth > 30 || !this.isPlain(mask, own, own['mask-type'] === 'alpha')) return nodes;
    let inside = m;
    if (mask.attributes['maskContentUnits'] === 'objectBoundingBox') {
      const box = this.boxOf(el, style, depth);
      if (!box) return nodes;
      inside = times(inside, [box[2] - box[0], 0, 0, box[3] - box[1], box[0], box[1]]);
    }
    return this.through(this.window(mask, inside, nodes[0]?.object.name ?? 'Mask', depth), nodes);
  }

  /** Whether all that lies below an element lets everything through. */
  private isPlain(el: SvgElement, style: Style, byAlpha: boolean): boolean {
    return el.children.every((c) => {
      if (!DRAWN.has(c.name)) return true;
      if (c.name === 'image' || c.name === 'text' || c.name === 'svg') return false;
      const own = styleOf(c, style, this);
      if (readAmount(own.opacity) < 1 || own.filter || own.mask || own['clip-path']) return false;
      if (GROUPS.has(c.name)) return this.isPlain(c, own, byAlpha);
      if (c.name === 'use') {
        const target = this.byId.get((c.attributes['href'] ?? c.attributes['xlink:href'] ?? '').slice(1));
        const inner = target && styleOf(target, own, this);
        return target !== undefined && SHAPES.has(target.name) && this.isOpen(inner as Style, byAlpha);
      }
      return this.isOpen(own, byAlpha);
    });
  }

  private isOpen(style: Style, byAlpha: boolean): boolean {
    const color = readColor(style.fill ?? 'black', style.color);
    const isStroked = style.stroke !== undefined && style.stroke !== 'none';
    if (!color || isStroked || color.opacity * readAmount(style['fill-opacity']) < 1) return false;
    return byAlpha || color.color === '#ffffff';
  }

  private withMarkers(
    el: SvgElement,
    node: Node | null,
    m: Matrix,
    style: Style,
    depth: number,
  ): Node | null {
    const given = (['marker-start', 'marker-mid', 'marker-end'] as const).map(
      (k) => style[k] ?? style.marker,
    );
    if (!node || this.windows > 0 || !LINES.has(el.name) || !given.some((t) => urlId(t) !== undefined))
      return node;
    const made: Node[] = [];
    const width = readLength(style['stroke-width'], 1, 100, emOf(style));
    for (const place of markerPlaces(toSubpaths(outlineText(el, this.length), IDENTITY))) {
      const marker = this.byId.get(urlId(style[place.at] ?? style.marker) ?? '');
      if (marker?.name !== 'marker' || ++this.uses > MAX_USES || depth > 40) continue;
      const a = marker.attributes;
      const [w, h] = [this.amount(marker, 'markerWidth', 16, 3), this.amount(marker, 'markerHeight', 16, 3)];
      if (!(w > 0 && h > 0)) continue;
      const box = readViewBox(a['viewBox']) ?? [0, 0, w, h];
      const view = viewportMatrix(box, w, h, a['preserveAspectRatio']);
      const ref = apply(view, this.length(marker, 'refX'), this.length(marker, 'refY'));
      const isBack = a['orient'] === 'auto-start-reverse' && place.at === 'marker-start';
      const turn = a['orient']?.startsWith('auto')
        ? place.angle + (isBack ? 180 : 0)
        : Number.parseFloat(a['orient'] ?? '0') || 0;
      const k = a['markerUnits'] === 'userSpaceOnUse' ? 1 : width;
      const at = parseTransform(`translate(${place.x} ${place.y}) rotate(${turn}) scale(${k})`) ?? IDENTITY;
      const outside = times(times(m, at), [1, 0, 0, 1, -ref[0], -ref[1]]);
      // A marker takes over what holds where it is written, not what its line has.
      const own = styleOf(marker, { fill: 'black', stroke: 'none' }, this);
      const parts = this.children(marker, times(outside, view), own, depth + 1);
      made.push(this.group('Marker', this.cut(parts, outside, [0, 0, w, h], own, 'Marker'), own));
    }
    return made.length === 0 ? node : this.group(node.object.name, [node, ...made], {});
  }

  private picture(el: SvgElement, m: Matrix, style: Style): Node | null {
    // A picture is no outline: a window has nothing of it.
    const image = this.windows > 0 ? null : imageOf(el, m, this.length, this.note);
    if (!image) return null;
    const { head, bytes, size, cut, bounds, turn, mirror } = image;
    const id = this.newId('assets');
    const name = nameOf(el);
    this.pictures.push({ ...head, id, name, bytes });
    const shape = { kind: 'image', asset: id, size, pixel: false, ...(cut ? { cut } : {}) };
    return { object: turnedBy(this.object(name, style, shape), turn, mirror), bounds, children: [] };
  }

  private words(el: SvgElement, m: Matrix, style: Style): Node | null {
    const styled = (part: SvgElement, inherited: Style) => styleOf(part, inherited, this);
    const all = wordsOf(el, m, style, this.note, styled, this.viewport);
    // Of several the group has what the text has as a whole.
    const whole = { opacity: '1', 'mix-blend-mode': 'normal' };
    const parts = all.map((words): Node => {
      const { name, shape, middle, bounds, box, turn } = words;
      const own = all.length > 1 ? { ...words.style, ...whole } : words.style;
      const object = this.object(name, own, shape, { matrix: m, middle, box: () => box });
      return { object: turnedBy(object, turn), bounds, children: [] };
    });
    const [only] = parts;
    if (!only || parts.length === 1) return only ?? null;
    return this.group(only.object.name, parts, style);
  }

  private shape(el: SvgElement, m: Matrix, style: Style): Node | null {
    // In a window only what is drawn counts.
    if (this.windows > 0 && (style.display === 'none' || isUnseen(style))) return null;
    const lengths: Lengths = (e, name) => this.amount(e, name, emOf(style));
    // Dashes begin where the outline does, which in a rectangle or ellipse of ours is elsewhere.
    const isDashed = style['stroke-dasharray'] !== undefined && style['stroke-dasharray'] !== 'none';
    const plain = m[1] === 0 && m[2] === 0 && !isDashed ? simpleShape(el, m, lengths) : null;
    const subpaths = plain ? null : toSubpaths(outlineText(el, lengths), m);
    if (subpaths && subpaths.length === 0) {
      // One without a size, or without any data, draws nothing in the browser either.
      if (el.name === 'path' && (el.attributes['d'] ?? '').trim() !== '')
        this.note(`<${el.name}> without a sound outline, in line ${el.line}`);
      return null;
    }
    const bounds = plain ? plain.bounds : (pathBounds(subpaths as Subpath[]) as Bounds);
    const middle: [number, number] = [(bounds[0] + bounds[2]) / 2, (bounds[1] + bounds[3]) / 2];
    const rule = this.windows > 0 ? style['clip-rule'] : style['fill-rule'];
    const shape = plain
      ? plain.shape
      : {
          kind: 'path',
          rule: rule === 'evenodd' ? 'evenodd' : 'nonzero',
          subpaths: centred(subpaths as Subpath[], middle),
        };
    const painted: Painted = {
      matrix: m,
      middle,
      box: () => this.boxOf(el, style, 0) ?? [0, 0, 0, 0],
    };
    return { object: this.object(nameOf(el), style, shape, painted), bounds, children: [] };
  }

  private object(name: string, style: Style, shape: object, painted: Painted | null = null): SceneObject {
    const isGroup = 'kind' in shape && shape.kind === 'group';
    const stroke = painted && this.windows === 0 ? strokeOf(style, painted, this) : null;
    const { fill, opacity } = painted
      ? fillOf(style, painted, this)
      : { fill: '#c9c2ae' as const, opacity: 1 };
    // A group may be hidden while parts of it are seen: each part says so itself.
    const shown = style.display !== 'none' && (isGroup || !isUnseen(style));
    const blend = style['mix-blend-mode'];
    if (blend && blend !== 'normal' && !BLENDS.includes(blend as Blend)) this.note(`the blend "${blend}"`);
    return {
      id: this.newId('objects'),
      name,
      parent: null,
      order: 'a0',
      tags: [],
      hint: '',
      ...(stroke ? { stroke } : {}),
      ...(stroke && opacity < 1 ? { fillOpacity: opacity } : {}),
      ...(BLENDS.includes(blend as Blend) ? { blend } : {}),
      base: {
        position: [0, 0, 0],
        rotation: [0, 0, 0],
        scale: [1, 1, 1],
        pivot: [0, 0, 0],
        opacity: readAmount(style.opacity) * (stroke ? 1 : opacity),
        shown,
        fill,
      },
      ...shape,
    } as unknown as SceneObject;
  }
}

/** The same for a newer version: a page that grew or shrank evenly is the same drawing in other px. */
function seenAs([x, y, w, h]: ViewBox, [wasX, wasY, wasW, wasH, ...was]: SvgSeen): [number, number, number] {
  const [midX, midY, k] = was;
  const grown = w / wasW;
  if (Math.abs(grown - h / wasH) > 1e-3 * grown) return was;
  return [x + (midX - wasX) * grown, y + (midY - wasY) * grown, k / grown];
}

const isUnseen = (style: Style) => style.visibility === 'hidden' || style.visibility === 'collapse';

const hidden = (o: SceneObject): SceneObject => ({ ...o, base: { ...o.base, shown: false } });

/** An object turned by degrees about its own middle, and mirrored where a scale is −1. */
function turnedBy(o: SceneObject, turn: number, scale: readonly [number, number] = [1, 1]): SceneObject {
  return { ...o, base: { ...o.base, rotation: [0, 0, turn], scale: [...scale, 1] } } as SceneObject;
}

/** Draws sorted faces on a 2D canvas. Outlines that do not change are kept as `Path2D`. */

import { controls, eachSegment, rgbToHex, type Subpath, shadeRgb } from '@apple-tick/core/base';
import type { FontName, Gradient } from '@apple-tick/core/model';
import {
  type Contact,
  EDGE_LINE,
  EDGE_NONE,
  type FaceImage,
  type FaceList,
  type FaceStyle,
  type FaceText,
  FILL_BALL,
  FILL_BENT,
  FILL_COLOR,
  FILL_GRADIENT,
  FILL_HIT,
  FILL_NONE,
  FLAT,
  type MaskUse,
  OUTLINE_ELLIPSE,
  type Outline,
} from '@apple-tick/core/world';
import { fillOutline } from './heavy-fill.ts';

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

const paths = new WeakMap<Outline, Path2D>();

function pathOf(o: Outline): Path2D {
  let p = paths.get(o);
  if (!p) {
    p = new Path2D();
    if (o.subpaths) for (const s of o.subpaths) trace(p, s);
    else if (o.kind === OUTLINE_ELLIPSE) p.ellipse(0, 0, o.hw, o.hh, 0, 0, 2 * Math.PI);
    else if (o.radius > 0) p.roundRect(-o.hw, -o.hh, 2 * o.hw, 2 * o.hh, o.radius);
    else p.rect(-o.hw, -o.hh, 2 * o.hw, 2 * o.hh);
    paths.set(o, p);
  }
  return p;
}

function trace(p: Path2D, s: Subpath): void {
  const first = s.nodes[0];
  if (!first) return;
  p.moveTo(first.at[0], first.at[1]);
  eachSegment(s, (a, b) => {
    if (!a.out && !b.in) p.lineTo(b.at[0], b.at[1]);
    else {
      const [, , x1, y1, x2, y2, x3, y3] = controls(a, b) as [
        number,
        number,
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      p.bezierCurveTo(x1, y1, x2, y2, x3, y3);
    }
  });
  if (s.closed) p.closePath();
}

/** Where the frame's centre lies on the canvas and how many canvas px a frame px takes. */
export interface Placement {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** The picture of an asset, or undefined while it is not there: its place is then filled with its colour. */
export type Pictures = (asset: string) => CanvasImageSource | undefined;
const NO_PICTURES: Pictures = () => undefined;

/** A colour, 0xrrggbb, that lies over something as strongly as this, 0–1. */
export interface Tint {
  readonly rgb: number;
  readonly strength: number;
}
const NO_TINT = () => undefined;

/** Paints the ground of a frame of `width` × `height` px (of the piece), which may be wider than the piece's own. */
export function paintGround(
  ctx: Context,
  background: string | Gradient,
  width: number,
  height: number,
  at: Placement,
): void {
  ctx.setTransform(at.scale, 0, 0, -at.scale, at.x, at.y);
  ctx.fillStyle = typeof background === 'string' ? background : gradientOf(ctx, background);
  ctx.fillRect(-width / 2, -height / 2, width, height);
  ctx.setTransform(1, 0, 0, 1, 0, 0);
}

/**
 * Paints the faces in their order. The canvas is not cleared. Leaves the context's transform as the identity.
 * `masks: false` paints what is masked away too, for a look while working. `tintOf`: a colour over an object by its number.
 */
export function paintFaces(
  ctx: Context,
  faces: FaceList,
  at: Placement,
  pictures: Pictures = NO_PICTURES,
  masks = true,
  tintOf: (object: number) => Tint | undefined = NO_TINT,
): void {
  for (let i = 0; i < faces.count; i++) {
    const f = faces.order[i] as number;
    if (faces.fill[f] === FILL_HIT) continue;
    const uses = masks ? faces.masks[f] : null;
    if (!uses) {
      paintFace(ctx, faces, f, at, pictures, tintOf(faces.object[f] as number));
      continue;
    }
    ctx.save();
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    for (const m of uses) clipTo(ctx, faces, m, at);
    paintFace(ctx, faces, f, at, pictures, tintOf(faces.object[f] as number));
    ctx.restore();
  }
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.globalAlpha = 1;
}

/** Far beyond any canvas: the ground of which an outside mask leaves all but its outline. */
const FAR = 1e5;

/** Clips to a mask: the union of its faces' outlines, or for each of them what lies outside. */
function clipTo(ctx: Context, faces: FaceList, use: MaskUse, at: Placement): void {
  const { regions, regionStart } = faces;
  if (!regions) return;
  const [start, end] = [regionStart[use.region] as number, regionStart[use.region + 1] as number];
  if (use.inside) {
    const path = new Path2D();
    for (let f = start; f < end; f++) addContours(path, regions, f, at, true);
    // One outline keeps its own rule; several are joined.
    const only = end - start === 1 && (regions.outline[start] as Outline).evenodd;
    ctx.clip(path, only ? 'evenodd' : 'nonzero');
    return;
  }
  for (let f = start; f < end; f++) {
    const path = new Path2D();
    path.rect(-FAR, -FAR, 2 * FAR, 2 * FAR);
    addContours(path, regions, f, at, false);
    ctx.clip(path, 'evenodd');
  }
}

function paintFace(
  ctx: Context,
  faces: FaceList,
  f: number,
  at: Placement,
  pictures: Pictures,
  tint: Tint | undefined,
): void {
  const { plane } = faces;
  const o = f * 9;
  const k = at.scale;
  // The face's plane to the canvas: v and y point up, the canvas down.
  ctx.setTransform(
    k * (plane[o + 3] as number),
    -k * (plane[o + 4] as number),
    k * (plane[o + 6] as number),
    -k * (plane[o + 7] as number),
    at.x + k * (plane[o] as number),
    at.y - k * (plane[o + 1] as number),
  );
  const outline = faces.outline[f] as Outline;
  const path = pathOf(outline);
  const rgb = faces.rgb[f] as number;
  const opacity = faces.opacity[f] as number;
  const piece = faces.painted[f];
  ctx.globalAlpha = opacity;
  if (piece) {
    ctx.save();
    ctx.beginPath();
    for (let n = 0; n < piece.length; n += 2) ctx.lineTo(piece[n] as number, piece[n + 1] as number);
    ctx.clip();
  }
  const fill = faces.fill[f];
  const style = faces.style[f] ?? null;
  const picture = style?.image ? pictures(style.image.asset) : undefined;
  const shade = faces.shade[f] as number;
  // A picture stands for its object's fill; on the face of a solid it lies over it.
  if (style?.image && picture && faces.side[f] === FLAT) paintPicture(ctx, style.image, picture, null);
  else if (style?.text) paintText(ctx, style.text, style, rgb, fill ?? FILL_NONE, opacity);
  else if (fill !== FILL_NONE) {
    if (fill === FILL_GRADIENT && style?.gradient) ctx.fillStyle = gradientOf(ctx, style.gradient);
    else if (fill === FILL_BALL)
      ctx.fillStyle = ballOf(ctx, rgb, faces.spot[f * 2] as number, faces.spot[f * 2 + 1] as number);
    else if (fill === FILL_BENT)
      ctx.fillStyle = bentOf(ctx, faces.ends[f * 2] as number, faces.ends[f * 2 + 1] as number, outline.hw);
    else ctx.fillStyle = rgbToHex(rgb);
    if (fill === FILL_COLOR) fillOutline(ctx, path, outline);
    else ctx.fill(path, outline.evenodd ? 'evenodd' : 'nonzero');
  }
  if (style?.image && picture && faces.side[f] !== FLAT)
    paintPicture(ctx, style.image, shaded(picture, shade), style.image.clipped ? path : null);
  if (style?.stroke && !style.text) {
    const { color, width, cap, join, opacity: own } = style.stroke;
    ctx.globalAlpha = opacity * (own ?? 1);
    ctx.strokeStyle = color;
    ctx.lineWidth = width;
    ctx.lineCap = cap;
    ctx.lineJoin = join;
    ctx.stroke(path);
  }
  if (tint) {
    ctx.globalAlpha = opacity * tint.strength;
    if (style?.image && picture && faces.side[f] === FLAT)
      paintPicture(ctx, style.image, colored(picture, tint.rgb), null);
    else if (style?.text) paintText(ctx, style.text, style, tint.rgb, FILL_COLOR, opacity * tint.strength);
    else if (fill !== FILL_NONE) {
      ctx.fillStyle = rgbToHex(tint.rgb);
      ctx.fill(path, outline.evenodd ? 'evenodd' : 'nonzero');
    }
    ctx.globalAlpha = opacity;
  }
  const shadows = faces.contacts[f];
  if (shadows) paintContacts(ctx, shadows, outline, path, opacity);
  if (piece) {
    ctx.restore();
    return;
  }
  const edge = faces.edge[f];
  if (edge !== EDGE_NONE) {
    ctx.strokeStyle = rgbToHex(edge === EDGE_LINE ? shadeRgb(rgb, 0.8) : rgb);
    ctx.lineCap = 'butt';
    ctx.lineJoin = 'round';
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.lineWidth = Math.min(1, k);
    ctx.stroke(edgePath(faces, f, at));
  }
}

/** A piece of a curved wall: from the colour at its one end to that at the other. */
function bentOf(ctx: Context, from: number, to: number, hw: number): CanvasGradient {
  const out = ctx.createLinearGradient(-hw, 0, hw, 0);
  out.addColorStop(0, rgbToHex(from));
  out.addColorStop(1, rgbToHex(to));
  return out;
}

/** How dark the middle of a contact shadow is, and in how many rings its edge fades. */
const CONTACT = 0.22;
const RINGS = 4;
/** More shadows than this on one face have hard edges: each ring of each is a line to draw. */
const MANY_CONTACTS = 400;

/** Contact shadows, within the face on which they fall: the feet, and round them rings that grow lighter. */
function paintContacts(
  ctx: Context,
  shadows: readonly Contact[],
  outline: Outline,
  path: Path2D,
  opacity: number,
): void {
  ctx.save();
  ctx.clip(path, outline.evenodd ? 'evenodd' : 'nonzero');
  ctx.fillStyle = '#20302a';
  ctx.strokeStyle = '#20302a';
  ctx.lineJoin = 'round';
  const rings = shadows.length > MANY_CONTACTS ? 1 : RINGS;
  for (const { polygon, strength, spread } of shadows) {
    ctx.beginPath();
    for (let i = 0; i < polygon.length; i += 2) ctx.lineTo(polygon[i] as number, polygon[i + 1] as number);
    ctx.closePath();
    ctx.globalAlpha = (opacity * strength * CONTACT) / rings;
    for (let n = 1; n <= rings; n++) {
      ctx.lineWidth = (2 * spread * n) / rings;
      ctx.stroke();
      ctx.fill();
    }
  }
  ctx.restore();
}

/** The picture in its box; `within`, when given, cuts it. */
function paintPicture(
  ctx: Context,
  image: FaceImage,
  picture: CanvasImageSource,
  within: Path2D | null,
): void {
  const { box, cut } = image;
  ctx.save();
  if (within) ctx.clip(within);
  ctx.imageSmoothingEnabled = !image.pixel;
  ctx.imageSmoothingQuality = 'high';
  ctx.scale(1, -1);
  const place = [box[0], -box[1] - box[3], box[2], box[3]] as const;
  if (cut) ctx.drawImage(picture, ...cut, ...place);
  else ctx.drawImage(picture, ...place);
  ctx.restore();
}

/** Steps of light between dark and bright: finer ones cannot be told apart, and each is a picture that is kept. */
const SHADES = 48;
const shadedOnes = new WeakMap<object, Map<number, CanvasImageSource>>();

/** The picture darkened as the face that it lies on is; what is clear in it stays clear. */
function shaded(picture: CanvasImageSource, shade: number): CanvasImageSource {
  const step = Math.round(shade * SHADES);
  const { width, height } = picture as ImageBitmap;
  if (step >= SHADES || !(width > 0 && height > 0)) return picture;
  let known = shadedOnes.get(picture);
  if (!known) {
    known = new Map();
    shadedOnes.set(picture, known);
  }
  let one = known.get(step);
  if (!one) {
    const canvas = new OffscreenCanvas(width, height);
    const to = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
    to.drawImage(picture, 0, 0);
    to.globalCompositeOperation = 'source-atop';
    to.globalAlpha = 1 - step / SHADES;
    to.fillRect(0, 0, width, height);
    one = canvas;
    known.set(step, one);
  }
  return one;
}

/** The picture in one colour; what is clear in it stays clear. */
function colored(picture: CanvasImageSource, rgb: number): CanvasImageSource {
  const { width, height } = picture as ImageBitmap;
  if (!(width > 0 && height > 0)) return picture;
  const canvas = new OffscreenCanvas(width, height);
  const to = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  to.drawImage(picture, 0, 0);
  to.globalCompositeOperation = 'source-in';
  to.fillStyle = rgbToHex(rgb);
  to.fillRect(0, 0, width, height);
  return canvas;
}

/** What a particle looks like that is no dot or square: a picture of it, and what of it is one px at size 1. */
export interface Stamp {
  readonly picture: CanvasImageSource;
  readonly width: number;
  readonly height: number;
}

/** Particles in rows: x and y from the frame's middle, y up, size, turn in degrees, opacity, colour 0xrrggbb. */
export interface Particles {
  readonly count: number;
  readonly rows: Float64Array;
  readonly drawing: (i: number) => 'dot' | 'square' | Stamp;
}
const ROW = 6;

/** Paints particles, the last on top. Leaves the context's transform as the identity. */
export function paintParticles(ctx: Context, particles: Particles, at: Placement): void {
  const { count, rows, drawing } = particles;
  let rgb = -1;
  for (let i = 0; i < count; i++) {
    const o = i * ROW;
    const x = at.x + at.scale * (rows[o] as number);
    const y = at.y - at.scale * (rows[o + 1] as number);
    const size = at.scale * (rows[o + 2] as number);
    const what = drawing(i);
    ctx.globalAlpha = rows[o + 4] as number;
    if (rows[o + 5] !== rgb) {
      rgb = rows[o + 5] as number;
      ctx.fillStyle = rgbToHex(rgb);
    }
    if (what === 'dot') {
      ctx.beginPath();
      ctx.arc(x, y, size / 2, 0, 2 * Math.PI);
      ctx.fill();
      continue;
    }
    const turn = (-(rows[o + 3] as number) * Math.PI) / 180;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    ctx.setTransform(size * c, size * s, -size * s, size * c, x, y);
    if (what === 'square') ctx.fillRect(-0.5, -0.5, 1, 1);
    else ctx.drawImage(what.picture, -what.width / 2, -what.height / 2, what.width, what.height);
    ctx.setTransform(1, 0, 0, 1, 0, 0);
  }
  ctx.globalAlpha = 1;
}

const FAMILIES: Record<FontName, string> = {
  serif: '"Fraunces Variable", serif',
  sans: '"Public Sans Variable", sans-serif',
  mono: '"IBM Plex Mono", monospace',
};

/** Letters stand upright in a plane whose y points up, so each line is turned over. */
function paintText(
  ctx: Context,
  text: FaceText,
  style: FaceStyle,
  rgb: number,
  fill: number,
  opacity: number,
): void {
  ctx.save();
  ctx.font = `${text.weight} ${text.size}px ${FAMILIES[text.font]}`;
  // Widths come from the core, which knows no kerning.
  ctx.fontKerning = 'none';
  ctx.textAlign = 'left';
  ctx.textBaseline = 'alphabetic';
  ctx.fillStyle =
    fill === FILL_GRADIENT && style.gradient ? gradientOf(ctx, flipped(style.gradient)) : rgbToHex(rgb);
  ctx.scale(1, -1);
  for (const line of text.lines) {
    ctx.globalAlpha = opacity;
    if (fill !== FILL_NONE) ctx.fillText(line.text, line.x, -line.y);
    if (!style.stroke) continue;
    const { color, width, join, opacity: own } = style.stroke;
    ctx.globalAlpha = opacity * (own ?? 1);
    ctx.strokeStyle = color;
    ctx.lineWidth = width;
    ctx.lineJoin = join;
    ctx.strokeText(line.text, line.x, -line.y);
  }
  ctx.restore();
}

function flipped(g: Gradient): Gradient {
  const at = ([x, y]: readonly [number, number]): [number, number] => [x, -y];
  return g.gradient === 'linear'
    ? { ...g, from: at(g.from), to: at(g.to) }
    : { ...g, centre: at(g.centre), ...(g.focus ? { focus: at(g.focus) } : {}) };
}

function gradientOf(ctx: Context, g: Gradient): CanvasGradient {
  const out =
    g.gradient === 'linear'
      ? ctx.createLinearGradient(g.from[0], g.from[1], g.to[0], g.to[1])
      : ctx.createRadialGradient(
          (g.focus ?? g.centre)[0],
          (g.focus ?? g.centre)[1],
          0,
          g.centre[0],
          g.centre[1],
          g.radius,
        );
  for (const s of g.stops) {
    const alpha = Math.round((s.opacity ?? 1) * 255);
    out.addColorStop(s.at, `${s.color}${alpha.toString(16).padStart(2, '0')}`);
  }
  return out;
}

/** A ball: brightest where its skin looks at the light, darker toward the rim away from it. */
function ballOf(ctx: Context, rgb: number, u: number, v: number): CanvasGradient {
  const out = ctx.createRadialGradient(u * 0.75, v * 0.75, 0, u * 0.3, v * 0.3, 1.3);
  for (const [at, light] of BALL_LIGHT) out.addColorStop(at, rgbToHex(shadeRgb(rgb, light)));
  return out;
}
const BALL_LIGHT = [
  [0, 1.1],
  [0.6, 0.97],
  [0.85, 0.84],
  [1, 0.76],
] as const;

/** The face's contours on the canvas, for a line whose width does not turn with the face. */
function edgePath(faces: FaceList, f: number, at: Placement): Path2D {
  const path = new Path2D();
  addContours(path, faces, f, at, false);
  return path;
}

/**
 * Adds the face's contours, as they lie on the canvas. `oneWay`: outer ones all turn the same way, so that several
 * faces in one path join instead of cutting holes into each other.
 */
function addContours(path: Path2D, faces: FaceList, f: number, at: Placement, oneWay: boolean): void {
  const p = faces.plane;
  const o = f * 9;
  const { points, ends } = (faces.outline[f] as Outline).contours;
  let turning = 0;
  let start = 0;
  if (oneWay) {
    for (const end of ends) {
      for (let i = start; i < end; i++) {
        const j = i + 1 < end ? i + 1 : start;
        turning +=
          (points[i * 2] as number) * (points[j * 2 + 1] as number) -
          (points[j * 2] as number) * (points[i * 2 + 1] as number);
      }
      start = end;
    }
    const mirrored =
      (p[o + 3] as number) * (p[o + 7] as number) < (p[o + 4] as number) * (p[o + 6] as number);
    if (mirrored) turning = -turning;
    start = 0;
  }
  for (const end of ends) {
    for (let n = start; n < end; n++) {
      const i = turning < 0 ? end - 1 - (n - start) : n;
      const u = points[i * 2] as number;
      const v = points[i * 2 + 1] as number;
      const x = at.x + at.scale * ((p[o] as number) + (p[o + 3] as number) * u + (p[o + 6] as number) * v);
      const y =
        at.y - at.scale * ((p[o + 1] as number) + (p[o + 4] as number) * u + (p[o + 7] as number) * v);
      if (n === start) path.moveTo(x, y);
      else path.lineTo(x, y);
    }
    path.closePath();
    start = end;
  }
}

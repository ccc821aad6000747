/** Draws sorted faces on a 2D canvas. Outlines that do not change are kept as `Path2D`. */

import { rgbToHex, shadeRgb } from '@apple-tick/core/base';
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
  type Outline,
} from '@apple-tick/core/world';
import { ballOf, bentOf, flipped, gradientOf } from './gradients.ts';
import { fillOutline } from './heavy-fill.ts';
import { addContours, edgePath, pathOf } from './paths.ts';
import { fillWithGradient, flippedBox, setTextStroke, strokePath } from './strokes.ts';
import { colored, shaded } from './tinted.ts';
import type { Context, Pictures, Placement } from './types.ts';
import { addFaceBox, asWhole, modeOf } from './wholes.ts';

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
  if (typeof background === 'string') {
    ctx.fillStyle = background;
    ctx.fillRect(-width / 2, -height / 2, width, height);
  } else {
    const path = new Path2D();
    path.rect(-width / 2, -height / 2, width, height);
    fillWithGradient(ctx, path, background, [-width / 2, -height / 2, width / 2, height / 2], 'nonzero');
  }
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
  const one = (on: Context, f: number, depth: number) => {
    if (faces.fill[f] === FILL_HIT) return;
    const uses = masks ? faces.masks[f] : null;
    if (!uses) {
      paintFace(on, faces, f, at, pictures, tintOf(faces.object[f] as number), depth);
      return;
    }
    on.save();
    on.setTransform(1, 0, 0, 1, 0, 0);
    for (const m of uses) clipTo(on, faces, m, at);
    paintFace(on, faces, f, at, pictures, tintOf(faces.object[f] as number), depth);
    on.restore();
  };
  paintRun(ctx, faces, 0, faces.count, -1, 0, at, one);
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.globalAlpha = 1;
}

/** The one that holds `whole` right below `above`, −1 when it is `above` itself. */
function outermost(faces: FaceList, whole: number, above: number): number {
  let top = -1;
  for (let w = whole; w !== above && w >= 0; w = faces.wholeAbove[w] as number) top = w;
  return top;
}

/** Paints the faces of a part of the order, all of which lie in `above`; what is one in it is painted as one. */
function paintRun(
  ctx: Context,
  faces: FaceList,
  start: number,
  end: number,
  above: number,
  depth: number,
  at: Placement,
  one: (on: Context, f: number, depth: number) => void,
): void {
  for (let i = start; i < end; ) {
    const f = faces.order[i] as number;
    const whole = faces.whole[f] as number;
    if (whole === above) {
      one(ctx, f, depth);
      i++;
      continue;
    }
    const top = outermost(faces, whole, above);
    const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
    let next = i;
    for (; next < end; next++) {
      const g = faces.order[next] as number;
      if (outermost(faces, faces.whole[g] as number, above) !== top) break;
      if (faces.fill[g] !== FILL_HIT) addFaceBox(box, faces, g, at);
    }
    const [first, last] = [i, next];
    const paint = (on: Context) => paintRun(on, faces, first, last, top, depth + 1, at, one);
    asWhole(
      ctx,
      box,
      depth,
      faces.wholeOpacity[top] as number,
      modeOf(faces.wholeBlend[top] as number),
      paint,
    );
    i = next;
  }
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
  depth: number,
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
  const style = faces.style[f] ?? null;
  const box = () => addFaceBox([Infinity, Infinity, -Infinity, -Infinity], faces, f, at);
  // A fill and a stroke that are half transparent do not show through each other.
  if (style?.stroke && opacity < 1 && faces.fill[f] !== FILL_NONE && typeof OffscreenCanvas !== 'undefined') {
    faces.opacity[f] = 1;
    asWhole(ctx, box(), depth, opacity, 'source-over', (on) =>
      paintFace(on, faces, f, at, pictures, tint, depth + 1),
    );
    faces.opacity[f] = opacity;
    return;
  }
  const piece = faces.painted[f];
  ctx.globalAlpha = opacity;
  if (piece) {
    ctx.save();
    ctx.beginPath();
    for (let n = 0; n < piece.length; n += 2) ctx.lineTo(piece[n] as number, piece[n + 1] as number);
    ctx.clip();
  }
  const fill = faces.fill[f];
  const stroke = style?.text ? null : (style?.stroke ?? null);
  const later = faces.dash[f] as number;
  const paintStroke = () => {
    if (!stroke) return;
    ctx.globalAlpha = opacity * (stroke.opacity ?? 1);
    strokePath(ctx, path, stroke, later, outline.bounds, at, box);
    ctx.globalAlpha = opacity;
  };
  if (stroke?.under) paintStroke();
  if (style && style.fillOpacity < 1) ctx.globalAlpha = opacity * style.fillOpacity;
  const picture = style?.image ? pictures(style.image.asset) : undefined;
  const shade = faces.shade[f] as number;
  // A picture stands for its object's fill; on the face of a solid it lies over it.
  if (style?.image && picture && faces.side[f] === FLAT) paintPicture(ctx, style.image, picture, null);
  else if (style?.text)
    paintText(ctx, style.text, style, outline.bounds, rgb, fill ?? FILL_NONE, opacity, later);
  else if (fill !== FILL_NONE) fillFace(ctx, faces, f, path);
  if (style?.image && picture && faces.side[f] !== FLAT)
    paintPicture(ctx, style.image, shaded(picture, shade), style.image.clipped ? path : null);
  ctx.globalAlpha = opacity;
  if (!stroke?.under) paintStroke();
  if (tint) {
    ctx.globalAlpha = opacity * tint.strength;
    if (style?.image && picture && faces.side[f] === FLAT)
      paintPicture(ctx, style.image, colored(picture, tint.rgb), null);
    else if (style?.text)
      paintText(ctx, style.text, style, outline.bounds, tint.rgb, FILL_COLOR, opacity * tint.strength, later);
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

/** Fills a face with what it has: a colour, a gradient, the light on a ball or a curved wall. */
function fillFace(ctx: Context, faces: FaceList, f: number, path: Path2D): void {
  const outline = faces.outline[f] as Outline;
  const rgb = faces.rgb[f] as number;
  const rule = outline.evenodd ? 'evenodd' : 'nonzero';
  const fill = faces.fill[f];
  const gradient = fill === FILL_GRADIENT ? faces.style[f]?.gradient : null;
  if (gradient) return fillWithGradient(ctx, path, gradient, outline.bounds, rule);
  if (fill === FILL_BALL)
    ctx.fillStyle = ballOf(ctx, rgb, faces.spot[f * 2] as number, faces.spot[f * 2 + 1] as number);
  else if (fill === FILL_BENT)
    ctx.fillStyle = bentOf(ctx, faces.ends[f * 2] as number, faces.ends[f * 2 + 1] as number, outline.hw);
  else ctx.fillStyle = rgbToHex(rgb);
  if (fill === FILL_COLOR) fillOutline(ctx, path, outline);
  else ctx.fill(path, rule);
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

const FAMILIES: Record<FontName, string> = {
  serif: '"Fraunces Variable", serif',
  sans: '"Public Sans Variable", sans-serif',
  mono: '"IBM Plex Mono", monospace',
};

/** Where a line under or through letters begins below what they stand on, and how thick it is, as parts of their size. */
const LINES = { underline: 0.1, 'line-through': -0.3 } as const;
const THICK = 0.06;

/** Letters stand upright in a plane whose y points up, so each line is turned over. */
function paintText(
  ctx: Context,
  text: FaceText,
  style: FaceStyle,
  bounds: Outline['bounds'],
  rgb: number,
  fill: number,
  opacity: number,
  later: number,
): void {
  ctx.save();
  ctx.font = `${text.italic ? 'italic ' : ''}${text.weight} ${text.size}px ${FAMILIES[text.font]}`;
  if (text.spacing !== 0) ctx.letterSpacing = `${text.spacing}px`;
  // Widths come from the core, which knows no kerning.
  ctx.fontKerning = 'none';
  ctx.textAlign = 'left';
  ctx.textBaseline = 'alphabetic';
  ctx.fillStyle =
    fill === FILL_GRADIENT && style.gradient
      ? gradientOf(ctx, flipped(style.gradient), flippedBox(bounds))
      : rgbToHex(rgb);
  ctx.scale(1, -1);
  const { stroke } = style;
  if (stroke) setTextStroke(ctx, stroke, later, bounds);
  const strokeLine = (line: FaceText['lines'][number]) => {
    if (!stroke) return;
    ctx.globalAlpha = opacity * (stroke.opacity ?? 1);
    ctx.strokeText(line.text, line.x, -line.y);
  };
  for (const line of text.lines) {
    if (stroke?.under) strokeLine(line);
    ctx.globalAlpha = opacity * style.fillOpacity;
    if (fill !== FILL_NONE) {
      ctx.fillText(line.text, line.x, -line.y);
      if (text.decoration)
        ctx.fillRect(line.x, -line.y + text.size * LINES[text.decoration], line.width, text.size * THICK);
    }
    if (!stroke?.under) strokeLine(line);
  }
  ctx.restore();
}

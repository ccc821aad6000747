/** A picture that lies in a drawing as data: what of it is seen, where, and its bytes. */
import { type PictureHead, readPictureHead } from './picture-head.ts';
import { apply, type Matrix, round, turnAndScale } from './svg-matrix.ts';
import type { Bounds } from './svg-place.ts';
import type { Lengths } from './svg-shapes.ts';
import type { SvgElement } from './svg-tree.ts';
import { viewportMatrix } from './svg-view.ts';

export interface SvgImage {
  readonly head: PictureHead;
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly size: readonly [number, number];
  /** The part of it that is seen, in its own px, y down; null for the whole. */
  readonly cut: readonly number[] | null;
  readonly bounds: Bounds;
  readonly turn: number;
  /** 1, or −1 where it is mirrored along that axis. */
  readonly mirror: readonly [number, number];
}

/** The picture of an element whose px become the piece's by `m`; null where there is none, which is told. */
export function imageOf(
  el: SvgElement,
  m: Matrix,
  length: Lengths,
  note: (what: string) => void,
): SvgImage | null {
  const href = el.attributes['href'] ?? el.attributes['xlink:href'] ?? '';
  const bytes = bytesOf(href);
  const head = bytes ? readPictureHead(bytes) : null;
  const parts = turnAndScale(m);
  if (!bytes || !head?.ok || !parts) {
    if (bytes && head?.ok) note('a skewed picture');
    else
      note(
        href.startsWith('data:') ? 'a picture of a kind that cannot be read' : 'a picture of another file',
      );
    return null;
  }
  const { width, height } = head.value;
  const given = (name: 'width' | 'height') =>
    el.attributes[name] === undefined || el.attributes[name] === 'auto' ? null : length(el, name);
  const [gw, gh] = [given('width'), given('height')];
  const w = gw ?? (gh === null ? width : (gh * width) / height);
  const h = gh ?? (gw === null ? height : (gw * height) / width);
  if (!(w > 0 && h > 0)) return null;
  const [kx, , , ky, dx, dy] = viewportMatrix(
    [0, 0, width, height],
    w,
    h,
    el.attributes['preserveAspectRatio'],
  );
  const [x, y] = [length(el, 'x'), length(el, 'y')];
  // What reaches beyond the box is cut off the picture itself, in its own px.
  const [x0, y0] = [Math.max(0, dx), Math.max(0, dy)];
  const [x1, y1] = [Math.min(w, dx + width * kx), Math.min(h, dy + height * ky)];
  const [seenWidth, seenHeight] = [(x1 - x0) / kx, (y1 - y0) / ky];
  const isWhole = Math.abs(seenWidth - width) < 1e-6 && Math.abs(seenHeight - height) < 1e-6;
  const cut = isWhole ? null : [(x0 - dx) / kx, (y0 - dy) / ky, seenWidth, seenHeight].map(round);
  const [mx, my] = apply(m, x + (x0 + x1) / 2, y + (y0 + y1) / 2);
  // The piece's y points up, so a picture that stands as it is has a scale below 0 here.
  const [sx, sy] = [parts.scale[0], -parts.scale[1]];
  const size = [round((x1 - x0) * Math.abs(sx)), round((y1 - y0) * Math.abs(sy))] as const;
  const reach = Math.hypot(...size) / 2;
  const [rx, ry] = parts.turn === 0 ? [size[0] / 2, size[1] / 2] : [reach, reach];
  const bounds: Bounds = [mx - rx, my - ry, mx + rx, my + ry];
  const mirror = [Math.sign(sx), Math.sign(sy)] as const;
  return { head: head.value, bytes, size, cut, bounds, turn: round(parts.turn), mirror };
}

/** What Node and every browser have. */
declare const atob: (base64: string) => string;

/** The bytes of a `data:` address in base64; null for every other. */
function bytesOf(href: string): Uint8Array<ArrayBuffer> | null {
  const data = /^data:[^,;]*(?:;[^,;]*)*;base64,([\s\S]*)$/i.exec(href)?.[1];
  if (data === undefined) return null;
  try {
    return Uint8Array.from(atob(data.replace(/\s/g, '')), (c) => c.charCodeAt(0));
  } catch {
    return null;
  }
}

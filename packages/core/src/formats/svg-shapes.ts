/** The shapes of SVG: rectangles and ellipses as they are, all else as paths of cubics in the piece's px. */
import svgpath from 'svgpath';
import type { PathNode, Subpath } from '../base/index.ts';
import { apply, type Matrix, round } from './svg-matrix.ts';
import type { SvgElement } from './svg-tree.ts';

/** A length of an attribute, px, by the name of the attribute; 0 where it is absent or not sound. */
export type Lengths = (el: SvgElement, name: string) => number;

interface Round {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
  readonly rx: number;
  readonly ry: number;
}

/** A rectangle with its corners, each of whose radii is that of the other where it is not said (SVG 2, 10.2). */
function rectOf(el: SvgElement, length: Lengths): Round {
  const [w, h] = [length(el, 'width'), length(el, 'height')];
  const radius = (name: string) => {
    const text = el.attributes[name];
    const n = text === undefined || text.trim() === 'auto' ? -1 : length(el, name);
    return n >= 0 ? n : null;
  };
  const [rx, ry] = [radius('rx'), radius('ry')];
  return {
    x: length(el, 'x'),
    y: length(el, 'y'),
    w,
    h,
    rx: Math.min(w / 2, rx ?? ry ?? 0),
    ry: Math.min(h / 2, ry ?? rx ?? 0),
  };
}

function radiiOf(el: SvgElement, length: Lengths): [number, number] {
  if (el.name === 'circle') return [length(el, 'r'), length(el, 'r')];
  // As in a rectangle, one that is not said is the other.
  const given = (name: string) => el.attributes[name] !== undefined && el.attributes[name]?.trim() !== 'auto';
  const rx = given('rx') ? length(el, 'rx') : length(el, 'ry');
  return [rx, given('ry') ? length(el, 'ry') : rx];
}

/** Rectangles and ellipses that stay what they are, because nothing turns or skews them. */
export function simpleShape(
  el: SvgElement,
  m: Matrix,
  length: Lengths,
): { shape: object; bounds: [number, number, number, number] } | null {
  const box = (x: number, y: number, w: number, h: number): [number, number, number, number] => {
    const [x0, y0] = apply(m, x, y);
    const [x1, y1] = apply(m, x + w, y + h);
    return [Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)];
  };
  const size = (b: [number, number, number, number]) => [round(b[2] - b[0]), round(b[3] - b[1])];
  if (el.name === 'rect') {
    const { x, y, w, h, rx, ry } = rectOf(el, length);
    const even = Math.abs(m[0]) === Math.abs(m[3]) && rx === ry;
    if (!(w > 0 && h > 0) || (rx > 0 && ry > 0 && !even)) return null;
    const bounds = box(x, y, w, h);
    const radius = rx > 0 && ry > 0 ? round(rx * Math.abs(m[0])) : 0;
    return { shape: { kind: 'rect', size: size(bounds), radius }, bounds };
  }
  if (el.name !== 'circle' && el.name !== 'ellipse') return null;
  const [rx, ry] = radiiOf(el, length);
  if (!(rx > 0 && ry > 0)) return null;
  const bounds = box(length(el, 'cx') - rx, length(el, 'cy') - ry, 2 * rx, 2 * ry);
  return { shape: { kind: 'ellipse', size: size(bounds) }, bounds };
}

/** The outline of a basic shape as path data, in its own px. */
export function outlineText(el: SvgElement, length: Lengths): string {
  const num = (name: string) => length(el, name);
  switch (el.name) {
    case 'path':
      return el.attributes['d'] ?? '';
    case 'line':
      return `M${num('x1')} ${num('y1')}L${num('x2')} ${num('y2')}`;
    case 'polyline':
    case 'polygon': {
      const n = (el.attributes['points'] ?? '').match(/[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/gi) ?? [];
      // A number without its second is an error, up to which all is drawn.
      const even = n.slice(0, n.length - (n.length % 2));
      return even.length < 4 ? '' : `M${even.join(' ')}${el.name === 'polygon' ? 'Z' : ''}`;
    }
    case 'rect': {
      const { x, y, w, h, rx, ry } = rectOf(el, length);
      if (!(w > 0 && h > 0)) return '';
      if (!(rx > 0 && ry > 0)) return `M${x} ${y}h${w}v${h}h${-w}Z`;
      const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      return `M${x + rx} ${y}h${w - 2 * rx}${arc(rx, ry)}v${h - 2 * ry}${arc(-rx, ry)}h${2 * rx - w}${arc(-rx, -ry)}v${2 * ry - h}${arc(rx, -ry)}Z`;
    }
    default: {
      const [rx, ry] = radiiOf(el, length);
      if (!(rx > 0 && ry > 0)) return '';
      // Dashes begin at its right, and go on clockwise.
      return `M${num('cx') + rx} ${num('cy')}a${rx} ${ry} 0 1 1 ${-2 * rx} 0a${rx} ${ry} 0 1 1 ${2 * rx} 0Z`;
    }
  }
}

/** Path data in the piece's px; handles relative to their points. Empty when the data is not sound. */
export function toSubpaths(data: string, m: Matrix): Subpath[] {
  if (data.trim() === '') return [];
  const out: {
    closed: boolean;
    nodes: { at: [number, number]; in?: [number, number]; out?: [number, number] }[];
  }[] = [];
  let start: [number, number] = [0, 0];
  let at: [number, number] = [0, 0];
  try {
    const path = svgpath(data)
      .abs()
      .unshort()
      .unarc()
      .matrix([...m])
      .abs();
    path.iterate((s: [string, ...number[]]) => {
      const [op, ...n] = s;
      const sub = out.at(-1);
      const to = (): [number, number] => [n.at(-2) as number, n.at(-1) as number];
      const add = (p: [number, number], handles?: readonly [number, number, number, number]) => {
        let open = out.at(-1);
        if (!open || open.closed) {
          open = { closed: false, nodes: [{ at }] };
          out.push(open);
        }
        const before = open.nodes.at(-1);
        const node: { at: [number, number]; in?: [number, number]; out?: [number, number] } = { at: p };
        if (handles && before) {
          before.out = [round(handles[0] - at[0]), round(handles[1] - at[1])];
          node.in = [round(handles[2] - p[0]), round(handles[3] - p[1])];
        }
        open.nodes.push(node);
        at = p;
      };
      if (op === 'M') {
        start = to();
        at = start;
        out.push({ closed: false, nodes: [{ at }] });
      } else if (op === 'L') add(to());
      else if (op === 'H') add([n[0] as number, at[1]]);
      else if (op === 'V') add([at[0], n[0] as number]);
      else if (op === 'C') add(to(), n.slice(0, 4) as [number, number, number, number]);
      else if (op === 'Q') {
        const [qx, qy] = n as [number, number];
        const p = to();
        // A quadratic as a cubic: handles two thirds of the way to its one control point.
        add(p, [
          at[0] + (2 / 3) * (qx - at[0]),
          at[1] + (2 / 3) * (qy - at[1]),
          p[0] + (2 / 3) * (qx - p[0]),
          p[1] + (2 / 3) * (qy - p[1]),
        ]);
      } else if (op === 'Z' && sub && !sub.closed) {
        close(sub);
        at = start;
      }
    });
  } catch {
    return [];
  }
  for (const s of out) lengthen(s);
  const sound = out.filter((s) => s.nodes.length > 1 && s.nodes.every((p) => p.at.every(Number.isFinite)));
  return sound.map((s) => ({ closed: s.closed, nodes: s.nodes as PathNode[] }));
}

/** So long a line without a length is made, px, that its round or square ends are seen as SVG has them. */
const LEAST_LINE = 0.01;

function lengthen(s: {
  closed: boolean;
  nodes: { at: [number, number]; in?: [number, number]; out?: [number, number] }[];
}) {
  const [first, second] = s.nodes;
  if (!first || (s.nodes.length === 1 && !s.closed) || s.nodes.length > 2 || first.out || second?.in) return;
  if (second && Math.hypot(second.at[0] - first.at[0], second.at[1] - first.at[1]) > 1e-6) return;
  s.closed = false;
  s.nodes = [first, { at: [first.at[0] + LEAST_LINE, first.at[1]] }];
}

/** A closed path does not repeat its first point: the last one's handle goes over to it. */
function close(s: { closed: boolean; nodes: { at: [number, number]; in?: [number, number] }[] }): void {
  const [first, last] = [s.nodes[0], s.nodes.at(-1)];
  s.closed = true;
  if (!first || !last || s.nodes.length < 3) return;
  if (Math.hypot(first.at[0] - last.at[0], first.at[1] - last.at[1]) > 1e-6) return;
  if (last.in) first.in = last.in;
  s.nodes.pop();
}

export function centred(subpaths: readonly Subpath[], [cx, cy]: [number, number]): Subpath[] {
  return subpaths.map((s) => ({
    closed: s.closed,
    nodes: s.nodes.map((n) => ({ ...n, at: [round(n.at[0] - cx), round(n.at[1] - cy)] as const })),
  }));
}

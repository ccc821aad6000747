/** The shapes of SVG: rectangles and ellipses as they are, all else as paths of cubics in the piece's px. */
import svgpath from 'svgpath';
import type { PathNode, Subpath } from '../base/index.ts';
import { apply, type Matrix, round } from './svg-matrix.ts';
import { readLength } from './svg-style.ts';
import type { SvgElement } from './svg-tree.ts';

/** Rectangles and ellipses that stay what they are, because nothing turns or skews them. */
export function simpleShape(
  el: SvgElement,
  m: Matrix,
): { shape: object; bounds: [number, number, number, number] } | null {
  const a = el.attributes;
  const num = (k: string, fallback = 0) => readLength(a[k], fallback);
  const box = (x: number, y: number, w: number, h: number): [number, number, number, number] => {
    const [x0, y0] = apply(m, x, y);
    const [x1, y1] = apply(m, x + w, y + h);
    return [Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)];
  };
  const size = (b: [number, number, number, number]) => [round(b[2] - b[0]), round(b[3] - b[1])];
  if (el.name === 'rect') {
    const [rx, ry] = [num('rx', num('ry')), num('ry', num('rx'))];
    const even = Math.abs(m[0]) === Math.abs(m[3]) && rx === ry;
    if (!(num('width') > 0 && num('height') > 0) || (rx > 0 && !even)) return null;
    const bounds = box(num('x'), num('y'), num('width'), num('height'));
    return { shape: { kind: 'rect', size: size(bounds), radius: round(rx * Math.abs(m[0])) }, bounds };
  }
  const [rx, ry] = el.name === 'circle' ? [num('r'), num('r')] : [num('rx'), num('ry')];
  if ((el.name !== 'circle' && el.name !== 'ellipse') || !(rx > 0 && ry > 0)) return null;
  const bounds = box(num('cx') - rx, num('cy') - ry, 2 * rx, 2 * ry);
  return { shape: { kind: 'ellipse', size: size(bounds) }, bounds };
}

/** The outline of a basic shape as path data. */
export function outlineText(el: SvgElement): string {
  const a = el.attributes;
  const num = (k: string, fallback = 0) => readLength(a[k], fallback);
  switch (el.name) {
    case 'path':
      return a['d'] ?? '';
    case 'line':
      return `M${num('x1')} ${num('y1')}L${num('x2')} ${num('y2')}`;
    case 'polyline':
    case 'polygon': {
      const p = (a['points'] ?? '').trim();
      return p === '' ? '' : `M${p}${el.name === 'polygon' ? 'Z' : ''}`;
    }
    case 'rect': {
      const [x, y, w, h] = [num('x'), num('y'), num('width'), num('height')];
      if (!(w > 0 && h > 0)) return '';
      const rx = Math.min(w / 2, num('rx', num('ry')));
      const ry = Math.min(h / 2, num('ry', num('rx')));
      if (!(rx > 0 && ry > 0)) return `M${x} ${y}h${w}v${h}h${-w}Z`;
      const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      return `M${x + rx} ${y}h${w - 2 * rx}${arc(rx, ry)}v${h - 2 * ry}${arc(-rx, ry)}h${2 * rx - w}${arc(-rx, -ry)}v${2 * ry - h}${arc(rx, -ry)}Z`;
    }
    default: {
      const [rx, ry] = el.name === 'circle' ? [num('r'), num('r')] : [num('rx'), num('ry')];
      if (!(rx > 0 && ry > 0)) return '';
      return `M${num('cx') - rx} ${num('cy')}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0Z`;
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
  const sound = out.filter((s) => s.nodes.length > 1 && s.nodes.every((p) => p.at.every(Number.isFinite)));
  return sound.map((s) => ({ closed: s.closed, nodes: s.nodes as PathNode[] }));
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

/** The triangles of a glTF model, with a colour for each, and fewer of them where there are too many. */
import { type Primitive, type Texture, TextureInfo } from '@gltf-transform/core';
import type { Transform } from '@gltf-transform/extensions';
import { MeshoptSimplifier } from 'meshoptimizer/simplifier';
import { linearToRgb } from '../base/index.ts';
import { Broken } from './gltf-claims.ts';

/** A decoded picture: red, green, blue, alpha, 0–255, row by row from the top. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Equal points are one. */
export interface RawMesh {
  /** x, y, z of each point, px. */
  readonly points: readonly number[];
  readonly triangles: readonly number[];
  /** 0xrrggbb of each triangle, times which the material's colour is its colour; null where all are plain. */
  readonly colors: Uint32Array | null;
}

/** Thousandths of a px; never −0. */
export const tidy = (x: number) => Math.round(x * 1000) / 1000 + 0;

/** The triangles of a primitive, made `k` times as large; null for lines and points. */
export function rawMesh(p: Primitive, k: number, picture: (t: Texture) => Pixels | null): RawMesh | null {
  const corners = corneredBy(p);
  const position = p.getAttribute('POSITION');
  if (!corners || !position) return null;
  const points: number[] = [];
  const index = new Map<string, number>();
  const triangles = corners.map((c) => {
    if (c >= position.getCount()) throw new Broken('The model is broken: a triangle has a corner too many.');
    const at = position.getElement(c, [0, 0, 0]).map((x) => tidy(x * k));
    if (!at.every((x) => Math.abs(x) < 1e6)) throw new Broken('The model is broken: a corner is nowhere.');
    const key = at.join('/');
    const known = index.get(key) ?? points.length / 3;
    if (known === points.length / 3) {
      index.set(key, known);
      points.push(...at);
    }
    return known;
  });
  return { points, triangles, colors: colorsOf(p, corners, picture) };
}

/** Numbers of the corners, three a triangle; null for lines and points. glTF 2.0, 3.7.2.1. */
function corneredBy(p: Primitive): number[] | null {
  const mode = p.getMode();
  if (mode < 4) return null;
  const indices = p.getIndices();
  const n = indices?.getCount() ?? p.getAttribute('POSITION')?.getCount() ?? 0;
  const at = (i: number) => indices?.getScalar(i) ?? i;
  const out: number[] = [];
  if (mode === 4) for (let i = 0; i + 2 < n; i += 3) out.push(at(i), at(i + 1), at(i + 2));
  // In a strip every other triangle goes round the other way.
  else if (mode === 5)
    for (let i = 0; i + 2 < n; i++) out.push(at(i), at(i + 1 + (i % 2)), at(i + 2 - (i % 2)));
  else for (let i = 1; i + 1 < n; i++) out.push(at(0), at(i), at(i + 1));
  return out;
}

/** Shades that lie so near one another that they are one, 0–255. */
const ALIKE = 6;

/** The mean of texture and corners' colours over each triangle, worked out in light, not in sRGB. */
function colorsOf(
  p: Primitive,
  corners: readonly number[],
  picture: (t: Texture) => Pixels | null,
): Uint32Array | null {
  const material = p.getMaterial();
  const texture = material?.getBaseColorTexture();
  const info = material?.getBaseColorTextureInfo();
  const pixels = texture ? picture(texture) : null;
  const transform = info?.getExtension<Transform>('KHR_texture_transform');
  const uv = p.getAttribute(`TEXCOORD_${transform?.getTexCoord() ?? info?.getTexCoord() ?? 0}`);
  const tint = p.getAttribute('COLOR_0');
  const sampler = pixels && uv && info ? samplerOf(pixels, info, transform ?? null) : null;
  if (!sampler && !tint) return null;
  const colors = new Uint32Array(corners.length / 3);
  const sum = [0, 0, 0];
  for (let t = 0; t < colors.length; t++) {
    const three = [corners[3 * t], corners[3 * t + 1], corners[3 * t + 2]] as [number, number, number];
    sum.fill(1);
    if (sampler && uv) sampler(three.map((c) => uv.getElement(c, [0, 0])) as [UV, UV, UV], sum);
    if (tint)
      for (let i = 0; i < 3; i++)
        sum[i] = (sum[i] as number) * (three.reduce((n, c) => n + (tint.getElement(c, [])[i] ?? 1), 0) / 3);
    colors[t] = linearToRgb(sum[0] as number, sum[1] as number, sum[2] as number);
  }
  return colors;
}

type UV = [number, number];

/** Puts the mean colour of a triangle of a texture, linear 0–1, into `out`. */
function samplerOf(pixels: Pixels, info: TextureInfo, transform: Transform | null) {
  const { width, height, data } = pixels;
  const [ox, oy] = transform?.getOffset() ?? [0, 0];
  const [sx, sy] = transform?.getScale() ?? [1, 1];
  const turn = transform?.getRotation() ?? 0;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  // KHR_texture_transform: offset · rotation · scale, anticlockwise turns being negative since v goes down.
  const placed = ([u, v]: UV): UV => [
    (ox + c * u * sx + s * v * sy) * width,
    (oy - s * u * sx + c * v * sy) * height,
  ];
  const wrapped = (x: number, n: number, mode: number) => {
    if (mode === TextureInfo.WrapMode['CLAMP_TO_EDGE']) return Math.max(0, Math.min(n - 1, x));
    const once = ((x % n) + n) % n;
    if (mode !== TextureInfo.WrapMode['MIRRORED_REPEAT']) return once;
    return Math.floor(x / n) % 2 === 0 ? once : n - 1 - once;
  };
  const [across, down] = [info.getWrapS(), info.getWrapT()];
  return (uvs: [UV, UV, UV], out: number[]) => {
    const [a, b, d] = uvs.map(placed) as [UV, UV, UV];
    const area = Math.abs((b[0] - a[0]) * (d[1] - a[1]) - (b[1] - a[1]) * (d[0] - a[0])) / 2;
    // As many points as the triangle is px large, up to 36, each in the middle of its part.
    const steps = Math.max(1, Math.min(8, Math.ceil(Math.sqrt(area) / 3)));
    let [r, g, bl, n] = [0, 0, 0, 0];
    for (let i = 0; i < steps; i++)
      for (let j = 0; j < steps - i; j++) {
        const [p, q] = [(i + 1 / 3) / steps, (j + 1 / 3) / steps];
        const x = Math.floor(wrapped(a[0] + p * (b[0] - a[0]) + q * (d[0] - a[0]), width, across));
        const y = Math.floor(wrapped(a[1] + p * (b[1] - a[1]) + q * (d[1] - a[1]), height, down));
        const at = 4 * (Math.min(height - 1, y) * width + Math.min(width - 1, x));
        r += LINEAR[data[at] as number] as number;
        g += LINEAR[data[at + 1] as number] as number;
        bl += LINEAR[data[at + 2] as number] as number;
        n++;
      }
    out[0] = r / n;
    out[1] = g / n;
    out[2] = bl / n;
  };
}

/** sRGB 0–255 in light, 0–1. IEC 61966-2-1. */
const LINEAR = Float64Array.from({ length: 256 }, (_, i) => {
  const x = i / 255;
  return x <= 0.04045 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4;
});

/** The one colour (0xrrggbb) of a mesh all of whose triangles are alike; null where they are not. */
export function oneColor(colors: Uint32Array): number | null {
  const mean = [16, 8, 0].map((shift) => {
    let [least, most, sum] = [255, 0, 0];
    for (const c of colors) {
      const x = (c >> shift) & 255;
      least = Math.min(least, x);
      most = Math.max(most, x);
      sum += x;
    }
    return most - least <= ALIKE ? Math.round(sum / Math.max(1, colors.length)) << shift : null;
  });
  return mean.every((x) => x !== null) ? mean.reduce((all, x) => all | x, 0) : null;
}

/** A mesh that is as like the given one as `most` triangles make it. */
export async function fewer(mesh: RawMesh, most: number): Promise<RawMesh> {
  if (mesh.triangles.length / 3 <= most) return mesh;
  await MeshoptSimplifier.ready;
  const points = Float32Array.from(mesh.points);
  const indices = Uint32Array.from(mesh.triangles);
  // How far it may be from the given one is not limited: the count is.
  const [careful] = MeshoptSimplifier.simplify(indices, points, 3, most * 3, 1, ['Prune']);
  const [left] =
    careful.length <= most * 3 * 1.1
      ? [careful]
      : MeshoptSimplifier.simplifySloppy(indices, points, 3, null, most * 3, 1);
  const chosen = left.length >= 3 ? left : careful;
  const index = new Map<number, number>();
  const kept: number[] = [];
  const triangles = [...chosen].map((c) => {
    const known = index.get(c) ?? kept.length / 3;
    if (known === kept.length / 3) {
      index.set(c, known);
      kept.push(...mesh.points.slice(3 * c, 3 * c + 3));
    }
    return known;
  });
  const small = { points: kept, triangles, colors: null };
  return mesh.colors ? { ...small, colors: colorsNear(mesh, mesh.colors, small) } : small;
}

/** For each triangle of a simpler mesh the mean of those of the finer one whose nearest it is; of none, the nearest's. */
function colorsNear(fine: RawMesh, colors: Uint32Array, simple: RawMesh): Uint32Array {
  const middles = middlesOf(simple);
  const near = new Nearest(middles);
  const n = simple.triangles.length / 3;
  const sums = new Float64Array(n * 4);
  const fineMiddles = middlesOf(fine);
  for (let t = 0; t < colors.length; t++) {
    const to = near.of(fineMiddles, 3 * t);
    const c = colors[t] as number;
    for (let i = 0; i < 3; i++)
      sums[4 * to + i] = (sums[4 * to + i] as number) + (LINEAR[(c >> (16 - 8 * i)) & 255] as number);
    sums[4 * to + 3] = (sums[4 * to + 3] as number) + 1;
  }
  const fines = new Nearest(fineMiddles);
  return Uint32Array.from({ length: n }, (_, t) => {
    const count = sums[4 * t + 3] as number;
    if (count === 0) return colors[fines.of(middles, 3 * t)] as number;
    return linearToRgb(
      ...([0, 1, 2].map((i) => (sums[4 * t + i] as number) / count) as [number, number, number]),
    );
  });
}

function middlesOf({ points, triangles }: RawMesh): Float64Array {
  const out = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3)
    for (let i = 0; i < 3; i++)
      out[t + i] =
        ((points[3 * (triangles[t] as number) + i] as number) +
          (points[3 * (triangles[t + 1] as number) + i] as number) +
          (points[3 * (triangles[t + 2] as number) + i] as number)) /
        3;
  return out;
}

/** Finds the nearest of many points, which lie in the cells of a grid. */
class Nearest {
  readonly #points: Float64Array;
  readonly #cells = new Map<number, number[]>();
  readonly #least = [0, 0, 0];
  readonly #cell: number;
  readonly #side: number;

  constructor(points: Float64Array) {
    this.#points = points;
    const n = points.length / 3;
    let size = 1e-9;
    for (let i = 0; i < 3; i++) {
      let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (let p = 0; p < n; p++) {
        least = Math.min(least, points[3 * p + i] as number);
        most = Math.max(most, points[3 * p + i] as number);
      }
      this.#least[i] = least;
      size = Math.max(size, most - least);
    }
    this.#side = Math.max(1, Math.min(64, Math.round(Math.sqrt(n))));
    this.#cell = size / this.#side;
    for (let p = 0; p < n; p++) {
      const key = this.#key(this.#at(points, 3 * p));
      const list = this.#cells.get(key);
      if (list) list.push(p);
      else this.#cells.set(key, [p]);
    }
  }

  #at(points: Float64Array, from: number): [number, number, number] {
    return [0, 1, 2].map((i) => {
      const x = Math.floor(((points[from + i] as number) - (this.#least[i] as number)) / this.#cell);
      return Math.max(0, Math.min(this.#side, x));
    }) as [number, number, number];
  }

  #key([x, y, z]: readonly [number, number, number]): number {
    return (x * 256 + y) * 256 + z;
  }

  /** The number of the point nearest to that at `from` of `points`. */
  of(points: Float64Array, from: number): number {
    const [cx, cy, cz] = this.#at(points, from);
    let [best, least] = [0, Number.POSITIVE_INFINITY];
    for (let r = 0; r <= this.#side; r++) {
      // What lies in farther cells is at least so far away.
      if (((r - 1) * this.#cell) ** 2 > least) break;
      for (let x = cx - r; x <= cx + r; x++)
        for (let y = cy - r; y <= cy + r; y++)
          for (let z = cz - r; z <= cz + r; z++) {
            if (Math.max(Math.abs(x - cx), Math.abs(y - cy), Math.abs(z - cz)) !== r) continue;
            if (x < 0 || y < 0 || z < 0) continue;
            for (const p of this.#cells.get(this.#key([x, y, z])) ?? []) {
              let d = 0;
              for (let i = 0; i < 3; i++)
                d += ((this.#points[3 * p + i] as number) - (points[from + i] as number)) ** 2;
              if (d < least) [best, least] = [p, d];
            }
          }
    }
    return best;
  }
}

/** Bursts, flashes and shakes over a frame that is painted. */
import { CH_OPACITY, CH_SHOWN, CHANNELS, type Piece } from '@apple-tick/core/model';
import {
  type ActiveEffect,
  type Angle,
  activeEffects,
  allBut,
  EffectFrame,
  FaceBuilder,
  type Program,
  seedOf,
} from '@apple-tick/core/run';
import type { FaceList } from '@apple-tick/core/world';
import {
  type Pictures,
  type Placement,
  paintFaces,
  paintParticles,
  type Stamp,
  type Tint,
} from '@apple-tick/painter';

import type { Overlay, PagePart } from '../page-part.ts';

/** Px of the screen of the longer side of the picture that stands for a thing as a particle. */
const STAMP = 96;

export class Effects implements Overlay {
  readonly #shown = new EffectFrame();
  readonly #point = new Float64Array(3);
  readonly #stamper = new FaceBuilder();
  readonly #rows: { shift: Float64Array; x: number; y: number }[] = [];
  #program: Program | null = null;
  #angle: Angle = { azimuth: 0, elevation: 0 };

  /** Works out what is to be seen of these effects. `laid`: a builder in which the pose that is painted lies. */
  build(
    program: Program,
    shows: readonly ActiveEffect[],
    seed: number,
    laid: FaceBuilder | null,
    angle: Angle,
  ): void {
    this.#program = program;
    this.#angle = angle;
    this.#shown.build(shows, program.curves, seed, angle);
    this.#rows.length = 0;
    if (!laid) return;
    for (const [object, shift] of this.#shown.tremors) {
      laid.pivotInto(object, true, this.#point);
      this.#rows[object] = { shift, x: this.#point[0] as number, y: this.#point[1] as number };
    }
  }

  /** How far the whole frame trembles: px to the right, px up, degrees. */
  get shake(): Float64Array {
    return this.#shown.shake;
  }

  /** Moves faces on the screen: those of what trembles with all below it, then all when the frame does. */
  tremble(faces: FaceList): void {
    const { shake } = this.#shown;
    const all = shake.some((n) => n !== 0);
    const parent = this.#program?.geometry.parent;
    if (!parent || (!all && this.#shown.tremors.size === 0)) return;
    for (let f = 0; f < faces.count; f++) {
      for (let i = faces.object[f] as number; i >= 0; i = parent[i] as number) {
        const row = this.#rows[i];
        if (row) moveFace(faces.plane, f * 9, row.shift, row.x, row.y);
      }
      if (all) moveFace(faces.plane, f * 9, shake, 0, 0);
    }
  }

  /** The colour over an object: its own, or that of what is above it. */
  readonly tintOf = (object: number): Tint | undefined => {
    const { tints } = this.#shown;
    const parent = this.#program?.geometry.parent;
    if (tints.size === 0 || !parent) return undefined;
    let strongest: Tint | undefined;
    for (let i = object; i >= 0; i = parent[i] as number) {
      const tint = tints.get(i);
      if (tint && tint.strength > (strongest?.strength ?? 0)) strongest = tint;
    }
    return strongest;
  };

  /** Paints particles and the flash of the frame over what is there. */
  paint(
    ctx: CanvasRenderingContext2D,
    at: Placement,
    seen: { readonly width: number; readonly height: number },
    pictures: Pictures,
  ): void {
    const { count, particles, of, shake, flash } = this.#shown;
    if (count > 0) {
      const stamps = new Map<string, 'dot' | Stamp>();
      const drawing = (i: number) => {
        const what = of[i]?.drawing ?? 'dot';
        if (what === 'dot' || what === 'square') return what;
        const stamp = stamps.get(what) ?? this.#stamp(what, pictures) ?? 'dot';
        stamps.set(what, stamp);
        return stamp;
      };
      const moved = { x: at.x + at.scale * (shake[0] as number), y: at.y - at.scale * (shake[1] as number) };
      paintParticles(ctx, { count, rows: particles, drawing }, { ...moved, scale: at.scale });
    }
    if (!flash) return;
    const [w, h] = [seen.width * at.scale, seen.height * at.scale];
    ctx.globalAlpha = flash.strength;
    ctx.fillStyle = `#${flash.rgb.toString(16).padStart(6, '0')}`;
    ctx.fillRect(at.x - w / 2, at.y - h / 2, w, h);
    ctx.globalAlpha = 1;
  }

  /** A picture of one object with all below it, as it stands by itself, shown or not; null when nothing is drawn of it. */
  #stamp(id: keyof Piece['objects'], pictures: Pictures): Stamp | null {
    const program = this.#program as Program;
    const object = program.objectIndex.get(id);
    if (object === undefined) return null;
    const values = program.base.slice();
    for (let i = object; i >= 0; i = program.geometry.parent[i] as number) {
      values[i * CHANNELS + CH_SHOWN] = 1;
      if (i !== object) values[i * CHANNELS + CH_OPACITY] = 1;
    }
    const faces = this.#stamper.build(program, values, this.#angle, allBut(program, object));
    let [x0, y0, x1, y1] = [1e9, 1e9, -1e9, -1e9];
    for (let f = 0; f < faces.count; f++) {
      const p = faces.plane.subarray(f * 9, f * 9 + 9);
      const points = faces.piece[f] ?? faces.outline[f]?.contours.points ?? [];
      for (let k = 0; k < points.length; k += 2) {
        const on = (r: number) =>
          (p[r] as number) +
          (p[3 + r] as number) * (points[k] as number) +
          (p[6 + r] as number) * (points[k + 1] as number);
        [x0, x1] = [Math.min(x0, on(0)), Math.max(x1, on(0))];
        [y0, y1] = [Math.min(y0, on(1)), Math.max(y1, on(1))];
      }
    }
    const long = Math.max(x1 - x0, y1 - y0);
    if (!(long > 0)) return null;
    const scale = STAMP / long;
    const [w, h] = [Math.ceil((x1 - x0) * scale) + 2, Math.ceil((y1 - y0) * scale) + 2];
    const picture = new OffscreenCanvas(w, h);
    const ctx = picture.getContext('2d');
    if (!ctx) return null;
    paintFaces(ctx, faces, { x: 1 - x0 * scale, y: 1 + y1 * scale, scale }, pictures);
    return { picture, width: w / STAMP, height: h / STAMP };
  }
}

/** What was set off, over each frame. */
export function effects(): PagePart {
  const shown = new Effects();
  return {
    overlay: ({ program, state }, laid, at) => {
      shown.build(program, activeEffects(program, state), seedOf(state), laid, at);
      return shown;
    },
  };
}

/** Turns a face by so many degrees about a point of the screen, and moves it by px. */
function moveFace(plane: Float64Array, at: number, by: Float64Array, px: number, py: number): void {
  const turn = ((by[2] as number) * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  for (let k = 0; k < 9; k += 3) {
    const [ox, oy] = k === 0 ? [px, py] : [0, 0];
    const [x, y] = [(plane[at + k] as number) - ox, (plane[at + k + 1] as number) - oy];
    plane[at + k] = ox + x * c - y * s + (k === 0 ? (by[0] as number) : 0);
    plane[at + k + 1] = oy + x * s + y * c + (k === 0 ? (by[1] as number) : 0);
  }
}

/** Paints thumbnails away from the page, so that many of them never hold it up. */

import type { Piece } from '@apple-tick/core/model';
import { allBut, compile, FaceBuilder, type Program, poseClip } from '@apple-tick/core/run';
import type { FaceList } from '@apple-tick/core/world';
import { paintFaces, paintGround } from '@apple-tick/painter';
import monoUrl from '@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff2?url';
import frauncesUrl from '@fontsource-variable/fraunces/files/fraunces-latin-wght-normal.woff2?url';
import sansUrl from '@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2?url';
import { expose, transfer } from 'comlink';
import { picturesOf } from '../session/keep/pictures.ts';
import { type Box, screenBoxes, union } from '../session/view/screen-boxes.ts';
import type { PictureRequest, PosesRequest, ThumbRequest } from './thumbs.ts';

const fonts = Promise.all(
  (
    [
      ['Fraunces Variable', frauncesUrl, '100 900'],
      ['Public Sans Variable', sansUrl, '100 900'],
      ['IBM Plex Mono', monoUrl, '400'],
    ] as const
  ).map(async ([family, url, weight]) => {
    self.fonts.add(await new FontFace(family, `url(${url})`, { weight }).load());
  }),
).catch(() => {});

/** What is to be painted, by its number: whoever leaves a page takes back what it has asked for. */
const waiting = new Map<number, ThumbRequest>();

/** Told of what was painted, by the number of its request. */
export type Painted = (id: number, bitmaps: ImageBitmap[]) => void;
let told: Painted = () => {};

/** What the page asks of this worker. */
const painter = {
  /** Who is told what was painted, from now on. */
  tell(to: Painted): void {
    told = to;
  },
  paint(request: ThumbRequest): void {
    waiting.set(request.id, request);
    if (waiting.size === 1) setTimeout(paintNext);
  },
  /** Nobody waits for it any more. */
  forget(id: number): void {
    waiting.delete(id);
  },
};
export type ThumbPainter = typeof painter;
expose(painter);

/** Paints one, then hears what has come meanwhile. */
async function paintNext(): Promise<void> {
  for (const [id, request] of waiting) {
    waiting.delete(id);
    try {
      await answer(request);
    } finally {
      if (waiting.size > 0) setTimeout(paintNext);
    }
    return;
  }
}

async function answer(request: ThumbRequest): Promise<void> {
  // Words need their font; anything else is painted at once.
  if (Object.values(request.piece.objects).some((o) => o.kind === 'text')) await fonts;
  const send = () => {
    const bitmaps = 'poses' in request ? paintPoses(request, send) : paint(request, send);
    told(request.id, transfer(bitmaps, bitmaps));
  };
  send();
}

const RIM = 'rgb(255 255 255 / 0.75)';

/** So many places of each clip are looked at for the camera that takes in all of them. */
const LOOKS = 5;
/** How much of what stands around is seen. */
const FAINT = 0.3;
/** The camera is this much wider than what moves, so that something of what stands around is there. */
const ROOM = 1.25;

/** The poses of one object and what is below it, by one camera over all of them, and what stands around it faintly. */
function paintPoses({ piece, object, poses, height, ratio }: PosesRequest, again: () => void): ImageBitmap[] {
  const program = compile(piece);
  const root = program.objectIndex.get(object);
  if (root === undefined) return [];
  const others = allBut(program, root);
  const own = others.map((x, i) => (x === 0 || program.guides[i] === 1 ? 1 : 0));
  const builder = new FaceBuilder();
  const values = program.base.slice();
  const whole = { x: 0, y: 0, scale: 1, ...piece.view };
  const posed = (clip: string | null, at: number, skip: Uint8Array) => {
    poseClip(program, clip, at, values);
    return builder.build(program, values, piece.view, skip);
  };
  let seen: Box | undefined;
  const look = (clip: string | null, at: number) => {
    for (const b of screenBoxes(program, posed(clip, at, others), whole)) if (b) seen = union(seen, b);
  };
  look(null, 0);
  for (const c of Object.values(piece.clips))
    for (let i = 0; i < LOOKS; i++) look(c.id, (c.duration * i) / (LOOKS - 1));
  if (!seen) return [];
  const narrow = Math.min(...poses.map((p) => p.width));
  const scale = Math.min(narrow / ((seen.x1 - seen.x0) * ROOM), height / ((seen.y1 - seen.y0) * ROOM), 4);
  const [midX, midY] = [(seen.x0 + seen.x1) / 2, (seen.y0 + seen.y1) / 2];
  const pictures = picturesOf((id) => piece.assets[id], again);
  const placed = (width: number) => ({
    x: (width / 2 - midX * scale) * ratio,
    y: (height / 2 - midY * scale) * ratio,
    scale: scale * ratio,
  });
  const around = new Map<number, OffscreenCanvas>();
  return poses.map(({ clip, at, width }) => {
    const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
    let ground = around.get(width);
    if (!ground) {
      ground = new OffscreenCanvas(w, h);
      around.set(width, ground);
      const ctx = ground.getContext('2d') as OffscreenCanvasRenderingContext2D;
      // Round what lies on top nothing stands: it is fixed to the frame.
      if (program.geometry.onTop[root] !== 1) paintFaces(ctx, posed(null, 0, own), placed(width), pictures);
    }
    const canvas = new OffscreenCanvas(w, h);
    const ctx = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
    ctx.globalAlpha = FAINT;
    ctx.drawImage(ground, 0, 0);
    ctx.globalAlpha = 1;
    paintFaces(ctx, posed(clip, at, others), placed(width), pictures);
    return canvas.transferToImageBitmap();
  });
}

/** What all that is drawn takes up, px of the piece; undefined where nothing is. */
function boxOf(program: Program, faces: FaceList, piece: Piece): Box | undefined {
  let all: Box | undefined;
  for (const box of screenBoxes(program, faces, { x: 0, y: 0, scale: 1, ...piece.view }))
    if (box) all = union(all, box);
  return all;
}

function boxOfBase(piece: Piece): Box | undefined {
  const program = compile(piece);
  return boxOf(program, new FaceBuilder().build(program, program.base, piece.view), piece);
}

/** `again` is called when a picture has come that was not there yet. */
function paint(request: PictureRequest, again: () => void): ImageBitmap[] {
  const { piece, width, height, only } = request;
  const canvas = new OffscreenCanvas(width, height);
  const ctx = canvas.getContext('2d');
  if (!ctx) return [];
  const program = compile(piece);
  const values = program.base.slice();
  poseClip(program, request.clip, request.at, values);
  const faces = new FaceBuilder().build(program, values, piece.view);
  let scale = Math.max(width / piece.frame.width, height / piece.frame.height);
  let [x, y] = [width / 2, height / 2];
  if (only) {
    const [own, other] = [boxOf(program, faces, piece), request.beside && boxOfBase(request.beside)];
    const b = own && other ? union(own, other) : (own ?? other);
    const { x0, y0, x1, y1 } = b ?? { x0: -5, y0: -5, x1: 5, y1: 5 };
    scale = Math.min(width / (Math.max(10, x1 - x0) + 8), height / (Math.max(10, y1 - y0) + 8));
    x -= ((x0 + x1) / 2) * scale;
    y -= ((y0 + y1) / 2) * scale;
  }
  // A cover: what of the frame sticks out of the picture is cut.
  else paintGround(ctx, piece.frame.background, width / scale, height / scale, { x, y, scale });
  paintFaces(
    ctx,
    faces,
    { x, y, scale },
    picturesOf((id) => piece.assets[id], again),
  );
  const boxes = request.marks.length > 0 ? screenBoxes(program, faces, { x, y, scale, ...piece.view }) : [];
  // What lies in a template is marked in each of its instances.
  const places = new Map<string, number[]>();
  if (request.marks.length > 0)
    for (const [way, i] of program.objectIndex) {
      const id = way.slice(way.lastIndexOf('/') + 1);
      places.set(id, [...(places.get(id) ?? []), i]);
    }
  const marked = request.marks.flatMap(({ id, ...how }) =>
    (places.get(id) ?? []).map((i) => ({ i, ...how })),
  );
  for (const { i, color, isStrong } of marked) {
    const box = boxes[i];
    if (!box) continue;
    // With a pale rim, so that it is seen on whatever it lies.
    for (const [style, rim] of [
      [RIM, 2],
      [color, 0],
    ] as const) {
      ctx.strokeStyle = style;
      ctx.lineWidth = (isStrong ? 3 : 1.5) + rim;
      ctx.strokeRect(box.x0 - 3, box.y0 - 3, box.x1 - box.x0 + 6, box.y1 - box.y0 + 6);
    }
  }
  return [canvas.transferToImageBitmap()];
}

/** Paints thumbnails away from the page, so that many of them never hold it up. */

import { compile, FaceBuilder, poseClip } from '@apple-tick/core/run';
import type { FaceList } from '@apple-tick/core/world';
import { paintFaces, paintGround } from '@apple-tick/painter';
import monoUrl from '@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff2?url';
import frauncesUrl from '@fontsource-variable/fraunces/files/fraunces-latin-wght-normal.woff2?url';
import sansUrl from '@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2?url';
import { picturesOf } from '../session/pictures.ts';
import type { ThumbRequest } from './thumbs.ts';

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

self.onmessage = async (e: MessageEvent<ThumbRequest>) => {
  const request = e.data;
  // Words need their font; anything else is painted at once.
  if (Object.values(request.piece.objects).some((o) => o.kind === 'text')) await fonts;
  const send = () => {
    const bitmap = paint(request, send);
    if (bitmap) self.postMessage({ id: request.id, bitmap }, { transfer: [bitmap] });
  };
  send();
};

/** `again` is called when a picture has come that was not there yet. */
function paint(request: ThumbRequest, again: () => void): ImageBitmap | null {
  const { piece, width, height, only } = request;
  const canvas = new OffscreenCanvas(width, height);
  const ctx = canvas.getContext('2d');
  if (!ctx) return null;
  const program = compile(piece);
  const values = program.base.slice();
  poseClip(program, request.clip, request.at, values);
  const faces = new FaceBuilder().build(program, values, piece.view);
  let scale = Math.max(width / piece.frame.width, height / piece.frame.height);
  let [x, y] = [width / 2, height / 2];
  if (only) {
    const b = boundsOf(faces);
    scale = Math.min(width / (b.w + 8), height / (b.h + 8));
    x -= b.x * scale;
    y += b.y * scale;
  }
  // A cover: what of the frame sticks out of the picture is cut.
  else paintGround(ctx, piece.frame.background, width / scale, height / scale, { x, y, scale });
  paintFaces(
    ctx,
    faces,
    { x, y, scale },
    picturesOf((id) => piece.assets[id], again),
  );
  return canvas.transferToImageBitmap();
}

function boundsOf(faces: FaceList) {
  let [x0, y0, x1, y1] = [1e9, 1e9, -1e9, -1e9];
  for (let f = 0; f < faces.count; f++) {
    const p = faces.plane.subarray(f * 9, f * 9 + 9) as unknown as number[];
    const hull = (faces.outline[f] as (typeof faces.outline)[number]).hull;
    for (let i = 0; i < hull.length; i += 2) {
      const [u, v] = [hull[i] as number, hull[i + 1] as number];
      const x = (p[0] as number) + (p[3] as number) * u + (p[6] as number) * v;
      const y = (p[1] as number) + (p[4] as number) * u + (p[7] as number) * v;
      x0 = Math.min(x0, x);
      x1 = Math.max(x1, x);
      y0 = Math.min(y0, y);
      y1 = Math.max(y1, y);
    }
  }
  return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, w: Math.max(10, x1 - x0), h: Math.max(10, y1 - y0) };
}

/** The view: an orthographic look at the piece from an azimuth and an elevation, in degrees. */
import { cosDeg, MAT, sinDeg } from '../base/index.ts';

export interface ViewAngle {
  readonly azimuth: number;
  readonly elevation: number;
}

/**
 * World → view space as an affine 12-number matrix: x to the right and y up on the screen, z toward the viewer.
 * At 0/0 it is the identity; a positive azimuth shows the right side of things, a positive elevation their tops.
 */
export function viewMatrix(view: ViewAngle, out: Float64Array = new Float64Array(MAT)): Float64Array {
  const sa = sinDeg(view.azimuth);
  const ca = cosDeg(view.azimuth);
  const se = sinDeg(view.elevation);
  const ce = cosDeg(view.elevation);
  out.fill(0);
  out[0] = ca;
  out[1] = -sa * se;
  out[2] = sa * ce;
  out[4] = ce;
  out[5] = se;
  out[6] = -sa;
  out[7] = -ca * se;
  out[8] = ca * ce;
  return out;
}

/** Unit vector toward the light, in world space. */
export function lightDirection(light: ViewAngle): [number, number, number] {
  const ce = cosDeg(light.elevation);
  return [sinDeg(light.azimuth) * ce, sinDeg(light.elevation), cosDeg(light.azimuth) * ce];
}

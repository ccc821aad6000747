export { extentOf, grown } from './arrays.ts';
export { hexToOklab, linearToRgb, oklabToRgb, rgbToHex, shadeRgb, timesRgb } from './color.ts';
export { RunHash } from './hash.ts';
export { type IdKind, newId } from './ids.ts';
export { SAME_INSTANT, snapInstant, TICKS_PER_SECOND, tickAtOrAfter, tickTime } from './instants.ts';
export {
  composeLocal,
  decompose,
  determinant,
  invert,
  MAT,
  multiply,
  normalOf,
  transformPoint,
} from './mat.ts';
export { atan2Deg, clamp, cosDeg, exp, sinDeg } from './math.ts';
export {
  type Contours,
  controls,
  convexHull,
  distanceToContours,
  eachSegment,
  flatten,
  insideContours,
  type PathNode,
  pathBounds,
  polygonPath,
  type Subpath,
} from './path.ts';
export { type Problem, problemLine, type Result } from './result.ts';
export { drawUint, drawUnit, fnv1a32, seedStream } from './rng.ts';

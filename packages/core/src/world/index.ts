export { alphaSubpaths } from './alpha.ts';
export { findContacts } from './contact.ts';
export { allParallel, byDepth } from './depth-order.ts';
export {
  EDGE_LINE,
  EDGE_NONE,
  EDGE_SEAM,
  type FaceImage,
  type FaceStyle,
  type FaceText,
  FLAT,
  type ObjectGeometry,
  type SolidShapes,
} from './drawing.ts';
export {
  buildFaces,
  type Contact,
  drawingOf,
  FaceList,
  FILL_BALL,
  FILL_BENT,
  FILL_COLOR,
  FILL_GRADIENT,
  FILL_HIT,
  FILL_NONE,
} from './faces.ts';
export { type Fitted, fitFrame } from './frame.ts';
export { compileObjects, type Geometry, type MaskUse } from './geometry.ts';
export { faceContains, hitAll, hitTop, visiblePoint } from './hit.ts';
export { convexHull, distanceTo, grownBy, outOf, slide } from './hull.ts';
export { type MeshFace, meshFaces } from './mesh.ts';
export {
  OUTLINE_ELLIPSE,
  OUTLINE_PATH,
  OUTLINE_RECT,
  type Outline,
  outlineContains,
  pathOutline,
} from './outline.ts';
export { PaintOrder } from './paint-order.ts';
export { type HitFrame, PointHits } from './point-hits.ts';
export { lightDirection, type ViewAngle, viewMatrix } from './projection.ts';
export { SOLID_SHAPES } from './solids.ts';
export { type Fixing, worldMatrices, worldMatrix } from './transforms.ts';
export { writtenStops } from './written-stops.ts';
export { isInZone, nearStretch, Stretches, stretchesIn, type ZoneShape, zoneShape } from './zone-shape.ts';

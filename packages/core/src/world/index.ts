export {
  buildFaces,
  FaceList,
  type Geometry,
  SHAPE_BOX,
  SHAPE_ELLIPSE,
  SHAPE_NONE,
  SHAPE_RECT,
} from './faces.ts';
export { faceContains, hitAll, hitTop, visiblePoint } from './hit.ts';
export { outlineOf, PaintOrder } from './paint-order.ts';
export { lightDirection, type ViewAngle, viewMatrix } from './projection.ts';
export { worldMatrices } from './transforms.ts';

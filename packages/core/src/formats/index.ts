export { type ElementOf, markBrought } from './brought.ts';
export { fileKind } from './file-kind.ts';
export { type GltfOptions, type GltfSeen, importGltf } from './gltf-import.ts';
export { isUsual, type NewerPlan, type NewerRow, planNewer, takeNewer } from './newer.ts';
export { type PictureHead, readPictureHead } from './picture-head.ts';
export { soundType } from './sound-head.ts';
export { importSvg, type SvgImport, type SvgPicture, type SvgSeen } from './svg-import.ts';
export type { SvgPart } from './svg-parts.ts';
export { fileProblem, isZip, readTickpack, type Tickpack, writeTickpack } from './tickpack.ts';

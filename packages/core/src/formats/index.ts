export { fileKind } from './file-kind.ts';
export { type GltfImport, importGltf } from './gltf-import.ts';
export { type PictureHead, readPictureHead } from './picture-head.ts';
export { soundType } from './sound-head.ts';
export { importSvg, type SvgImport, type SvgPicture } from './svg-import.ts';
export type { SvgPart } from './svg-parts.ts';
export { fileProblem, isZip, readTickpack, type Tickpack, writeTickpack } from './tickpack.ts';

export { ALL } from '../features/all.ts';
export { type Caption, captionPlace, captionsOf, type Extent, extentOf } from '../features/captions/place.ts';
export {
  type ActiveEffect,
  activeEffects,
  burstPath,
  EffectFrame,
  seedOf,
  type Tint,
} from '../features/effects/frame.ts';
export { type EffectProgram, lengthOf } from '../features/effects/program.ts';
export { compilePiece, withFeatures } from '../run/compile.ts';
export { explain, type Part } from '../run/explain.ts';
export type { Feature } from '../run/feature.ts';
export { findObject, type Input, type InputKind, objectPath } from '../run/input.ts';
export { allBut } from '../run/isolate.ts';
export { pathOf, poseClip, propertyValue } from '../run/pose-at.ts';
export type { ClipProgram, LaneProgram, Program } from '../run/program.ts';
export { poseReader } from '../run/read-pose.ts';
export { Run, type RunOptions } from '../run/run.ts';
export { type Angle, FaceBuilder } from '../run/scene.ts';
export { loadRun, type Snapshot, saveRun } from '../run/snapshot.ts';
export type { RunState } from '../run/state.ts';
export { editRun } from '../run/state-migration.ts';
export type { TraceKind, TraceRecord } from '../run/trace.ts';
export { placeIn } from '../run/watching.ts';
export { type Writer, writersOf } from '../run/writers.ts';
export { compile, compileAgain } from './compile.ts';
export { neededBy } from './needs.ts';

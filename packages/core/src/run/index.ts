export { allBut } from './apart.ts';
export { type Caption, captionPlace, captionsOf, type Extent, extentOf } from './captions.ts';
export { editRun } from './carry.ts';
export { compile } from './compile.ts';
export { compileAgain } from './compile-again.ts';
export { explain, type Part } from './explain.ts';
export { findObject, type Input, type InputKind, objectPath } from './input.ts';
export { pathOf, poseClip, propertyValue } from './pose-at.ts';
export type { ClipProgram, EffectProgram, LaneProgram, Program } from './program.ts';
export { poseReader } from './read-pose.ts';
export { Run, type RunOptions } from './run.ts';
export { type Angle, FaceBuilder } from './scene.ts';
export { lengthOf } from './showing.ts';
export {
  burstWay,
  type Show,
  Shown,
  seedOf,
  showsOf,
  type Tint,
} from './shown.ts';
export { loadRun, type Snapshot, saveRun } from './snapshot.ts';
export type { RunState } from './state.ts';
export type { TraceKind, TraceRecord } from './trace.ts';
export { placeIn } from './watching.ts';
export { type Writer, writersOf } from './writers.ts';

export { editRun } from './carry.ts';
export { type ClipProgram, compile, type LaneProgram, type Program } from './compile.ts';
export { findObject, type Input, type InputKind, objectPath } from './input.ts';
export { poseClip, propertyValue } from './pose-at.ts';
export { Run, type RunOptions } from './run.ts';
export { type Angle, FaceBuilder } from './scene.ts';
export type { RunState, Snapshot } from './state.ts';
export type { TraceKind, TraceRecord } from './trace.ts';
export { type Writer, writersOf } from './writers.ts';

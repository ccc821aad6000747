export type { Blocker } from '../features/blockers/schema.ts';
export { CAPTION_SECONDS } from '../features/captions/lengths.ts';
export type { Drag } from '../features/dragging/schema.ts';
export { type Burst, type Effect, effectSchema, type Flash, type Shake } from '../features/effects/schema.ts';
export type { Follow } from '../features/follows/schema.ts';
export type { CueSheet, SheetCue } from '../features/sheets/record.ts';
export type { Sound } from '../features/sounds/schema.ts';
export type { TemplateHead } from '../features/templates/schema.ts';
export { VISITOR_KEYS, type Visitor } from '../features/visitor/schema.ts';
export type { Near, Zone } from '../features/zones/schema.ts';
export {
  ACTIONS,
  type Action,
  type ActionName,
  actionSchema,
} from './action.ts';
export { ANCHORS } from './anchors.ts';
export {
  type Alpha,
  type Asset,
  assetFile,
  type FileAsset,
  isFile,
  MAX_CELLS,
  MAX_SIDE,
  MAX_TRIANGLES,
  type MeshAsset,
  PICTURE_TYPES,
  type PictureAsset,
  type PictureType,
  SOUND_TYPES,
  type SoundAsset,
  type SoundType,
} from './asset.ts';
export { BLENDS, type Blend } from './blends.ts';
export type { Brought, BroughtFile } from './brought.ts';
export type { Clip, ClipCue, Key, Track } from './clip.ts';
export type { Collider } from './collider.ts';
export type { Said, Vec3 } from './common.ts';
export { COMPARISONS, type Comparison } from './comparisons.ts';
export { CONTENTS, type ContentName, isContent } from './contents.ts';
export {
  DOINGS,
  type Doings,
  doingsOf,
  type Excerpt,
  excerpt,
  followOwner,
  insertExcerpt,
  knownIds,
  type OutsideReference,
  withIds,
} from './copy.ts';
export { cuesIn, lengthOfAction, lengthOfCue, type PlannedCue, planOf } from './cue-plan.ts';
export {
  type Bezier,
  defaultEasing,
  EASING_PRESETS,
  type Easing,
  type EasingPreset,
  type FadeEasing,
  presetOf,
  type TweenEasing,
} from './easing.ts';
export { FAMILIES, STEP_POSITIONS, WAYS } from './easing-names.ts';
export {
  type Condition,
  conditionOf,
  EVENT_NAMES,
  EVENTS,
  type EventName,
  FACTS,
  type Fact,
  type FactCondition,
  type On,
  type SignalCondition,
} from './event.ts';
export {
  type Bound,
  type Expansion,
  expand,
  MAX_NESTING,
  MAX_WRITTEN_OUT,
  type Part,
  type Place,
  partOf,
} from './expand.ts';
export type { FactKind } from './fact-kind.ts';
export { type Heard, heardBy, hearsKey, isSameKey } from './hears.ts';
export {
  entryText,
  History,
  type HistoryEntry,
  type HistoryEvent,
  type HistoryState,
  historyText,
  type SoundCheck,
} from './history.ts';
export {
  changeKeys,
  copyKeys,
  copyKeysBy,
  hasTime,
  type KeyCopy,
  type KeyId,
  keyFinder,
  keysTrack,
  moveKeys,
  pasteKeys,
  reverseKeys,
  stretchClip,
  stretchKeys,
  withoutKeys,
} from './keys.ts';
export { asLook, baseLook, drawn, drawnAs, editDrawing, withLook, withWholeLook } from './look.ts';
export type { Lane, Machine, NotBefore, State, Transition } from './machine.ts';
export { namer, uniqueName } from './names.ts';
export { compareSiblings, fillColor, treeOrder } from './objects.ts';
export { orderBetween } from './order.ts';
export { diff, type Patch, patched, reversed } from './patch.ts';
export {
  type AnyRecord,
  emptyPiece,
  FORMAT_VERSION,
  HEAD,
  type Piece,
  type PieceHead,
  pieceSchema,
  RECORDS,
  type RecordOf,
  TABLES,
  type TableName,
  type Tag,
  type Template,
} from './piece.ts';
export type { ClipPlay, Play, PlayFrom, Speed } from './play.ts';
export { clipsPlayed, onePlay } from './plays.ts';
export {
  CH_DASH,
  CH_FILL,
  CH_LOOK,
  CH_OPACITY,
  CH_SHOWN,
  CH_TEXT,
  CHANNELS,
  canOffset,
  fitsProperty,
  lookName,
  lookNumber,
  PROPERTIES,
  type PropertyField,
  type PropertyInfo,
  type PropertyValue,
  propertyInfo,
  propertyOf,
  textNumber,
  textOf,
  withProperty,
  wordsOf,
  writeValue,
} from './property.ts';
export { propertyLabel, propertyStep, propertyUnit } from './property-words.ts';
export type { Reaction } from './reaction.ts';
export { type RecordChange, type RecordsDiff, touchedIds } from './record-diff.ts';
export { type RefKind, visitOwnIds, visitReferences } from './references.ts';
export { assetsOf, isSet, removeUnused, removeWithReferences, subtreeOf, subtreesOf } from './removal.ts';
export { clipOnto, partsAt, partsOfClip } from './same-shape.ts';
export {
  type Anchor,
  type Base,
  baseSchema,
  defaultBase,
  FACES_OF,
  type FaceName,
  type FacePicture,
  type Fill,
  type Given,
  type Gradient,
  type KindOf,
  type Look,
  type Mask,
  OBJECT_KINDS,
  type ObjectKind,
  type Overlay,
  type SceneObject,
  type Stroke,
  sceneObjectSchema,
} from './scene-object.ts';
export { boundsOf, isSolid, polygonNodes, resized, sizeOf, subpathsOf } from './shape.ts';
export type {
  Message,
  Signal,
  SignalType,
  SignalValue,
} from './signal.ts';
export { canBegin, fitsSignal, initialValue } from './signal-values.ts';
export { ownValue, type StopPart, stopOf, stopsOf, trackProperty, valueInfo, withOwnValue } from './stops.ts';
export { Editor, PieceStore, type StoreListener } from './store.ts';
export { type FontName, layoutText, type TextLayout, widthless } from './text-layout.ts';
export { type Crossfade, type Value, valueSchema } from './value.ts';
export { writePiece } from './write.ts';

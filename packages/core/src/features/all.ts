/** All features, in the order in which each phase of a run asks them. */
import type { Feature } from '../run/feature.ts';
import { blends } from './blends/index.ts';
import { blockers } from './blockers/index.ts';
import { captions } from './captions/index.ts';
import { dragging } from './dragging/index.ts';
import { effects } from './effects/index.ts';
import { follows } from './follows/index.ts';
import { motors } from './motors/index.ts';
import { sheets } from './sheets/index.ts';
import { solids } from './solids/index.ts';
import { sounds } from './sounds/index.ts';
import { templates } from './templates/index.ts';
import { timers } from './timers/index.ts';
import { tweens } from './tweens/index.ts';
import { visitor } from './visitor/index.ts';
import { zones } from './zones/index.ts';

export const ALL: readonly Feature[] = [
  // What overlaps and touches is noticed before it pushes, walks and is dragged; what is dropped asks the zones.
  ...[zones, blockers, visitor, dragging, follows, blends],
  ...[effects, captions, sounds, tweens, motors, sheets, templates, timers, solids],
];

// What they declare comes along with this list.
export type {} from './blockers/parts.ts';
export type {} from './captions/parts.ts';
export type {} from './dragging/parts.ts';
export type {} from './effects/parts.ts';
export type {} from './follows/parts.ts';
export type {} from './motors/parts.ts';
export type {} from './sheets/parts.ts';
export type {} from './sounds/parts.ts';
export type {} from './templates/parts.ts';
export type {} from './timers/parts.ts';
export type {} from './tweens/parts.ts';
export type {} from './visitor/parts.ts';
export type {} from './zones/parts.ts';

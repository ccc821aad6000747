/** What happened: one record per happening, written when it is raised. */
import type { EventName, SignalValue } from '../model/index.ts';

export type TraceKind =
  | 'start'
  | 'input'
  | 'edit'
  | 'reaction'
  | 'action'
  | 'transition'
  | 'signal'
  | 'message'
  | 'cue'
  | 'done'
  | 'event'
  | 'sound'
  | 'burst'
  | 'caption'
  | 'spawn'
  | 'sheet'
  | 'storm';

export interface TraceRecord {
  readonly id: number;
  readonly tick: number;
  /** Exact instant, seconds. */
  readonly t: number;
  readonly kind: TraceKind;
  readonly event?: EventName;
  readonly object?: string;
  readonly clip?: string;
  readonly lane?: string;
  readonly state?: string;
  readonly from?: string;
  readonly to?: SignalValue;
  readonly transition?: string;
  readonly signal?: string;
  readonly message?: string;
  /** Of a message: only what has one of these tags hears it. */
  readonly tags?: readonly string[];
  readonly cue?: string;
  readonly sheet?: string;
  readonly collider?: string;
  /** What a zone has noticed, and the exact instant at which it crossed the boundary. */
  readonly other?: string;
  readonly at?: number;
  /** The zones that something was dropped into. */
  readonly colliders?: readonly string[];
  readonly reaction?: string;
  readonly sound?: string;
  /** Of a sound, where it is not 1. */
  readonly volume?: number;
  readonly effect?: string;
  readonly template?: string;
  /** Of a burst: how many of its effect came before. */
  readonly burst?: number;
  /** Of a flash that is not shown: too many have begun within a second. */
  readonly shown?: boolean;
  /** The words of a caption, and the id of the answer that was given. */
  readonly text?: string;
  readonly answer?: string;
  readonly key?: string;
  readonly action?: string;
  readonly property?: string;
  readonly input?: string;
  readonly missed?: boolean;
  /** Of an input that turns the view or changes the size in which the piece is seen. */
  readonly azimuth?: number;
  readonly elevation?: number;
  readonly width?: number;
  readonly height?: number;
  /** Of a storm: the transitions and reactions that set each other off. */
  readonly ring?: readonly string[];
  /**
   * Of a storm: a tick was asked for more instants, acts or spawns than it serves; by whom most, says `lane`, `reaction`,
   * `state` or `cue`. Of a caption that is gone, or of what was spawned: why.
   */
  readonly why?:
    | 'dates'
    | 'acts'
    | 'spawns'
    | 'time'
    | 'answer'
    | 'replaced'
    | 'removed'
    | 'asked'
    | 'limit'
    | 'parent';
  /** The record that led to this one; null for an input, an edit or a moment in time. */
  readonly cause: number | null;
}

/** What the one who raises a record says of it. */
export type TraceFields = Omit<TraceRecord, 'id' | 'tick' | 't' | 'cause'>;

/** The reason of a happening: the record that led to it, and how long the chain is at this instant. */
export interface Cause {
  readonly rec: number | null;
  readonly depth: number;
  /** Number of the thing of the event; absent or −1 for none. */
  readonly other?: number;
}

export const NO_CAUSE: Cause = { rec: null, depth: 0 };

/**
 * What the desk knows beside the piece: nothing of it is kept or undone. Each group has one owner, who sets it; everybody
 * may listen.
 */
import type { Clip } from '@apple-tick/core/model';
import type { KeepState } from './keep/keeper.ts';
import type { DrawnKind } from './model-help.ts';
import type { Selected } from './selected.ts';
import type { ObjectChange, Placed } from './things/properties.ts';
import type { Hand } from './view/live.ts';

export type Tool = 'pivot' | 'turn' | 'place' | 'size' | 'scale' | 'points' | 'pen' | 'shape';

/** What is chosen, and what of it is being named: set by `Session.select` and those who begin a renaming. */
interface Choice {
  selected: Selected;
  /** The object that was chosen last, and those chosen besides it. */
  object: string | null;
  also: readonly string[];
  /** The object whose name is being typed in the tree, or null; and what that begins with instead of the name. */
  renaming: string | null;
  renamesWith: string;
  /** What was drawn just now: the first letter that is typed begins its name. Null from the next act on. */
  naming: string | null;
  /** The reaction whose words are being changed; the others are read. */
  reaction: string | null;
  /** The way to the template that is worked in: the ids of instances, or first that of a template opened by itself. Whether it can be gone says `Session.inside`. */
  way: readonly string[];
}

/** How the piece is looked at: set by the view, its bar and the tree. */
interface Looking {
  /** Objects that are not seen while working; nothing of the piece. */
  hidden: ReadonlySet<string>;
  /** The one object that alone is shown and run, or null. */
  only: string | null;
  /** The property whose field is pointed at: its axis is shown on the view. */
  axis: string | null;
  /** The object whose swing is shown, or null. */
  swing: string | null;
  /** Off: what is masked away is drawn too, while working and in a run. */
  masks: boolean;
  /** Whether zones are drawn. */
  zones: boolean;
  /** Earlier and later poses of what is chosen are shown, and its path; how many, and how many frame numbers apart. */
  ghosts: boolean;
  ghostCount: number;
  ghostStep: number;
  /** The space that the frame is tried in. */
  space: 'own' | 'wide' | 'tall';
  /** Where the frame's centre lies from the view's, screen px. */
  pan: { x: number; y: number };
  azimuth: number;
  elevation: number;
  zoom: number;
  tool: Tool;
  /** The kind that is drawn while `tool` is `shape`. */
  shape: DrawnKind;
}

/** What the deck shows, and the clip in it: set by the lanes, the timeline and the sheets. */
interface DeckState {
  /** What the deck shows while nothing is open; what happened only in a run. */
  deck: 'lanes' | 'clips' | 'sheets' | 'happened';
  /** Lanes are shown as tables, whichever is looked at. */
  asTables: boolean;
  /** The state whose panel is to be unfolded; whether it is, says `Session.open`. */
  openState: string | null;
  /** The clip that is to be open by itself, where no panel is. */
  openClip: string | null;
  /** The cue sheet that is worked on; null: the first. */
  sheet: string | null;
  playhead: number;
  playing: boolean;
  /** How fast a clip is played while it is worked on: 1 is as it runs. */
  pace: number;
  /** Moves are to be keyed; whether they are, says `Session.keying`. */
  keying: boolean;
  /** The last press, or the focus, is in the open timeline: what is deleted and chosen as a whole are its keys. */
  inTimeline: boolean;
  /** Which motion is to be animated is being asked. */
  asksMotion: boolean;
  /** The machine that is worked on; null: the first; `NO_MACHINE`: what is chosen has none. */
  machine: string | null;
  /** The lane that is worked on: shown tall, the others as chips. Null: the machine's first. */
  lane: string | null;
  /** Things that were taken into the open clip by hand, before anything of them is keyed. */
  guests: readonly string[];
  /** The length of a clip was changed: the clip before that, and what became of its keys. */
  resized: { readonly before: Clip; readonly to: number; readonly how: 'keep' | 'stretch' } | null;
  /** A clip that was left since something was chosen that does not belong to it, and how it was open. */
  left: {
    readonly clip: string;
    readonly object: string;
    readonly open: Pick<DeckState, 'openState' | 'openClip' | 'machine' | 'lane' | 'keying' | 'playhead'>;
  } | null;
}

/** The run, as far as it is not its clock: set by `Session.startRun` and who steers it. */
interface RunningState {
  running: boolean;
  paused: boolean;
  speed: number;
  hint: string;
  /** What a hand can do with what it is over. */
  hand: Hand;
  /** Something was chosen since the run began: its properties stand above signals and log. */
  choseInRun: boolean;
  /** The run was paused since its ticks take so many ms each; null: it was not. */
  slow: number | null;
}

/** What the desk tells, each where it is read: set by whoever has something to tell. */
interface Telling {
  readOnly: boolean;
  keep: KeepState;
  /** A sentence shown over the view until it is read, or ''. */
  notice: string;
  /** A change that was refused since it would not be seen, where it was tried. */
  refused: {
    readonly where: 'view' | 'fields';
    readonly words: string;
    /** What was tried last. */
    readonly list: readonly ObjectChange[];
  } | null;
  /** Things that clips key were moved in the base: what was there before, for taking their keys along. */
  offered: { readonly words: string; readonly from: readonly Placed[] } | null;
  /** What of the piece is not there or could not be read: a sentence each. */
  missing: readonly string[];
  /** The objects that hold drawings whose files are watched. */
  watched: ReadonlySet<string>;
  /** Counts pictures that were decoded, so that what shows them is drawn anew. */
  picturesCame: number;
}

export interface UiState extends Choice, Looking, DeckState, RunningState, Telling {}

const NOTHING_CHOSEN: Choice = {
  ...{ selected: null, object: null, also: [], renaming: null, renamesWith: '', naming: null },
  ...{ reaction: null, way: [] },
};
const DECK: DeckState = {
  ...{ deck: 'lanes', asTables: false, openState: null, openClip: null, sheet: null },
  ...{ playhead: 0, playing: false, pace: 1, keying: false, inTimeline: false, asksMotion: false },
  ...{ machine: null, lane: null, guests: [], resized: null, left: null },
};
export const NOT_RUNNING: RunningState = {
  ...{ running: false, paused: false, speed: 1, hint: '', hand: '', choseInRun: false, slow: null },
};

/** How the desk is when a piece is opened. */
export function firstState(
  view: { readonly azimuth: number; readonly elevation: number },
  machine: string | null,
  told: Pick<Telling, 'readOnly' | 'missing'>,
): UiState {
  const looking: Looking = {
    ...{ hidden: new Set<string>(), only: null, axis: null, swing: null, masks: true, zones: true },
    ...{ ghosts: true, ghostCount: 2, ghostStep: 6, space: 'own', pan: { x: 0, y: 0 }, zoom: 1 },
    ...{ azimuth: view.azimuth, elevation: view.elevation, tool: 'place', shape: 'box' },
  };
  const telling: Telling = {
    ...{ keep: { kind: 'kept', at: Date.now() }, notice: '', refused: null, offered: null, picturesCame: 0 },
    watched: new Set<string>(),
    ...told,
  };
  return { ...NOTHING_CHOSEN, ...looking, ...DECK, ...NOT_RUNNING, ...telling, machine };
}

/**
 * One open piece: store, history, what is selected and open, and the run. Views subscribe to what they show. It is long
 * since choosing, editing, undoing and running each change what the others show, and this is where they meet; what each
 * works out by itself lies beside it.
 */

import type { IdKind } from '@apple-tick/core/base';
import {
  type Action,
  type Clip,
  type Condition,
  type HistoryEntry,
  isFile,
  type Lane,
  type Machine,
  onePlay,
  type SceneObject,
  type State,
  touchedIds,
  type Vec3,
} from '@apple-tick/core/model';
import { compile, compileAgain, editRun, type Program, type TraceRecord } from '@apple-tick/core/run';
import { allParts, type Player, Runtime } from '@apple-tick/player';
import { createStore } from 'zustand/vanilla';
import { sounds } from '../features/sounds/edit.ts';
import { hintOf, homesOf, insideOf, wayTo } from './inside.ts';
import { settleDrafts } from './keep/drafts.ts';
import { Keeper, type KeepState } from './keep/keeper.ts';
import type { Kept } from './keep/loading.ts';
import { missingFiles, picturesOf } from './keep/pictures.ts';
import {
  ancestorsOf,
  type Editor,
  type History,
  IdSource,
  onlyThis,
  type Piece,
  type PieceStore,
  type TableName,
} from './model-help.ts';
import { keepingChosenKeys } from './motion/keys.ts';
import { isThere, type Selected } from './selected.ts';
import { withPivot } from './things/pivot.ts';
import { refuses } from './things/properties.ts';
import { firstState, NOT_RUNNING, type UiState } from './ui-state.ts';
import { handOver } from './view/live.ts';
import { RunLog } from './words/run-log.ts';

/** What commands ask of the page that shows the piece. */
export interface Page {
  readonly go: (path: string) => void;
  readonly show: (dialog: 'keys' | 'search') => void;
  /** Asks for files to bring in. */
  readonly bringIn: () => void;
  /** Brings files in, about a point of the piece, dropped on an object. */
  readonly take: (files: Iterable<File>, place: { at: Vec3 | null; over: string | null }) => void;
  /** Asks for a newer version of the file of the drawing that `root` holds; `watch`: and again whenever it changes. */
  readonly newer: (root: string, watch?: boolean) => void;
  /** Keeps the picture of the drawing that `root` holds as large as its file has it. */
  readonly whole: (root: string) => void;
}

export interface Worked {
  /** The object that it is about. */
  readonly owner?: string;
  readonly action?: Action | undefined;
  readonly condition?: Condition | undefined;
  readonly putActions?: (more: readonly Action[]) => void;
  readonly putConditions?: (more: readonly Condition[]) => void;
  /** Takes what is copied out of its list. */
  readonly take: () => void;
}

/** Stands for a machine where what is chosen has none. */
export const NO_MACHINE = '';

/** The clip whose timeline is open, and the state whose panel it is, if it was opened there. */
export interface Open {
  readonly clip: Clip;
  readonly at: { readonly machine: Machine; readonly lane: Lane; readonly state: State } | null;
}

/** One drag or the like; its edits are one step. */
export interface Gesture {
  readonly end: () => void;
  /** Takes back everything since it began. */
  readonly cancel: () => void;
}

export class Session {
  readonly store: PieceStore;
  readonly history: History;
  readonly keeper: Keeper;
  readonly ui;
  /** The pictures of the piece, for the painter. */
  readonly pictures;
  runtime: Runtime | null = null;
  /** The page that shows it, while one does. */
  page: Page | null = null;
  /** The run's time and the newest record of its log: apart from the rest, since they change with every frame. */
  readonly clock = createStore(() => ({ tick: 0, happened: 0 }));
  log: RunLog;
  private readonly ids: IdSource;

  constructor(kept: Kept, readOnly: boolean, onKeep: (state: KeepState) => void = () => {}) {
    this.store = kept.store;
    this.history = kept.history;
    this.log = new RunLog(kept.store);
    this.ids = new IdSource(kept.store);
    this.ui = createStore<UiState>(() =>
      firstState(kept.store.head.view, kept.store.ids('machines')[0] ?? null, {
        readOnly,
        missing: kept.left,
      }),
    );
    this.keeper = new Keeper(kept, (keep) => {
      if (keep.kind !== 'waiting' || this.state.keep.kind !== 'waiting') this.ui.setState({ keep });
      onKeep(keep);
    });
    // A broken keeping is written anew without what was left out, an older one in its new form; what the page before left
    // behind is kept first of all.
    if (!readOnly && (kept.left.length > 0 || kept.isOlder || !this.keeper.isKept)) void this.keeper.flush();
    this.pictures = picturesOf(
      (id) => this.store.get('assets', id),
      () => {
        this.set({ picturesCame: this.state.picturesCame + 1 });
        void this.lookForFiles();
      },
    );
    this.store.subscribe(() => {
      const { inside } = this;
      // What was worked in may have been undone, or deleted.
      if (inside.length < this.state.way.length) this.goInside(inside.map((x) => x.id));
    });
    this.store.subscribe(() => {
      if (this.player) editRun(this.player.run, this.runPiece());
    });
    this.ui.subscribe(({ paused, speed }) => {
      const { player } = this;
      if (!player) return;
      player.paused = paused;
      player.speed = speed;
    });
    void this.lookForFiles();
  }

  /** Tells which pictures and sounds are not there. */
  private async lookForFiles(): Promise<void> {
    const found = await missingFiles(this.store.all('assets').filter(isFile));
    const told = new Set(this.state.missing);
    const more = found.filter((x) => !this.told.has(x) && !told.has(x));
    for (const x of more) this.told.add(x);
    if (more.length > 0) this.set({ missing: [...this.state.missing, ...more] });
  }
  private readonly told = new Set<string>();

  get player(): Player | null {
    return this.runtime?.player ?? null;
  }
  get state(): UiState {
    return this.ui.getState();
  }
  set(part: Partial<UiState>): void {
    this.ui.setState(part);
  }
  select(selected: Selected): void {
    this.set({ choseInRun: true });
    if (selected?.kind === 'object' && selected.id.includes('/')) {
      // What lies in an instance is chosen with it.
      const whole = this.objectOf(selected.id);
      this.select(whole ? { kind: 'object', id: whole.id } : null);
    } else if (selected?.kind === 'object') {
      // The points that could be taken hold of were the other object's.
      const tool =
        this.state.tool === 'points' && selected.id !== this.state.object ? 'place' : this.state.tool;
      this.set({ selected, object: selected.id, also: [], tool, refused: null });
      this.bringLanes([selected.id]);
      if (selected.id !== this.state.offered?.from[0]?.object) this.set({ offered: null });
    } else if (selected?.kind === 'state' || selected?.kind === 'transition')
      this.set({ selected, machine: selected.machine, lane: selected.lane });
    else if (selected?.kind === 'keys') {
      // What is keyed is what one works on, where it is one thing.
      const [first, ...others] = selected.keys;
      const one = first && others.every((k) => k.object === first.object) ? first.object : null;
      this.set(one === null ? { selected } : { selected, object: one, also: [] });
    } else if (selected?.kind === 'sheetCue')
      this.set({ selected, sheet: selected.sheet, deck: 'sheets', openState: null, openClip: null });
    else this.set({ selected });
  }

  /** What is worked in, the outermost first: instances and their templates, as far as the piece has them still. */
  get inside(): readonly { readonly id: string; readonly template: string }[] {
    return insideOf(this.store, this.state.way);
  }
  /** Works in what this way leads to; an empty one is the piece itself. Nothing is chosen or open there yet. */
  goInside(way: readonly string[]): void {
    settleDrafts();
    this.set({
      ...{ way, selected: null, object: null, also: [], renaming: null, only: null, swing: null },
      ...{
        openState: null,
        openClip: null,
        keying: false,
        playing: false,
        machine: null,
        lane: null,
        sheet: null,
      },
      ...{ refused: null, offered: null },
    });
    this.store.enter(this.inside.at(-1)?.template ?? null);
  }
  /** One step out of what is worked in, choosing what it was. */
  goOut(): void {
    const { inside } = this;
    const last = inside.at(-1);
    if (!last) return;
    this.goInside(inside.slice(0, -1).map((x) => x.id));
    if (this.store.has('objects', last.id)) this.select({ kind: 'object', id: last.id });
  }
  /** The name under which a run knows something of what is worked in, of the instance that is looked at. */
  inRun(id: string): string {
    const { way } = this.state;
    // The piece's own signals are seen there, too.
    const isOuter = way.length === 0 || (this.store.has('signals', id) && this.store.homeOf(id) === null);
    return isOuter ? id : `${way.join('/')}/${id}`;
  }
  /** The object of what is worked in that something on the screen belongs to, by the id that it has there. */
  objectOf(id: string): SceneObject | undefined {
    const first = id.split('/')[0] as string;
    return this.store.homeOf(first) === this.store.scope ? this.store.get('objects', first) : undefined;
  }

  /** The machine that is worked on: the one chosen, else the first. */
  get machine(): Machine | undefined {
    const { machine } = this.state;
    if (machine === NO_MACHINE) return undefined;
    return (
      (machine === null ? undefined : this.store.get('machines', machine)) ?? this.store.all('machines')[0]
    );
  }

  /**
   * The panel that is unfolded, and the clip in it: derived from what the piece holds now, so that an undo past its
   * making, a deletion or another machine folds it.
   */
  get open(): Open | null {
    const { openState, openClip } = this.state;
    const machine = openState === null ? undefined : this.machine;
    for (const lane of machine?.lanes ?? [])
      for (const state of lane.states) {
        const play = onePlay(state.play);
        if (state.id !== openState || !play) continue;
        const clip = this.store.get('clips', play.clip);
        return machine && clip ? { clip, at: { machine, lane, state } } : null;
      }
    const alone = openClip === null ? undefined : this.store.get('clips', openClip);
    return alone ? { clip: alone, at: null } : null;
  }
  /** The clip that moves are keyed into, or null: then they change the base. */
  get keying(): Clip | null {
    return this.state.keying ? (this.open?.clip ?? null) : null;
  }

  /** What is selected, if the piece still has it. */
  get selected(): Selected {
    const sel = this.state.selected;
    return sel && isThere(this.store, sel) ? sel : null;
  }
  /** The chosen objects in the order of choosing, those that are still there. */
  get chosen(): string[] {
    const { object, also } = this.state;
    const all = object === null ? [...also] : [...also, object];
    return all.filter((id) => this.store.has('objects', id));
  }
  /** Chooses what was made just now: a filter that would hide it gives way. */
  chooseNew(id: string): void {
    const { only } = this.state;
    if (only !== null && id !== only && !ancestorsOf(this.store, id).includes(only)) this.set({ only: null });
    this.select({ kind: 'object', id });
  }
  /** Chooses several objects; the last is the one whose handles are shown. */
  selectMany(ids: readonly string[]): void {
    const object = ids.at(-1) ?? null;
    this.set({
      choseInRun: true,
      selected: object === null ? null : { kind: 'object', id: object },
      object,
      also: ids.slice(0, -1),
    });
    this.bringLanes(ids);
  }
  /**
   * The deck shows the lanes of what was chosen last. With a clip open it stays with that, unless something was chosen that
   * does not belong to it: then the clip is left, in sight, and taking the thing into it is offered.
   */
  private bringLanes(ids: readonly string[]): void {
    const { open } = this;
    const stranger = open ? ids.find((id) => !this.isIn(open.clip, id)) : undefined;
    const last = ids.at(-1);
    this.set({ left: null, naming: null });
    if (last === undefined || (open && stranger === undefined)) return;
    if (open && stranger !== undefined) {
      const { openState, openClip, machine, lane, keying, playhead } = this.state;
      const left = {
        clip: open.clip.id,
        object: stranger,
        open: { openState, openClip, machine, lane, keying, playhead },
      };
      this.set({ openState: null, openClip: null, keying: false, playing: false, guests: [], left });
    }
    const up = [last, ...ancestorsOf(this.store, last)];
    const own = up.map((id) => this.store.all('machines').find((m) => m.object === id)).find((m) => m);
    this.set({ machine: own?.id ?? NO_MACHINE, lane: null });
  }
  /** Whether an object belongs to a clip: it lies at or below its root, or is keyed there, or was taken in. */
  private isIn(clip: Clip, id: string): boolean {
    return (
      id === clip.root ||
      ancestorsOf(this.store, id).includes(clip.root) ||
      clip.tracks.some((t) => t.object === id) ||
      this.state.guests.includes(id)
    );
  }
  /** Takes what was chosen into the clip that was left for it, and goes on there. */
  comeBack(): void {
    const { left } = this.state;
    if (!left || !this.store.has('clips', left.clip)) return;
    this.set({ ...left.open, left: null, guests: [left.object] });
  }
  /** Adds an object to the chosen ones, or takes it out. */
  toggle(id: string): void {
    const now = this.chosen;
    this.selectMany(now.includes(id) ? now.filter((x) => x !== id) : [...now, id]);
  }

  edit(name: string, change: (e: Editor) => void): void {
    if (this.state.readOnly) return;
    this.history.edit(name, change);
  }
  /** Several edits as one step of the history. */
  step(name: string, edits: () => void): void {
    // Within a gesture, or another step, all is that one's.
    if (this.gesture || this.#stepping) return edits();
    this.#stepping = true;
    this.history.begin(name);
    try {
      edits();
    } finally {
      this.history.end();
      this.#stepping = false;
    }
  }
  /** The list of actions or conditions that has the focus, while it has it: what is copied of it, and put into it. */
  worked: Worked | null = null;
  #stepping = false;
  newId(kind: IdKind): string {
    return this.ids.next(kind);
  }
  /** Moves a pivot and compensates the place, so that nothing moves on the screen. */
  movePivot(id: string, pivot: Vec3, where: 'view' | 'fields' = 'view'): void {
    // It changes the base's pivot and place, whatever is keyed.
    const moved = ['pivot', 'position'].flatMap((v) => ['x', 'y', 'z'].map((a) => [`${v}.${a}`, 0] as const));
    if (refuses(this, [{ object: id, changes: moved }], where)) return;
    this.edit(`Moved the pivot of ${this.store.get('objects', id)?.name}`, (e) =>
      e.update('objects', id, (o) => ({ ...o, base: withPivot(o.base, pivot) })),
    );
  }
  /** In the middle of a drag it takes the drag back; what is half typed is a step of its own. */
  undo(): void {
    if (this.state.readOnly) return;
    if (this.gesture) return this.gesture.cancel();
    settleDrafts();
    this.set({ offered: null });
    this.showWhere(keepingChosenKeys(this, () => this.history.undo()));
    this.tellForgotten();
  }
  redo(): void {
    if (this.state.readOnly || this.gesture) return;
    settleDrafts();
    this.showWhere(keepingChosenKeys(this, () => this.history.redo()));
    this.tellForgotten();
  }
  private tellForgotten(): void {
    if (!this.history.forgot) return;
    this.history.forgot = false;
    this.set({ notice: 'The steps before this one are broken where they were kept: they cannot be undone.' });
  }

  /** Counts the gestures that have ended: what rests while something is dragged is then drawn anew. */
  readonly idle = createStore(() => ({ gestures: 0 }));
  /** The drag, or the visit to a picker, whose edits are one step just now; at most one. */
  gesture: Gesture | null = null;
  /**
   * Begins a gesture: until it ends, all edits are one step of this name. `stop` is called when it ends or is taken back,
   * by whomever.
   */
  beginGesture(name: string, stop: () => void): Gesture {
    this.gesture?.end();
    this.history.begin(name);
    const over = (how: 'end' | 'cancel') => () => {
      if (this.gesture !== gesture) return;
      this.gesture = null;
      try {
        keepingChosenKeys(this, () => this.history[how]());
      } finally {
        stop();
        this.idle.setState({ gestures: this.idle.getState().gestures + 1 });
      }
    };
    const gesture: Gesture = { end: over('end'), cancel: over('cancel') };
    this.gesture = gesture;
    return gesture;
  }

  /** After an undo or redo: selects what it changed, so that it is seen. */
  private showWhere(entry: HistoryEntry | null): void {
    if (!entry) return;
    const homes = homesOf(this.store, entry.diff);
    const [home] = homes;
    // What was changed lies elsewhere: there it is seen.
    if (home !== undefined && !homes.includes(this.store.scope)) this.goInside(wayTo(this.store, home));
    const objects = touchedIds(entry.diff).filter((id) => this.store.has('objects', id));
    const here = objects.filter((id) => this.store.homeOf(id) === this.store.scope);
    if (here.length > 0) this.selectMany(here.slice(0, 200));
  }
  piece(): Piece {
    return this.store.toPiece();
  }
  /** The piece compiled as it is now, for whatever shows it while it stands. */
  get program(): Program {
    const { version } = this.store;
    if (this.compiled?.version !== version)
      this.compiled = {
        version,
        program: compileAgain(
          this.piece(),
          this.compiled?.program,
          this.inside.map((x) => x.id).join('/') || null,
        ),
      };
    return this.compiled.program;
  }
  private compiled: { version: number; program: Program } | null = null;
  /** What is run: the piece, or with "only this" one object of it and the machines of what is shown. */
  private runPiece(): Piece {
    const { only } = this.state;
    return only !== null && this.store.has('objects', only) ? onlyThis(this.store, only) : this.piece();
  }
  exists(table: TableName, id: string | null): boolean {
    return id !== null && this.store.has(table, id);
  }

  /** That piece, compiled: mostly it is compiled already, for being seen. */
  private runProgram(): Program {
    const isWhole = this.state.only === null && this.inside.length === 0;
    return isWhole ? this.program : compile(this.runPiece());
  }

  startRun(): void {
    const { azimuth, elevation } = this.state;
    this.log = new RunLog(this.store);
    this.over = undefined;
    this.runtime = new Runtime(this.runProgram(), {
      view: { azimuth, elevation },
      pictures: this.pictures,
      parts: allParts(sounds),
      onTicks: (records, over) => this.took(records, over),
      onSlow: (ms) => this.set({ paused: true, slow: Math.round(ms) }),
    });
    this.set({ ...NOT_RUNNING, running: true, speed: this.state.speed, playing: false });
    this.took([], undefined);
  }

  /** What happened in a frame of the run, and what the pointer is over. */
  private took(records: readonly TraceRecord[], over: SceneObject | undefined): void {
    if (records.length > 0) this.log.add(records);
    const { run } = this.player ?? {};
    this.clock.setState({ tick: run?.tick ?? 0, happened: this.log.records.at(-1)?.id ?? 0 });
    if (over === this.over || !run) return;
    this.over = over;
    const { piece } = run.program;
    this.set({ hint: hintOf(piece, over), hand: handOver(piece, over) });
  }
  private over: SceneObject | undefined;

  stopRun(): void {
    this.runtime?.stop();
    this.runtime = null;
    this.clock.setState({ tick: 0, happened: 0 });
    if (this.state.deck === 'happened') this.set({ deck: 'lanes' });
    const { speed, choseInRun } = this.state;
    this.set({ ...NOT_RUNNING, speed, choseInRun });
  }
}

/** One open piece: store, history, what is selected and open, and the run. Views subscribe to what they show. */

import type { IdKind } from '@apple-tick/core/base';
import { type HistoryEntry, touchedIds, type Vec3 } from '@apple-tick/core/model';
import { compile, type Program, type TraceRecord } from '@apple-tick/core/run';
import { Player } from '@apple-tick/player';
import { createStore } from 'zustand/vanilla';
import { Keeper, type Kept } from './keeping.ts';
import {
  type Editor,
  type History,
  IdSource,
  onlyThis,
  type Piece,
  type PieceStore,
  type TableName,
} from './model-help.ts';
import { picturesOf } from './pictures.ts';
import { withPivot } from './pivot.ts';
import { playSound } from './sounds.ts';

export type Tool = 'pivot' | 'turn' | 'place' | 'size' | 'scale' | 'points' | 'pen';
export type Selected =
  | { kind: 'object'; id: string }
  | { kind: 'state'; machine: string; lane: string; id: string }
  | { kind: 'transition'; machine: string; lane: string; id: string }
  | { kind: 'key'; clip: string; track: number; key: number }
  | { kind: 'cue'; clip: string; id: string }
  | { kind: 'signal'; id: string }
  | { kind: 'message'; id: string }
  | { kind: 'sound'; id: string }
  | null;

export interface UiState {
  selected: Selected;
  /** The object that was chosen last, and those chosen besides it. */
  object: string | null;
  also: readonly string[];
  /** Objects that are not seen while working; nothing of the piece. */
  hidden: ReadonlySet<string>;
  /** The one object that alone is shown and run, or null. */
  only: string | null;
  /** The property whose field is pointed at: its axis is shown on the view. */
  axis: string | null;
  /** Off: what is masked away is drawn too, while working and in a run. */
  masks: boolean;
  /** The space that the frame is tried in. */
  space: 'own' | 'wide' | 'tall';
  /** Where the frame's centre lies from the view's, screen px. */
  pan: { x: number; y: number };
  tool: Tool;
  azimuth: number;
  elevation: number;
  zoom: number;
  /** The state panel that is unfolded, and its clip. */
  openState: string | null;
  openClip: string | null;
  playhead: number;
  playing: boolean;
  keying: boolean;
  /** The object whose swing is shown, or null. */
  swing: string | null;
  machine: string | null;
  /** The lane that is worked on: shown tall, the others as chips. Null: the machine's first. */
  lane: string | null;
  running: boolean;
  paused: boolean;
  speed: number;
  readOnly: boolean;
  keptAt: number;
  hint: string;
  /** A sentence shown over the view until it is read, or ''. */
  notice: string;
  /** Counts pictures that were decoded, so that what shows them is drawn anew. */
  picturesCame: number;
  /** Counts ticks, so that what shows the run is drawn anew. */
  tick: number;
}

export class Session {
  readonly store: PieceStore;
  readonly history: History;
  readonly keeper: Keeper;
  readonly ui;
  /** The pictures of the piece, for the painter. */
  readonly pictures;
  player: Player | null = null;
  log: TraceRecord[] = [];
  private frame = 0;
  private readonly ids: IdSource;

  constructor(kept: Kept, readOnly: boolean) {
    this.store = kept.store;
    this.history = kept.history;
    this.ids = new IdSource(kept.store);
    const { view } = kept.store.head;
    this.ui = createStore<UiState>(() => ({
      selected: null,
      object: null,
      also: [],
      hidden: new Set(),
      only: null,
      axis: null,
      masks: true,
      space: 'own',
      pan: { x: 0, y: 0 },
      tool: 'place',
      azimuth: view.azimuth,
      elevation: view.elevation,
      zoom: 1,
      openState: null,
      openClip: null,
      playhead: 0,
      playing: false,
      keying: false,
      swing: null,
      machine: kept.store.ids('machines')[0] ?? null,
      lane: null,
      running: false,
      paused: false,
      speed: 1,
      readOnly,
      keptAt: Date.now(),
      hint: '',
      notice: '',
      picturesCame: 0,
      tick: 0,
    }));
    this.keeper = new Keeper(kept, () => this.ui.setState({ keptAt: Date.now() }));
    this.pictures = picturesOf(
      (id) => this.store.get('assets', id),
      () => this.set({ picturesCame: this.state.picturesCame + 1 }),
    );
    this.store.subscribe(() => this.player?.run.edit(this.runPiece()));
  }

  get state(): UiState {
    return this.ui.getState();
  }
  set(part: Partial<UiState>): void {
    this.ui.setState(part);
  }
  select(selected: Selected): void {
    if (selected?.kind === 'object') {
      // The points that could be taken hold of were the other object's.
      const tool =
        this.state.tool === 'points' && selected.id !== this.state.object ? 'place' : this.state.tool;
      this.set({ selected, object: selected.id, also: [], tool });
    } else if (selected?.kind === 'state' || selected?.kind === 'transition')
      this.set({ selected, machine: selected.machine, lane: selected.lane });
    else this.set({ selected });
  }

  /** The chosen objects in the order of choosing, those that are still there. */
  get chosen(): string[] {
    const { object, also } = this.state;
    const all = object === null ? [...also] : [...also, object];
    return all.filter((id) => this.store.has('objects', id));
  }
  /** Chooses several objects; the last is the one whose handles are shown. */
  selectMany(ids: readonly string[]): void {
    const object = ids.at(-1) ?? null;
    this.set({
      selected: object === null ? null : { kind: 'object', id: object },
      object,
      also: ids.slice(0, -1),
    });
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
    this.history.begin(name);
    edits();
    this.history.end();
  }
  newId(kind: IdKind): string {
    return this.ids.next(kind);
  }
  /** Moves a pivot and compensates the place, so that nothing moves on the screen. */
  movePivot(id: string, pivot: Vec3): void {
    this.edit(`Moved the pivot of ${this.store.get('objects', id)?.name}`, (e) =>
      e.update('objects', id, (o) => ({ ...o, base: withPivot(o.base, pivot) })),
    );
  }
  undo(): void {
    if (!this.state.readOnly) this.showWhere(this.history.undo());
  }
  redo(): void {
    if (!this.state.readOnly) this.showWhere(this.history.redo());
  }

  /** After an undo or redo: selects what it changed, so that it is seen. */
  private showWhere(entry: HistoryEntry | null): void {
    if (!entry) return;
    const objects = touchedIds(entry.diff).filter((id) => this.store.has('objects', id));
    if (objects.length > 0) this.selectMany(objects.slice(0, 200));
  }
  piece(): Piece {
    return this.store.toPiece();
  }
  /** The piece compiled as it is now, for whatever shows it while it stands. */
  get program(): Program {
    const { version } = this.store;
    if (this.compiled?.version !== version)
      this.compiled = { version, program: compile(this.piece(), this.compiled?.program) };
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

  startRun(): void {
    this.player = new Player(this.runPiece(), {
      azimuth: this.state.azimuth,
      elevation: this.state.elevation,
    });
    this.player.speed = this.state.speed;
    this.log = this.player.run.takeTrace();
    this.set({ running: true, paused: false, playing: false, keying: false, hint: '', selected: null });
    const loop = (t: number) => {
      const player = this.player;
      if (!player) return;
      player.paused = this.state.paused;
      player.speed = this.state.speed;
      this.took(player.advance(t));
      this.frame = requestAnimationFrame(loop);
    };
    this.frame = requestAnimationFrame(loop);
  }

  took(records: TraceRecord[]): void {
    for (const r of records) if (r.kind === 'sound' && r.sound) this.play(r.sound);
    if (records.length > 0) this.log = [...this.log, ...records].slice(-2000);
    this.set({ tick: this.player?.run.tick ?? 0 });
  }

  private play(id: string): void {
    const asset = this.store.get('assets', this.store.get('sounds', id)?.asset ?? '');
    if (asset?.kind === 'sound') void playSound(asset);
  }

  stopRun(): void {
    cancelAnimationFrame(this.frame);
    this.player = null;
    this.set({ running: false, paused: false, hint: '' });
  }
}

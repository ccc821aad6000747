/** One open piece: store, history, what is selected and open, and the run. Views subscribe to what they show. */

import { type HistoryEntry, touchedIds, type Vec3 } from '@apple-tick/core/model';
import type { TraceRecord } from '@apple-tick/core/run';
import { Player } from '@apple-tick/player';
import { createStore } from 'zustand/vanilla';
import { Keeper, type Kept } from './keeping.ts';
import {
  type Editor,
  type History,
  newIdFor,
  type Piece,
  type PieceStore,
  type TableName,
} from './model-help.ts';
import { withPivot } from './pivot.ts';

export type Tool = 'pivot' | 'turn' | 'place' | 'size' | 'scale';
export type Selected =
  | { kind: 'object'; id: string }
  | { kind: 'state'; machine: string; lane: string; id: string }
  | { kind: 'transition'; machine: string; lane: string; id: string }
  | { kind: 'key'; clip: string; track: number; key: number }
  | { kind: 'cue'; clip: string; id: string }
  | { kind: 'signal'; id: string }
  | { kind: 'message'; id: string }
  | null;

export interface UiState {
  selected: Selected;
  object: string | null;
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
  /** Counts ticks, so that what shows the run is drawn anew. */
  tick: number;
}

export class Session {
  readonly store: PieceStore;
  readonly history: History;
  readonly keeper: Keeper;
  readonly ui;
  player: Player | null = null;
  log: TraceRecord[] = [];
  private frame = 0;

  constructor(kept: Kept, readOnly: boolean) {
    this.store = kept.store;
    this.history = kept.history;
    const { view } = kept.store.head;
    this.ui = createStore<UiState>(() => ({
      selected: null,
      object: null,
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
      tick: 0,
    }));
    this.keeper = new Keeper(kept, () => this.ui.setState({ keptAt: Date.now() }));
    this.store.subscribe(() => this.player?.run.edit(this.store.toPiece()));
  }

  get state(): UiState {
    return this.ui.getState();
  }
  set(part: Partial<UiState>): void {
    this.ui.setState(part);
  }
  select(selected: Selected): void {
    if (selected?.kind === 'object') this.set({ selected, object: selected.id });
    else if (selected?.kind === 'state' || selected?.kind === 'transition')
      this.set({ selected, machine: selected.machine, lane: selected.lane });
    else this.set({ selected });
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
  newId(kind: Parameters<typeof newIdFor>[1]): string {
    return newIdFor(this.store, kind);
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
    const object = touchedIds(entry.diff).find((id) => this.store.has('objects', id));
    if (object) this.select({ kind: 'object', id: object });
  }
  piece(): Piece {
    return this.store.toPiece();
  }
  exists(table: TableName, id: string | null): boolean {
    return id !== null && this.store.has(table, id);
  }

  startRun(): void {
    this.player = new Player(this.piece(), { azimuth: this.state.azimuth, elevation: this.state.elevation });
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
    if (records.length > 0) this.log = [...this.log, ...records].slice(-2000);
    this.set({ tick: this.player?.run.tick ?? 0 });
  }

  stopRun(): void {
    cancelAnimationFrame(this.frame);
    this.player = null;
    this.set({ running: false, paused: false, hint: '' });
  }
}

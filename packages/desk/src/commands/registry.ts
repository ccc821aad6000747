/** Every command once: menus, shortcuts, search and the sheet of keys read this list. */
import {
  type ObjectKind,
  type OutsideReference,
  removeWithReferences,
  uniqueName,
} from '@apple-tick/core/model';
import { animate } from '../session/animate.ts';
import {
  chosenWords,
  copyPlacement,
  duplicate,
  hasPlacement,
  joinUnderRoot,
  pastePlacement,
} from '../session/arrange.ts';
import { deleteChosenKeys } from '../session/keys.ts';
import { capital, DRAWN_KINDS, KIND_WORDS } from '../session/model-help.ts';
import { newObject } from '../session/new-object.ts';
import type { Session } from '../session/session.ts';
import { nameOf } from '../session/words.ts';

export interface CommandInfo {
  readonly id: string;
  readonly name: string;
  /** As in `KeyboardEvent`: "Mod+z" is Ctrl or ⌘ with z. */
  readonly keys: readonly string[];
  readonly run: (s: Session) => void;
  readonly enabled?: (s: Session) => boolean;
}

export function addObject(s: Session, kind: ObjectKind): void {
  const id = s.newId('objects');
  const all = s.store.all('objects');
  const chosen = s.state.object === null ? undefined : s.store.get('objects', s.state.object);
  const parent = chosen?.kind === 'group' ? chosen.id : (chosen?.parent ?? null);
  const siblings = all.filter((o) => o.parent === parent);
  const name = uniqueName(capital(KIND_WORDS[kind]), new Set(siblings.map((o) => o.name)));
  const made = newObject(s.store, kind, id, name, parent);
  s.edit(`Added ${name}`, (e) => e.add('objects', made));
  s.select({ kind: 'object', id });
}

/** Deletes what is selected, with everything that cannot be without it. */
function deleteSelected(s: Session): void {
  const sel = s.selected;
  if (!sel) return;
  if (sel.kind === 'keys') return deleteChosenKeys(s);
  if (sel.kind === 'cue')
    s.edit('Deleted a cue', (e) =>
      e.update('clips', sel.clip, (c) => ({ ...c, cues: c.cues.filter((q) => q.id !== sel.id) })),
    );
  else {
    if (sel.kind === 'state' && isLastState(s, sel)) return;
    const ids = sel.kind === 'object' ? s.chosen : [sel.id];
    const words = sel.kind === 'object' ? chosenWords(s, ids) : nameOf(s.store, sel.id);
    s.edit(sel.kind === 'transition' ? 'Deleted a transition' : `Deleted ${words}`, (e) =>
      removeWithReferences(e, ids),
    );
  }
  if (sel.kind === 'object') s.selectMany([]);
  else s.set({ selected: null });
}

/** A lane without a state is none: its last one stays. */
function isLastState(s: Session, at: { machine: string; lane: string }): boolean {
  const lane = s.store.get('machines', at.machine)?.lanes.find((l) => l.id === at.lane);
  return (lane?.states.length ?? 0) < 2;
}

const anyChosen = (s: Session) => s.selected?.kind === 'object' && s.chosen.length > 0;

/** Says which things outside a copy it still acts on. */
export function tellOutside(s: Session, outside: readonly OutsideReference[]): void {
  const names = [...new Set(outside.map((o) => nameOf(s.store, o.id)))];
  s.set({
    notice: names.length === 0 ? '' : `The copy still acts on what lies outside it: ${names.join(', ')}.`,
  });
}

/** About the middle of the view. */
function zoomBy(s: Session, factor: number): void {
  const { zoom, pan } = s.state;
  const to = Math.max(0.1, Math.min(16, zoom * factor));
  s.set({ zoom: to, pan: { x: (pan.x * to) / zoom, y: (pan.y * to) / zoom } });
}

const running = (s: Session) => s.state.running;
export const COMMANDS: readonly CommandInfo[] = [
  { id: 'run', name: 'Run or stop', keys: ['r'], run: (s) => (running(s) ? s.stopRun() : s.startRun()) },
  {
    id: 'restart',
    name: 'Start over',
    keys: ['Shift+r'],
    run: (s) => {
      s.stopRun();
      s.startRun();
    },
  },
  {
    id: 'undo',
    name: 'Undo',
    keys: ['Mod+z'],
    run: (s) => s.undo(),
    enabled: (s) => s.history.undoName !== null,
  },
  {
    id: 'redo',
    name: 'Redo',
    keys: ['Mod+Shift+z'],
    run: (s) => s.redo(),
    enabled: (s) => s.history.redoName !== null,
  },
  {
    id: 'delete',
    name: 'Delete what is selected',
    keys: ['Delete', 'Backspace'],
    run: deleteSelected,
    enabled: (s) => s.selected !== null,
  },
  {
    id: 'duplicate',
    name: 'Duplicate with behaviour',
    keys: ['Mod+d'],
    run: (s) => tellOutside(s, duplicate(s, true)),
    enabled: anyChosen,
  },
  {
    id: 'duplicate.drawing',
    name: 'Duplicate the drawing only',
    keys: ['Mod+Shift+d'],
    run: (s) => tellOutside(s, duplicate(s, false)),
    enabled: anyChosen,
  },
  {
    id: 'placement.copy',
    name: 'Copy the placement',
    keys: ['c'],
    run: copyPlacement,
    enabled: anyChosen,
  },
  {
    id: 'placement.paste',
    name: 'Paste the placement',
    keys: ['v'],
    run: pastePlacement,
    enabled: (s) => anyChosen(s) && hasPlacement(),
  },
  {
    id: 'animate',
    name: 'Animate what is chosen',
    keys: ['a'],
    run: animate,
    enabled: (s) => s.exists('objects', s.state.object),
  },
  { id: 'draw.path', name: 'Draw a path by points', keys: ['p'], run: (s) => s.set({ tool: 'pen' }) },
  {
    id: 'join',
    name: 'Group under one root',
    keys: ['Mod+g', 'Mod+j'],
    run: joinUnderRoot,
    enabled: anyChosen,
  },
  {
    id: 'all',
    name: 'Select all objects',
    keys: ['Mod+a'],
    run: (s) => s.selectMany(s.store.ids('objects')),
  },
  {
    id: 'only',
    name: 'Only this, or all again',
    keys: ['o'],
    run: (s) => s.set({ only: s.state.only === null ? s.state.object : null }),
    enabled: (s) => s.state.only !== null || s.state.object !== null,
  },
  ...DRAWN_KINDS.map((kind) => ({
    id: `add.${kind}`,
    name: `Add ${kind === 'ellipse' ? 'an' : 'a'} ${KIND_WORDS[kind]}`,
    keys: [],
    run: (s: Session) => addObject(s, kind),
  })),
  { id: 'view.front', name: 'Front view', keys: ['1'], run: (s) => s.set({ azimuth: 0, elevation: 0 }) },
  {
    id: 'view.quarter',
    name: 'Three-quarter view',
    keys: ['2'],
    run: (s) => s.set({ azimuth: 35, elevation: 29 }),
  },
  { id: 'view.top', name: 'Top view', keys: ['3'], run: (s) => s.set({ azimuth: 0, elevation: 90 }) },
  { id: 'fit', name: 'Fit the frame', keys: ['0'], run: (s) => s.set({ zoom: 1, pan: { x: 0, y: 0 } }) },
  { id: 'zoom.in', name: 'Zoom in', keys: ['+'], run: (s) => zoomBy(s, 1.25) },
  { id: 'zoom.out', name: 'Zoom out', keys: ['-'], run: (s) => zoomBy(s, 0.8) },
  {
    id: 'fold',
    name: 'Fold the panel, let go',
    keys: ['Escape'],
    run: (s) =>
      s.open ? s.set({ openState: null, openClip: null, keying: false, playing: false }) : s.selectMany([]),
  },
];

export function runCommand(s: Session, id: string): void {
  const c = COMMANDS.find((x) => x.id === id);
  if (c && (c.enabled?.(s) ?? true)) c.run(s);
}

/** The command that a keyboard key stands for, or undefined. */
export function commandFor(e: KeyboardEvent): CommandInfo | undefined {
  const mod = e.ctrlKey || e.metaKey;
  const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
  const text = `${mod ? 'Mod+' : ''}${e.shiftKey && /^[a-z]$/.test(key) ? 'Shift+' : ''}${key}`;
  return COMMANDS.find((c) => c.keys.includes(text));
}

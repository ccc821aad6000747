/** Every command once: menus, shortcuts, search and the sheet of keys read this list. */
import {
  type OutsideReference,
  onePlay,
  removeWithReferences,
  subtreeOf,
  uniqueName,
} from '@apple-tick/core/model';
import { animate, motionsOf, openMotion } from '../session/animate.ts';
import {
  chosenWords,
  copyPlacement,
  duplicate,
  hasPlacement,
  joinUnderRoot,
  pastePlacement,
} from '../session/arrange.ts';
import { togglePlay } from '../session/clips.ts';
import { duplicateDoings } from '../session/doings.ts';
import { addCue, allKeys, deleteChosenKeys, keyChosen, reverseChosen, selectKeys } from '../session/keys.ts';
import {
  addLane,
  addMachine,
  addState,
  addTransition,
  duplicateState,
  duplicateTransition,
  openPanel,
} from '../session/machines.ts';
import {
  capital,
  DRAW_KEYS,
  DRAWN_KINDS,
  type DrawnKind,
  KIND_WORDS,
  type PieceStore,
  topOf,
} from '../session/model-help.ts';
import { newObject } from '../session/new-object.ts';
import { putRecipe, RECIPES, type Recipe } from '../session/recipes.ts';
import type { Session } from '../session/session.ts';
import { addSheet, deleteCue, doneByHand, mayBeScene, sheetOfHand, sheetOfThing } from '../session/sheets.ts';
import { addInstance, cutLoose, makeTemplate, openTemplate } from '../session/templates.ts';
import { addVisitor } from '../session/visitor.ts';
import { nameOf } from '../session/words.ts';
import { addZones } from '../session/zones.ts';

export interface CommandInfo {
  readonly id: string;
  readonly name: string;
  /** Other words by which it is found. */
  readonly find?: string;
  /** As in `KeyboardEvent`: "Mod+z" is Ctrl or ⌘ with z. */
  readonly keys: readonly string[];
  readonly place: Place;
  readonly run: (s: Session) => void;
  readonly enabled?: (s: Session) => boolean;
  /** What has to be done first where it cannot be done. */
  readonly needs?: string;
}

/** Where commands belong, in the order in which they are listed. */
export const PLACES = {
  run: 'Running',
  edit: 'Editing',
  objects: 'Objects',
  motion: 'Motion',
  view: 'View',
  piece: 'The piece',
  guide: 'Guide',
} as const;
export type Place = keyof typeof PLACES;

export function addObject(s: Session, kind: DrawnKind): void {
  const id = s.newId('objects');
  const all = s.store.all('objects');
  const chosen = s.state.object === null ? undefined : s.store.get('objects', s.state.object);
  const parent = chosen?.kind === 'group' ? chosen.id : (chosen?.parent ?? topOf(s.store));
  const siblings = all.filter((o) => o.parent === parent);
  const name = uniqueName(capital(KIND_WORDS[kind]), new Set(siblings.map((o) => o.name)));
  const made = newObject(s.store, kind, id, name, parent);
  s.edit(`Added ${name}`, (e) => e.add('objects', made));
  s.chooseNew(id);
}

/** In a piece with nothing in it: a first thing, with a recipe on it; one step. */
export function beginWith(s: Session, recipe: Recipe): void {
  s.step(`Began with: ${recipe.name.toLowerCase()}`, () => {
    addObject(s, 'rect');
    if (s.state.object !== null) putRecipe(s, recipe, s.state.object);
  });
}

/** Gives the focus to the first such thing on the screen; false when there is none. */
function goTo(selector: string): boolean {
  const found = document.querySelector<HTMLElement>(selector);
  found?.focus();
  return found !== null;
}

/** The reaction that is worked on: the one that has the focus. */
export function workedReaction(): string | null {
  return document.activeElement?.closest('[data-reaction]')?.getAttribute('data-reaction') ?? null;
}

/** Deletes what is selected, with everything that cannot be without it. */
function deleteSelected(s: Session): void {
  const sel = s.selected;
  if (!sel) return;
  const reaction = workedReaction();
  if (reaction !== null) return s.edit('Deleted a reaction', (e) => e.remove('reactions', reaction));
  // Whoever works in a timeline means what is chosen there, or nothing.
  if (sel.kind === 'object' && s.state.inTimeline && s.open)
    return s.set({ notice: 'No key is chosen in the timeline, so nothing was deleted.' });
  if (sel.kind === 'keys') return deleteChosenKeys(s);
  if (sel.kind === 'cue')
    s.edit('Deleted a cue', (e) =>
      e.update('clips', sel.clip, (c) => ({ ...c, cues: c.cues.filter((q) => q.id !== sel.id) })),
    );
  else if (sel.kind === 'sheetCue') deleteCue(s, sel.sheet, sel.id);
  else {
    if (sel.kind === 'state' && isLastState(s, sel)) return;
    const ids = sel.kind === 'object' ? s.chosen : [sel.id];
    const top = topOf(s.store);
    if (top !== null && ids.includes(top)) {
      s.set({ notice: `${nameOf(s.store, top)} is all that the template is: delete the template instead.` });
      return;
    }
    const words = sel.kind === 'object' ? chosenWords(s, ids) : nameOf(s.store, sel.id);
    const others = namingFromOutside(s.store, ids);
    s.edit(sel.kind === 'transition' ? 'Deleted a transition' : `Deleted ${words}`, (e) =>
      removeWithReferences(e, ids),
    );
    const lost = others.filter((x) => x.isLess(s.store)).map((x) => x.name);
    if (lost.length > 0)
      s.set({
        notice: `With ${words} went what others did to it: of ${[...new Set(lost)].join(', ')}. Undo brings it back.`,
      });
  }
  if (sel.kind === 'object') s.selectMany([]);
  else s.set({ selected: null });
}

/** What outside of things names them in what it does, and whether, later, less of that is there. */
function namingFromOutside(store: PieceStore, ids: readonly string[]) {
  const inside = new Set(ids.flatMap((id) => (store.has('objects', id) ? [...subtreeOf(store, id)] : [id])));
  // Ids stand in quotes, and nothing else looks like one.
  const names = (x: unknown) =>
    [...JSON.stringify(x).matchAll(/"([^"]*)"/g)].some(([, id = '']) => inside.has(id));
  const reactions = store.all('reactions').flatMap((r) =>
    inside.has(r.object) || !names([r.on, r.actions])
      ? []
      : [
          {
            name: nameOf(store, r.object),
            isLess: (now: PieceStore) =>
              (now.get('reactions', r.id)?.actions.length ?? -1) < r.actions.length,
          },
        ],
  );
  const sheets = store
    .all('cueSheets')
    .flatMap((x) =>
      names(x.cues) ? [{ name: x.name, isLess: (now: PieceStore) => now.get('cueSheets', x.id) !== x }] : [],
    );
  return [...reactions, ...sheets];
}

/** A copy of what is chosen, with or without what it does and what leads to it. */
function duplicateChosen(s: Session, along: boolean): void {
  const sel = s.selected;
  if (duplicateDoings(s, workedReaction())) return;
  if (sel?.kind !== 'state' && sel?.kind !== 'transition') return tellOutside(s, duplicate(s, along));
  const lane = s.store.get('machines', sel.machine)?.lanes.find((l) => l.id === sel.lane);
  if (lane && sel.kind === 'transition') return duplicateTransition(s, sel.machine, lane, sel.id);
  const state = lane?.states.find((x) => x.id === sel.id);
  if (lane && state) duplicateState(s, sel.machine, lane, state, along);
}

/** A lane without a state is none: its last one stays. */
function isLastState(s: Session, at: { machine: string; lane: string }): boolean {
  const lane = s.store.get('machines', at.machine)?.lanes.find((l) => l.id === at.lane);
  return (lane?.states.length ?? 0) < 2;
}

/** The one instance that is chosen. */
const instanceOf = (s: Session) => {
  const o = s.selected?.kind === 'object' ? s.store.get('objects', s.selected.id) : undefined;
  return o?.kind === 'instance' && s.chosen.length === 1 ? o : undefined;
};

const ONCE_MORE = new Set(['state', 'transition', 'cue', 'sheetCue']);
const mayDuplicate = (s: Session) =>
  anyChosen(s) || ONCE_MORE.has(s.selected?.kind ?? '') || workedReaction() !== null;
const anyChosen = (s: Session) => s.selected?.kind === 'object' && s.chosen.length > 0;

/** Says which things outside a copy it still acts on. */
export function tellOutside(s: Session, outside: readonly OutsideReference[]): void {
  const names = [...new Set(outside.map((o) => nameOf(s.store, o.id)))];
  s.set({
    notice: names.length === 0 ? '' : `The copy still acts on what lies outside it: ${names.join(', ')}.`,
  });
}

/** A kind with its article. */
const a = (kind: DrawnKind) => `${kind === 'ellipse' ? 'an' : 'a'} ${KIND_WORDS[kind]}`;

/** About the middle of the view. */
function zoomBy(s: Session, factor: number): void {
  const { zoom, pan } = s.state;
  const to = Math.max(0.1, Math.min(16, zoom * factor));
  s.set({ zoom: to, pan: { x: (pan.x * to) / zoom, y: (pan.y * to) / zoom } });
}

const FOLDED = { openState: null, openClip: null, keying: false, playing: false } as const;
/** The state that is chosen, where it plays a clip. */
function chosenState(s: Session) {
  const sel = s.selected;
  if (sel?.kind !== 'state') return undefined;
  const lane = s.store.get('machines', sel.machine)?.lanes.find((l) => l.id === sel.lane);
  const state = lane?.states.find((x) => x.id === sel.id);
  return lane && state && onePlay(state.play) ? { machine: sel.machine, lane, state } : undefined;
}

const running = (s: Session) => s.state.running;
const noLane = (s: Session) => s.machine === undefined;
const laneOf = (s: Session) => s.machine?.lanes.find((l) => l.id === s.state.lane) ?? s.machine?.lanes[0];
const nextState = (s: Session) => {
  const sel = s.selected;
  const states = laneOf(s)?.states ?? [];
  const at = sel?.kind === 'state' ? states.findIndex((x) => x.id === sel.id) : -1;
  return at < 0 ? undefined : states[at + 1];
};
export const COMMANDS: readonly CommandInfo[] = [
  {
    id: 'run',
    place: 'run',
    name: 'Run or stop',
    keys: ['r'],
    run: (s) => (running(s) ? s.stopRun() : s.startRun()),
  },
  {
    id: 'restart',
    place: 'run',
    name: 'Start over',
    keys: ['Shift+r'],
    run: (s) => {
      s.stopRun();
      s.startRun();
    },
  },
  {
    id: 'undo',
    place: 'edit',
    needs: 'nothing has been done yet',
    name: 'Undo',
    keys: ['Mod+z'],
    run: (s) => s.undo(),
    enabled: (s) => s.history.undoName !== null,
  },
  {
    id: 'redo',
    place: 'edit',
    needs: 'nothing was undone',
    name: 'Redo',
    keys: ['Mod+Shift+z'],
    run: (s) => s.redo(),
    enabled: (s) => s.history.redoName !== null,
  },
  {
    id: 'delete',
    place: 'edit',
    needs: 'choose something first',
    name: 'Delete what is selected',
    keys: ['Delete', 'Backspace'],
    run: deleteSelected,
    enabled: (s) => s.selected !== null,
  },
  {
    ...{
      id: 'rename',
      place: 'edit',
      name: 'Rename the object',
      keys: ['F2'],
      needs: 'choose an object first',
    },
    run: (s) => s.set({ renaming: s.state.object }),
    enabled: (s) => s.exists('objects', s.state.object),
  },
  {
    id: 'duplicate',
    place: 'edit',
    needs: 'choose an object, a state, a transition, a cue or a reaction first',
    name: 'Duplicate with behaviour, a state with its transitions',
    keys: ['Mod+d'],
    run: (s) => duplicateChosen(s, true),
    enabled: mayDuplicate,
  },
  {
    id: 'duplicate.drawing',
    place: 'edit',
    needs: 'choose an object or a state first',
    name: 'Duplicate the drawing only, a state alone',
    keys: ['Mod+Shift+d'],
    run: (s) => duplicateChosen(s, false),
    enabled: (s) => anyChosen(s) || s.selected?.kind === 'state',
  },
  {
    id: 'placement.copy',
    place: 'objects',
    needs: 'choose an object first',
    name: 'Copy the placement',
    keys: ['c'],
    run: copyPlacement,
    enabled: anyChosen,
  },
  {
    id: 'placement.paste',
    place: 'objects',
    needs: 'copy a placement first',
    name: 'Paste the placement',
    keys: ['v'],
    run: pastePlacement,
    enabled: (s) => anyChosen(s) && hasPlacement(),
  },
  {
    id: 'animate',
    place: 'motion',
    needs: 'choose an object first',
    name: 'Animate what is chosen',
    keys: ['a'],
    run: animate,
    enabled: (s) => s.exists('objects', s.state.object),
  },
  {
    ...{ id: 'machine.add', place: 'motion', name: 'Give what is chosen a machine of its own', keys: [] },
    needs: 'choose an object first',
    enabled: (s) => s.exists('objects', s.state.object) && !s.state.readOnly,
    run: (s) => s.state.object !== null && addMachine(s, s.state.object),
  },
  {
    ...{ id: 'keys.all', place: 'motion', name: 'Choose all keys of the timeline', keys: [] },
    needs: 'unfold a clip first',
    enabled: (s) => (s.open?.clip.tracks.length ?? 0) > 0,
    run: (s) => s.open && selectKeys(s, s.open.clip.id, allKeys(s.open.clip)),
  },
  {
    ...{ id: 'keys.reverse', place: 'motion', name: 'Reverse the chosen keys', keys: [] },
    needs: 'choose keys first',
    enabled: (s) => s.selected?.kind === 'keys' && !s.state.readOnly,
    run: reverseChosen,
  },
  ...(['box', 'near'] as const).map((kind) => ({
    id: `zone.${kind}`,
    place: 'objects' as const,
    needs: 'choose objects first',
    name: kind === 'near' ? 'Notice what comes near what is chosen' : 'Give what is chosen a zone',
    keys: [],
    run: (s: Session) => addZones(s, s.chosen, kind),
    enabled: anyChosen,
  })),
  {
    ...{
      id: 'visitor.add',
      place: 'objects',
      name: 'Add a visitor: a figure that the person walks',
      keys: [],
    },
    needs: 'there is one already: choose it',
    enabled: (s) => s.store.head.visitor === null && s.store.scope === null && !s.state.readOnly,
    run: addVisitor,
  },
  {
    ...{ id: 'zone.block', place: 'objects', name: 'Let what is chosen block what comes', keys: [] },
    needs: 'choose an object first',
    enabled: (s) => s.chosen.length > 0 && !s.state.readOnly,
    run: (s) => addZones(s, s.chosen, 'box', 'blocker'),
  },
  {
    ...{ id: 'template.make', place: 'objects', name: 'Make a template of this', keys: ['m'] },
    needs: 'choose an object first',
    enabled: (s) => anyChosen(s) && !s.state.readOnly,
    run: makeTemplate,
  },
  {
    ...{ id: 'template.open', place: 'objects', name: 'Open its template in place', keys: ['Enter'] },
    needs: 'choose one of a template first',
    enabled: (s) => instanceOf(s) !== undefined,
    run: (s) => openTemplate(s, instanceOf(s)?.id ?? ''),
  },
  {
    ...{ id: 'template.place', place: 'objects', name: 'Place another of its template', keys: [] },
    needs: 'choose one of a template first',
    enabled: (s) => instanceOf(s) !== undefined,
    run: (s) => void addInstance(s, instanceOf(s)?.template ?? ''),
  },
  {
    ...{ id: 'template.loose', place: 'objects', name: 'Cut it loose from its template', keys: [] },
    needs: 'choose one of a template first',
    enabled: (s) => instanceOf(s) !== undefined && !s.state.readOnly,
    run: (s) => cutLoose(s, instanceOf(s)?.id ?? ''),
  },
  {
    id: 'view.zones',
    place: 'view',
    name: 'Show the zones, or hide them',
    keys: [],
    run: (s) => s.set({ zones: !s.state.zones }),
  },
  ...DRAWN_KINDS.filter((kind) => kind !== 'group').map((kind) => ({
    id: `draw.${kind}`,
    place: 'objects' as const,
    name: `Draw ${a(kind)}`,
    keys: DRAW_KEYS[kind] ? [DRAW_KEYS[kind]] : [],
    run: (s: Session) => s.set({ tool: 'shape', shape: kind }),
    enabled: (s: Session) => !s.state.running,
  })),
  {
    id: 'draw.points',
    place: 'objects',
    name: 'Draw a path by points',
    keys: ['p'],
    run: (s) => s.set({ tool: 'pen' }),
  },
  {
    id: 'join',
    place: 'objects',
    needs: 'choose objects first',
    name: 'Group under one root',
    keys: ['Mod+g', 'Mod+j'],
    run: joinUnderRoot,
    enabled: anyChosen,
  },
  {
    id: 'all',
    place: 'edit',
    name: 'Select all objects; in a timeline, all keys',
    keys: ['Mod+a'],
    // In a timeline it is the keys that are meant.
    run: (s) =>
      s.state.inTimeline && s.open
        ? selectKeys(s, s.open.clip.id, allKeys(s.open.clip))
        : s.selectMany(s.store.ids('objects')),
  },
  {
    id: 'only',
    place: 'view',
    needs: 'choose an object first',
    name: 'Only this, or all again',
    keys: ['o'],
    run: (s) => s.set({ only: s.state.only === null ? s.state.object : null }),
    enabled: (s) => s.state.only !== null || s.state.object !== null,
  },
  ...DRAWN_KINDS.map((kind) => ({
    id: `add.${kind}`,
    place: 'objects' as const,
    name: `Add ${a(kind)}`,
    keys: [],
    run: (s: Session) => addObject(s, kind),
  })),
  {
    id: 'view.front',
    place: 'view',
    name: 'Front view',
    keys: ['1'],
    run: (s) => s.set({ azimuth: 0, elevation: 0 }),
  },
  {
    id: 'view.quarter',
    place: 'view',
    name: 'Three-quarter view',
    keys: ['2'],
    run: (s) => s.set({ azimuth: 35, elevation: 29 }),
  },
  {
    id: 'view.top',
    place: 'view',
    name: 'Top view',
    keys: ['3'],
    run: (s) => s.set({ azimuth: 0, elevation: 90 }),
  },
  {
    id: 'fit',
    place: 'view',
    name: 'Fit the frame',
    keys: ['0'],
    run: (s) => s.set({ zoom: 1, pan: { x: 0, y: 0 } }),
  },
  { id: 'zoom.in', place: 'view', name: 'Zoom in', keys: ['+'], run: (s) => zoomBy(s, 1.25) },
  { id: 'zoom.out', place: 'view', name: 'Zoom out', keys: ['-'], run: (s) => zoomBy(s, 0.8) },
  {
    ...{ id: 'key', place: 'motion', name: 'Key what is chosen', keys: ['Mod+Enter'] },
    needs: 'unfold a clip and choose an object first',
    run: keyChosen,
    enabled: (s) => s.open !== null && s.exists('objects', s.state.object),
  },
  {
    ...{ id: 'cue', place: 'motion', name: 'Add a cue', keys: [], needs: 'unfold a clip first' },
    run: (s) => s.open && addCue(s, s.open.clip, s.state.playhead),
    enabled: (s) => s.open !== null,
  },
  {
    ...{
      id: 'play',
      place: 'motion',
      name: 'Play the clip, or pause',
      keys: [],
      needs: 'unfold a clip first',
    },
    run: togglePlay,
    enabled: (s) => s.open !== null,
  },
  {
    ...{
      id: 'keying',
      place: 'motion',
      name: 'Key as I move, on or off',
      keys: ['k'],
      needs: 'unfold a clip first',
    },
    run: (s) => s.set({ keying: !s.state.keying }),
    enabled: (s) => s.open !== null,
  },
  {
    ...{ id: 'state.clip', place: 'motion', name: 'Add a state that plays a new clip', keys: [] },
    needs: 'give an object a machine first',
    run: (s) => {
      const [m, l] = [s.machine, laneOf(s)];
      if (m && l) addState(s, m.id, l, 'clip');
    },
    enabled: (s) => !noLane(s),
  },
  {
    ...{ id: 'transition', place: 'motion', name: 'Add a transition to the next state', keys: [] },
    needs: 'choose a state with another after it',
    run: (s) => {
      const [m, l, sel] = [s.machine, laneOf(s), s.selected];
      if (!m || !l || sel?.kind !== 'state') return;
      const next = nextState(s);
      if (next) addTransition(s, m.id, l, sel.id, next.id);
    },
    enabled: (s) => nextState(s) !== undefined,
  },
  ...RECIPES.map(
    (r): CommandInfo => ({
      ...{ id: `recipe.${r.id}`, place: 'motion', name: `Recipe: ${r.name.toLowerCase()}`, keys: [] },
      needs: 'choose an object first',
      enabled: (s) => s.state.object !== null && s.chosen.length === 1 && !s.state.readOnly,
      run: (s) => s.state.object !== null && putRecipe(s, r, s.state.object),
    }),
  ),
  {
    ...{ id: 'lanes', place: 'motion', name: 'Show the lanes', keys: [] },
    run: (s) => s.set({ deck: 'lanes', openState: null, openClip: null }),
  },
  {
    ...{ id: 'clips', place: 'motion', name: 'Show all clips', keys: [] },
    run: (s) => s.set({ deck: 'clips', openState: null, openClip: null }),
  },
  {
    ...{ id: 'deck.sheets', place: 'piece', name: 'Show the cue sheets', keys: [] },
    run: (s) => s.set({ deck: 'sheets', openState: null, openClip: null }),
  },
  {
    ...{ id: 'sheet.add', place: 'piece', name: 'Add a cue sheet', keys: [] },
    run: (s) => s.set({ sheet: addSheet(s), deck: 'sheets', openState: null, openClip: null }),
  },
  {
    ...{ id: 'sheet.hand', place: 'run', name: 'Make a cue sheet of what I did', keys: [] },
    needs: 'set a signal or send a message in a run first',
    run: sheetOfHand,
    enabled: (s) => doneByHand(s.log.records).length > 0,
  },
  {
    ...{ id: 'lane.add', place: 'motion', name: 'Add another lane to its machine', keys: [] },
    needs: 'choose a thing that has a machine first',
    run: (s) => s.machine && addLane(s, s.machine.id),
    enabled: (s) => s.machine !== undefined && s.machine !== null,
  },
  {
    ...{ id: 'sheet.thing', place: 'edit', name: 'Make a scene of what it does, in order', keys: [] },
    needs: 'choose a thing that has a motion or a look first',
    run: (s) => s.state.object !== null && sheetOfThing(s, s.state.object),
    enabled: (s) => mayBeScene(s, s.state.object),
  },
  {
    ...{ id: 'to.properties', place: 'view', name: 'Go to the properties', keys: ['e'] },
    run: () =>
      void (
        goTo('[aria-label="Properties"] [aria-label="Place x"]') ||
        goTo('[aria-label="Properties"] :is(select, input, button)')
      ),
  },
  {
    ...{ id: 'to.objects', place: 'view', name: 'Go to the objects', keys: ['w'] },
    run: () => void goTo('[role="tree"]'),
  },
  {
    ...{ id: 'to.timeline', place: 'view', name: 'Go to the timeline or the lanes', keys: ['t'] },
    run: () => void goTo('[aria-label="Timeline"], [aria-label="Deck"] [aria-label^="State "]'),
  },
  {
    ...{ id: 'ghosts', place: 'view', name: 'Ghosts and paths, on or off', keys: ['g'] },
    run: (s) => s.set({ ghosts: !s.state.ghosts }),
  },
  {
    ...{ id: 'when', place: 'motion', name: 'Say when the open motion comes', keys: ['h'] },
    needs: 'unfold a motion that does not know yet when it comes',
    run: () => document.querySelector<HTMLElement>('[data-when]')?.click(),
    enabled: (s) => s.open !== null && !s.state.readOnly,
  },
  {
    ...{
      id: 'unfold',
      place: 'motion',
      name: 'Unfold the motion of what is chosen, or fold it',
      keys: ['u'],
    },
    needs: 'choose a state, or a thing that moves',
    run: (s) => {
      if (s.open) return s.set(FOLDED);
      const at = chosenState(s);
      if (at) return openPanel(s, at.machine, at.lane, at.state);
      const [motion] = motionsOf(s, s.state.object as string);
      if (motion) openMotion(s, motion);
    },
    enabled: (s) =>
      s.open !== null ||
      chosenState(s) !== undefined ||
      (s.state.object !== null && motionsOf(s, s.state.object).length > 0),
  },
  {
    id: 'fold',
    place: 'motion',
    name: 'Fold the panel, let go, out of the template',
    keys: ['Escape'],
    run: (s) => {
      if (s.open) s.set(FOLDED);
      else if (s.selected === null && s.chosen.length === 0 && s.inside.length > 0) s.goOut();
      else s.selectMany([]);
    },
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

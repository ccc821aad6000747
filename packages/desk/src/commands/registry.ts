/** Every command once: menus, shortcuts, search and the sheet of keys read this list. */
import {
  defaultBase,
  type ObjectKind,
  orderBetween,
  type SceneObject,
  uniqueName,
  visitReferences,
} from '@apple-tick/core/model';
import type { Session } from '../session/session.ts';

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
  const last =
    siblings
      .map((o) => o.order)
      .sort()
      .at(-1) ?? null;
  const title = { group: 'Group', rect: 'Rectangle', ellipse: 'Ellipse', box: 'Box' }[kind];
  const name = uniqueName(title, new Set(siblings.map((o) => o.name)));
  const fills = { group: '#c9c2ae', rect: '#7fa982', ellipse: '#c14436', box: '#c4935a' };
  const common = { id, name, parent, order: orderBetween(last, null), tags: [], hint: '' };
  const base = { ...defaultBase(), fill: fills[kind] };
  const made: Record<ObjectKind, SceneObject> = {
    group: { ...common, base, kind: 'group' },
    rect: { ...common, base, kind: 'rect', size: [120, 80], radius: 0 },
    ellipse: { ...common, base, kind: 'ellipse', size: [80, 80] },
    box: { ...common, base, kind: 'box', size: [100, 100, 60] },
  };
  s.edit(`Added ${name}`, (e) => e.add('objects', made[kind]));
  s.select({ kind: 'object', id });
}

/** Everything that has to go with an object: what lies below it, and what points at any of that. */
export function deleteObject(s: Session, id: string): void {
  const all = s.store.all('objects');
  const gone = new Set([id]);
  for (let grew = true; grew; ) {
    grew = false;
    for (const o of all)
      if (o.parent !== null && gone.has(o.parent) && !gone.has(o.id)) {
        gone.add(o.id);
        grew = true;
      }
  }
  const name = s.store.get('objects', id)?.name ?? '';
  s.edit(`Deleted ${name}`, (e) => {
    for (const m of s.store.all('machines')) if (gone.has(m.object)) e.remove('machines', m.id);
    for (const c of s.store.all('clips')) {
      const used = s.store
        .all('machines')
        .some((m) =>
          m.lanes.some((l) => l.states.some((st) => typeof st.play === 'object' && st.play.clip === c.id)),
        );
      if (gone.has(c.root) && !used) e.remove('clips', c.id);
      else
        e.update('clips', c.id, (x) => {
          const tracks = x.tracks.filter((t) => !gone.has(t.object));
          return tracks.length === x.tracks.length ? x : { ...x, tracks };
        });
    }
    for (const r of s.store.all('reactions')) {
      let hit = false;
      visitReferences('reactions', r, (kind, ref) => {
        if (kind === 'objects' && gone.has(ref)) hit = true;
      });
      if (hit) e.remove('reactions', r.id);
    }
    for (const m of s.store.all('machines'))
      e.update('machines', m.id, (x) => ({
        ...x,
        lanes: x.lanes.map((l) => ({
          ...l,
          transitions: l.transitions.filter((t) => !(t.on?.object !== undefined && gone.has(t.on.object))),
        })),
      }));
    for (const o of [...gone].reverse()) e.remove('objects', o);
  });
  s.set({ selected: null, object: null });
}

function deleteSelected(s: Session): void {
  const sel = s.state.selected;
  if (!sel) return;
  if (sel.kind === 'object') deleteObject(s, sel.id);
  else if (sel.kind === 'key')
    s.edit('Deleted a key', (e) =>
      e.update('clips', sel.clip, (c) => ({
        ...c,
        tracks: c.tracks.flatMap((t, i) => {
          if (i !== sel.track) return [t];
          const keys = t.keys.filter((_, n) => n !== sel.key);
          return keys.length > 0 ? [{ ...t, keys }] : [];
        }),
      })),
    );
  else
    s.edit(sel.kind === 'state' ? 'Deleted a state' : 'Deleted a transition', (e) =>
      e.update('machines', sel.machine, (m) => ({
        ...m,
        lanes: m.lanes.map((l) => {
          if (l.id !== sel.lane || (sel.kind === 'state' && (l.states.length < 2 || l.initial === sel.id)))
            return l;
          return {
            ...l,
            states: l.states.filter((x) => x.id !== sel.id),
            transitions: l.transitions.filter((t) => t.id !== sel.id && t.from !== sel.id && t.to !== sel.id),
          };
        }),
      })),
    );
  if (sel.kind !== 'object') s.set({ selected: null });
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
    enabled: (s) => s.state.selected !== null,
  },
  { id: 'add.group', name: 'Add a group', keys: [], run: (s) => addObject(s, 'group') },
  { id: 'add.rect', name: 'Add a rectangle', keys: [], run: (s) => addObject(s, 'rect') },
  { id: 'add.ellipse', name: 'Add an ellipse', keys: [], run: (s) => addObject(s, 'ellipse') },
  { id: 'add.box', name: 'Add a box', keys: [], run: (s) => addObject(s, 'box') },
  { id: 'view.front', name: 'Front view', keys: ['1'], run: (s) => s.set({ azimuth: 0, elevation: 0 }) },
  {
    id: 'view.quarter',
    name: 'Three-quarter view',
    keys: ['2'],
    run: (s) => s.set({ azimuth: 35, elevation: 29 }),
  },
  { id: 'view.top', name: 'Top view', keys: ['3'], run: (s) => s.set({ azimuth: 0, elevation: 90 }) },
  { id: 'fit', name: 'Fit the frame', keys: ['0'], run: (s) => s.set({ zoom: 1 }) },
  {
    id: 'fold',
    name: 'Fold the panel, let go',
    keys: ['Escape'],
    run: (s) =>
      s.set(
        s.state.openState
          ? { openState: null, openClip: null, keying: false, playing: false }
          : { selected: null },
      ),
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

/** Deleting what is selected, with what cannot be without it. */
import { removeWithReferences, subtreeOf } from '@apple-tick/core/model';
import { deleteCue } from '../../features/sheets/edit.ts';
import { type PieceStore, topOf } from '../model-help.ts';
import { deleteChosenKeys } from '../motion/keys.ts';
import type { Session } from '../session.ts';
import { chosenWords } from '../things/arrange.ts';
import { nameOf } from '../words/words.ts';
import { workedReaction } from './worked.ts';

/** Deletes what is selected, with everything that cannot be without it. */
export function deleteSelected(s: Session): void {
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

/** A lane without a state is none: its last one stays. */
function isLastState(s: Session, at: { machine: string; lane: string }): boolean {
  const lane = s.store.get('machines', at.machine)?.lanes.find((l) => l.id === at.lane);
  return (lane?.states.length ?? 0) < 2;
}

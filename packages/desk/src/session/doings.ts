/** What is done, copied like anything else: from reactions and cues to reactions and cues, of any piece. */
import {
  type Action,
  cuesIn,
  doingsOf,
  type Excerpt,
  insertExcerpt,
  type OutsideReference,
  type Reaction,
} from '@apple-tick/core/model';
import { addCue } from './keys.ts';
import type { Session } from './session.ts';
import { addSheetCue, hookAfter, planFor, sheetOf } from './sheets.ts';

/** What the cue that is chosen does, and the thing that it is about. */
function chosenCue(s: Session): { readonly actions: readonly Action[]; readonly owner: string } | null {
  const sel = s.selected;
  if (sel?.kind === 'cue') {
    const clip = s.store.get('clips', sel.clip);
    const cue = clip?.cues.find((q) => q.id === sel.id);
    return clip && cue ? { actions: cue.actions, owner: clip.root } : null;
  }
  if (sel?.kind !== 'sheetCue') return null;
  const sheet = s.store.get('cueSheets', sel.sheet);
  const cue = sheet && cuesIn(sheet).find((q) => q.id === sel.id);
  const owner = s.state.object ?? s.store.ids('objects')[0];
  return cue && owner !== undefined ? { actions: cue.actions, owner } : null;
}

/** What is copied: the reaction that is worked on, else what the chosen cue does; null when there is neither. */
export function copyDoings(s: Session, reaction: string | null): Excerpt | null {
  const r = reaction === null ? undefined : s.store.get('reactions', reaction);
  if (r) return doingsOf(s.store, r.object, [r]);
  const cue = chosenCue(s);
  if (!cue || cue.actions.length === 0) return null;
  // Put onto an object, what a cue does is done at a click.
  const does: Reaction = {
    ...{ id: s.newId('reactions'), object: cue.owner, on: { event: 'pointer.click' }, when: [] },
    ...{ after: 0, cooldown: 0, limit: 'always', actions: [...cue.actions] },
  };
  return doingsOf(s.store, cue.owner, [does]);
}

/**
 * Puts what was copied where one works: as a cue of the open clip or of the sheet in sight, else as reactions of what is
 * chosen. One step. Returns what it still acts on elsewhere.
 */
export function pasteDoings(s: Session, x: Excerpt): readonly OutsideReference[] {
  const chosen = s.state.object ?? undefined;
  const clip = s.state.inTimeline || s.selected?.kind === 'cue' ? s.open?.clip : undefined;
  const sheet = !s.open && s.state.deck === 'sheets' ? sheetOf(s) : undefined;
  const [first] = x.roots;
  const known = first !== undefined && s.store.has('objects', first) ? first : undefined;
  const onto = clip?.root ?? (sheet ? (known ?? chosen) : chosen);
  if (onto === undefined || !s.store.has('objects', onto)) {
    s.set({ notice: 'Choose the thing that is to do this, then paste.' });
    return [];
  }
  let outside: readonly OutsideReference[] = [];
  s.step('Pasted what is done', () => {
    const before = new Set(s.store.ids('reactions'));
    s.edit('Pasted what is done', (e) => {
      outside = insertExcerpt(e, x, null, (k) => s.newId(k), onto).outside;
    });
    if (!clip && !sheet) return;
    // A cue holds what the reactions would do.
    const made = s.store.all('reactions').filter((r) => !before.has(r.id));
    // In a cue there is nothing that came.
    const actions = made.flatMap((r) => r.actions).filter((a) => !Object.values(a).includes('other'));
    s.edit('Pasted what is done', (e) => {
      for (const r of made) e.remove('reactions', r.id);
    });
    if (clip) addCue(s, clip, s.state.playhead, actions);
    else if (sheet) {
      const sel = s.selected;
      const plan = planFor(s.store, sheet);
      const at = plan.find((p) => sel?.kind === 'sheetCue' && p.cue.id === sel.id) ?? plan.at(-1);
      addSheetCue(s, sheet, hookAfter(at), 0, actions);
    }
  });
  return outside;
}

/** Another of the reaction that is worked on, or of the chosen cue, beside it. Whether there was one. */
export function duplicateDoings(s: Session, reaction: string | null): boolean {
  const r = reaction === null ? undefined : s.store.get('reactions', reaction);
  if (r) {
    s.edit('Duplicated a reaction', (e) => e.add('reactions', { ...r, id: s.newId('reactions') }));
    return true;
  }
  const cue = chosenCue(s);
  const sel = s.selected;
  if (!cue) return false;
  if (sel?.kind === 'cue' && s.open) addCue(s, s.open.clip, s.state.playhead, [...cue.actions]);
  else if (sel?.kind === 'sheetCue') {
    const sheet = s.store.get('cueSheets', sel.sheet);
    if (!sheet) return false;
    const planned = planFor(s.store, sheet).find((p) => p.cue.id === sel.id);
    addSheetCue(s, sheet, hookAfter(planned), 0, [...cue.actions]);
  }
  return true;
}

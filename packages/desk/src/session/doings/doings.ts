/** What is done, copied like anything else: from reactions and cues to reactions and cues, of any piece. */
import {
  type Action,
  cuesIn,
  type Doings,
  doingsOf,
  type Excerpt,
  insertExcerpt,
  type Lane,
  type Machine,
  namer,
  type OutsideReference,
  type Reaction,
  type RecordOf,
  uniqueName,
} from '@apple-tick/core/model';
import { addSheetCue, hookAfter, planFor, sheetOf } from '../../features/sheets/edit.ts';
import { addCue } from '../motion/keys.ts';
import { editLane } from '../motion/machines.ts';
import type { Session } from '../session.ts';

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

/** What stands for an action or a condition alone, while it is copied. */
function standIn(s: Session, object: string, part: Partial<Reaction>): Reaction {
  return {
    ...{ id: s.newId('reactions'), object, on: { event: 'pointer.click' }, when: [] },
    ...{ after: 0, cooldown: 0, limit: 'always', actions: [], ...part },
  };
}

/** What is chosen in a lane, as a machine of that alone: a state, or a transition with both its ends. */
function chosenInLane(s: Session): { readonly doings: Doings; readonly machine: Machine } | null {
  const sel = s.selected;
  if (sel?.kind !== 'state' && sel?.kind !== 'transition') return null;
  const machine = s.store.get('machines', sel.machine);
  const lane = machine?.lanes.find((l) => l.id === sel.lane);
  const way = lane?.transitions.find((t) => t.id === sel.id);
  const ends = way ? [way.from, way.to] : [sel.id];
  const states = lane?.states.filter((x) => ends.includes(x.id)) ?? [];
  const [first] = states;
  if (!machine || !lane || !first) return null;
  const alone: Lane = {
    ...{ ...lane, initial: first.id, states },
    transitions: lane.transitions.filter((t) => t.id === sel.id),
  };
  return { doings: way ? 'way' : 'states', machine: { ...machine, lanes: [alone] } };
}

/**
 * What is copied: the action or condition that has the focus; the reaction that is worked on; what the chosen cue does; the
 * state or transition that is chosen. Null when there is none of them.
 */
export function copyDoings(s: Session, reaction: string | null): Excerpt | null {
  const { worked } = s;
  const about = worked?.owner ?? s.state.object ?? s.store.ids('objects')[0];
  if (worked?.action && about)
    return doingsOf(s.store, about, [standIn(s, about, { actions: [worked.action] })], 'action');
  if (worked?.condition && about)
    return doingsOf(s.store, about, [standIn(s, about, { when: [worked.condition] })], 'condition');
  const r = reaction === null ? undefined : s.store.get('reactions', reaction);
  if (r) return doingsOf(s.store, r.object, [r]);
  const inLane = chosenInLane(s);
  if (inLane) return doingsOf(s.store, inLane.machine.object, [], inLane.doings, inLane.machine);
  const cue = chosenCue(s);
  if (!cue || cue.actions.length === 0) return null;
  // Put onto an object, what a cue does is done at a click.
  return doingsOf(s.store, cue.owner, [standIn(s, cue.owner, { actions: [...cue.actions] })]);
}

/** Puts the records of what was copied into the piece, takes them out again, and gives what they were. */
function takenIn<T extends 'reactions' | 'machines'>(
  s: Session,
  x: Excerpt,
  onto: string,
  table: T,
): { made: RecordOf<T>[]; outside: readonly OutsideReference[] } {
  const before = new Set(s.store.ids(table));
  let outside: readonly OutsideReference[] = [];
  // A clip that the thing has is shared; another comes along under a name that is free.
  const isShared = (id: string) => s.store.get('clips', id)?.root === onto;
  const clips = Object.entries(x.records.clips).filter(([id]) => !isShared(id));
  const names = namer(s.store.all('clips').flatMap((c) => (c.root === onto ? [c.name] : [])));
  const records = {
    ...x.records,
    clips: Object.fromEntries(clips.map(([id, c]) => [id, { ...c, name: names(c.name) }])),
  };
  s.edit('Pasted', (e) => {
    outside = insertExcerpt(e, { ...x, records }, null, (k) => s.newId(k), onto).outside;
  });
  const made = s.store.all(table).filter((r) => !before.has(r.id)) as RecordOf<T>[];
  s.edit('Pasted', (e) => {
    for (const r of made) e.remove(table, r.id);
  });
  return { made, outside };
}

/** Puts an action or a condition into the list that is worked on, a condition also into the chosen transition. */
function pastePart(s: Session, x: Excerpt): readonly OutsideReference[] | null {
  const { worked } = s;
  const sel = s.selected;
  const into = sel?.kind === 'transition' ? sel : null;
  const onto = worked?.owner ?? s.state.object ?? s.store.ids('objects')[0];
  if (onto === undefined) return null;
  const isAction = x.doings === 'action';
  if (isAction ? !worked?.putActions : !worked?.putConditions && !into) return null;
  let outside: readonly OutsideReference[] = [];
  s.step(isAction ? 'Pasted an action' : 'Pasted a condition', () => {
    const taken = takenIn(s, x, onto, 'reactions');
    ({ outside } = taken);
    const actions = taken.made.flatMap((r) => r.actions);
    const when = taken.made.flatMap((r) => r.when);
    if (isAction) worked?.putActions?.(actions);
    else if (worked?.putConditions) worked.putConditions(when);
    else if (into)
      editLane(s, 'Pasted a condition', into.machine, into.lane, (l) => ({
        ...l,
        transitions: l.transitions.map((t) =>
          t.id === into.id ? { ...t, when: [...t.when, ...when], set: true } : t,
        ),
      }));
  });
  return outside;
}

/**
 * States, or a way, come into the lane in sight of what is chosen; where it has no machine, they are one. A way onto a chosen
 * way gives it what it waits for; else it joins the states that have the names of its ends, which come along where there are
 * none.
 */
function pasteInLane(s: Session, x: Excerpt): readonly OutsideReference[] {
  const sel = s.selected;
  const here = sel?.kind === 'state' || sel?.kind === 'transition' ? sel : null;
  const machine =
    (here && s.store.get('machines', here.machine)) ??
    s.store.all('machines').find((m) => m.object === s.state.object);
  const onto = machine?.object ?? s.state.object;
  if (!onto || !s.store.has('objects', onto)) {
    s.set({ notice: 'Choose the thing or the lane that is to have this, then paste.' });
    return [];
  }
  let outside: readonly OutsideReference[] = [];
  s.step(x.doings === 'way' ? 'Pasted a transition' : 'Pasted a state', () => {
    const taken = takenIn(s, x, onto, 'machines');
    ({ outside } = taken);
    const made = taken.made[0]?.lanes[0];
    if (!made) return;
    const lane = machine?.lanes.find((l) => l.id === (here?.lane ?? s.state.lane)) ?? machine?.lanes[0];
    if (!machine || !lane) {
      const name = s.store.get('objects', onto)?.name ?? '';
      s.edit('Pasted', (e) =>
        e.add('machines', { id: s.newId('machines'), name, object: onto, lanes: [{ ...made, name }] }),
      );
      return;
    }
    const [way] = made.transitions;
    if (way && here?.kind === 'transition') {
      const { on, when, notBefore, crossfade, odds, set, mayRepeat } = way;
      editLane(s, 'Pasted', machine.id, lane.id, (l) => ({
        ...l,
        transitions: l.transitions.map((t) =>
          t.id === here.id ? { ...t, on, when, notBefore, crossfade, odds, set, mayRepeat } : t,
        ),
      }));
      return;
    }
    const known = new Map(lane.states.map((y) => [y.name, y.id]));
    const names = new Set(known.keys());
    const idOf = new Map<string, string>([['*', '*']]);
    const states = made.states.flatMap((y) => {
      const there = way ? known.get(y.name) : undefined;
      idOf.set(y.id, there ?? y.id);
      if (there) return [];
      const name = uniqueName(y.name, names);
      names.add(name);
      return [{ ...y, name }];
    });
    const end = (id: string) => idOf.get(id) ?? id;
    editLane(s, 'Pasted', machine.id, lane.id, (l) => ({
      ...l,
      states: [...l.states, ...states],
      transitions: [
        ...l.transitions,
        ...made.transitions.map((t) => ({ ...t, from: end(t.from), to: end(t.to) })),
      ],
    }));
    const chosen = way?.id ?? states[0]?.id;
    if (chosen)
      s.select({ kind: way ? 'transition' : 'state', machine: machine.id, lane: lane.id, id: chosen });
  });
  return outside;
}

/**
 * Puts what was copied where one works: as a cue of the open clip or of the sheet in sight, else as reactions of what is
 * chosen. One step. Returns what it still acts on elsewhere.
 */
export function pasteDoings(s: Session, x: Excerpt): readonly OutsideReference[] {
  if (x.doings === 'states' || x.doings === 'way') return pasteInLane(s, x);
  if (x.doings === 'action' || x.doings === 'condition') {
    const outside = pastePart(s, x);
    if (outside) return outside;
    if (x.doings === 'condition') {
      s.set({ notice: 'Choose the reaction or the transition that is to ask this, then paste.' });
      return [];
    }
  }
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
    if (!clip && !sheet) {
      s.edit('Pasted what is done', (e) => {
        outside = insertExcerpt(e, x, null, (k) => s.newId(k), onto).outside;
      });
      return;
    }
    // A cue holds what the reactions would do.
    const taken = takenIn(s, x, onto, 'reactions');
    ({ outside } = taken);
    // In a cue there is nothing that came.
    const actions = taken.made.flatMap((r) => r.actions).filter((a) => !Object.values(a).includes('other'));
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

/** Another of the action or condition that has the focus, of the reaction that is worked on, or of the chosen cue, beside it. Whether there was one. */
export function duplicateDoings(s: Session, reaction: string | null): boolean {
  const { worked } = s;
  if (worked?.action) worked.putActions?.([worked.action]);
  else if (worked?.condition) worked.putConditions?.([worked.condition]);
  if (worked?.action || worked?.condition) return true;
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

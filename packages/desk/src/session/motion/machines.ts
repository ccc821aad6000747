/** Edits of machines: their lanes, states and transitions lie in one record. */
import {
  type Clip,
  clipsPlayed,
  type Lane,
  type Machine,
  onePlay,
  propertyLabel,
  removeWithReferences,
  type State,
  type Transition,
  uniqueName,
} from '@apple-tick/core/model';
import { propertyValue } from '@apple-tick/core/run';
import type { Session } from '../session.ts';
import { keyProperty } from '../things/properties.ts';
import { duplicateClip, renameClip } from './clips.ts';

export function editLane(
  s: Session,
  name: string,
  machine: string,
  lane: string,
  change: (l: Lane) => Lane,
): void {
  s.edit(name, (e) =>
    e.update('machines', machine, (m) => ({
      ...m,
      lanes: m.lanes.map((l) => (l.id === lane ? change(l) : l)),
    })),
  );
}

export function addMachine(s: Session, object: string): void {
  const o = s.store.get('objects', object);
  if (!o) return;
  const id = s.newId('machines');
  const lane = newLane(s, o.name);
  s.edit(`Added a machine to ${o.name}`, (e) =>
    e.add('machines', { id, name: o.name, object, lanes: [lane] }),
  );
  s.set({ machine: id, lane: lane.id });
}

/** Brings a machine, with the thing that it is on. */
export function showMachine(s: Session, id: string): void {
  const machine = s.store.get('machines', id);
  if (!machine) return;
  s.select({ kind: 'object', id: machine.object });
  s.set({ machine: id, lane: null });
}

/** A lane begins with one state, at rest. */
export function newLane(s: Session, name: string): Lane {
  const state = s.newId('states');
  return {
    id: s.newId('lanes'),
    name,
    initial: state,
    unkeyed: 'base',
    amount: 1,
    blend: 'replace',
    states: [{ id: state, name: 'at rest', play: 'rest' }],
    transitions: [],
  };
}

export function addLane(s: Session, machine: string): void {
  const m = s.store.get('machines', machine);
  if (!m) return;
  const lane = newLane(s, uniqueName(m.name, new Set(m.lanes.map((l) => l.name))));
  s.edit(`Added a lane to ${m.name}`, (e) =>
    e.update('machines', machine, (x) => ({ ...x, lanes: [...x.lanes, lane] })),
  );
  s.set({ lane: lane.id });
}

/** Where a state stands among the others: `by` places to the right, or to the left when negative. */
export function moveState(s: Session, machine: string, lane: Lane, state: string, by: number): void {
  const from = lane.states.findIndex((x) => x.id === state);
  const to = Math.max(0, Math.min(lane.states.length - 1, from + by));
  const moved = lane.states[from];
  if (!moved || to === from) return;
  editLane(s, `Moved ${moved.name}`, machine, lane.id, (l) => {
    const states = l.states.filter((x) => x.id !== state);
    states.splice(to, 0, moved);
    return { ...l, states };
  });
}

/** A new state: with a new clip of its own, or holding, or resting. Returns its id. */
export function addState(
  s: Session,
  machine: string,
  lane: Lane,
  play: 'rest' | 'hold' | 'clip' | { clip: string; speed: number },
): string | undefined {
  const m = s.store.get('machines', machine);
  if (!m) return;
  const stem =
    play === 'rest'
      ? 'at rest'
      : play === 'hold'
        ? 'holding'
        : play === 'clip'
          ? 'moving'
          : play.speed < 0
            ? 'back'
            : (s.store.get('clips', play.clip)?.name ?? 'moving');
  const name = uniqueName(stem, new Set(lane.states.map((x) => x.name)));
  const id = s.newId('states');
  const clip: Clip | null =
    play === 'clip'
      ? {
          id: s.newId('clips'),
          name: uniqueName(
            name,
            new Set(
              s.store
                .all('clips')
                .filter((c) => c.root === m.object)
                .map((c) => c.name),
            ),
          ),
          root: m.object,
          duration: 0.7,
          loop: 'once',
          tracks: [],
          cues: [],
        }
      : null;
  const state: State = {
    id,
    name,
    play: clip
      ? { clip: clip.id, speed: 1, from: 'here' }
      : typeof play === 'object'
        ? { clip: play.clip, speed: play.speed, from: 'here' }
        : (play as 'rest' | 'hold'),
  };
  s.edit(`Added ${name}`, (e) => {
    if (clip) e.add('clips', clip);
    e.update('machines', machine, (x) => ({
      ...x,
      lanes: x.lanes.map((l) => (l.id === lane.id ? { ...l, states: [...l.states, state] } : l)),
    }));
  });
  s.select({ kind: 'state', machine, lane: lane.id, id });
  return id;
}

/** States that are written at once, at most: a whole text pasted by mistake makes no more. */
const MOST_WRITTEN = 50;

/**
 * States as they are written down, each with a clip of its own: "open, shut" makes two, "shut > opening > open" ways
 * between them, too. A name that the lane has is that state. One step.
 */
export function writeStates(s: Session, machine: Machine, lane: Lane, line: string): void {
  const chains = line.split(',').map((chain) =>
    chain
      .split('>')
      .map((name) => name.trim().slice(0, 200))
      .filter((name) => name !== ''),
  );
  const known = new Set(lane.states.map((x) => x.name));
  const made = [...new Set(chains.flat())].filter((name) => !known.has(name)).slice(0, MOST_WRITTEN);
  if (chains.flat().length === 0) return;
  const now = () => s.store.get('machines', machine.id)?.lanes.find((l) => l.id === lane.id) as Lane;
  s.step(made.length === 1 ? `Added ${made[0]}` : 'Wrote states', () => {
    for (const name of made) {
      const id = addState(s, machine.id, now(), 'clip');
      const state = now().states.find((x) => x.id === id);
      if (state) renameState(s, machine.id, now(), state, name);
      const clip = s.store.get('clips', onePlay(state?.play ?? 'rest')?.clip ?? '');
      if (clip) renameClip(s, clip, name);
    }
    const idOf = (name: string | undefined) => now().states.find((x) => x.name === name)?.id;
    for (const chain of chains)
      chain.forEach((name, k) => {
        const [from, to] = [idOf(chain[k - 1]), idOf(name)];
        if (from && to && from !== to) addTransition(s, machine.id, now(), from, to);
      });
  });
}

/** Another name for a state, unless one of its lane has it. */
export function renameState(s: Session, machine: string, lane: Lane, state: State, to: string): void {
  const name = to.trim();
  if (name === '' || lane.states.some((x) => x.name === name)) return;
  editLane(s, `Renamed ${state.name}`, machine, lane.id, (l) => ({
    ...l,
    states: l.states.map((x) => (x.id === state.id ? { ...x, name } : x)),
  }));
}

/** A copy of a state beside it, playing the same clip; its transitions are taken along, or left. Returns its id. */
export function duplicateState(
  s: Session,
  machine: string,
  lane: Lane,
  state: State,
  along: boolean,
): string {
  const id = s.newId('states');
  const name = uniqueName(state.name, new Set(lane.states.map((x) => x.name)));
  const joins = along ? lane.transitions.filter((t) => t.from === state.id || t.to === state.id) : [];
  const other = (end: string) => (end === state.id ? id : end);
  const copies = joins.map((t) => ({
    ...t,
    id: s.newId('transitions'),
    from: other(t.from),
    to: other(t.to),
  }));
  editLane(s, `Duplicated ${state.name}`, machine, lane.id, (l) => ({
    ...l,
    states: l.states.flatMap((x) => (x.id === state.id ? [x, { ...x, id, name }] : [x])),
    transitions: [...l.transitions, ...copies],
  }));
  s.select({ kind: 'state', machine, lane: lane.id, id });
  return id;
}

/** A copy of a state among the others; `slot`: how many of these, without the original, stand left of it. */
export function copyStateTo(s: Session, machine: string, lane: Lane, state: State, slot: number): void {
  s.step(`Copied ${state.name}`, () => {
    const id = duplicateState(s, machine, lane, state, false);
    const now = s.store.get('machines', machine)?.lanes.find((l) => l.id === lane.id);
    if (!now) return;
    // The original is not among those that were counted.
    const to = slot + (lane.states.indexOf(state) < slot ? 1 : 0);
    moveState(s, machine, now, id, to - now.states.findIndex((x) => x.id === id));
  });
}

/** A copy of a state beside it that plays a copy of its clip, so that either is changed by itself. */
export function duplicateWithClip(s: Session, machine: string, lane: Lane, state: State): void {
  const { play } = state;
  const clip = s.store.get('clips', onePlay(play)?.clip ?? '');
  if (!clip || typeof play !== 'object' || !('clip' in play)) return;
  s.step(`Duplicated ${state.name} with its clip`, () => {
    const own = duplicateClip(s, clip);
    const id = duplicateState(s, machine, lane, state, false);
    editLane(s, 'Gave it a clip of its own', machine, lane.id, (l) => ({
      ...l,
      states: l.states.map((x) => (x.id === id ? { ...x, play: { ...play, clip: own } } : x)),
    }));
  });
}

/** Another transition between the same two states, set off by the same: it is then the one that is changed. */
export function duplicateTransition(s: Session, machine: string, lane: Lane, transition: string): void {
  const t = lane.transitions.find((x) => x.id === transition);
  if (!t) return;
  const id = s.newId('transitions');
  editLane(s, 'Duplicated a transition', machine, lane.id, (l) => ({
    ...l,
    transitions: l.transitions.flatMap((x) => (x.id === t.id ? [x, { ...x, id }] : [x])),
  }));
  s.select({ kind: 'transition', machine, lane: lane.id, id });
}

/** A copy of a lane after it, with states and transitions of its own. */
export function duplicateLane(s: Session, machine: string, lane: Lane): void {
  const m = s.store.get('machines', machine);
  if (!m) return;
  const states = new Map(lane.states.map((x) => [x.id, s.newId('states')]));
  const other = (id: string) => states.get(id) ?? id;
  const copy: Lane = {
    ...lane,
    id: s.newId('lanes'),
    name: uniqueName(lane.name, new Set(m.lanes.map((l) => l.name))),
    initial:
      typeof lane.initial === 'string'
        ? other(lane.initial)
        : { draw: lane.initial.draw.map((d) => ({ ...d, state: other(d.state) })) },
    states: lane.states.map((x) => ({ ...x, id: other(x.id) })),
    transitions: lane.transitions.map((t) => ({
      ...t,
      id: s.newId('transitions'),
      from: other(t.from),
      to: other(t.to),
    })),
  };
  s.edit(`Duplicated ${lane.name}`, (e) =>
    e.update('machines', machine, (x) => ({
      ...x,
      lanes: x.lanes.flatMap((l) => (l.id === lane.id ? [l, copy] : [l])),
    })),
  );
  s.set({ lane: copy.id });
}

/** Deletes a lane, or with its last lane the machine, and what refers to it. */
export function deleteLane(s: Session, machine: Machine, lane: Lane): void {
  const whole = machine.lanes.length < 2;
  s.edit(`Deleted ${whole ? machine.name : lane.name}`, (e) =>
    removeWithReferences(e, [whole ? machine.id : lane.id]),
  );
  s.set({ lane: null, selected: null });
}

/** Keys a property in a clip that leaves it as it is, at its start, as it then is: so the clip says it by itself. */
export function fillGap(s: Session, clip: Clip, object: string, property: string): void {
  const index = s.program.objectIndex.get(object);
  const value = index === undefined ? null : propertyValue(s.program.base, index, property);
  if (value === null) return;
  s.edit(`Keyed ${propertyLabel(property)} in ${clip.name}`, (e) =>
    keyProperty(e, clip.id, object, property, value, 0),
  );
}

/** Whether what a state plays comes to an end: a clip that does not loop, or a blend of such. */
export function endsByItself(s: Session, state: State | undefined): boolean {
  const clips = clipsPlayed(state?.play ?? 'rest');
  return clips.length > 0 && clips.every((id) => s.store.get('clips', id)?.loop === 'once');
}

/** A new transition is not yet set, except from a state that plays a once-clip: then it goes when that is done. */
export function addTransition(s: Session, machine: string, lane: Lane, from: string, to: string): void {
  const once = endsByItself(
    s,
    lane.states.find((x) => x.id === from),
  );
  const waiting = lane.transitions.find((t) => waits(t, from, to));
  if (waiting) return s.select({ kind: 'transition', machine, lane: lane.id, id: waiting.id });
  const t = newTransition(s, from, to, once);
  editLane(s, 'Added a transition', machine, lane.id, (l) => ({ ...l, transitions: [...l.transitions, t] }));
  s.select({ kind: 'transition', machine, lane: lane.id, id: t.id });
}

/** Whether a transition leads this way and is not yet set: whoever wires these two sets that one. */
export function waits(t: Transition, from: string, to: string): boolean {
  return t.from === from && t.to === to && !t.set && t.on === null && t.when.length === 0;
}

/** Not yet set; or, where a once-clip is played, when that is done. */
export function newTransition(s: Session, from: string, to: string, once = false): Transition {
  return {
    id: s.newId('transitions'),
    from,
    to,
    on: once ? { event: 'state.done' } : null,
    when: [],
    notBefore: null,
    crossfade: { seconds: 0 },
    odds: null,
    enabled: true,
    set: once,
    reenter: false,
    mayRepeat: true,
  };
}

export function openPanel(s: Session, machine: string, lane: Lane, state: State): void {
  const play = onePlay(state.play);
  if (!play) return;
  // A clip in which nothing is keyed yet is there to be keyed, from its end: its start is as things stand.
  const clip = s.store.get('clips', play.clip);
  const fresh = clip?.tracks.length === 0;
  s.set({
    openState: state.id,
    inTimeline: true,
    machine,
    playhead: fresh ? clip.duration : 0,
    ...(fresh ? { keying: true } : {}),
  });
  s.select({ kind: 'state', machine, lane: lane.id, id: state.id });
}

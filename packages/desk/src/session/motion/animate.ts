/** The way from a thing to its motion: what is missing is made, unfolded, and keyed into. */
import {
  type Clip,
  type Machine,
  onePlay,
  type SceneObject,
  type State,
  uniqueName,
} from '@apple-tick/core/model';
import { ancestorsOf } from '../model-help.ts';
import type { Session } from '../session.ts';
import { newLane, newTransition } from './machines.ts';

/** Seconds of a clip that is made. */
const NEW_CLIP = 0.7;

/** A clip that moves of an object can be keyed into, and the state that plays it. */
export interface Motion {
  readonly machine: Machine;
  readonly lane: string;
  readonly state: State;
  readonly clip: Clip;
}

/** The clips that machines of an object, or of what it belongs to, play: the nearest machine's first. */
export function motionsOf(s: Session, object: string): Motion[] {
  const up = [object, ...ancestorsOf(s.store, object)];
  const machines = s.store
    .all('machines')
    .filter((m) => up.includes(m.object))
    .sort((a, b) => up.indexOf(a.object) - up.indexOf(b.object));
  const seen = new Set<string>();
  return machines.flatMap((machine) =>
    machine.lanes.flatMap((lane) =>
      lane.states.flatMap((state): Motion[] => {
        const clip = s.store.get('clips', onePlay(state.play)?.clip ?? '');
        // A clip that several states play is listed once.
        if (!clip || seen.has(clip.id)) return [];
        seen.add(clip.id);
        return [{ machine, lane: lane.id, state, clip }];
      }),
    ),
  );
}

/** Unfolds a motion with its end under the playhead; moves are keyed into it. The object stays chosen. */
export function openMotion(s: Session, m: Motion): void {
  s.set({
    machine: m.machine.id,
    lane: m.lane,
    openState: m.state.id,
    keying: true,
    playing: false,
    playhead: m.clip.duration,
  });
}

/**
 * Makes a new clip for an object, in the nearest machine there is, or one of its own; unfolds it with keying on. One
 * step. The name of the clip is what it does until it is given another.
 */
export function animateAnew(s: Session, object: SceneObject): void {
  const up = [object.id, ...ancestorsOf(s.store, object.id)];
  const machine = s.store
    .all('machines')
    .filter((m) => up.includes(m.object))
    .sort((a, b) => up.indexOf(a.object) - up.indexOf(b.object))[0];
  const root = machine?.object ?? object.id;
  const clipNames = new Set(s.store.all('clips').flatMap((c) => (c.root === root ? [c.name] : [])));
  const lane = machine?.lanes[0] ?? newLane(s, object.name);
  const name = uniqueName(
    `${object.name.toLowerCase()} moves`,
    new Set([...clipNames, ...lane.states.map((x) => x.name)]),
  );
  const clip: Clip = {
    ...{ id: s.newId('clips'), name, root, duration: NEW_CLIP, loop: 'once', tracks: [], cues: [] },
  };
  const state: State = { id: s.newId('states'), name, play: { clip: clip.id, speed: 1, from: 'here' } };
  // From where the lane begins into the motion, as soon as it is said when.
  const begins = lane.states.find((x) => x.id === lane.initial) ?? (lane.states[0] as State);
  const grown = {
    ...lane,
    states: [...lane.states, state],
    transitions: [...lane.transitions, newTransition(s, begins.id, state.id)],
  };
  const id = machine?.id ?? s.newId('machines');
  s.edit(`Animated ${object.name}`, (e) => {
    e.add('clips', clip);
    if (machine)
      e.update('machines', machine.id, (m) => ({
        ...m,
        lanes: m.lanes.map((l) => (l.id === lane.id ? grown : l)),
      }));
    else e.add('machines', { id, name: object.name, object: object.id, lanes: [grown] });
  });
  if (s.state.readOnly) return;
  s.set({
    ...{ machine: id, lane: lane.id, openState: state.id },
    ...{ keying: true, playing: false, playhead: NEW_CLIP },
  });
}

/** Animates what is chosen: with a motion there already, it is asked which one (or another). */
export function animate(s: Session): void {
  const object = s.state.object === null ? undefined : s.store.get('objects', s.state.object);
  if (!object || s.state.readOnly) return;
  if (motionsOf(s, object.id).length > 0) s.set({ asksMotion: true });
  else animateAnew(s, object);
}

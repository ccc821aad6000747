/** States that play several clips at once. */
import {
  type Clip,
  clipsPlayed,
  type Lane,
  type Machine,
  type Play,
  type State,
  uniqueName,
} from '@apple-tick/core/model';
import { firstSignal } from '../../session/doings/signals.ts';
import { editLane } from '../../session/motion/machines.ts';
import type { Session } from '../../session/session.ts';

export type Blend = Exclude<Play, string | { clip: string }>;

/** Poses that a blend is begun with where nothing is there to be blended. */
const POSES = ['low', 'high'];

/**
 * Lets a state blend: by a number, its clips standing evenly over the number's range, or added up. The clips are those
 * it played, with the others of its object; where there are not two, poses are made. One step.
 */
export function blendState(s: Session, machine: Machine, lane: Lane, state: State, range: boolean): void {
  s.step(`${state.name} ${range ? 'blends by a number' : 'adds clips up'}`, () => {
    const played = clipsPlayed(state.play);
    const own = s.store.all('clips').filter((c) => c.root === machine.object && !played.includes(c.id));
    let clips = played.length > 1 ? [...played] : [...played, ...own.map((c) => c.id)].slice(0, 5);
    if (clips.length < 2) {
      const made = newPoses(s, machine, state, POSES.slice(clips.length));
      clips = [...clips, ...made];
    }
    const signal = range ? firstSignal(s, 'number', 'amount') : '';
    const [low, high] = signalRange(s, signal);
    const at = (k: number) =>
      Math.round((low + ((high - low) * k) / Math.max(1, clips.length - 1)) * 100) / 100;
    const play: Blend = range
      ? { range: { signal, points: clips.map((clip, k) => ({ clip, at: at(k) })), phase: 'own' } }
      : { stack: clips.map((clip) => ({ clip, amount: 1 })) };
    editLane(s, 'Blended', machine.id, lane.id, (l) => ({
      ...l,
      states: l.states.map((x) => (x.id === state.id ? { ...x, play } : x)),
    }));
  });
}

/** The range of a number signal; 0 to 100 where it has none. */
export function signalRange(s: Session, id: string): readonly [number, number] {
  const signal = s.store.get('signals', id);
  return signal?.type === 'number' ? [signal.min ?? 0, signal.max ?? 100] : [0, 100];
}

function newPoses(s: Session, machine: Machine, state: State, names: readonly string[]): string[] {
  const taken = new Set(
    s.store
      .all('clips')
      .filter((c) => c.root === machine.object)
      .map((c) => c.name),
  );
  const made = names.map((stem): Clip => {
    const name = uniqueName(`${state.name} ${stem}`, taken);
    taken.add(name);
    const id = s.newId('clips');
    return { id, name, root: machine.object, duration: 0, loop: 'once', tracks: [], cues: [] };
  });
  s.edit('Added poses', (e) => {
    for (const c of made) e.add('clips', c);
  });
  return made.map((c) => c.id);
}

/** Making a transition in one act: what most likely sets it off, and perhaps the way back. One step of the history. */
import {
  isSet,
  type Lane,
  type Machine,
  onePlay,
  type State,
  type Transition,
  uniqueName,
} from '@apple-tick/core/model';
import { nearOf } from '../../features/zones/edit.ts';
import { firstSignal } from '../doings/signals.ts';
import type { Session } from '../session.ts';
import { nameOf } from '../words/words.ts';
import { editLane, endsByItself, newTransition, waits } from './machines.ts';

type Why = Partial<Pick<Transition, 'on' | 'when' | 'notBefore' | 'crossfade'>>;

export interface Likely {
  readonly words: string;
  /** It waits for a keyboard key, which is asked for. */
  readonly asksKey?: true;
  /** What sets it off; and what sets off the way back. Asked when it is chosen, since it may need something made. */
  readonly why: (key: string) => Why;
  readonly back: (key: string) => Why;
}

/** Whether there is a way back: none, the same motion turned back, or softly, faded from wherever it is. */
export type Back = 'no' | 'again' | 'softly';

/** Seconds of a soft way back. */
const SOFT = 0.3;
/** Of the other clips as many are offered as are read at a glance. */
const MOST_CLIPS = 3;

/** What most likely leads from one state to another, the likeliest first. */
export function likelyEvents(s: Session, machine: Machine, lane: Lane, from: string, to: string): Likely[] {
  const { store } = s;
  const it = nameOf(store, machine.object);
  const state = (id: string) => lane.states.find((x) => x.id === id);
  const known = store.all('signals').find((x) => x.type === 'switch');
  const signal = () => firstSignal(s, 'switch', `${it} on`);
  const click = (): Why => ({ on: { event: 'pointer.click' } });
  const done = (): Why => ({ on: { event: 'state.done' } });
  const later = (): Why => ({ notBefore: { seconds: 1 } });
  const comer = store.head.visitor && store.head.visitor.object !== machine.object;
  const playedHere = new Set([from, to].map((id) => onePlay(state(id)?.play ?? 'rest')?.clip));
  const others = store.all('clips').filter((c) => c.loop === 'once' && !playedHere.has(c.id));
  return [
    { words: `${it} is clicked`, why: click, back: click },
    // What loops, holds or rests is never done.
    ...(endsByItself(s, state(from)) ? [{ words: 'done', why: done, back: click }] : []),
    {
      words: 'the pointer comes over it',
      why: () => ({ on: { event: 'pointer.enter' } }),
      back: () => ({ on: { event: 'pointer.leave' } }),
    },
    {
      words: 'a key is pressed…',
      asksKey: true,
      why: (key) => ({ on: { event: 'key.down', key } }),
      back: (key) => ({ on: { event: 'key.up', key } }),
    },
    { words: 'the piece starts', why: () => ({ on: { event: 'piece.start' } }), back: done },
    {
      words: `${comer ? nameOf(store, store.head.visitor?.object ?? '') : 'something'} comes near`,
      why: () => ({ on: { event: 'near.enter', collider: nearOf(s, machine.object) } }),
      back: () => ({ on: { event: 'near.leave', collider: nearOf(s, machine.object) } }),
    },
    ...others.slice(-MOST_CLIPS).map((c) => ({
      words: `“${c.name}” is done`,
      why: (): Why => ({ on: { event: 'clip.done', clip: c.id } }),
      back: done,
    })),
    {
      words: `${known?.name ?? `${it} on`} is on`,
      why: () => ({ when: [{ signal: signal(), is: true }] }),
      back: () => ({ when: [{ signal: signal(), is: false }] }),
    },
    { words: 'after 1 s', why: later, back: later },
  ];
}

/** The state that turns a once-clip back, where a way back from it leads to what only rests or holds. */
function turnsBack(
  s: Session,
  lane: Lane,
  from: string,
  to: string,
): { clip: string; there: State | undefined } | null {
  const end = lane.states.find((x) => x.id === from);
  const state = lane.states.find((x) => x.id === to);
  const play = onePlay(state?.play ?? 'rest');
  if (!play || !endsByItself(s, state) || typeof end?.play !== 'string') return null;
  if (typeof play.speed !== 'number' || play.speed <= 0) return null;
  const there = lane.states.find((x) => {
    const p = onePlay(x.play);
    return p?.clip === play.clip && typeof p.speed === 'number' && p.speed < 0;
  });
  return { clip: play.clip, there };
}

/** Adds the transition, and the way back where it is asked for; the first is then chosen, unless its state is open. */
export function wire(
  s: Session,
  machine: Machine,
  lane: Lane,
  from: string,
  to: string,
  likely: Likely,
  back: Back,
  key = '',
): void {
  s.step(`Wired ${nameOf(s.store, from)} to ${nameOf(s.store, to)}`, () => {
    const made = (a: string, b: string, why: Why): Transition => {
      const t = { ...newTransition(s, a, b), ...why };
      return { ...t, set: isSet(t) };
    };
    const all = [made(from, to, likely.why(key))];
    const states: State[] = [];
    const turn = back === 'again' ? turnsBack(s, lane, from, to) : null;
    if (turn) {
      const name = uniqueName('back', new Set(lane.states.map((x) => x.name)));
      const state: State = turn.there ?? {
        ...{ id: s.newId('states'), name },
        play: { clip: turn.clip, speed: -1, from: 'here' },
      };
      if (!turn.there) states.push(state);
      // Whatever it is half-way in, it turns round there.
      all.push(
        made(to, state.id, likely.back(key)),
        made(state.id, to, likely.why(key)),
        made(state.id, from, { on: { event: 'state.done' } }),
      );
    } else if (back !== 'no')
      all.push(
        made(to, from, {
          ...likely.back(key),
          ...(back === 'softly' ? { crossfade: { seconds: SOFT } } : {}),
        }),
      );
    editLane(s, 'Added a transition', machine.id, lane.id, (l) => ({
      ...l,
      states: [...l.states, ...states],
      // What waits to be set between the two is set by this.
      transitions: [...l.transitions.filter((t) => !all.some((b) => waits(t, b.from, b.to))), ...all],
    }));
    if (s.state.openState === null)
      s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: (all[0] as Transition).id });
  });
}

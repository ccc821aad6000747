/** Making a transition in one act: what most likely sets it off, and perhaps the way back. One step of the history. */
import { isSet, type Lane, type Machine, type Transition } from '@apple-tick/core/model';
import { editLane, endsByItself, newTransition, waits } from './machines.ts';
import type { Session } from './session.ts';
import { firstSignal } from './signals.ts';
import { nameOf } from './words.ts';

type Why = Partial<Pick<Transition, 'on' | 'when' | 'notBefore'>>;

export interface Likely {
  readonly words: string;
  /** What sets it off; and what sets off the way back. Asked when it is chosen, since it may need a signal made. */
  readonly why: () => Why;
  readonly back: () => Why;
}

/** What most likely leads from one state to another, the likeliest first. */
export function likelyEvents(s: Session, machine: Machine, lane: Lane, from: string): Likely[] {
  const it = nameOf(s.store, machine.object);
  const ends = endsByItself(
    s,
    lane.states.find((x) => x.id === from),
  );
  const known = s.store.all('signals').find((x) => x.type === 'switch');
  const signal = () => firstSignal(s, 'switch', `${it} on`);
  const click = (): Why => ({ on: { event: 'pointer.click' } });
  const done = (): Why => ({ on: { event: 'state.done' } });
  const later = (): Why => ({ notBefore: { seconds: 1 } });
  return [
    { words: `${it} is clicked`, why: click, back: click },
    // What loops, holds or rests is never done.
    ...(ends ? [{ words: 'done', why: done, back: click }] : []),
    {
      words: 'the pointer comes over it',
      why: () => ({ on: { event: 'pointer.enter' } }),
      back: () => ({ on: { event: 'pointer.leave' } }),
    },
    {
      words: `${known?.name ?? `${it} on`} is on`,
      why: () => ({ when: [{ signal: signal(), is: true }] }),
      back: () => ({ when: [{ signal: signal(), is: false }] }),
    },
    { words: 'after 1 s', why: later, back: later },
  ];
}

/** Adds the transition, and the way back where it is asked for; the first is then chosen. */
export function wire(
  s: Session,
  machine: Machine,
  lane: Lane,
  from: string,
  to: string,
  likely: Likely,
  back: boolean,
): void {
  s.step(`Wired ${nameOf(s.store, from)} to ${nameOf(s.store, to)}`, () => {
    const made = (a: string, b: string, why: Why): Transition => {
      const t = { ...newTransition(s, a, b), ...why };
      return { ...t, set: isSet(t) };
    };
    const first = made(from, to, likely.why());
    const both = back ? [first, made(to, from, likely.back())] : [first];
    editLane(s, 'Added a transition', machine.id, lane.id, (l) => ({
      ...l,
      // What waits to be set between the two is set by this.
      transitions: [...l.transitions.filter((t) => !both.some((b) => waits(t, b.from, b.to))), ...both],
    }));
    s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: first.id });
  });
}

/** Copies of what is selected. */
import type { OutsideReference } from '@apple-tick/core/model';
import { duplicateState, duplicateTransition } from '../motion/machines.ts';
import type { Session } from '../session.ts';
import { duplicate } from '../things/arrange.ts';
import { nameOf } from '../words/words.ts';
import { duplicateDoings } from './doings.ts';
import { workedReaction } from './worked.ts';

/** A copy of what is chosen, with or without what it does and what leads to it. */
export function duplicateChosen(s: Session, along: boolean): void {
  const sel = s.selected;
  if (duplicateDoings(s, workedReaction())) return;
  if (sel?.kind !== 'state' && sel?.kind !== 'transition') return tellOutside(s, duplicate(s, along));
  const lane = s.store.get('machines', sel.machine)?.lanes.find((l) => l.id === sel.lane);
  if (lane && sel.kind === 'transition') return duplicateTransition(s, sel.machine, lane, sel.id);
  const state = lane?.states.find((x) => x.id === sel.id);
  if (lane && state) duplicateState(s, sel.machine, lane, state, along);
}

/** Says which things outside a copy it still acts on. */
export function tellOutside(s: Session, outside: readonly OutsideReference[]): void {
  const names = [...new Set(outside.map((o) => nameOf(s.store, o.id)))];
  s.set({
    notice: names.length === 0 ? '' : `The copy still acts on what lies outside it: ${names.join(', ')}.`,
  });
}

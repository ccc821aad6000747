/** Lanes, signals and what starts by itself. */

import { fitsSignal, type Lane, type On, type Piece } from '../model/index.ts';
import type { Add } from './known.ts';

export function checkLanes(piece: Piece, add: Add): void {
  for (const m of Object.values(piece.machines))
    m.lanes.forEach((lane, li) => {
      checkLane(lane, `machines.${m.id}.lanes[${li}]`, add);
    });
}

function checkLane(lane: Lane, at: string, add: Add): void {
  const own = new Set(lane.states.map((s) => s.id));
  const mustOwn = (id: string, path: string) => {
    if (!own.has(id)) add('reference', path, `The state "${id}" does not belong to this lane.`);
  };
  if (typeof lane.initial === 'string') mustOwn(lane.initial, `${at}.initial`);
  else for (const [i, d] of lane.initial.draw.entries()) mustOwn(d.state, `${at}.initial.draw[${i}].state`);
  lane.transitions.forEach((t, i) => {
    if (t.from !== '*') mustOwn(t.from, `${at}.transitions[${i}].from`);
    mustOwn(t.to, `${at}.transitions[${i}].to`);
    if (t.on) checkOn(t.on, `${at}.transitions[${i}].on`, false, add);
  });
}

export function checkSignals(piece: Piece, add: Add): void {
  for (const s of Object.values(piece.signals)) {
    const at = `signals.${s.id}`;
    if (s.type === 'choice' && !fitsSignal(s, s.initial))
      add('type', `${at}.initial`, 'The initial value is not one of the options.');
    if (s.type === 'number' && s.min !== undefined && s.max !== undefined && s.min > s.max)
      add('range', `${at}.min`, 'The least value is above the greatest.');
  }
}

export function checkOn(on: On, path: string, timers: boolean, add: Add): void {
  if (on.event !== 'timer') return;
  if (!timers) add('event', path, 'A transition cannot listen to a timer: give it a not-before instead.');
  else if (on.after === undefined && on.every === undefined)
    add('event', path, 'A timer needs "after", "every" or both.');
}

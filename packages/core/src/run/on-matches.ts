/** Whether an event is the one that a reaction or transition listens to. */
import type { On } from '../model/index.ts';
import type { QueuedEvent, Run } from './run.ts';

export interface Listener {
  readonly run: Run;
  /** The object that is meant when `on` names none. */
  readonly object: number;
  readonly reaction: number;
  /** Number of the lane, −1 for a reaction. */
  readonly lane: number;
  /** The object above which the event was stopped, −1 for none. */
  readonly stop: number;
}

export function onMatches(on: On, e: QueuedEvent, ctx: Listener): boolean {
  const rec = e.rec;
  if (rec.event !== on.event) return false;
  if (on.event.startsWith('pointer.')) return pointerMatches(on, e, ctx);
  if (on.event === 'timer') return rec.reaction === ctx.run.program.reactions[ctx.reaction]?.reaction.id;
  const own = ctx.lane < 0 ? undefined : ctx.run.program.lanes[ctx.lane]?.lane.id;
  const inLane = on.event.startsWith('state.') || on.event === 'lane.done';
  // In a lane, a state's event without a name means the lane's own; done: of its present entry.
  const lane = on.lane ?? (inLane && on.state === undefined ? own : undefined);
  if (lane !== undefined && rec.lane !== lane) return false;
  if (on.event === 'state.done' && on.state === undefined && own !== undefined && rec.lane === own) {
    if (ctx.run.state.lanes[ctx.lane]?.entry !== e.entry) return false;
  }
  return (
    (on.signal === undefined || on.signal === rec.signal) &&
    (on.message === undefined || on.message === rec.message) &&
    (on.key === undefined || on.key === rec.key) &&
    (on.state === undefined || on.state === rec.state) &&
    (on.clip === undefined || on.clip === rec.clip) &&
    (on.cue === undefined || on.cue === rec.cue) &&
    (on.object === undefined || rec.object === undefined || on.object === rec.object)
  );
}

function pointerMatches(on: On, e: QueuedEvent, ctx: Listener): boolean {
  const { objectIndex, geometry } = ctx.run.program;
  const wanted = on.object === undefined ? ctx.object : (objectIndex.get(on.object) ?? -1);
  if (wanted < 0) return false;
  // Enter and leave are raised once for each object; the others bubble up from the innermost.
  if (on.event === 'pointer.enter' || on.event === 'pointer.leave') return wanted === e.object;
  for (let o = e.object; o >= 0; o = geometry.parent[o] as number) {
    if (o === wanted) return true;
    if (o === ctx.stop) return false;
  }
  return false;
}

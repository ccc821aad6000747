import type { Lane } from '@apple-tick/core/model';
import { useSession, useTick } from '../../session/hooks.ts';
import { SO_FAR } from './layout.ts';

const WINDOW = 10;

/** While running: the states of a lane so far, along the last ten seconds. */
export function StatesSoFar({ lane }: { lane: Lane }) {
  const s = useSession();
  useTick();
  const run = s.player?.run;
  if (!run) return null;
  const now = run.time;
  const from = Math.max(0, now - WINDOW * 0.9);
  const own = s.inRun(lane.id);
  const entries = s.log.records.filter(
    (r) => r.lane === own && (r.kind === 'transition' || r.kind === 'start'),
  );
  const x = (t: number) => `${((Math.max(from, t) - from) / WINDOW) * 100}%`;
  return (
    <div
      className="absolute inset-x-0 top-0 z-20 bg-paper border-b border-line overflow-hidden text-[10.5px] leading-[14px] pointer-events-none"
      style={{ height: SO_FAR }}
      aria-hidden="true"
    >
      {entries.map((r, i) => {
        const end = entries[i + 1]?.t ?? now;
        if (end < from) return null;
        const entered = r.kind === 'start' ? r.state : r.to;
        const name = lane.states.find((q) => s.inRun(q.id) === entered)?.name;
        const last = i === entries.length - 1;
        return (
          <span
            key={r.id}
            className={`absolute top-0 h-full truncate px-1 border-l border-card ${last ? 'bg-leaf text-card' : 'bg-line text-ink'}`}
            style={{ left: x(r.t), width: `calc(${x(end)} - ${x(r.t)})` }}
          >
            {name}
          </span>
        );
      })}
      <span className="absolute top-0 h-full w-[2px] bg-apple" style={{ left: x(now) }} />
    </div>
  );
}

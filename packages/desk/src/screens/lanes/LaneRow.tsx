import type { Lane, Machine } from '@apple-tick/core/model';
import { placeIn } from '@apple-tick/core/run';
import { useState } from 'react';
import { timesWords, usesOfTemplate } from '../../features/templates/edit.ts';
import { useRun, useSession, useUi } from '../../session/hooks.ts';
import { activeIn } from './active.ts';
import { LaneCanvas } from './LaneCanvas.tsx';
import { LaneHead } from './LaneHead.tsx';
import { LaneTable } from './LaneTable.tsx';
import { StatesSoFar } from './StatesSoFar.tsx';
import { zoomed } from './use-lane-scroll.ts';

/** The lane that is worked on: its head, and its states as panels with arcs or as tables. */
export function LaneRow({ machine, lane, height }: { machine: Machine; lane: Lane; height: number }) {
  const s = useSession();
  const [zoom, setZoom] = useState(1);
  const table = useUi((u) => u.asTables);
  const [pointed, setPointed] = useState<string | null>(null);
  const active = lane.states[useRun((run) => activeIn(s, run, lane)) ?? -1];
  return (
    <div className="flex border-b border-line" style={{ height }}>
      <div className="w-[176px] flex-none bg-paper border-r border-line p-3 pb-2 flex flex-col">
        <div className="flex-1 min-h-0 overflow-y-auto overflow-x-hidden">
          <LaneHead machine={machine} lane={lane} onPoint={setPointed} />
          <Where />
          <p className="font-semibold text-ink-2 mt-3">Right now</p>
          <p className={`truncate ${active ? 'text-leaf' : 'text-ink-2'}`}>
            {active ? (
              <>
                {active.name} · <Age lane={lane} />
              </>
            ) : (
              'not running'
            )}
          </p>
        </div>
        <div className="flex flex-wrap gap-1 pt-1.5 flex-none">
          <button
            type="button"
            className="btn flex-1 !px-1"
            aria-pressed={table}
            onClick={() => s.set({ asTables: !table })}
          >
            as a table
          </button>
          {!table && (
            <>
              <button
                type="button"
                className="btn !px-1.5"
                aria-label="Smaller panels"
                onClick={() => setZoom(zoomed(zoom, 0.8))}
              >
                −
              </button>
              <button
                type="button"
                className="btn !px-1.5"
                title="All states side by side"
                onClick={() => setZoom(1)}
              >
                fit
              </button>
              <button
                type="button"
                className="btn !px-1.5"
                aria-label="Larger panels"
                onClick={() => setZoom(zoomed(zoom, 1.25))}
              >
                +
              </button>
            </>
          )}
        </div>
      </div>
      <div className="relative flex-1 min-w-0 flex flex-col">
        <StatesSoFar lane={lane} />
        {table ? (
          <LaneTable machine={machine} lane={lane} />
        ) : (
          <LaneCanvas machine={machine} lane={lane} zoom={zoom} onZoom={setZoom} pointed={pointed} />
        )}
      </div>
    </div>
  );
}

/** Of what lies in a template: in how many places it runs, and which of them is looked at. */
function Where() {
  const s = useSession();
  useUi((u) => u.way);
  const at = s.inside.at(-1);
  if (!at) return null;
  const instance = s.store.get('objects', at.id);
  return (
    <p className="text-ink-2 mt-2">
      Runs {timesWords(usesOfTemplate(s.store, at.template).length)}
      {instance && (
        <>
          ; looked at: <span className="text-ink">{instance.name}</span>
        </>
      )}
    </p>
  );
}

/** How long the lane's state has been active. */
function Age({ lane }: { lane: Lane }) {
  const s = useSession();
  return useRun((run) => {
    const at = run.program.laneIndex.get(s.inRun(lane.id));
    return at === undefined ? '' : `${placeIn(run, at).age.toFixed(2)} s`;
  });
}

import type { Clip } from '@apple-tick/core/model';
import { useSession, useUi } from '../../session/hooks.ts';
import { actionWords } from '../../session/words/words.ts';
import { clipTimes, HEAD, type TimeScale, xOf } from './scale.ts';

export const CUE_ROW = 26;
/** Follows the pointer as one step of this name: the time under it, snapped to `targets`. */
export type Drag = (
  name: string,
  targets: readonly number[],
  move: (t: number, e: PointerEvent) => void,
) => void;

/** The clip's cues as narrow flags with their words beside them. */
export function CueRow({ clip, scale, onDrag }: { clip: Clip; scale: TimeScale; onDrag: Drag }) {
  const s = useSession();
  const selected = useUi((u) => u.selected);
  const cues = [...clip.cues].sort((a, b) => a.t - b.t);
  return (
    <div className="flex border-t border-line" style={{ height: CUE_ROW }}>
      <div className="flex-none px-3 pt-1" style={{ width: HEAD }}>
        Cues
      </div>
      <div className="relative flex-1 overflow-hidden">
        {cues.map((q, i) => {
          const chosen = selected?.kind === 'cue' && selected.id === q.id;
          const words = q.actions.map((a) => actionWords(s.store, a)).join(', ') || 'does nothing yet';
          const room = xOf(scale, cues[i + 1]?.t ?? 1e9) - xOf(scale, q.t) - 6;
          const select = () => s.select({ kind: 'cue', clip: clip.id, id: q.id });
          return (
            <button
              key={q.id}
              type="button"
              aria-label={`Cue at ${q.t.toFixed(2)} s: ${words}`}
              aria-pressed={chosen}
              title={words}
              className="absolute top-0.5 h-[22px] cursor-grab text-[11.5px] text-card"
              style={{ left: xOf(scale, q.t) - 1, maxWidth: Math.max(14, room) }}
              onClick={select}
              onPointerDown={(e) => {
                e.stopPropagation();
                select();
                // Begun with Alt it is a copy that goes along.
                const copy = e.altKey ? s.newId('cues') : null;
                const moved = (cues: Clip['cues'], t: number) =>
                  copy !== null && !cues.some((x) => x.id === copy)
                    ? [...cues, { ...q, id: copy, t }]
                    : cues.map((x) => (x.id === (copy ?? q.id) ? { ...x, t } : x));
                const name = copy === null ? 'Moved a cue' : 'Copied a cue';
                onDrag(
                  name,
                  clipTimes(clip).filter((t) => t !== q.t),
                  (t) =>
                    s.edit(name, (ed) =>
                      ed.update('clips', clip.id, (c) => ({
                        ...c,
                        cues: moved(c.cues, Math.min(t, c.duration)),
                      })),
                    ),
                );
              }}
            >
              {/* A pole, and a flag with a cut tail. */}
              <span
                className={`absolute left-0 top-0 w-px h-[23px] ${chosen ? 'bg-brass' : 'bg-ink'}`}
                aria-hidden="true"
              />
              <span
                className={`block truncate h-[17px] leading-[17px] pl-1.5 pr-3 ${chosen ? 'bg-brass' : 'bg-ink'}`}
                style={{ clipPath: 'polygon(0 0,100% 0,calc(100% - 6px) 50%,100% 100%,0 100%)' }}
                aria-hidden="true"
              >
                {words}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
}

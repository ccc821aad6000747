import type { Clip } from '@apple-tick/core/model';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { chosenKeys } from '../../session/motion/keys.ts';
import { labelOf, nameOf } from '../../session/words/words.ts';
import { useHeight, useWidth } from '../../ui/use-width.ts';
import { CUE_ROW, CueRow } from './CueRow.tsx';
import { RULER, Ruler } from './Ruler.tsx';
import { rowsOf, type TimelineRow } from './rows.ts';
import { dragTime, rulerHands } from './ruler-hands.ts';
import { HEAD } from './scale.ts';
import { TimelineHead } from './TimelineHead.tsx';
import { AfterEnd, MoreProperties, PlayheadMark, Playing } from './TimelineParts.tsx';
import { TimelineRows, useSteadyLists } from './TimelineRows.tsx';
import { hearTimelineKey } from './timeline-keys.ts';
import { useBoxSelect } from './use-box-select.ts';
import { useTimeScale } from './use-time-scale.ts';

/** Px of the row at the end, by which more properties are keyed. */
const MORE_ROW = 30;

/** The clip of an unfolded panel: its rows, each the value itself as a curve with its pips on it. */
export function Timeline({ clip }: { clip: Clip }) {
  const s = useSession();
  useTable('objects');
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, 900);
  const height = useHeight(box, 200);
  const selected = useUi((u) => u.selected);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [search, setSearch] = useState('');
  const { fps } = s.store.head;
  const time = useTimeScale(clip, box, width, fps);
  const { scale, timeUnder } = time;

  // What is chosen, by row: a row without a chosen key always gets the same empty list.
  const keys = selected?.kind === 'keys' && selected.clip === clip.id ? (chosenKeys(s)?.keys ?? []) : [];
  const chosenByRow = useSteadyLists(keys);
  const object = useUi((u) => u.object);
  const worked = useMemo(() => {
    // Of keys chosen all over the clip no row is worked on more than the others.
    return new Set(chosenByRow.size <= 2 ? chosenByRow.keys() : []);
  }, [chosenByRow]);
  const cueRoom = clip.cues.length > 0 ? CUE_ROW : 0;
  const rows = useRows(clip, search, folded, worked, height - RULER - cueRoom - MORE_ROW);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => rows[i]?.height ?? 24,
    paddingStart: RULER + cueRoom,
    paddingEnd: MORE_ROW,
    overscan: 4,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: heights are the rows' own
  useLayoutEffect(() => virtual.measure(), [rows, virtual]);
  // Choosing an object brings its rows into sight.
  const first = rows.findIndex((r) => objectOf(clip, r) === object);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another object is chosen
  useEffect(() => {
    if (first >= 0 && selected?.kind === 'object') virtual.scrollToIndex(first, { align: 'auto' });
  }, [object]);

  const { marquee, boxFrom, boxSelect } = useBoxSelect(clip, box, scale, rows, RULER + cueRoom);
  const hands = rulerHands(s, { clip, keys, scale, localX: time.localX, timeUnder, boxFrom });
  const total = virtual.getTotalSize();
  return (
    <div className="h-full flex flex-col bg-card @container/deck" data-timeline>
      <Playing clip={clip} />
      <TimelineHead
        clip={clip}
        search={search}
        onSearch={clip.tracks.length > 6 || search !== '' ? setSearch : null}
      />
      <div
        ref={box}
        role="group"
        aria-label="Timeline"
        tabIndex={0}
        className="relative flex-1 min-h-0 overflow-y-auto overflow-x-hidden"
        onKeyDown={(e) => hearTimelineKey(s, clip, time, e)}
        onPointerDown={boxSelect}
      >
        <div className="relative" style={{ height: Math.max(total, height) }}>
          {/* Hung from the ruler, it stays when the rows are scrolled. */}
          <div className="sticky top-0 h-0 z-20 pointer-events-none">
            <PlayheadMark clip={clip} scale={scale} height={height} />
          </div>
          <AfterEnd scale={scale} duration={clip.duration} height={Math.max(total, height)} />
          <Ruler clip={clip} scale={scale} fps={fps} keys={keys} {...hands} />
          {clip.cues.length > 0 && (
            <div className="absolute inset-x-0" style={{ top: RULER }}>
              <CueRow clip={clip} scale={scale} onDrag={(...drag) => dragTime(s, timeUnder, ...drag)} />
            </div>
          )}
          {clip.tracks.length === 0 && (
            <p className="absolute p-3 text-ink-2" style={{ left: HEAD, top: RULER + cueRoom }}>
              Nothing is keyed yet. Put the playhead at a time and move something in the view: that keys it.
            </p>
          )}
          <TimelineRows
            clip={clip}
            rows={rows}
            items={virtual.getVirtualItems()}
            scale={scale}
            chosenByRow={chosenByRow}
            timeUnder={timeUnder}
            onFold={(id) => setFolded((now) => (now.has(id) ? without(now, id) : new Set([...now, id])))}
          />
          <div
            className="absolute inset-x-0 flex items-center px-3 text-ink-2"
            style={{ top: total - MORE_ROW, height: MORE_ROW }}
          >
            <MoreProperties clip={clip} />
          </div>
          {marquee && <Marquee {...marquee} />}
        </div>
      </div>
    </div>
  );
}

/** The box in which keys are being chosen, px of the canvas. */
function Marquee({ x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number }) {
  return (
    <div
      className="absolute border border-brass bg-brass/10 pointer-events-none"
      style={{ left: x0, top: y0, width: x1 - x0, height: y1 - y0 }}
    />
  );
}

/** The rows of the tracks that are looked for, as tall as the room allows, px. */
function useRows(
  clip: Clip,
  search: string,
  folded: ReadonlySet<string>,
  worked: ReadonlySet<string>,
  room: number,
) {
  const s = useSession();
  const wanted = search.trim().toLowerCase();
  return useMemo(
    () =>
      rowsOf(clip, {
        shows: (t) =>
          wanted === '' ||
          `${nameOf(s.store, t.object)} ${labelOf(s.store, t.property)}`.toLowerCase().includes(wanted),
        folded,
        chosen: worked,
        room,
      }),
    [clip, folded, worked, room, wanted, s],
  );
}

const objectOf = (clip: Clip, r: TimelineRow) =>
  r.kind === 'object' ? r.object : clip.tracks[r.track]?.object;

const without = (all: ReadonlySet<string>, id: string) => new Set([...all].filter((x) => x !== id));

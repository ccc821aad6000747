import {
  type Clip,
  type KeyId,
  keyFinder,
  keysTrack,
  moveKeys,
  stretchKeys,
  type Track,
} from '@apple-tick/core/model';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { setLength, togglePlay } from '../../session/motion/clips.ts';
import { applyKeys, chosenKeys, howMany, nudgeKeys, selectKeys } from '../../session/motion/keys.ts';
import { dragGesture, track as followPointer } from '../../session/view/drag-gesture.ts';
import { labelOf, nameOf } from '../../session/words/words.ts';
import { useHeight, useWidth } from '../../ui/use-width.ts';
import { CUE_ROW, CueRow } from './CueRow.tsx';
import { dragKeys } from './drag-keys.ts';
import { GroupRow } from './GroupRow.tsx';
import { RULER, Ruler } from './Ruler.tsx';
import { rowsOf, type TimelineRow } from './rows.ts';
import { clipTimes, HEAD, keyTimes, snapTime, timeAt, wholeClip } from './scale.ts';
import { TimelineHead } from './TimelineHead.tsx';
import { AfterEnd, MoreProperties, PlayheadMark, Playing } from './TimelineParts.tsx';
import { type GrabKey, TrackRow } from './TrackRow.tsx';

const NO_KEYS: readonly number[] = [];
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
  const [zoomed, setZoomed] = useState<{ from: number; span: number } | null>(null);
  const [marquee, setMarquee] = useState<{ x0: number; y0: number; x1: number; y1: number } | null>(null);
  const whole = wholeClip(clip);
  const from = zoomed?.from ?? whole.from;
  const span = zoomed?.span ?? whole.span;
  const scale = useMemo(() => ({ from, span, width: Math.max(100, width - HEAD) }), [from, span, width]);
  const { fps } = s.store.head;

  // What is chosen, by row: a row without a chosen key always gets the same empty list.
  const keys = selected?.kind === 'keys' && selected.clip === clip.id ? (chosenKeys(s)?.keys ?? []) : [];
  const chosenByRow = useSteadyLists(keys);
  const object = useUi((u) => u.object);
  const worked = useMemo(() => {
    // Of keys chosen all over the clip no row is worked on more than the others.
    return new Set(chosenByRow.size <= 2 ? chosenByRow.keys() : []);
  }, [chosenByRow]);
  const cueRoom = clip.cues.length > 0 ? CUE_ROW : 0;
  const wanted = search.trim().toLowerCase();
  const rows = useMemo(
    () =>
      rowsOf(clip, {
        shows: (t) =>
          wanted === '' ||
          `${nameOf(s.store, t.object)} ${labelOf(s.store, t.property)}`.toLowerCase().includes(wanted),
        folded,
        chosen: worked,
        room: height - RULER - cueRoom - MORE_ROW,
      }),
    [clip, folded, worked, height, cueRoom, wanted, s],
  );
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

  const localX = useCallback(
    (clientX: number) => clientX - (box.current as HTMLElement).getBoundingClientRect().left - HEAD,
    [],
  );
  const timeUnder = useCallback(
    (clientX: number, targets: readonly number[]) => snapTime(scale, localX(clientX), targets, fps),
    [scale, fps, localX],
  );
  const setPlayhead = useCallback((t: number) => s.set({ playhead: t, playing: false }), [s]);

  /** A pip is taken hold of: chosen if it is not, then all chosen ones follow, along time or along their value. */
  const grab = useCallback<GrabKey>(
    (e, id, perPx) => {
      const now = chosenKeys(s);
      const own = now?.clip.id === clip.id ? now.keys : [];
      const isIn = own.some((k) => same(k, id));
      if (e.shiftKey || e.ctrlKey || e.metaKey)
        return selectKeys(s, clip.id, isIn ? own.filter((k) => !same(k, id)) : [...own, id]);
      const meant = isIn ? own : [id];
      if (!isIn) selectKeys(s, clip.id, meant);
      dragKeys(s, clip.id, meant, id, e, perPx, timeUnder);
    },
    [s, clip.id, timeUnder],
  );
  const pick = useCallback((id: KeyId) => selectKeys(s, clip.id, [id]), [s, clip.id]);
  const drag = (name: string, targets: readonly number[], move: (t: number, e: PointerEvent) => void) =>
    dragGesture(s, name, { move: (e) => move(timeUnder(e.clientX, [...targets, s.state.playhead]), e) });

  const boxSelect = (e: React.PointerEvent) => {
    if (e.button !== 0 || (e.target as Element).closest('button, [role="button"], input')) return;
    const r = (box.current as HTMLElement).getBoundingClientRect();
    const [x, y] = [e.clientX - r.left, e.clientY - r.top];
    if (x >= HEAD && y >= RULER) boxFrom(e);
  };
  /** A box from where the pointer was pressed, or, pressed on the ruler, from below it. */
  const boxFrom = (e: { clientX: number; clientY: number; shiftKey: boolean }) => {
    const el = box.current as HTMLElement;
    const r = el.getBoundingClientRect();
    const at = (ev: { clientX: number; clientY: number }) => ({
      x: ev.clientX - r.left,
      y: ev.clientY - r.top + el.scrollTop,
    });
    const pressed = at(e);
    const start = { x: Math.max(HEAD, pressed.x), y: Math.max(RULER + el.scrollTop, pressed.y) };
    const before = e.shiftKey && s.state.selected?.kind === 'keys' ? (chosenKeys(s)?.keys ?? []) : [];
    const tops = tracksAt(rows, RULER + cueRoom);
    let moved = false;
    // Of several moves before a frame of the screen only the last counts.
    let waiting: { x: number; y: number } | null = null;
    let frame = 0;
    const choose = () => {
      const to = waiting;
      waiting = null;
      if (!to) return;
      const [x0, x1] = [Math.max(HEAD, Math.min(start.x, to.x)), Math.max(start.x, to.x)];
      const [y0, y1] = [Math.min(start.y, to.y), Math.max(start.y, to.y)];
      setMarquee({ x0, y0, x1, y1 });
      const [t0, t1] = [timeAt(scale, x0 - HEAD - 4), timeAt(scale, x1 - HEAD + 4)];
      const within = tops.flatMap(({ track, y, height: h }) => {
        const t = clip.tracks[track] as Track;
        return y + h > y0 && y < y1
          ? t.keys
              .filter((k) => k.t >= t0 && k.t <= t1)
              .map((k) => ({ object: t.object, property: t.property, t: k.t }))
          : [];
      });
      const isWithin = keyFinder(within);
      const others = before.filter((k) => !isWithin(k)?.(k.t));
      selectKeys(s, clip.id, [...others, ...within]);
    };
    followPointer(
      (ev) => {
        const to = at(ev);
        if (!moved && Math.hypot(to.x - start.x, to.y - start.y) < 4) return;
        moved = true;
        if (!waiting) frame = requestAnimationFrame(choose);
        waiting = to;
      },
      () => {
        cancelAnimationFrame(frame);
        choose();
        setMarquee(null);
        if (!moved && s.state.selected?.kind === 'keys') selectKeys(s, clip.id, before);
      },
    );
  };
  const zoomAbout = (t: number, factor: number) => {
    const next = Math.max(0.05, Math.min(whole.span * 1.5, span * factor));
    if (next >= whole.span) return setZoomed(null);
    setZoomed({ span: next, from: Math.max(0, t - ((t - from) / span) * next) });
  };
  useWheel(box, (e) => {
    if (e.ctrlKey || e.metaKey) zoomAbout(timeAt(scale, localX(e.clientX)), e.deltaY > 0 ? 1.2 : 1 / 1.2);
    else if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY))
      setZoomed({
        span,
        from: Math.max(0, from + ((e.deltaX || e.deltaY) / scale.width) * span),
      });
    else return false;
    return true;
  });
  const onKey = (e: React.KeyboardEvent) => {
    const inPip = e.target instanceof SVGElement;
    if (e.target !== e.currentTarget && !inPip) return;
    const mod = e.ctrlKey || e.metaKey;
    const { playhead } = s.state;
    if (e.key === ' ' && !inPip) togglePlay(s);
    else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const way = e.key === 'ArrowRight' ? 1 : -1;
      if (e.altKey) nudgeKeys(s, way * (e.shiftKey ? 10 : 1));
      else {
        const times = keyTimes(clip);
        const jump =
          way > 0 ? times.find((t) => t > playhead + 1e-6) : times.findLast((t) => t < playhead - 1e-6);
        const frame = (Math.round(playhead * fps) + way) / fps;
        s.set({ playhead: Math.max(0, mod ? (jump ?? playhead) : frame) });
      }
    } else if (e.key === '+' || e.key === '-') zoomAbout(playhead, e.key === '+' ? 0.8 : 1.25);
    else if (e.key === '0') setZoomed(null);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
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
        onKeyDown={onKey}
        onPointerDown={boxSelect}
      >
        <div className="relative" style={{ height: Math.max(total, height) }}>
          {/* Hung from the ruler, it stays when the rows are scrolled. */}
          <div className="sticky top-0 h-0 z-20 pointer-events-none">
            <PlayheadMark clip={clip} scale={scale} height={height} />
          </div>
          <AfterEnd scale={scale} duration={clip.duration} height={Math.max(total, height)} />
          <Ruler
            clip={clip}
            scale={scale}
            fps={fps}
            keys={keys}
            onPlayhead={(e) => {
              const targets = clipTimes(clip);
              const was = s.state.playhead;
              const pressed = { clientX: e.clientX, clientY: e.clientY, shiftKey: e.shiftKey };
              const below = e.currentTarget.getBoundingClientRect().bottom + 12;
              let boxes = false;
              setPlayhead(timeUnder(e.clientX, targets));
              followPointer((ev) => {
                if (boxes) return;
                if (ev.clientY < below) return setPlayhead(timeUnder(ev.clientX, targets));
                // It goes down into the rows: a box round pips is meant, not a time.
                boxes = true;
                setPlayhead(was);
                boxFrom(pressed);
              });
            }}
            onEnd={() => {
              const was = clip;
              drag('Changed the length', keyTimes(clip), (t, ev) => {
                setLength(s, was, Math.max(1 / fps, t), ev.altKey ? 'stretch' : 'keep');
              });
            }}
            onStretch={(side) => {
              const was = clip;
              const [t0, t1] = spanOf(keys);
              const [about, end] = side === 'left' ? [t1, t0] : [t0, t1];
              drag(`Stretched ${howMany(keys.length)}`, clipTimes({ ...clip, tracks: [] }), (t) => {
                const factor = (t - about) / (end - about);
                if (factor > 1e-3) applyKeys(s, 'Stretched keys', stretchKeys(was, keys, about, factor));
              });
            }}
            onMoveSpan={(e) => {
              const was = clip;
              const [t0] = spanOf(keys);
              const grip = timeAt(scale, localX(e.clientX)) - t0;
              dragGesture(s, `Moved ${howMany(keys.length)}`, {
                move: (ev) => {
                  const at = timeAt(scale, localX(ev.clientX)) - grip;
                  const to = Math.max(0, Math.round(at * fps) / fps);
                  applyKeys(s, 'Moved keys', moveKeys(was, keys, to - t0));
                },
              });
            }}
          />
          {clip.cues.length > 0 && (
            <div className="absolute inset-x-0" style={{ top: RULER }}>
              <CueRow clip={clip} scale={scale} onDrag={drag} />
            </div>
          )}
          {clip.tracks.length === 0 && (
            <p className="absolute p-3 text-ink-2" style={{ left: HEAD, top: RULER + cueRoom }}>
              Nothing is keyed yet. Put the playhead at a time and move something in the view: that keys it.
            </p>
          )}
          {virtual.getVirtualItems().map((v) => {
            const r = rows[v.index];
            if (!r) return null;
            const style = { transform: `translateY(${v.start}px)`, height: r.height };
            if (r.kind === 'object')
              return (
                <GroupRow
                  key={`o ${r.object}`}
                  clip={clip}
                  object={r.object}
                  folded={r.folded}
                  scale={scale}
                  style={style}
                  onFold={() =>
                    setFolded((now) => {
                      const next = new Set(now);
                      if (!next.delete(r.object)) next.add(r.object);
                      return next;
                    })
                  }
                />
              );
            const t = clip.tracks[r.track] as Track;
            return (
              <div key={keysTrack(t)} className="absolute inset-x-0 top-0" style={style}>
                <TrackRow
                  clip={clip.id}
                  duration={clip.duration}
                  track={t}
                  under={r.under}
                  height={r.height}
                  chosen={chosenByRow.get(keysTrack(t)) ?? NO_KEYS}
                  scale={scale}
                  onGrab={grab}
                  onPick={pick}
                />
              </div>
            );
          })}
          <div
            className="absolute inset-x-0 flex items-center px-3 text-ink-2"
            style={{ top: total - MORE_ROW, height: MORE_ROW }}
          >
            <MoreProperties clip={clip} />
          </div>
          {marquee && (
            <div
              className="absolute border border-brass bg-brass/10 pointer-events-none"
              style={{
                left: marquee.x0,
                top: marquee.y0,
                width: marquee.x1 - marquee.x0,
                height: marquee.y1 - marquee.y0,
              }}
            />
          )}
        </div>
      </div>
    </div>
  );
}

const same = (a: KeyId, b: KeyId) =>
  a.object === b.object && a.property === b.property && Math.abs(a.t - b.t) < 1e-9;
const objectOf = (clip: Clip, r: TimelineRow) =>
  r.kind === 'object' ? r.object : clip.tracks[r.track]?.object;

function spanOf(keys: readonly KeyId[]): [number, number] {
  const times = keys.map((k) => k.t);
  return [Math.min(...times), Math.max(...times)];
}

/** Where the rows of tracks stand, px from the top. */
function tracksAt(rows: readonly TimelineRow[], top: number): { track: number; y: number; height: number }[] {
  const out: { track: number; y: number; height: number }[] = [];
  let y = top;
  for (const r of rows) {
    if (r.kind === 'track') out.push({ track: r.track, y, height: r.height });
    y += r.height;
  }
  return out;
}

/** The chosen times of each row; a row whose chosen keys are the same keeps its list. */
function useSteadyLists(keys: readonly KeyId[]): ReadonlyMap<string, readonly number[]> {
  const kept = useRef<ReadonlyMap<string, readonly number[]>>(new Map());
  const next = new Map<string, number[]>();
  for (const k of keys) {
    const list = next.get(keysTrack(k));
    if (list) list.push(k.t);
    else next.set(keysTrack(k), [k.t]);
  }
  let isSame = next.size === kept.current.size;
  for (const [row, list] of next) {
    const old = kept.current.get(row);
    if (old && old.length === list.length && old.every((t, i) => t === list[i]))
      next.set(row, old as number[]);
    else isSame = false;
  }
  if (!isSame) kept.current = next;
  return kept.current;
}

/** React's own wheel events cannot be kept from scrolling the page. */
function useWheel(box: React.RefObject<HTMLElement | null>, act: (e: WheelEvent) => boolean): void {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const el = box.current;
    const hear = (e: WheelEvent) => {
      if (latest.current(e)) e.preventDefault();
    };
    el?.addEventListener('wheel', hear, { passive: false });
    return () => el?.removeEventListener('wheel', hear);
  }, [box]);
}

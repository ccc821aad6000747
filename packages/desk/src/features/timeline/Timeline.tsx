import { type Clip, uniqueName } from '@apple-tick/core/model';
import { placeIn } from '@apple-tick/core/run';
import { useEffect, useRef } from 'react';
import { dragGesture, track } from '../../session/drag-gesture.ts';
import { useOpen, useSession, useTable, useTick, useUi } from '../../session/hooks.ts';
import { keyAt } from '../../session/session.ts';
import { Pick, SecondsField, TextField } from '../../ui/fields.tsx';
import { useWidth } from '../../ui/use-width.ts';
import { addCue, CUE_ROW, CueRow } from './CueRow.tsx';
import { clipTimes, HEAD, keyTimes, rulerStep, snapTime, xOf } from './scale.ts';
import { type Drag, rowHeight, TrackRow } from './TrackRow.tsx';

const RULER = 30;

/** A panel unfolded: the clip's rows, each the value itself as a curve with its pips on it. */
export function Timeline({ clip }: { clip: Clip }) {
  const s = useSession();
  useTable('objects');
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, 900);
  const playhead = useUi((u) => u.playhead);
  const playing = useUi((u) => u.playing);
  const tick = useTick();
  const running = useUi((u) => u.running);
  const open = useOpen()?.state.id;
  const selected = useUi((u) => u.selected);
  const chosen = selected?.kind === 'key' && selected.clip === clip.id ? keyAt(s.store, selected) : null;
  const chosenTrack = chosen?.track ?? -1;
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = 0;
    const step = (now: number) => {
      const t = s.state.playhead + (now - last) / 1000;
      last = now;
      const over = t >= clip.duration;
      s.set({
        playhead: over ? (clip.loop === 'once' ? clip.duration : t % Math.max(0.01, clip.duration)) : t,
        playing: !(over && clip.loop === 'once'),
      });
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, clip, s]);
  const span = Math.max(0.5, clip.duration * 1.15);
  const scale = { span, width: width - HEAD };
  const x = (t: number) => xOf(scale, t);
  const fps = s.store.head.fps;
  const time = (clientX: number, targets: readonly number[]) => {
    const r = (box.current as HTMLElement).getBoundingClientRect();
    return snapTime(scale, clientX - r.left - HEAD, targets, fps);
  };
  const drag: Drag = (name, targets, move, stop) =>
    dragGesture(s, name, { move: (e) => move(time(e.clientX, [...targets, s.state.playhead]), e), stop });
  const runAt = (() => {
    const run = running ? s.player?.run : undefined;
    if (!run || tick < 0) return null;
    for (const [i, lane] of run.program.lanes.entries()) {
      const p = placeIn(run, i);
      if (
        lane.states[p.state]?.state.id === open ||
        lane.states[p.state]?.clip === run.program.clipIndex.get(clip.id)
      )
        return p.place;
    }
    return null;
  })();
  const head = runAt ?? playhead;
  const pips = clipTimes(clip);
  const onKey = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    if (e.key === ' ')
      s.set({ playing: !playing, playhead: playing || playhead < clip.duration ? playhead : 0 });
    else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const right = e.key === 'ArrowRight';
      const keys = keyTimes(clip);
      const jump = right ? keys.find((t) => t > playhead + 1e-6) : keys.findLast((t) => t < playhead - 1e-6);
      const frame = (Math.round(playhead * fps) + (right ? 1 : -1)) / fps;
      s.set({ playhead: Math.max(0, e.ctrlKey || e.metaKey ? (jump ?? playhead) : frame) });
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const step = rulerStep(scale);
  const marks = Array.from({ length: Math.floor(span / step) + 1 }, (_, i) => i * step);
  const rows =
    (clip.cues.length > 0 ? CUE_ROW : 0) +
    clip.tracks.reduce((n, _, i) => n + rowHeight(clip, i, chosenTrack), 0);
  return (
    <div className="h-full flex flex-col bg-card">
      <div className="flex items-center gap-2 px-3 py-1 border-b border-line flex-none">
        <TextField
          label="Name of the clip"
          className="font-semibold bg-transparent w-28"
          value={clip.name}
          onChange={(name) =>
            name.trim() &&
            s.edit(`Renamed ${clip.name}`, (e) => {
              const others = s.store.all('clips').filter((c) => c.root === clip.root && c.id !== clip.id);
              const own = uniqueName(name.trim(), new Set(others.map((c) => c.name)));
              e.update('clips', clip.id, (c) => ({ ...c, name: own }));
            })
          }
        />
        <Pick
          label="Repeats"
          value={clip.loop}
          options={[
            ['once', 'once'],
            ['loop', 'loops'],
            ['there-and-back', 'there and back'],
          ]}
          onChange={(v) =>
            s.edit('Changed how the clip repeats', (e) =>
              e.update('clips', clip.id, (c) => ({ ...c, loop: v as Clip['loop'] })),
            )
          }
        />
        <span className="w-24 flex">
          <SecondsField
            label="Length, seconds"
            axis="s"
            value={clip.duration}
            onChange={(d) =>
              (d === 0 || d >= 0.001) &&
              s.edit('Changed the length', (e) =>
                e.update('clips', clip.id, (c) => ({
                  ...c,
                  duration: d,
                  // A cue cannot lie after the end: it comes along to it.
                  cues: c.cues.map((q) => (q.t > d ? { ...q, t: d } : q)),
                })),
              )
            }
          />
        </span>
        <span className="w-28 flex">
          <SecondsField
            label="Playhead, seconds"
            axis="at"
            step={1 / 60}
            value={playhead}
            onChange={(t) => s.set({ playhead: t })}
          />
        </span>
        <button
          type="button"
          className="btn"
          onClick={() => s.set({ playing: !playing, playhead: playhead >= clip.duration ? 0 : playhead })}
        >
          {playing ? 'Pause' : 'Play'}
        </button>
        <button type="button" className="btn" onClick={() => addCue(s, clip, playhead)}>
          Add a cue
        </button>
        <span className="flex-1" />
        <span className="num text-ink-2 whitespace-nowrap">
          frame number {Math.round(head * s.store.head.fps)}
        </span>
      </div>
      <div
        ref={box}
        role="group"
        aria-label="Timeline"
        tabIndex={0}
        className="relative flex-1 overflow-y-auto"
        onKeyDown={onKey}
      >
        <div
          className="h-[30px] relative"
          style={{ marginLeft: HEAD }}
          data-ruler
          onPointerDown={(e) => {
            s.set({ playhead: time(e.clientX, pips), playing: false });
            track((ev) => s.set({ playhead: time(ev.clientX, pips) }));
          }}
        >
          {marks.map((t) => (
            <span key={t} className="absolute top-1 num text-[11px] text-ink-2" style={{ left: x(t) + 3 }}>
              {t.toFixed(1)}
            </span>
          ))}
          <span
            className="absolute bottom-0 h-[3px] bg-leaf"
            style={{ left: x(0), width: x(clip.duration) - x(0) }}
          />
        </div>
        <svg
          className="absolute pointer-events-none"
          style={{ left: HEAD, top: RULER }}
          width={scale.width}
          height={rows}
          aria-hidden="true"
        >
          {marks.map((t) => (
            <line key={t} x1={x(t)} x2={x(t)} y1="0" y2={rows} stroke="var(--line)" strokeWidth="0.7" />
          ))}
          <rect
            x={x(clip.duration)}
            width={Math.max(0, scale.width - x(clip.duration))}
            height={rows}
            fill="var(--line)"
            opacity="0.3"
          />
        </svg>
        {clip.cues.length > 0 && <CueRow clip={clip} scale={scale} onDrag={drag} />}
        {clip.tracks.length === 0 && (
          <p className="p-4 text-ink-2" style={{ marginLeft: HEAD }}>
            Nothing is keyed yet: turn on “key as I move”, put the playhead at a time, and move something in
            the view.
          </p>
        )}
        {clip.tracks.map((row, i) => (
          <TrackRow
            key={`${row.object} ${row.property}`}
            clip={clip}
            track={row}
            index={i}
            chosen={chosen && chosen.track === i ? chosen.key : -1}
            scale={scale}
            playhead={head}
            onDrag={drag}
          />
        ))}
        <svg
          className="absolute top-0 pointer-events-none"
          style={{ left: HEAD + x(head) - 8 }}
          width="16"
          height={RULER + rows}
          aria-hidden="true"
        >
          <path d="M8 0C11 5 14 7 14 10a6 5 0 0 1-12 0C2 7 5 5 8 0z" fill="var(--apple)" />
          <line x1="8" x2="8" y1="12" y2="2000" stroke="var(--apple)" strokeWidth="1.6" />
        </svg>
      </div>
    </div>
  );
}

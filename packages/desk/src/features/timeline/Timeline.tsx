import { compileClip, sampleTrack } from '@apple-tick/core/anim';
import { type Clip, propertyInfo, type Track } from '@apple-tick/core/model';
import { useEffect, useRef } from 'react';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { nameOf } from '../../session/words.ts';
import { NumberField, Pick, TextField } from '../../ui/fields.tsx';
import { useWidth } from '../../ui/use-width.ts';

const HEAD = 190;
const RULER = 30;
const PAD = 30;

/** Px of a row; the one with the selected key, or the only one, is tall. */
function rowHeight(clip: Clip, index: number, chosenTrack: number): number {
  return clip.tracks.length === 1 || index === chosenTrack ? 150 : 62;
}

/** A panel unfolded: the clip's rows, each the value itself as a curve with its pips on it. */
export function Timeline({ clip }: { clip: Clip }) {
  const s = useSession();
  useTable('objects');
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, 900);
  const playhead = useUi((u) => u.playhead);
  const playing = useUi((u) => u.playing);
  const tick = useUi((u) => u.tick);
  const running = useUi((u) => u.running);
  const open = useUi((u) => u.openState);
  const chosenTrack = useUi((u) =>
    u.selected?.kind === 'key' && u.selected.clip === clip.id ? u.selected.track : -1,
  );
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
  const x = (t: number) => PAD + (t / span) * (width - HEAD - 2 * PAD);
  const time = (clientX: number) => {
    const r = (box.current as HTMLElement).getBoundingClientRect();
    const t = ((clientX - r.left - HEAD - PAD) / (width - HEAD - 2 * PAD)) * span;
    return Math.max(0, Math.round(t * 60) / 60);
  };
  const drag = (move: (t: number, e: PointerEvent) => void, end?: () => void) => {
    const onMove = (e: PointerEvent) => move(time(e.clientX), e);
    addEventListener('pointermove', onMove);
    addEventListener(
      'pointerup',
      () => {
        removeEventListener('pointermove', onMove);
        end?.();
      },
      { once: true },
    );
  };
  const runAt = (() => {
    const run = running ? s.player?.run : undefined;
    if (!run || tick < 0) return null;
    for (const [i, lane] of run.program.lanes.entries()) {
      const p = run.motion.placeIn(i);
      if (
        lane.states[p.state]?.state.id === open ||
        lane.states[p.state]?.clip === run.program.clipIndex.get(clip.id)
      )
        return p.place;
    }
    return null;
  })();
  const head = runAt ?? playhead;
  const pips = [...new Set(clip.tracks.flatMap((t) => t.keys.map((k) => k.t)))].sort((a, b) => a - b);
  const onKey = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    if (e.key === ' ')
      s.set({ playing: !playing, playhead: playing || playhead < clip.duration ? playhead : 0 });
    else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const right = e.key === 'ArrowRight';
      const jump = right ? pips.find((t) => t > playhead + 1e-6) : pips.findLast((t) => t < playhead - 1e-6);
      const frame = (Math.round(playhead * 60) + (right ? 1 : -1)) / 60;
      s.set({ playhead: Math.max(0, e.ctrlKey || e.metaKey ? (jump ?? playhead) : frame) });
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const step = span > 4 ? 1 : span > 1.6 ? 0.5 : 0.1;
  return (
    <div className="h-full flex flex-col bg-card">
      <div className="flex items-center gap-2 px-3 py-1 border-b border-line flex-none">
        <TextField
          label="Name of the clip"
          className="font-semibold bg-transparent w-28"
          value={clip.name}
          onChange={(name) =>
            name.trim() &&
            s.edit(`Renamed ${clip.name}`, (e) =>
              e.update('clips', clip.id, (c) => ({ ...c, name: name.trim() })),
            )
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
          <NumberField
            label="Length, seconds"
            axis="s"
            step={0.1}
            value={clip.duration}
            onChange={(d) =>
              (d === 0 || d >= 0.001) &&
              s.edit('Changed the length', (e) => e.update('clips', clip.id, (c) => ({ ...c, duration: d })))
            }
          />
        </span>
        <span className="w-28 flex">
          <NumberField
            label="Playhead, seconds"
            axis="at"
            step={1 / 60}
            value={playhead}
            onChange={(t) => s.set({ playhead: Math.max(0, t) })}
          />
        </span>
        <button
          type="button"
          className="btn"
          onClick={() => s.set({ playing: !playing, playhead: playhead >= clip.duration ? 0 : playhead })}
        >
          {playing ? 'Pause' : 'Play'}
        </button>
        <span className="flex-1" />
        <span className="num text-ink-2">frame number {Math.round(head * s.store.head.fps)}</span>
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
            s.set({ playhead: time(e.clientX), playing: false });
            drag((t) => s.set({ playhead: t }));
          }}
        >
          {Array.from({ length: Math.floor(span / step) + 1 }, (_, i) => i * step).map((t) => (
            <span key={t} className="absolute top-1 num text-[11px] text-ink-2" style={{ left: x(t) + 3 }}>
              {t.toFixed(1)}
            </span>
          ))}
          <span
            className="absolute bottom-0 h-[3px] bg-leaf"
            style={{ left: x(0), width: x(clip.duration) - x(0) }}
          />
        </div>
        {clip.tracks.length === 0 && (
          <p className="p-4 text-ink-2" style={{ marginLeft: HEAD }}>
            Nothing is keyed yet: turn on “key as I move”, put the playhead at a time, and move something in
            the view.
          </p>
        )}
        {clip.tracks.map((track, i) => (
          <TrackRow
            key={`${track.object} ${track.property}`}
            clip={clip}
            track={track}
            index={i}
            x={x}
            width={width - HEAD}
            playhead={head}
            onDrag={drag}
          />
        ))}
        <svg
          className="absolute top-0 pointer-events-none"
          style={{ left: HEAD + x(head) - 8 }}
          width="16"
          height={RULER + clip.tracks.reduce((n, _, i) => n + rowHeight(clip, i, chosenTrack), 0)}
          aria-hidden="true"
        >
          <path d="M8 0C11 5 14 7 14 10a6 5 0 0 1-12 0C2 7 5 5 8 0z" fill="var(--apple)" />
          <line x1="8" x2="8" y1="12" y2="2000" stroke="var(--apple)" strokeWidth="1.6" />
        </svg>
      </div>
    </div>
  );
}

function TrackRow(props: {
  clip: Clip;
  track: Track;
  index: number;
  x: (t: number) => number;
  width: number;
  playhead: number;
  onDrag: (move: (t: number, e: PointerEvent) => void, end?: () => void) => void;
}) {
  const { clip, track, index, x, width, playhead, onDrag } = props;
  const s = useSession();
  const selected = useUi((u) => u.selected);
  const chosen =
    selected?.kind === 'key' && selected.clip === clip.id && selected.track === index ? selected.key : -1;
  const ROW = rowHeight(clip, index, chosen >= 0 ? index : -1);
  const info = propertyInfo(track.property);
  const data = compileClip({ ...clip, tracks: [track] });
  const out = new Float64Array(3);
  const at = (t: number) => {
    sampleTrack(data, 0, t, out, 0);
    return out[0] as number;
  };
  const end = Math.max(clip.duration, track.keys.at(-1)?.t ?? 0);
  const samples = Array.from({ length: 121 }, (_, i) => (i / 120) * end);
  const values = samples.map(at);
  // The handles of the selected key must be in reach too.
  const reach = handleValues(track, chosen);
  const [min, max] = [Math.min(...values, ...reach), Math.max(...values, ...reach)];
  const y = (v: number) => (max === min ? ROW / 2 : ROW - 14 - ((v - min) / (max - min)) * (ROW - 28));
  const line = samples.map((t, i) => `${i === 0 ? 'M' : 'L'}${x(t)} ${y(values[i] as number)}`).join('');
  const now = at(playhead);
  const editKey = (name: string, n: number, change: (k: Track['keys'][number]) => Track['keys'][number]) =>
    s.edit(name, (e) =>
      e.update('clips', clip.id, (c) => ({
        ...c,
        tracks: c.tracks.map((t, i) =>
          i === index ? { ...t, keys: t.keys.map((k, m) => (m === n ? change(k) : k)) } : t,
        ),
      })),
    );
  const key = track.keys[chosen];
  const next = track.keys[chosen + 1];
  const handles =
    key && next && typeof key.easing === 'object' && typeof key.value === 'number' ? key.easing.bezier : null;
  const shape = (which: 0 | 1) => (e: React.PointerEvent) => {
    e.stopPropagation();
    if (!key || !next || !handles) return;
    s.history.begin('Shaped the easing');
    const svg = (e.currentTarget as SVGElement).ownerSVGElement as SVGSVGElement;
    onDrag(
      (_, ev) => {
        const r = svg.getBoundingClientRect();
        const [x0, x1] = [x(key.t), x(next.t)];
        const [y0, y1] = [y(key.value as number), y(next.value as number)];
        const px = Math.min(1, Math.max(0, (ev.clientX - r.left - x0) / (x1 - x0)));
        const py = y1 === y0 ? 0 : (ev.clientY - r.top - y0) / (y1 - y0);
        const round = (n: number) => Math.round(Math.max(-5, Math.min(5, n)) * 1000) / 1000;
        editKey('Shaped the easing', chosen, (k) => {
          const b = [...(typeof k.easing === 'object' ? k.easing.bezier : handles)] as [
            number,
            number,
            number,
            number,
          ];
          b[which * 2] = round(px);
          b[which * 2 + 1] = round(py);
          return { ...k, easing: { bezier: b } };
        });
      },
      () => s.history.end(),
    );
  };
  return (
    <div className={`flex border-t border-line ${chosen >= 0 ? 'bg-chosen/50' : ''}`} style={{ height: ROW }}>
      <div className="flex-none px-3 pt-2" style={{ width: HEAD }}>
        <div className="truncate">
          {nameOf(s.store, track.object)} · {info?.label}
        </div>
        <div className="num text-ink-2">
          {Math.round(now * 10) / 10}
          {info?.unit}
        </div>
      </div>
      <svg
        width={width}
        height={ROW}
        role="group"
        aria-label={`${nameOf(s.store, track.object)} ${info?.label}`}
      >
        <path d={`${line}L${x(end)} ${ROW}L${x(0)} ${ROW}Z`} fill="var(--line)" opacity="0.35" />
        <path d={line} fill="none" stroke="var(--brass)" strokeWidth="1.6" />
        {typeof track.keys[0]?.value === 'number' && max > min && (
          <g className="num" fontSize="10" fill="var(--ink-2)" aria-hidden="true">
            <text x="0" y={y(max) + 3}>
              {Math.round(max)}
            </text>
            <text x="0" y={y(min) + 3}>
              {Math.round(min)}
            </text>
          </g>
        )}
        {handles && key && next && (
          <g stroke="var(--ink-2)" strokeDasharray="2 2">
            {([0, 1] as const).map((w) => {
              const from = w === 0 ? key : next;
              const hx = x(key.t) + (x(next.t) - x(key.t)) * (handles[w * 2] as number);
              const y0 = y(key.value as number);
              const hy = y0 + (y(next.value as number) - y0) * (handles[w * 2 + 1] as number);
              return (
                <g key={w}>
                  <line x1={x(from.t)} y1={y(from.value as number)} x2={hx} y2={hy} />
                  <circle
                    data-handle={`ease-${w}`}
                    cx={hx}
                    cy={hy}
                    r="5"
                    fill="var(--card)"
                    stroke="var(--ink)"
                    strokeDasharray="none"
                    className="cursor-move"
                    onPointerDown={shape(w)}
                  />
                </g>
              );
            })}
          </g>
        )}
        {track.keys.map((k, n) => {
          const py = typeof k.value === 'number' ? y(k.value) : ROW / 2;
          const flat = k.easing === 'hold';
          return (
            <path
              // biome-ignore lint/suspicious/noArrayIndexKey: keys have no ids; their place in time is their place here
              key={n}
              role="button"
              tabIndex={0}
              aria-label={`Key at ${k.t.toFixed(2)} s`}
              aria-pressed={n === chosen}
              className="cursor-grab"
              transform={`translate(${x(k.t)} ${py})`}
              d={
                flat
                  ? 'M0 -8C-3 -3 -5.5 -1 -5.5 2.5A5.5 5 0 0 0 0 7.5Z'
                  : 'M0 -8C3 -3 5.5 -1 5.5 2.5A5.5 5 0 0 1 -5.5 2.5C-5.5 -1 -3 -3 0 -8Z'
              }
              fill={n === chosen ? 'var(--brass)' : 'var(--ink)'}
              onKeyDown={(e) => {
                if (e.key === 'Enter' || e.key === ' ') {
                  e.preventDefault();
                  e.stopPropagation();
                  s.select({ kind: 'key', clip: clip.id, track: index, key: n });
                }
              }}
              onPointerDown={(e) => {
                e.stopPropagation();
                s.select({ kind: 'key', clip: clip.id, track: index, key: n });
                s.history.begin('Moved a key');
                const low = (track.keys[n - 1]?.t ?? -1 / 60) + 1 / 60;
                const high = (track.keys[n + 1]?.t ?? 1e9) - 1 / 60;
                onDrag(
                  (t) =>
                    editKey('Moved a key', n, (old) => ({ ...old, t: Math.max(low, Math.min(high, t)) })),
                  () => s.history.end(),
                );
              }}
            />
          );
        })}
      </svg>
    </div>
  );
}

/** The values at which the easing handles of key n stand. */
function handleValues(track: Track, n: number): number[] {
  const a = track.keys[n];
  const b = track.keys[n + 1];
  if (!a || !b || typeof a.easing !== 'object' || typeof a.value !== 'number' || typeof b.value !== 'number')
    return [];
  const [from, to] = [a.value, b.value];
  return [a.easing.bezier[1], a.easing.bezier[3]].map((k) => from + (to - from) * k);
}

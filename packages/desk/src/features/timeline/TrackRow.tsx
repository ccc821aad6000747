import { compileClip, sampleTrack } from '@apple-tick/core/anim';
import { clamp, oklabToRgb, rgbToHex } from '@apple-tick/core/base';
import {
  type Bezier,
  type Clip,
  type Easing,
  type Key,
  lookName,
  propertyInfo,
  type Track,
} from '@apple-tick/core/model';
import { useSession } from '../../session/hooks.ts';
import { lookWords, nameOf } from '../../session/words.ts';
import { clipTimes, HEAD, type TimeScale, xOf } from './scale.ts';

/** Follows the pointer as one step of this name: the time under it, snapped to `targets`. */
export type Drag = (
  name: string,
  targets: readonly number[],
  move: (t: number, e: PointerEvent) => void,
  /** It is over, let go or taken back. */
  stop?: () => void,
) => void;

/** Px of a row; the one with the selected key, or the only one, is tall; switches and colours need little. */
export function rowHeight(clip: Clip, index: number, chosenTrack: number): number {
  const kind = propertyInfo(clip.tracks[index]?.property ?? '')?.kind;
  if (kind === 'switch' || kind === 'color' || kind === 'look') return 32;
  return clip.tracks.length === 1 || index === chosenTrack ? 112 : 52;
}

/** One property along time: its value as a curve, a bar or a band, with its pips on it. */
export function TrackRow(props: {
  clip: Clip;
  track: Track;
  index: number;
  /** The selected key, −1 for none of this row. */
  chosen: number;
  scale: TimeScale;
  playhead: number;
  onDrag: Drag;
}) {
  const { clip, track, index, chosen, scale, playhead, onDrag } = props;
  const { width } = scale;
  const x = (t: number) => xOf(scale, t);
  const s = useSession();
  const ROW = rowHeight(clip, index, chosen >= 0 ? index : -1);
  const info = propertyInfo(track.property);
  const data = compileClip({ ...clip, tracks: [track] });
  const out = new Float64Array(3);
  const at = (t: number) => {
    sampleTrack(data, 0, t, out, 0);
    // On the screen an amount stays within its bounds, however far its easing swings.
    return info?.kind === 'amount' ? clamp(out[0] as number, 0, 1) : (out[0] as number);
  };
  const colorAt = (t: number) => {
    sampleTrack(data, 0, t, out, 0);
    return rgbToHex(oklabToRgb(out[0] as number, out[1] as number, out[2] as number));
  };
  const plotted = info?.kind !== 'switch' && info?.kind !== 'color' && info?.kind !== 'look';
  const end = Math.max(clip.duration, track.keys.at(-1)?.t ?? 0);
  const samples = Array.from({ length: 121 }, (_, i) => (i / 120) * end);
  const values = samples.map(at);
  // The handles of the selected key must be in reach too.
  const reach = handleValues(track, chosen);
  const [min, max] = [Math.min(...values, ...reach), Math.max(...values, ...reach)];
  const y = (v: number) => (max === min ? ROW / 2 : ROW - 14 - ((v - min) / (max - min)) * (ROW - 28));
  const line = samples.map((t, i) => `${i === 0 ? 'M' : 'L'}${x(t)} ${y(values[i] as number)}`).join('');
  const now = at(playhead);
  const nowWords =
    info?.kind === 'switch'
      ? now >= 0.5
        ? 'on'
        : 'off'
      : info?.kind === 'color'
        ? colorAt(playhead)
        : info?.kind === 'look'
          ? lookWords(s.store, lookName(now))
          : `${Math.round(now * 10) / 10}${info?.unit}`;
  const choose = (t: number) =>
    s.select({ kind: 'key', clip: clip.id, object: track.object, property: track.property, t });
  const editKey = (name: string, n: number, change: (k: Track['keys'][number]) => Track['keys'][number]) =>
    s.edit(name, (e) =>
      e.update('clips', clip.id, (c) => ({
        ...c,
        tracks: c.tracks.map((t, i) =>
          i === index ? { ...t, keys: t.keys.map((k, m) => (m === n ? change(k) : k)) } : t,
        ),
      })),
    );
  /** A pip follows the pointer along time, or along its value: whichever way the drag sets out. */
  const dragKey = (e: React.PointerEvent, n: number) => {
    const old = track.keys[n] as Key;
    const gap = 1 / s.store.head.fps;
    const low = (track.keys[n - 1]?.t ?? -gap) + gap;
    const high = (track.keys[n + 1]?.t ?? 1e9) - gap;
    const perPx = max === min ? 1 : (max - min) / (ROW - 28);
    let way: 'time' | 'value' | null = null;
    onDrag(
      'Moved a key',
      clipTimes(clip).filter((t) => t !== old.t),
      (t, ev) => {
        const [dx, dy] = [Math.abs(ev.clientX - e.clientX), Math.abs(ev.clientY - e.clientY)];
        if (way === null && Math.max(dx, dy) >= 4) way = dy > dx && plotted ? 'value' : 'time';
        if (way === 'time') {
          const to = Math.max(low, Math.min(high, t));
          editKey('Moved a key', n, (k) => ({ ...k, t: to }));
          choose(to);
        }
        if (way === 'value' && typeof old.value === 'number') {
          const value = old.value - (ev.clientY - e.clientY) * perPx;
          const kept = info?.kind === 'amount' ? Math.max(0, Math.min(1, value)) : value;
          const grid = perPx < 0.1 ? 100 : perPx < 1 ? 10 : 1;
          editKey('Moved a key', n, (k) => ({ ...k, value: Math.round(kept * grid) / grid }));
        }
      },
      // Taken back, the key stands where it stood.
      () => {
        if (s.selected === null) choose(old.t);
      },
    );
  };
  const key = track.keys[chosen];
  const next = track.keys[chosen + 1];
  const handles = key && next && typeof key.value === 'number' ? bezierOf(key.easing) : null;
  const shape = (which: 0 | 1) => (e: React.PointerEvent) => {
    e.stopPropagation();
    if (!key || !next || !handles) return;
    const svg = (e.currentTarget as SVGElement).ownerSVGElement as SVGSVGElement;
    onDrag('Shaped the easing', [], (_, ev) => {
      const r = svg.getBoundingClientRect();
      const [x0, x1] = [x(key.t), x(next.t)];
      const [y0, y1] = [y(key.value as number), y(next.value as number)];
      const px = Math.min(1, Math.max(0, (ev.clientX - r.left - x0) / (x1 - x0)));
      const py = y1 === y0 ? 0 : (ev.clientY - r.top - y0) / (y1 - y0);
      const round = (n: number) => Math.round(Math.max(-5, Math.min(5, n)) * 1000) / 1000;
      editKey('Shaped the easing', chosen, (k) => {
        const b = [...(bezierOf(k.easing) ?? handles)] as [number, number, number, number];
        b[which * 2] = round(px);
        b[which * 2 + 1] = round(py);
        return { ...k, easing: { bezier: b } };
      });
    });
  };
  return (
    <div className={`flex border-t border-line ${chosen >= 0 ? 'bg-chosen/50' : ''}`} style={{ height: ROW }}>
      <div className="flex-none px-3 pt-[7px] flex gap-2 items-baseline" style={{ width: HEAD }}>
        <span className="truncate flex-1">
          {nameOf(s.store, track.object)} · {info?.label}
        </span>
        <span className="num text-ink-2 text-[11.5px]">{nowWords}</span>
      </div>
      <svg
        width={width}
        height={ROW}
        role="group"
        aria-label={`${nameOf(s.store, track.object)} ${info?.label}`}
      >
        {info?.kind === 'switch' && <Bars track={track} end={end} x={x} />}
        {info?.kind === 'look' && (
          <Blocks track={track} end={end} x={x} name={(id) => lookWords(s.store, id)} />
        )}
        {info?.kind === 'color' && <Band at={colorAt} end={end} x={x} />}
        {plotted && (
          <>
            <path d={`${line}L${x(end)} ${ROW}L${x(0)} ${ROW}Z`} fill="var(--line)" opacity="0.35" />
            <path d={line} fill="none" stroke="var(--brass)" strokeWidth="1.6" />
          </>
        )}
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
                  choose(k.t);
                }
              }}
              onPointerDown={(e) => {
                e.stopPropagation();
                choose(k.t);
                dragKey(e, n);
              }}
            />
          );
        })}
      </svg>
    </div>
  );
}

/** The four numbers of a curve with handles; null for other easings. */
function bezierOf(e: Easing): Bezier | null {
  return typeof e === 'object' && 'bezier' in e ? e.bezier : null;
}

/** The values at which the easing handles of key n stand. */
function handleValues(track: Track, n: number): number[] {
  const a = track.keys[n];
  const b = track.keys[n + 1];
  const bezier = a && bezierOf(a.easing);
  if (!bezier || !b || typeof a.value !== 'number' || typeof b.value !== 'number') return [];
  const [from, to] = [a.value, b.value];
  return [bezier[1], bezier[3]].map((k) => from + (to - from) * k);
}

/** A switch along time: a bar wherever it is on. */
function Bars({ track, end, x }: { track: Track; end: number; x: (t: number) => number }) {
  return track.keys.map((k, i) => {
    const first = i === 0 ? 0 : k.t;
    const last = track.keys[i + 1]?.t ?? end;
    return k.value === true ? (
      <rect
        key={k.t}
        x={x(first)}
        y="8"
        width={Math.max(0, x(last) - x(first))}
        height="16"
        rx="4"
        fill="var(--line)"
      />
    ) : (
      <line key={k.t} x1={x(first)} x2={x(last)} y1="16" y2="16" stroke="var(--line)" />
    );
  });
}

/** Looks along time: a named block each. */
function Blocks(props: {
  track: Track;
  end: number;
  x: (t: number) => number;
  name: (id: string) => string;
}) {
  const { track, end, x, name } = props;
  return track.keys.map((k, i) => {
    const first = x(i === 0 ? 0 : k.t);
    const w = Math.max(0, x(track.keys[i + 1]?.t ?? end) - first);
    return (
      <g key={k.t}>
        <rect x={first} y="8" width={w} height="16" rx="4" fill="var(--card)" stroke="var(--ink-3)" />
        {w > 40 && (
          <text x={first + 12} y="20" fontSize="10.5" fill="var(--ink-2)" aria-hidden="true">
            {name(String(k.value))}
          </text>
        )}
      </g>
    );
  });
}

const SLICES = 80;

/** A colour along time, as a band. */
function Band(props: { at: (t: number) => string; end: number; x: (t: number) => number }) {
  const { at, end, x } = props;
  return Array.from({ length: SLICES }, (_, i) => {
    const [from, to] = [x((i / SLICES) * end), x(((i + 1) / SLICES) * end)];
    return (
      <rect
        key={from}
        x={from}
        y="8"
        width={to - from + 0.6}
        height="16"
        fill={at(((i + 0.5) / SLICES) * end)}
      />
    );
  });
}

import { type ClipData, compileClip, sampleTrack } from '@apple-tick/core/anim';
import { clamp, oklabToRgb, rgbToHex } from '@apple-tick/core/base';
import {
  hasTime,
  type Key,
  type KeyId,
  lookName,
  propertyUnit,
  type Track,
  textOf,
} from '@apple-tick/core/model';
import { memo } from 'react';
import { useSession, useUi } from '../../session/hooks.ts';
import { kindOf } from '../../session/motion/keys.ts';
import { labelOf, lookWords, nameOf } from '../../session/words/words.ts';
import { IS_COARSE } from '../../ui/coarse.ts';
import { Band, Bars, Blocks } from './bands.tsx';
import { EasingHandles } from './EasingHandles.tsx';
import { isCurve } from './rows.ts';
import { HEAD, type TimeScale, timeAt, xOf } from './scale.ts';

/** A pip is taken hold of; `perPx` is what a px of its row is worth, 0 where it has no height. */
export type GrabKey = (e: React.PointerEvent, id: KeyId, perPx: number) => void;

/** More pips than this in sight of one row are drawn as one path; the pointer finds the nearest. */
const MANY = 160;
/** Px within which the pointer finds a pip that is drawn with many. */
const NEAR = 6;

interface Props {
  clip: string;
  duration: number;
  track: Track;
  /** It stands under its object's name. */
  under: boolean;
  height: number;
  /** Times of the chosen keys of this row. */
  chosen: readonly number[];
  scale: TimeScale;
  onGrab: GrabKey;
  onPick: (id: KeyId) => void;
}

/** One property along time: its value as a curve, a bar, a band or blocks, with its pips on it. */
export const TrackRow = memo(function TrackRow(props: Props) {
  const { track, under, height, chosen, scale } = props;
  const s = useSession();
  const label = labelOf(s.store, track.property);
  const name = nameOf(s.store, track.object);
  const object = useUi((u) => u.object === track.object);
  return (
    <div
      className={`flex border-t border-line h-full ${chosen.length > 0 ? 'bg-chosen/50' : object && !under ? 'bg-chosen/25' : ''}`}
    >
      <div
        className={`flex-none flex items-baseline gap-1.5 pr-2 pt-[3px] ${under ? 'pl-7' : 'pl-3'}`}
        style={{ width: HEAD }}
      >
        {!under && <span className="truncate">{name}</span>}
        <span className="flex-none">
          {!under && '· '}
          {label}
        </span>
        {track.shortest && (
          <span className="text-ink-3 text-[11px]" title="turns the shorter way">
            ↻
          </span>
        )}
        {track.mode === 'offset' && (
          <span
            className="text-ink-3 text-[11px]"
            title="counts from wherever it is, and what it gains stays"
          >
            +
          </span>
        )}
        <span className="flex-1" />
        <NowValue track={track} duration={props.duration} />
      </div>
      <svg
        width={scale.width}
        height={height}
        className="overflow-visible"
        role="group"
        aria-label={`${name} ${label}`}
      >
        <RowContent {...props} />
      </svg>
    </div>
  );
});

const compiled = new WeakMap<Track, ClipData>();
function dataOf(track: Track, duration: number): ClipData {
  let data = compiled.get(track);
  if (!data) {
    data = compileClip({
      ...{ id: '', name: '', root: '', duration, loop: 'once', cues: [] },
      tracks: [track],
    });
    compiled.set(track, data);
  }
  return data;
}

const out = new Float64Array(3);
/** The value of a track at a time, as it is seen: an amount stays within its bounds, however far its easing swings. */
function valueAt(track: Track, duration: number, t: number): number {
  sampleTrack(dataOf(track, duration), 0, t, out, 0);
  const v = out[0] as number;
  const isAmount = kindOf(track) === 'amount' && track.mode === 'absolute';
  return isAmount ? clamp(v, 0, 1) : v;
}
function colorAt(track: Track, duration: number, t: number): string {
  sampleTrack(dataOf(track, duration), 0, t, out, 0);
  return rgbToHex(oklabToRgb(out[0] as number, out[1] as number, out[2] as number));
}

/** The value where the playhead stands, in words. */
function NowValue({ track, duration }: { track: Track; duration: number }) {
  const s = useSession();
  const words = useUi((u) => {
    const kind = kindOf(track);
    if (kind === 'color') return colorAt(track, duration, u.playhead);
    const now = valueAt(track, duration, u.playhead);
    if (kind === 'switch') return now >= 0.5 ? 'on' : 'off';
    if (kind === 'look') return lookWords(s.store, lookName(now));
    if (kind === 'text') return textOf(now);
    const far = track.mode === 'offset' && now > 0 ? '+' : '';
    return `${far}${Math.round(now * 10) / 10}${propertyUnit(track.property)}`;
  });
  return <span className="num text-ink-2 text-[11px] flex-none max-w-20 truncate">{words}</span>;
}

const tenth = (v: number) => Math.round(v * 10) / 10;

/** A number on a row's scale, with as many decimals as tell its ends apart. */
function scaleWords(v: number, range: number): string {
  const decimals = range >= 20 ? 0 : range >= 2 ? 1 : range >= 0.2 ? 2 : 3;
  return String(Math.round(v * 10 ** decimals) / 10 ** decimals + 0).replace('-', '−');
}

function RowContent(props: Props) {
  const { clip, duration, track, height, chosen, scale } = props;
  const s = useSession();
  const x = (t: number) => xOf(scale, t);
  const inOrder = [...chosen].sort((a, b) => a - b);
  const isChosen = (t: number) => inOrder.length > 0 && hasTime(inOrder, t, (c) => c);
  const kind = kindOf(track);
  const plotted = isCurve(track);
  const end = Math.max(duration, track.keys.at(-1)?.t ?? 0);
  // What is in sight, with a little to both sides.
  const [t0, t1] = [Math.max(0, timeAt(scale, -20)), Math.min(end, timeAt(scale, scale.width + 20))];
  const first = Math.max(0, track.keys.findIndex((k) => k.t >= t0) - 1);
  const seen: { k: Key; n: number }[] = [];
  for (let n = first; n < track.keys.length; n++) {
    const k = track.keys[n] as Key;
    seen.push({ k, n });
    if (k.t > t1) break;
  }
  const curve = plotted ? curveOf(track, duration, scale, t0, t1, seen) : null;
  const pad = height < 40 ? 8 : 14;
  const [low, high] = curve ? [curve.low, curve.high] : [0, 0];
  const y = (v: number) =>
    high === low ? height / 2 : height - pad - ((v - low) / (high - low)) * (height - 2 * pad);
  const perPx = plotted ? (high === low ? 1 : (high - low) / Math.max(8, height - 2 * pad)) : 0;
  const line = curve
    ? curve.points.map(([t, v], i) => `${i === 0 ? 'M' : 'L'}${tenth(x(t))} ${tenth(y(v))}`).join('')
    : '';
  const id = (t: number): KeyId => ({ object: track.object, property: track.property, t });
  const size = (height < 40 ? 0.8 : 1) * (IS_COARSE ? 1.6 : 1);
  const py = (k: Key) => (plotted && typeof k.value === 'number' ? y(k.value) : height / 2);
  return (
    <>
      {kind === 'switch' && <Bars seen={seen} end={end} x={x} middle={height / 2} />}
      {(kind === 'look' || kind === 'text') && (
        <Blocks
          seen={seen}
          end={end}
          x={x}
          middle={height / 2}
          name={(v) => (kind === 'look' ? lookWords(s.store, v) : v)}
        />
      )}
      {kind === 'color' && (
        <Band at={(t) => colorAt(track, duration, t)} from={t0} to={t1} x={x} middle={height / 2} />
      )}
      {curve && <Curve line={line} x={x} y={y} height={height} low={low} high={high} from={t0} to={t1} />}
      {chosen.length === 1 && plotted && height >= 40 && (
        <EasingHandles clip={clip} track={track} t={chosen[0] as number} x={x} y={y} height={height} />
      )}
      {seen.length > MANY ? (
        <ManyPips
          {...props}
          seen={seen}
          x={x}
          py={py}
          isChosen={isChosen}
          onGrab={(e, k) => props.onGrab(e, id(k.t), perPx)}
        />
      ) : (
        seen.map(({ k, n }) => {
          const here = isChosen(k.t);
          return (
            <path
              key={n}
              role="button"
              tabIndex={0}
              aria-label={`Key at ${k.t.toFixed(2)} s`}
              aria-pressed={here}
              className="cursor-grab"
              transform={`translate(${x(k.t)} ${py(k)}) scale(${size})`}
              d={k.easing === 'hold' ? FLAT_PIP : PIP}
              fill={here ? 'var(--brass)' : 'var(--ink)'}
              stroke="var(--card)"
              strokeWidth="1.2"
              paintOrder="stroke"
              onKeyDown={(e) => {
                if (e.key !== 'Enter' && e.key !== ' ') return;
                e.preventDefault();
                e.stopPropagation();
                props.onPick(id(k.t));
              }}
              onPointerDown={(e) => {
                if (e.button !== 0) return;
                e.stopPropagation();
                props.onGrab(e, id(k.t), perPx);
              }}
            />
          );
        })
      )}
    </>
  );
}

/** An apple seed, point up; cut flat on its right side where the value holds. */
const PIP = 'M0 -8C3 -3 5.5 -1 5.5 2.5A5.5 5 0 0 1 -5.5 2.5C-5.5 -1 -3 -3 0 -8Z';
const FLAT_PIP = 'M0 -8C-3 -3 -5.5 -1 -5.5 2.5A5.5 5 0 0 0 0 7.5Z';

/** Samples of the curve in sight, every two px and at its keys, and how far the whole track reaches. */
function curveOf(
  track: Track,
  duration: number,
  scale: TimeScale,
  t0: number,
  t1: number,
  seen: readonly { k: Key }[],
): { points: [number, number][]; low: number; high: number } {
  const steps = Math.max(2, Math.min(700, Math.ceil((xOf(scale, t1) - xOf(scale, t0)) / 2)));
  const times = Array.from({ length: steps + 1 }, (_, i) => t0 + ((t1 - t0) * i) / steps);
  if (seen.length <= 200) {
    // A value that jumps is seen to jump: just before the key and at it.
    for (const { k } of seen) if (k.t > t0 && k.t <= t1) times.push(k.t, Math.max(t0, k.t - 1e-7));
    times.sort((a, b) => a - b);
  }
  const points = times.map((t): [number, number] => [t, valueAt(track, duration, t)]);
  const [low, high] = reachOf(track, duration);
  return { points, low, high };
}

const reaches = new WeakMap<Track, readonly [number, number]>();
/** Least and greatest value of the whole track, so that its scale stays while one looks at a part of it. */
function reachOf(track: Track, duration: number): readonly [number, number] {
  const known = reaches.get(track);
  if (known) return known;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const meet = (v: number) => {
    low = Math.min(low, v);
    high = Math.max(high, v);
  };
  track.keys.forEach((k, n) => {
    meet(Number(k.value));
    const next = track.keys[n + 1];
    // Only what may swing past its ends is looked at in between.
    if (!next || typeof k.easing !== 'object') return;
    for (let i = 1; i < 16; i++) meet(valueAt(track, duration, k.t + ((next.t - k.t) * i) / 16));
  });
  const reach = [low, high] as const;
  reaches.set(track, reach);
  return reach;
}

/** Pips so close that they are drawn at once; the pointer takes the nearest. */
function ManyPips(props: {
  seen: readonly { k: Key }[];
  x: (t: number) => number;
  py: (k: Key) => number;
  isChosen: (t: number) => boolean;
  onGrab: (e: React.PointerEvent, k: Key) => void;
  scale: TimeScale;
  height: number;
  chosen: readonly number[];
}) {
  const { seen, x, py, isChosen } = props;
  // One pip for each px: more would not be seen, and be described anew with every move.
  const mark = (list: readonly { k: Key }[]) => {
    let [d, last] = ['', Number.NaN];
    for (const { k } of list) {
      const at = Math.round(x(k.t));
      if (at === last) continue;
      last = at;
      d += `M${at} ${Math.round(py(k)) - 4}v8`;
    }
    return d;
  };
  const picked = props.chosen.length > 0 ? seen.filter(({ k }) => isChosen(k.t)) : [];
  const nearest = (e: React.PointerEvent) => {
    const left = (e.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect().left ?? 0;
    const at = e.clientX - left;
    let best: Key | null = null;
    for (const { k } of seen) if (!best || Math.abs(x(k.t) - at) < Math.abs(x(best.t) - at)) best = k;
    return best && Math.abs(x(best.t) - at) <= NEAR ? best : null;
  };
  return (
    <g aria-label={`${seen.length} keys`} role="img">
      <path d={mark(seen)} stroke="var(--ink)" strokeWidth="1.2" pointerEvents="none" />
      {picked.length > 0 && (
        <path d={mark(picked)} stroke="var(--brass)" strokeWidth="2.4" pointerEvents="none" />
      )}
      <rect
        width={props.scale.width}
        height={props.height}
        fill="transparent"
        onPointerDown={(e) => {
          const k = e.button === 0 ? nearest(e) : null;
          if (!k) return;
          e.stopPropagation();
          props.onGrab(e, k);
        }}
      />
    </g>
  );
}

/** The value along time, and what it reaches where there is room for it. */
function Curve({
  line,
  x,
  y,
  height,
  low,
  high,
  from,
  to,
}: {
  line: string;
  x: (t: number) => number;
  y: (v: number) => number;
  height: number;
  low: number;
  high: number;
  from: number;
  to: number;
}) {
  return (
    <>
      {height >= 40 && (
        <path
          d={`${line}L${x(to)} ${height}L${x(from)} ${height}Z`}
          fill="var(--line)"
          opacity="0.3"
          pointerEvents="none"
        />
      )}
      <path d={line} fill="none" stroke="var(--brass)" strokeWidth="1.5" pointerEvents="none" />
      {height >= 40 && (
        <g className="num" fontSize="9.5" fill="var(--ink-2)" aria-hidden="true" pointerEvents="none">
          <text x="2" y={y(high) + 3}>
            {scaleWords(high, high - low)}
          </text>
          {high > low && (
            <text x="2" y={y(low) + 3}>
              {scaleWords(low, high - low)}
            </text>
          )}
        </g>
      )}
    </>
  );
}

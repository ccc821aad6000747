import type { Clip, KeyId } from '@apple-tick/core/model';
import { rulerStep } from '../../ui/ruler-step.ts';
import { HEAD, type TimeScale, xOf } from './scale.ts';

export const RULER = 38;

interface RulerProps {
  clip: Clip;
  scale: TimeScale;
  fps: number;
  keys: readonly KeyId[];
  onPlayhead: (e: React.PointerEvent) => void;
  onEnd: () => void;
  onStretch: (side: 'left' | 'right') => void;
  onMoveSpan: (e: React.PointerEvent) => void;
}

/**
 * Seconds and frame numbers, and below them an ink bracket over the clip whose end shows how it repeats, and a brass one
 * over what is chosen: both are taken by their ends.
 */
export function Ruler(props: RulerProps) {
  const { clip, scale, fps, keys } = props;
  const x = (t: number) => xOf(scale, t);
  const step = rulerStep(scale);
  const first = Math.ceil(scale.from / step);
  const marks = Array.from(
    { length: Math.floor(scale.span / step) + 2 },
    (_, i) => (first + i) * step,
  ).filter((t) => t >= 0 && x(t) <= scale.width);
  const decimals = step < 0.1 ? 2 : step < 1 ? 1 : 0;
  const perFrame = (x(1) - x(0)) / fps;
  const times = keys.map((k) => k.t);
  const [t0, t1] = [Math.min(...times), Math.max(...times)];
  const [a, b] = [x(0), x(clip.duration)];
  const stop = (act: () => void) => (e: React.PointerEvent) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    act();
  };
  return (
    <svg
      className="sticky top-0 z-10 bg-card block cursor-pointer border-b border-line"
      style={{ marginLeft: HEAD }}
      width={scale.width}
      height={RULER}
      data-ruler
      role="group"
      aria-label="Ruler"
      onPointerDown={(e) => {
        e.stopPropagation();
        if (e.button === 0) props.onPlayhead(e);
      }}
    >
      {perFrame >= 5 &&
        Array.from({ length: Math.floor(scale.span * fps) + 2 }, (_, i) => {
          const t = (Math.ceil(scale.from * fps) + i) / fps;
          return <line key={t} x1={x(t)} x2={x(t)} y1="20" y2="24" stroke="var(--line)" />;
        })}
      {marks.map((t) => (
        <g key={t} fontSize="10.5" className="num" aria-hidden="true">
          <line x1={x(t)} x2={x(t)} y1="6" y2="24" stroke="var(--ink-3)" strokeWidth="0.8" />
          <text x={x(t) + 4} y="12" fill="var(--ink)">
            {t.toFixed(decimals)}
          </text>
          <text x={x(t) + 4} y="23" fill="var(--ink-3)" fontSize="9">
            {Math.round(t * fps)}
          </text>
        </g>
      ))}
      {clip.duration > 0 && (
        <g stroke="var(--ink)" strokeWidth="1.6" fill="none">
          <title>{LOOP_WORDS[clip.loop]}</title>
          <path d={`M${a} 36V29H${b}`} />
          <path d={bracketEnd(clip.loop, a, b)} />
        </g>
      )}
      <rect
        role="slider"
        tabIndex={-1}
        aria-label="End of the clip"
        aria-valuenow={clip.duration}
        x={b - 5}
        y="25"
        width="14"
        height="13"
        fill="transparent"
        className="cursor-ew-resize"
        data-clip-end
        onPointerDown={stop(props.onEnd)}
      >
        <title>Drag to stretch the clip; with Alt only its end</title>
      </rect>
      {keys.length > 1 && t1 > t0 && (
        <KeysSpan
          from={x(t0)}
          to={x(t1)}
          onMove={(e) => stop(() => props.onMoveSpan(e))(e)}
          onStretch={(side) => stop(() => props.onStretch(side))}
        />
      )}
    </svg>
  );
}

const LOOP_WORDS = {
  once: 'plays once and stands at its end',
  loop: 'begins again at its end',
  'there-and-back': 'turns back at both ends',
};

/** Once: a bar that stops. A loop: a hook that leads back. There and back: a head that points back, at both ends. */
function bracketEnd(loop: Clip['loop'], a: number, b: number): string {
  if (loop === 'once') return `M${b} 25V36`;
  if (loop === 'loop') return `M${b} 29a3.2 3.2 0 0 1 0 6.4h-9M${b - 5} 32.6l-4 2.8 4 2.2`;
  return `M${b} 29V36M${b - 3} 25.5l-4.5 3.5 4.5 3.5M${a + 3} 25.5l4.5 3.5 -4.5 3.5`;
}

/** The span of the chosen keys: moved by its bar, stretched by its ends. */
function KeysSpan({
  from,
  to,
  onMove,
  onStretch,
}: {
  from: number;
  to: number;
  onMove: (e: React.PointerEvent) => void;
  onStretch: (side: 'left' | 'right') => (e: React.PointerEvent) => void;
}) {
  return (
    <g>
      <rect
        x={from}
        y="31"
        width={to - from}
        height="5"
        fill="var(--brass)"
        className="cursor-grab"
        data-keys-span
        onPointerDown={onMove}
      />
      {(['left', 'right'] as const).map((side) => (
        <rect
          key={side}
          x={(side === 'left' ? from - 7 : to + 1) - 1}
          y="27"
          width="7"
          height="11"
          rx="2"
          fill="var(--card)"
          stroke="var(--brass)"
          strokeWidth="1.6"
          className="cursor-ew-resize"
          data-keys-end={side}
          onPointerDown={onStretch(side)}
        >
          <title>Drag to stretch what is chosen</title>
        </rect>
      ))}
    </g>
  );
}

/** Values that are no curve, along time: bars, blocks, bands. */
import type { Key } from '@apple-tick/core/model';

interface Stretch {
  seen: readonly { k: Key; n: number }[];
  end: number;
  x: (t: number) => number;
  middle: number;
}

/** From where to where the key's value stands. */
function standing({ seen, end, x }: Stretch, i: number): [number, number] {
  const one = seen[i] as { k: Key; n: number };
  return [x(one.n === 0 ? 0 : one.k.t), x(seen[i + 1]?.k.t ?? end)];
}

/** A switch along time: a bar wherever it is on. */
export function Bars(props: Stretch) {
  return props.seen.map(({ k, n }, i) => {
    const [a, b] = standing(props, i);
    return k.value === true ? (
      <rect
        key={n}
        x={a}
        y={props.middle - 7}
        width={Math.max(0, b - a)}
        height="14"
        rx="4"
        fill="var(--line)"
        stroke="var(--ink-3)"
        strokeWidth="0.8"
        pointerEvents="none"
      />
    ) : (
      <line key={n} x1={a} x2={b} y1={props.middle} y2={props.middle} stroke="var(--line)" />
    );
  });
}

/** Looks along time: a named block each. */
export function Blocks(props: Stretch & { name: (id: string) => string }) {
  return props.seen.map(({ k, n }, i) => {
    const [a, b] = standing(props, i);
    return (
      <g key={n} pointerEvents="none">
        <rect
          x={a}
          y={props.middle - 8}
          width={Math.max(0, b - a)}
          height="16"
          rx="4"
          fill="var(--card)"
          stroke="var(--ink-3)"
        />
        {b - a > 40 && (
          <text x={a + 12} y={props.middle + 4} fontSize="10.5" fill="var(--ink-2)" aria-hidden="true">
            {props.name(String(k.value))}
          </text>
        )}
      </g>
    );
  });
}

const SLICES = 80;

/** A colour along time, as a band. */
export function Band(props: {
  at: (t: number) => string;
  from: number;
  to: number;
  x: (t: number) => number;
  middle: number;
}) {
  const { at, from, to, x, middle } = props;
  const t = (i: number) => from + ((to - from) * i) / SLICES;
  return Array.from({ length: SLICES }, (_, i) => (
    <rect
      // biome-ignore lint/suspicious/noArrayIndexKey: a slice is its place
      key={i}
      x={x(t(i))}
      y={middle - 8}
      width={x(t(i + 1)) - x(t(i)) + 0.6}
      height="16"
      fill={at(t(i + 0.5))}
      pointerEvents="none"
    />
  ));
}

import type { DrawnKind } from '../session/model-help.ts';
import { FILLS } from '../session/things/new-object.ts';

/** What a kind of object looks like, in the colours that a new one has; in a box of 24 by 24. */
const PICTURES: Record<DrawnKind, (fill: string) => React.ReactNode> = {
  group: () => (
    <rect x="4" y="5" width="16" height="14" rx="2" fill="none" stroke="var(--ink-2)" strokeDasharray="3 2" />
  ),
  rect: (fill) => <rect x="3" y="6" width="18" height="12" fill={fill} />,
  ellipse: (fill) => <circle cx="12" cy="12" r="8" fill={fill} />,
  polygon: (fill) => <path d="M12 3L21 9.7L17.6 20.5H6.4L3 9.7Z" fill={fill} />,
  path: (fill) => <path d="M4 19C4 9 10 4 20 4C20 14 15 20 4 19Z" fill={fill} />,
  text: () => (
    <text
      x="12"
      y="19"
      textAnchor="middle"
      fontFamily="Fraunces Variable, serif"
      fontSize="20"
      fontWeight="600"
      fill="var(--ink)"
    >
      T
    </text>
  ),
  box: (fill) => (
    <>
      <path d="M3 8L12 4L21 8L12 12Z" fill={fill} />
      <path d="M3 8L12 12V21L3 17Z" fill={fill} style={{ filter: 'brightness(.86)' }} />
      <path d="M21 8L12 12V21L21 17Z" fill={fill} style={{ filter: 'brightness(.72)' }} />
    </>
  ),
  cylinder: (fill) => (
    <>
      <path
        d="M5 7V17C5 19 8 20.5 12 20.5S19 19 19 17V7Z"
        fill={fill}
        style={{ filter: 'brightness(.82)' }}
      />
      <ellipse cx="12" cy="7" rx="7" ry="3" fill={fill} />
    </>
  ),
  ball: (fill) => (
    <>
      <circle cx="12" cy="12" r="8.5" fill={fill} />
      <ellipse
        cx="9.3"
        cy="8.6"
        rx="2.6"
        ry="1.8"
        fill="#fff"
        fillOpacity=".45"
        transform="rotate(-35 9.3 8.6)"
      />
    </>
  ),
  prism: (fill) => (
    <>
      <path d="M3 18L9 6L13 16Z" fill={fill} />
      <path d="M9 6L19 9L21 17L13 16Z" fill={fill} style={{ filter: 'brightness(.8)' }} />
    </>
  ),
};

export function ShapePicture({ kind, size }: { kind: DrawnKind; size: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
      {PICTURES[kind](FILLS[kind])}
    </svg>
  );
}

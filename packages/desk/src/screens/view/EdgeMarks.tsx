/** What waits outside the frame is marked at its edge, with its name: there it can be chosen. */
import { useRef } from 'react';
import { useSession, useUi } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import type { Posed } from '../../session/view/drag.ts';
import { screenBoxes } from '../../session/view/screen-boxes.ts';
import type { Screen } from '../../session/view/view-math.ts';

/** So many are named; of more it is said how many there are. */
const MOST = 6;
/** Px between a mark and the frame's edge, and for each mark along it. */
const INSIDE = 4;
const EACH = 17;

interface Outside {
  readonly id: string;
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly side: 'left' | 'right' | 'top' | 'bottom';
}

interface Seen {
  readonly posed: Posed;
  readonly screen: Screen;
  readonly seen: { readonly width: number; readonly height: number };
  readonly skip: Uint8Array | null;
}

/** The outermost things that lie wholly outside the frame, and where at its edge they are nearest. */
function outsideOf(s: Session, { posed, screen, seen, skip }: Seen): Outside[] {
  // What is chosen is marked by its handles.
  const chosen = new Set(s.chosen);
  const [w, h] = [(seen.width * screen.scale) / 2, (seen.height * screen.scale) / 2];
  const [left, right, top, bottom] = [screen.x - w, screen.x + w, screen.y - h, screen.y + h];
  const { objects, geometry } = posed.program;
  const boxes = screenBoxes(posed.program, posed.builder.faces, screen);
  const isOut = boxes.map(
    (b) => b !== undefined && (b.x1 <= left || b.x0 >= right || b.y1 <= top || b.y0 >= bottom),
  );
  return objects.flatMap((o, i): Outside[] => {
    const box = boxes[i];
    const parent = geometry.parent[i] as number;
    // Of what lies in something that is outside, that alone is marked.
    if (
      !box ||
      !isOut[i] ||
      isOut[parent] ||
      o.guide ||
      chosen.has(o.id) ||
      skip?.[i] ||
      !s.store.has('objects', o.id)
    )
      return [];
    const [x, y] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
    const side = box.x1 <= left ? 'left' : box.x0 >= right ? 'right' : box.y1 <= top ? 'top' : 'bottom';
    return [
      {
        id: o.id,
        name: o.name,
        x: Math.max(left, Math.min(right, x)),
        y: Math.max(top, Math.min(bottom, y)),
        side,
      },
    ];
  });
}

export function EdgeMarks(props: Seen) {
  const s = useSession();
  useUi((u) => u.object);
  useUi((u) => u.also);
  const isPlaying = useUi((u) => u.playing);
  const last = useRef<readonly Outside[]>([]);
  // While something moves they rest: all boxes would be worked out for each frame.
  if (!isPlaying && !s.gesture) last.current = outsideOf(s, props);
  const { screen, seen } = props;
  const [w, h] = [(seen.width * screen.scale) / 2, (seen.height * screen.scale) / 2];
  const [left, right, top, bottom] = [screen.x - w, screen.x + w, screen.y - h, screen.y + h];
  const found = last.current;
  const shown = found.slice(0, MOST);
  const taken: Record<string, number> = {};
  return (
    <>
      {shown.map(({ id, name, x, y, side }) => {
        const across = side === 'left' || side === 'right';
        // Those of one side stand one below the other.
        const n = taken[side] ?? 0;
        taken[side] = n + 1;
        const style = {
          left: { left: left + INSIDE, top: Math.min(bottom - 22, y - 8 + n * EACH) },
          right: {
            left: right - INSIDE,
            top: Math.min(bottom - 22, y - 8 + n * EACH),
            transform: 'translateX(-100%)',
          },
          top: { left: x, top: top + INSIDE + n * EACH, transform: 'translateX(-50%)' },
          bottom: { left: x, top: bottom - INSIDE - EACH - n * EACH, transform: 'translateX(-50%)' },
        }[side];
        const arrow = { left: '◂', right: '▸', top: '▴', bottom: '▾' }[side];
        return (
          <button
            key={id}
            type="button"
            data-edge-mark={side}
            aria-label={`${name} waits outside the frame, ${across ? `to the ${side}` : side === 'top' ? 'above' : 'below'}`}
            title={`${name} waits outside the frame`}
            className="absolute bg-card/90 border border-brass rounded-[5px] px-1.5 text-[11px] leading-[15px] text-brass whitespace-nowrap max-w-[140px] truncate"
            style={style}
            onClick={() => s.select({ kind: 'object', id })}
          >
            {side === 'right' ? `${name} ${arrow}` : `${arrow} ${name}`}
          </button>
        );
      })}
      {found.length > MOST && (
        <span
          className="absolute bg-card/90 rounded-[5px] px-1.5 text-[11px] text-ink-2"
          style={{ left: left + INSIDE, top: bottom - 20 }}
        >
          {found.length - MOST} more wait outside
        </span>
      )}
    </>
  );
}

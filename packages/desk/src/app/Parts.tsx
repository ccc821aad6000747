/** The parts of the screen: their sizes, as this browser last had them, and the lines between them. */
import { type ReactNode, useCallback, useRef, useState } from 'react';
import { Group, Panel, Separator, usePanelRef } from 'react-resizable-panels';
import { readPref, writePref } from '../session/keep/prefs.ts';

type Part = 'left' | 'right' | 'deck';

/** Px of each part: at first, at least, at most, and folded, as it is when it is pushed well below its least. */
const PARTS = {
  left: { first: 190, least: 150, most: 380, folded: 0 },
  right: { first: 300, least: 250, most: 520, folded: 0 },
  deck: { first: 326, least: 170, most: 620, folded: 38 },
} as const;
/** What the view between them keeps at least, px, and what it is given at first, also of a small window. */
const VIEW = { width: 200, height: 160 };
const ROOM = { width: 430, height: 240 };
/** Px of the bar above all of them. */
const BAR = 44;
const KEY = 'apple-tick-sizes';

type Sizes = Partial<Record<Part, unknown>>;
function keptSizes(): Sizes {
  try {
    return (JSON.parse(readPref(KEY) ?? '{}') ?? {}) as Sizes;
  } catch {
    return {};
  }
}

/** The size with which a part begins, px, from what was kept of it. */
export function sizeOf(part: Part, kept: unknown): number {
  const { first, least, most, folded } = PARTS[part];
  if (typeof kept !== 'number' || !Number.isFinite(kept)) return first;
  return kept < least * 0.6 ? folded : Math.round(Math.max(least, Math.min(most, kept)));
}

/** The size with which a part begins in a window of this size: in a small one the view keeps its room, as far as can be. */
export function sizeIn(part: Part, kept: Sizes, width: number, height: number): number {
  const size = sizeOf(part, kept[part]);
  const { least, folded } = PARTS[part];
  if (size <= folded) return size;
  const beside = sizeOf('left', kept.left) + sizeOf('right', kept.right);
  const most = part === 'deck' ? height - BAR - ROOM.height : (size * (width - ROOM.width)) / beside;
  return Math.max(least, Math.min(size, Math.round(most)));
}

/** One part: what its panel and its line are told. */
function usePart(part: Part) {
  const { first, least, most, folded } = PARTS[part];
  const ref = usePanelRef();
  const [begins] = useState(() => sizeIn(part, keptSizes(), innerWidth, innerHeight));
  const [isFolded, setFolded] = useState(begins <= folded);
  const known = useRef(begins);
  const keep = useCallback(() => {
    // It is as large as it was told only in the next frame.
    requestAnimationFrame(() => {
      const px = ref.current?.getSize().inPixels;
      // What a small window has taken from it is not what somebody wants it to be.
      if (px === undefined || Math.abs(px - known.current) < 1) return;
      known.current = px;
      writePref(KEY, JSON.stringify({ ...keptSizes(), [part]: Math.round(px) }));
    });
  }, [part, ref]);
  const fold = () => {
    const panel = ref.current;
    if (!panel) return;
    if (panel.isCollapsed()) panel.resize(first);
    else panel.collapse();
    keep();
  };
  const panel = {
    ...{ id: part, panelRef: ref, defaultSize: begins, minSize: least, maxSize: most },
    ...{ collapsible: true, collapsedSize: folded, groupResizeBehavior: 'preserve-pixel-size' as const },
    onResize: ({ inPixels }: { inPixels: number }) => setFolded(inPixels <= folded + 1),
  };
  const line = {
    onDoubleClick: fold,
    // Whichever side of it the part is on; its own keys would only fold what comes before it.
    onKeyDownCapture: (e: React.KeyboardEvent) => {
      if (e.key !== 'Enter') return;
      e.preventDefault();
      e.stopPropagation();
      fold();
    },
    // Its keys are not those of the piece.
    onKeyDown: (e: React.KeyboardEvent) => {
      if (/^Arrow|^Home$|^End$/.test(e.key)) e.stopPropagation();
    },
  };
  return { panel, line, keep, isFolded };
}

/** The line between two parts lies over both. */
const LINE = 'relative z-20 outline-offset-0 hover:bg-brass/40';
const UPRIGHT = `${LINE} w-[7px] -mx-[3.5px] cursor-col-resize`;
const LYING = `${LINE} h-[7px] -my-[3.5px] cursor-row-resize`;
/** What is in a part is as large as the part; what scrolls in it does so by itself. */
const PART = { overflow: 'hidden' } as const;

/** The screen below the bar: `left`, `view` and `right` side by side over `deck`. */
export function Parts(props: { left: ReactNode; view: ReactNode; right: ReactNode; deck: ReactNode }) {
  const left = usePart('left');
  const right = usePart('right');
  const deck = usePart('deck');
  const kept =
    (...parts: readonly { keep: () => void }[]) =>
    (_: unknown, { isUserInteraction }: { isUserInteraction: boolean }) => {
      if (isUserInteraction) for (const p of parts) p.keep();
    };
  // Folded away, what is in it is not reached by the keyboard either.
  const side = (isFolded: boolean, of: ReactNode) => (
    <div className={`h-full min-w-0 grid ${isFolded ? 'invisible' : ''}`}>{of}</div>
  );
  return (
    <div className="min-h-0">
      <Group orientation="vertical" onLayoutChanged={kept(deck)}>
        <Panel id="work" minSize={VIEW.height} style={PART}>
          <main className="h-full">
            <Group onLayoutChanged={kept(left, right)}>
              <Panel {...left.panel} style={PART}>
                {side(left.isFolded, props.left)}
              </Panel>
              <Separator aria-label="Width of the objects" className={UPRIGHT} {...left.line} />
              <Panel id="view" minSize={VIEW.width} style={PART}>
                <div className="h-full grid">{props.view}</div>
              </Panel>
              <Separator aria-label="Width of the properties" className={UPRIGHT} {...right.line} />
              <Panel {...right.panel} style={PART}>
                {side(right.isFolded, props.right)}
              </Panel>
            </Group>
          </main>
        </Panel>
        <Separator aria-label="Height of the deck" className={LYING} {...deck.line} />
        <Panel {...deck.panel} style={PART}>
          <div className="h-full grid">{props.deck}</div>
        </Panel>
      </Group>
    </div>
  );
}

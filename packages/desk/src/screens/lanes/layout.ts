/**
 * Where a lane's panels, arcs and tickets lie: a pure function of the lane's shape and of the room there is. Forward arcs
 * run above the panels, back arcs below. Ends along an edge are sorted by where they go, and what lies inside another
 * arc lies on a lower level, so nested arcs never cross; a ticket lies where no other arc ends, so none runs behind it.
 * Arcs for which there is no level left are cut short: a ticket at their beginning says where they lead, an arrow stands
 * at their end.
 */
export interface LaneShape {
  readonly states: readonly { readonly id: string; readonly name: string }[];
  readonly transitions: readonly {
    readonly id: string;
    readonly from: string;
    readonly to: string;
    readonly words: string;
  }[];
}
export interface Rect {
  x: number;
  y: number;
  w: number;
  h: number;
}
export interface ArcLayout {
  id: string;
  ticket: Rect;
  /** The ticket when all its words are to be read; it may lie over others then. */
  whole: Rect;
  text: string;
  path: string;
  /** Cut short: it does not reach from panel to panel. */
  far: boolean;
  head: { x: number; y: number; up: boolean };
}
export interface Room {
  /** Px that the lane may fill. */
  readonly width: number;
  readonly height: number;
  /** 1: all states side by side as far as they can then be read. */
  readonly zoom: number;
}
export interface LaneLayout {
  width: number;
  height: number;
  panels: Record<string, Rect>;
  arcs: ArcLayout[];
  /** Whether tickets are set smaller to find room. */
  small: boolean;
}

/** Panels are no narrower, and no wider. */
const NARROWEST = 56;
const WIDEST = 240;
/** The width in which panels are read without effort: more states than fit are scrolled at this width. */
const READABLE = 112;
const LEAST_GAP = 22;
/** Panels are no lower where arcs would be cut short. */
const LOW = 70;
const MARGIN = 14;
/** No two ends of arcs on one edge are closer than this. */
const END_GAP = 12;
/** A ticket keeps so far from other arcs. */
const CLEAR = 4;
const WIDEST_TICKET = 190;
/** Room at the top, where a run shows the states so far, px. */
export const SO_FAR = 15;
/** The arrow at the end of an arc that is cut short, px. */
const FAR_ARROW = 15;
/** A ticket is so wide when no word finds room. */
export const NOTCH = 16;

/** Of a size of tickets: height, from level to level, and a letter's width, px. */
const SIZES = [
  { ticket: 22, level: 27, letter: 6.4 },
  { ticket: 18, level: 21, letter: 5.9 },
] as const;

interface Arc {
  readonly id: string;
  readonly words: string;
  readonly from: number;
  readonly to: number;
  readonly above: boolean;
  readonly far?: boolean;
}
interface Placed extends Arc {
  x1: number;
  x2: number;
  /** The ticket. */
  x: number;
  w: number;
  level: number;
}
/** An end of an arc on the edge of a panel. */
interface End {
  readonly key: string;
  readonly id: string;
  readonly other: number;
}

export function layoutLane(lane: LaneShape, room: Room): LaneLayout {
  const index = new Map(lane.states.map((s, i) => [s.id, i]));
  const arcs = lane.transitions.flatMap((t): Arc[] => {
    const [from, to] = [index.get(t.from), index.get(t.to)];
    if (from === undefined || to === undefined) return [];
    return [{ id: t.id, words: t.words, from, to, above: to >= from }];
  });
  const sides = [true, false].map((above) => arcs.filter((a) => a.above === above));
  const ends = lane.states.map((_, i) => sides.map((side) => sortedEnds(side, i)));
  const { width, gap, widths } = panelWidths(
    ends.map((e) => (Math.max(...e.map((side) => side.length)) + 1) * END_GAP),
    room,
  );
  const row = widths.reduce((a, b) => a + b, 0) + gap * Math.max(0, widths.length - 1);
  // What does not fill the room stands in its middle.
  let x = Math.max(MARGIN, (room.width - row) / 2);
  const xs = widths.map((w) => {
    const at = x;
    x += w + gap;
    return at;
  });
  const fullWidth = Math.max(room.width, row + 2 * MARGIN);
  const endX = new Map<string, number>();
  ends.forEach((e, i) => {
    for (const side of e)
      for (const [k, { key }] of side.entries())
        endX.set(key, (xs[i] as number) + ((widths[i] as number) * (k + 1)) / (side.length + 1));
  });
  const lowest = Math.max(58, Math.min(110, 28 + 0.55 * width));
  const size = SIZES.find((z) => needed(sides, endX, fullWidth, z) + lowest <= room.height) ?? SIZES[1];
  const nameOf = (i: number) => lane.states[i]?.name ?? '';
  // Before arcs are cut short the panels give what they can.
  const low = Math.min(lowest, LOW);
  const placed = placeSides(sides, endX, fullWidth, size, room.height - low, nameOf);
  const [over, under] = placed.map((side, k) => roomOf(side, size, k === 0)) as [number, number];
  const left = room.height - over - under;
  const h = Math.max(low, Math.min(left, 190, 60 + 0.68 * width));
  const y = over + Math.max(0, (left - h) / 2);
  const panels: Record<string, Rect> = {};
  lane.states.forEach((s, i) => {
    panels[s.id] = { x: xs[i] as number, y, w: widths[i] as number, h };
  });
  return {
    width: fullWidth,
    height: Math.max(room.height, over + h + under),
    panels,
    arcs: placed.flat().map((p) => arcLayout(p, p.above ? y : y + h, size, fullWidth)),
    small: size !== SIZES[0],
  };
}

type Size = (typeof SIZES)[number];
const levelsOf = (side: readonly Placed[]) => Math.max(0, ...side.map((p) => p.level + 1));
/** What the arcs of a side take, px. */
const roomOf = (side: readonly Placed[], size: Size, above: boolean) =>
  levelsOf(side) * size.level + (side.length > 0 ? 8 : 4) + (above ? SO_FAR : 6);
const needed = (sides: readonly Arc[][], endX: ReadonlyMap<string, number>, width: number, size: Size) =>
  sides
    .map((side, k) => roomOf(placeArcs(side, endX, width, size.letter), size, k === 0))
    .reduce((a, b) => a + b, 0);

/** Both sides' arcs, in the height there is for them: those that lie too high are cut short. */
function placeSides(
  sides: readonly Arc[][],
  endX: ReadonlyMap<string, number>,
  width: number,
  size: Size,
  height: number,
  nameOf: (state: number) => string,
): Placed[][] {
  let placed = sides.map((side) => placeArcs(side, endX, width, size.letter));
  const budget = Math.max(2, Math.floor((height - 32) / size.level));
  const all = placed.reduce((n, side) => n + levelsOf(side), 0);
  if (all <= budget) return placed;
  const share = placed.map((side) => Math.max(1, Math.floor((budget * levelsOf(side)) / all)));
  let now = sides;
  // Each time those that lie too high are cut short, which makes room; all may have to be.
  for (let round = 0; round < 20; round++) {
    const high = new Set(
      placed.flatMap((side, k) =>
        side.filter((p) => !p.far && p.level >= (share[k] as number)).map((p) => p.id),
      ),
    );
    if (high.size === 0) break;
    now = now.map((side) =>
      side.map((a) => (high.has(a.id) ? { ...a, far: true, words: `→ ${nameOf(a.to)} · ${a.words}` } : a)),
    );
    placed = now.map((side) => placeArcs(side, endX, width, size.letter));
  }
  return placed;
}

/** How wide panels are and how far apart, each at least as wide as its ends ask for. */
function panelWidths(
  asked: readonly number[],
  room: Room,
): { width: number; gap: number; widths: readonly number[] } {
  const n = asked.length;
  const inner = room.width - 2 * MARGIN;
  const wide = inner / (n + 0.45 * Math.max(0, n - 1));
  const tight = (inner - LEAST_GAP * Math.max(0, n - 1)) / Math.max(1, n);
  const fit = wide >= 70 ? wide : tight;
  const base = fit < NARROWEST ? READABLE : Math.min(WIDEST, fit);
  const at = (w: number) => asked.map((a) => Math.max(w, a));
  const total = (w: number) => at(w).reduce((a, b) => a + b, 0);
  let width = Math.floor(Math.max(NARROWEST, Math.min(WIDEST, base * room.zoom)));
  // Where some must be wider the others give way, if all then fit.
  const most = inner - LEAST_GAP * (n - 1);
  if (room.zoom <= 1 && fit >= NARROWEST && total(NARROWEST) <= most) while (total(width) > most) width--;
  const spare = n > 1 ? (inner - total(width)) / (n - 1) : 0;
  const gap = Math.min(spare, Math.max(0.45 * width, 150 - 0.3 * width));
  return { width, gap: Math.floor(Math.max(LEAST_GAP, gap)), widths: at(width) };
}

/**
 * The ends on panel i, from left to right: arcs to and from the left, the nearest of them outermost on the panel; arcs
 * of the panel to itself; those to and from the right, the nearest outermost. So what is nested does not cross.
 */
function sortedEnds(arcs: readonly Arc[], i: number): End[] {
  const left: End[] = [];
  const right: End[] = [];
  const own: Arc[] = [];
  for (const { id, from, to, ...rest } of arcs) {
    if (from === i && to === i) own.push({ id, from, to, ...rest });
    else if (from === i) (to < i ? left : right).push({ key: `${id}>`, id, other: to });
    else if (to === i) (from < i ? left : right).push({ key: `<${id}`, id, other: from });
  }
  const byId = (a: { id: string }, b: { id: string }) => (a.id < b.id ? -1 : 1);
  left.sort((a, b) => b.other - a.other || byId(a, b));
  right.sort((a, b) => b.other - a.other || byId(b, a));
  own.sort(byId);
  return [
    ...left,
    ...own.map(({ id }) => ({ key: `${id}>`, id, other: i })),
    ...own.reverse().map(({ id }) => ({ key: `<${id}`, id, other: i })),
    ...right,
  ];
}

/** Tickets and levels of the arcs of one side. */
function placeArcs(
  arcs: readonly Arc[],
  endX: ReadonlyMap<string, number>,
  width: number,
  letter: number,
): Placed[] {
  const of = (a: Arc) => [endX.get(`${a.id}>`) as number, endX.get(`<${a.id}`) as number] as const;
  const all = arcs
    .map((a) => {
      const [x1, x2] = of(a);
      // What is cut short stands over its beginning.
      return { ...a, x1, x2, l: a.far ? x1 : Math.min(x1, x2), r: a.far ? x1 : Math.max(x1, x2) };
    })
    .sort((a, b) => a.r - a.l - (b.r - b.l) || (a.id < b.id ? -1 : 1));
  const out: (Placed & { l: number; r: number })[] = [];
  for (const a of all) {
    const isInside = (b: { l: number; r: number }) => b.l > a.l && b.r < a.r;
    // What lies inside stays below this arc's level; all others may rise past it.
    const rising = all.flatMap((b) =>
      b.id === a.id ? (a.far ? [a.x2] : []) : isInside(b) ? [] : [b.x1, b.x2],
    );
    const ticket = freeStretch(a, rising, width, Math.min(a.words.length * letter + 34, WIDEST_TICKET));
    const [low, high] = [Math.min(a.l, ticket.x), Math.max(a.r, ticket.x + ticket.w)];
    const isTaken = (level: number) =>
      out.some((q) => {
        if (isInside(q)) return q.level >= level;
        return q.level === level && low < Math.max(q.r, q.x + q.w) + 6 && Math.min(q.l, q.x) < high + 6;
      });
    let level = 0;
    while (isTaken(level)) level++;
    out.push({ ...a, ...ticket, level });
  }
  return out;
}

/** Where on its arc a ticket finds the most room between the ends of other arcs, near the arc's middle. */
function freeStretch(
  a: { l: number; r: number },
  rising: readonly number[],
  width: number,
  wanted: number,
): { x: number; w: number } {
  const middle = (a.l + a.r) / 2;
  const [from, to] = [Math.max(2, a.l - 90), Math.min(width - 2, a.r + 90)];
  const stops = [...rising.filter((x) => x > from && x < to), from, to].sort((p, q) => p - q);
  let best = { x: middle - NOTCH / 2, w: NOTCH, worth: Number.NEGATIVE_INFINITY };
  for (let i = 1; i < stops.length; i++) {
    const [p, q] = [(stops[i - 1] as number) + CLEAR, (stops[i] as number) - CLEAR];
    // The middle of a ticket hangs on its arc.
    const w = Math.min(wanted, q - p, 2 * (a.r - p), 2 * (q - a.l));
    if (w < NOTCH) continue;
    const [least, most] = [Math.max(p, a.l - w / 2), Math.min(q - w, a.r - w / 2)];
    const x = Math.max(least, Math.min(most, middle - w / 2));
    const worth = w - 0.2 * Math.abs(x + w / 2 - middle);
    if (worth > best.worth) best = { x, w, worth };
  }
  // Too narrow for words, it is a notch.
  return best.w < 2 * NOTCH ? { x: best.x + (best.w - NOTCH) / 2, w: NOTCH } : best;
}

function arcLayout(p: Placed, edge: number, size: Size, width: number): ArcLayout {
  const d = p.above ? -1 : 1;
  const cy = edge + d * (size.ticket / 2 + 8 + p.level * size.level);
  const run = Math.abs(p.x2 - p.x1) / 2;
  const rx = Math.min(26, run);
  const ry = Math.min(size.level - size.ticket / 2 - 2, Math.abs(cy - edge) - 2);
  const way = p.x1 <= p.x2 ? 1 : -1;
  const w = Math.min(p.words.length * size.letter + 34, width - 4);
  const y = cy - size.ticket / 2;
  return {
    id: p.id,
    text: p.words,
    far: p.far === true,
    ticket: { x: p.x, y, w: p.w, h: size.ticket },
    whole: { x: Math.max(2, Math.min(width - 2 - w, p.x + (p.w - w) / 2)), y, w, h: size.ticket },
    path: p.far
      ? `M${p.x1} ${edge}V${cy}M${p.x2} ${edge + d * FAR_ARROW}V${edge}`
      : `M${p.x1} ${edge}V${cy - d * ry}Q${p.x1} ${cy} ${p.x1 + way * rx} ${cy}` +
        `H${p.x2 - way * rx}Q${p.x2} ${cy} ${p.x2} ${cy - d * ry}V${edge}`,
    head: { x: p.x2, y: edge, up: !p.above },
  };
}

/** Tickets that are to be read whole, none over another of them: one that finds no room beside the others stays short. */
export function wholeTickets(layout: LaneLayout, ids: ReadonlySet<string>): ReadonlyMap<string, Rect> {
  const out = new Map<string, Rect>();
  for (const { id, whole, ticket } of layout.arcs) {
    if (!ids.has(id)) continue;
    const others = [...out.values()].filter((o) => o.y < whole.y + whole.h && whole.y < o.y + o.h);
    const isFree = (x: number) =>
      x >= 2 &&
      x + whole.w <= layout.width - 2 &&
      others.every((o) => x + whole.w + 4 <= o.x || o.x + o.w + 4 <= x);
    const tried = [whole.x, ...others.flatMap((o) => [o.x - whole.w - 4, o.x + o.w + 4])];
    const near = tried.filter(isFree).sort((a, b) => Math.abs(a - whole.x) - Math.abs(b - whole.x))[0];
    out.set(id, near === undefined ? ticket : { ...whole, x: near });
  }
  return out;
}

/** What a panel of this size shows: how far its contents keep from its edge, and which of them find room. */
export function panelParts({ w, h }: { w: number; h: number }) {
  const pad = w < 100 ? 5 : 9;
  const curve = h >= 98 ? 17 : 0;
  return {
    pad,
    curve,
    /** Whether two poses stand side by side, and what it plays beside its name. */
    wide: w - 2 * pad >= 118,
    /** The place of the poses; in steps, so that not each px of a drag asks for new pictures. */
    poses: { w: w - 2 * pad, h: Math.max(20, h - 2 * pad - 21 - curve) },
  };
}

/** The middle of a panel, px of the canvas. */
export function center(r: Rect | undefined): { x: number; y: number } {
  return r ? { x: r.x + r.w / 2, y: r.y + r.h / 2 } : { x: 0, y: 0 };
}

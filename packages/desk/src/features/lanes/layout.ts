/**
 * Where a lane's panels, arcs and tickets lie: a pure function of the lane's shape and a width. Forward arcs run
 * above the panels, back arcs below. Tickets stand on levels: on one level none overlaps another, and levels lie
 * further apart than a ticket is high, so no ticket ever lies over a ticket or a panel.
 */
export interface LaneShape {
  readonly states: readonly { readonly id: string }[];
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
  text: string;
  path: string;
  head: { x: number; y: number; up: boolean };
}
export interface LaneLayout {
  width: number;
  height: number;
  panels: Record<string, Rect>;
  arcs: ArcLayout[];
}

const PANEL_H = 104;
const PANEL_W = 148;
const TICKET_H = 22;
const LEVEL = 27;
const MARGIN = 14;
/** No two ends of arcs on one edge are closer than this. */
const END_GAP = 14;
const CHAR = 6.4;

export function layoutLane(lane: LaneShape, width: number): LaneLayout {
  const index = new Map(lane.states.map((s, i) => [s.id, i]));
  const arcs = lane.transitions
    .filter((t) => index.has(t.from) && index.has(t.to))
    .map((t) => {
      const from = index.get(t.from) as number;
      const to = index.get(t.to) as number;
      return { t, from, to, above: to >= from };
    });
  const ends = lane.states.map((_, i) => ({
    above: arcs.filter((a) => a.above).flatMap((a) => endsAt(a, i)),
    below: arcs.filter((a) => !a.above).flatMap((a) => endsAt(a, i)),
  }));
  const widths = ends.map((e) => Math.max(PANEL_W, (Math.max(e.above.length, e.below.length) + 1) * END_GAP));
  const total = widths.reduce((a, b) => a + b, 0);
  const gap = Math.max(54, Math.min(110, (width - 2 * MARGIN - total) / Math.max(1, widths.length - 1)));
  const xs: number[] = [];
  widths.reduce((x, w) => {
    xs.push(x);
    return x + w + gap;
  }, MARGIN);
  const fullWidth = (xs.at(-1) ?? 0) + (widths.at(-1) ?? 0) + MARGIN;
  const endX = (i: number, above: boolean, key: string) => {
    const list = above ? ends[i]?.above : ends[i]?.below;
    const n = list?.length ?? 1;
    // Ends that lead left stand left, so that arcs do not cross at the edge.
    const sorted = [...(list ?? [])].sort((a, b) => a.other - b.other || (a.key < b.key ? -1 : 1));
    const at = sorted.findIndex((e) => e.key === key);
    return (xs[i] as number) + ((widths[i] as number) * (at + 1)) / (n + 1);
  };
  const placed = arcs
    .map((a) => {
      const x1 = endX(a.from, a.above, `${a.t.id}>`);
      const x2 = endX(a.to, a.above, `<${a.t.id}`);
      const w = Math.min(a.t.words.length * CHAR + 34, 190, fullWidth - 2 * MARGIN);
      const x = Math.max(2, Math.min(fullWidth - w - 2, (x1 + x2) / 2 - w / 2));
      return { ...a, x1, x2, x, w, level: 0, span: Math.abs(x2 - x1) };
    })
    .sort((a, b) => a.span - b.span || (a.t.id < b.t.id ? -1 : 1));
  // A level is free for an arc when neither its ticket nor its line meets another there.
  const left = (p: (typeof placed)[number]) => Math.min(p.x, p.x1, p.x2);
  const right = (p: (typeof placed)[number]) => Math.max(p.x + p.w, p.x1, p.x2);
  for (const side of [true, false]) {
    const rows: (typeof placed)[] = [];
    for (const p of placed.filter((q) => q.above === side)) {
      let level = 0;
      while (rows[level]?.some((q) => left(p) < right(q) + 6 && left(q) < right(p) + 6)) level++;
      rows[level] = [...(rows[level] ?? []), p];
      p.level = level;
    }
  }
  const levels = (above: boolean) =>
    Math.max(0, ...placed.filter((p) => p.above === above).map((p) => p.level + 1));
  const top = 16 + levels(true) * LEVEL + (levels(true) > 0 ? 14 : 8);
  const bottom = top + PANEL_H;
  const panels: Record<string, Rect> = {};
  lane.states.forEach((s, i) => {
    panels[s.id] = { x: xs[i] as number, y: top, w: widths[i] as number, h: PANEL_H };
  });
  return {
    width: fullWidth,
    height: bottom + levels(false) * LEVEL + 34,
    panels,
    arcs: placed.map((p) => {
      const edge = p.above ? top : bottom;
      const cy = p.above ? top - 25 - p.level * LEVEL : bottom + 25 + p.level * LEVEL;
      const forward = p.x1 <= p.x2;
      const a = forward ? p.x : p.x + p.w;
      const b = forward ? p.x + p.w : p.x;
      return {
        id: p.t.id,
        text: p.t.words,
        ticket: { x: p.x, y: cy - TICKET_H / 2, w: p.w, h: TICKET_H },
        path: `M${p.x1} ${edge}Q${p.x1} ${cy} ${a} ${cy}L${b} ${cy}Q${p.x2} ${cy} ${p.x2} ${edge}`,
        head: { x: p.x2, y: edge, up: !p.above },
      };
    }),
  };
}

function endsAt(
  a: { t: { id: string }; from: number; to: number },
  i: number,
): { key: string; other: number }[] {
  const out: { key: string; other: number }[] = [];
  if (a.from === i) out.push({ key: `${a.t.id}>`, other: a.to });
  if (a.to === i) out.push({ key: `<${a.t.id}`, other: a.from });
  return out;
}

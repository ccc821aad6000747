/** Where templates can be spawned, which signals others give, and parts that are written as properties: by number. */
import { CHANNELS, type Expansion, type PropertyInfo, propertyInfo } from '../model/index.ts';
import type { BoundProgram, PartProgram, PlaceProgram, Span, Spawns } from './place-program.ts';
import type { LaneProgram } from './program.ts';

interface Compiled {
  readonly objectIndex: ReadonlyMap<string, number>;
  readonly parent: Int32Array;
  readonly signalIndex: ReadonlyMap<string, number>;
  readonly lanes: readonly LaneProgram[];
  readonly firstDirect: number;
  readonly reactionIndex: ReadonlyMap<string, number>;
  readonly streams: readonly string[];
}

export function compilePlaces(x: Expansion, c: Compiled): Spawns {
  const unordered = x.parts.map((part): PartProgram => {
    const info = propertyInfo(part.property) as PropertyInfo;
    const at = (c.objectIndex.get(part.id) as number) * CHANNELS + info.channel;
    return { part, at, signal: part.of === 'signal' ? (c.signalIndex.get(part.what) ?? -1) : -1 };
  });
  // Signals are set in the order of the document, whoever writes them first.
  const parts = unordered.toSorted((a, b) => a.signal - b.signal);
  const bound: BoundProgram[][] = [];
  for (const { inner, outer, from, to } of x.bound) {
    const [i, o] = [c.signalIndex.get(inner), c.signalIndex.get(outer)];
    if (i === undefined || o === undefined || i === o) continue;
    bound[o] ??= [];
    (bound[o] as BoundProgram[]).push({ inner: i, from, to });
  }
  const index = new Map<string, number>();
  const templates: { id: string; max: number; places: number[] }[] = [];
  const placed = new Map<string, number>();
  const ownStreams = byPlace(c.streams);
  const machines = new Map<string, number[]>();
  const ends = x.places.length === 0 ? c.parent : subtreeEnds(c.parent);
  if (x.places.length > 0)
    c.lanes.forEach((l, i) => {
      const own = machines.get(l.machine);
      if (i >= c.firstDirect) return;
      if (own) own.push(i);
      else machines.set(l.machine, [i]);
    });
  const directs = c.lanes.slice(c.firstDirect);
  const places = x.places.map((p, k): PlaceProgram => {
    let template = placed.get(p.template);
    if (template === undefined) {
      template =
        templates.push({ id: p.template, max: x.piece.templates[p.template]?.max ?? 1, places: [] }) - 1;
      placed.set(p.template, template);
    }
    templates[template]?.places.push(k);
    index.set(p.id, k);
    const root = c.objectIndex.get(p.id) as number;
    const objects = { from: root, to: ends[root] as number };
    const lanes = span(p.ids.machines.flatMap((id) => machines.get(id) ?? []));
    const [first, last] = [c.lanes[lanes.from], c.lanes[lanes.to - 1]];
    const none = { from: 0, to: 0 };
    const some = first && last && lanes.to > lanes.from;
    return {
      ...{ id: p.id, root, template, parent: c.parent[root] as number, objects, lanes },
      directs: directs.flatMap((l, i) =>
        l.object >= objects.from && l.object < objects.to ? [c.firstDirect + i] : [],
      ),
      slots: some ? { from: first.firstSlot, to: last.firstSlot + last.slots.length } : none,
      sources: some ? { from: first.firstSource, to: last.firstSource + last.states.length + 1 } : none,
      pulses: some ? { from: first.firstPulse, to: last.firstPulse + last.pulses.length } : none,
      signals: span(numbers(p.ids.signals, c.signalIndex)),
      reactions: span(numbers(p.ids.reactions, c.reactionIndex)),
      streams: ownStreams.get(p.id) ?? [],
    };
  });
  const rows = (n: number, of: (p: PlaceProgram) => Span) => {
    const out = new Int32Array(places.length === 0 ? 0 : n).fill(-1);
    places.forEach((p, k) => {
      out.fill(k, of(p).from, of(p).to);
    });
    return out;
  };
  const ofLane = rows(c.lanes.length, (p) => p.lanes);
  places.forEach((p, k) => {
    for (const i of p.directs) ofLane[i] = k;
  });
  return {
    ...{ places, templates, index, bound, parts, ofLane },
    partAt: new Map(parts.map((p) => [p.at, p])),
    ofObject: rows(c.objectIndex.size, (p) => p.objects),
    ofReaction: rows(c.reactionIndex.size, (p) => p.reactions),
  };
}

/** Of each object the number after its last descendant: in the order of the tree they follow it. */
function subtreeEnds(parent: Int32Array): Int32Array {
  const ends = Int32Array.from(parent, (_, i) => i + 1);
  for (let i = parent.length - 1; i >= 0; i--) {
    const p = parent[i] as number;
    if (p >= 0) ends[p] = Math.max(ends[p] as number, ends[i] as number);
  }
  return ends;
}

function numbers(ids: readonly string[], index: ReadonlyMap<string, number>): number[] {
  return ids.flatMap((id) => index.get(id) ?? []);
}

/** Records of one place are written out one after the other. */
function span(list: readonly number[]): Span {
  const from = list[0] ?? 0;
  return { from, to: list.length === 0 ? from : (list.at(-1) as number) + 1 };
}

/** Numbers of names such as `TEMPLATE#k/…`, by `TEMPLATE#k`. */
function byPlace(names: readonly string[]): Map<string, number[]> {
  const out = new Map<string, number[]>();
  names.forEach((name, i) => {
    const cut = name.indexOf('/');
    if (!name.includes('#') || cut < 0) return;
    const place = name.slice(0, cut);
    const list = out.get(place);
    if (list) list.push(i);
    else out.set(place, [i]);
  });
  return out;
}

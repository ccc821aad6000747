/** Templates for the plain interpreter, after the text: each instance written out before a run, one more for every spawn. */
import type { Piece, SceneObject, SignalValue, Template } from '../src/model/index.ts';

const TABLES = ['objects', 'signals', 'clips', 'machines', 'reactions', 'follows'] as const;
type Tables = Pick<Piece, (typeof TABLES)[number]>;

/** A signal inside that goes by one outside. */
export interface BoundSignal {
  readonly inner: string;
  readonly outer: string;
  readonly from?: readonly [number, number] | undefined;
  readonly to?: readonly [number, number] | undefined;
}

/** The template's records under the names that they have in `name`; what stood at its top stands in it. */
export function writtenUnder(template: Template, name: string): Tables {
  const own = Object.fromEntries(TABLES.map((t) => [t, template[t]]));
  const text = JSON.stringify(own);
  const ids = new Set([...text.matchAll(/"id":"([^"]*)"/g)].map((m) => m[1]));
  const named = text.replace(/"([^"]*)"/g, (all, id) => (ids.has(id) ? `"${name}/${id}"` : all));
  const tables = JSON.parse(named) as Tables;
  for (const o of Object.values(tables.objects)) o.parent ??= name;
  return tables;
}

/** The template whose instance stands as a group of this name. */
export const groupOf = (id: string, of: object = {}) =>
  ({ tags: [], ...of, id, kind: 'group' }) as unknown as SceneObject;

/** A signal's value mapped, as it is given to one that is bound to it. */
export function throughBound(b: BoundSignal, value: SignalValue): SignalValue {
  if (!b.from || !b.to) return value;
  return b.to[0] + ((Number(value) - b.from[0]) / (b.from[1] - b.from[0])) * (b.to[1] - b.to[0]);
}

/** The piece with all its instances written out, and which of their signals go by others. */
export function writtenOut(source: Piece): { piece: Piece; bound: BoundSignal[] } {
  const piece = structuredClone(source);
  const bound: BoundSignal[] = [];
  for (const o of Object.values(source.objects)) {
    if (o.kind !== 'instance') continue;
    const tables = writtenUnder(source.templates[o.template] as Template, o.id);
    for (const [id, given] of Object.entries(o.signals)) {
      const inner = `${o.id}/${id}`;
      const def = tables.signals[inner];
      if (!def) continue;
      if (typeof given === 'object')
        bound.push({ inner, outer: given.signal, from: given.from, to: given.to });
      else Object.assign(def, { initial: given });
    }
    for (const t of TABLES) Object.assign(piece[t], tables[t]);
    piece.objects[o.id] = groupOf(o.id, o);
  }
  return { piece, bound };
}

/** Those that are spawned of one template have places, taken in turn: their order among each other. */
export class Seats {
  readonly max: number;
  private next = 0;
  private readonly taken = new Map<number, string>();
  constructor(max: number) {
    this.max = max;
  }
  /** Who came first, when all places are taken. */
  get oldest(): string | null {
    if (this.taken.size < this.max) return null;
    const number = (name: string) => Number(name.split('#')[1]);
    return [...this.taken.values()].sort((a, b) => number(a) - number(b))[0] ?? null;
  }
  take(template: string): { name: string; seat: number } {
    const n = this.next++;
    const turns = Array.from({ length: this.max }, (_, i) => (n + i) % this.max);
    const seat = turns.find((k) => !this.taken.has(k)) as number;
    const name = `${template}#${n}`;
    this.taken.set(seat, name);
    return { name, seat };
  }
  leave(name: string): void {
    for (const [seat, who] of this.taken) if (who === name) this.taken.delete(seat);
  }
}

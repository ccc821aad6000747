/** Sequences of siblings, and the orders that give them. */
import { orderBetween } from '../model/index.ts';

/** A sequence, with what others have besides set in after what it follows there. */
export function woven(main: readonly string[], others: readonly string[]): string[] {
  const all = new Set(main);
  const after = new Map<string | null, string[]>();
  let last: string | null = null;
  for (const id of others)
    if (all.has(id)) last = id;
    else after.set(last, [...(after.get(last) ?? []), id]);
  return [...(after.get(null) ?? []), ...main.flatMap((id) => [id, ...(after.get(id) ?? [])])];
}

/** Orders that give this sequence; as many as can be stay what they are. */
export function ordersFor(
  sequence: readonly string[],
  orderOf: (id: string) => string | null,
): Map<string, string> {
  const orders = new Map<string, string>();
  const keep = longestRising(sequence.map(orderOf));
  let last: string | null = null;
  let k = 0;
  for (const [i, id] of sequence.entries()) {
    if ((keep[k] ?? i) < i) k++;
    const next = keep[k];
    const order: string =
      next === i
        ? (orderOf(id) as string)
        : orderBetween(last, next === undefined ? null : orderOf(sequence[next] as string));
    orders.set(id, order);
    last = order;
  }
  return orders;
}

/** Places of a longest sequence that rises, nulls left out: by piles, each of which remembers what it lies on. */
function longestRising(values: readonly (string | null)[]): number[] {
  const tops: number[] = [];
  const below: (number | undefined)[] = [];
  values.forEach((v, i) => {
    if (v === null) return;
    let [a, b] = [0, tops.length];
    while (a < b) {
      const mid = (a + b) >> 1;
      if ((values[tops[mid] as number] as string) < v) a = mid + 1;
      else b = mid;
    }
    below[i] = tops[a - 1];
    tops[a] = i;
  });
  const out: number[] = [];
  for (let at = tops.at(-1); at !== undefined; at = below[at]) out.push(at);
  return out.reverse();
}

/**
 * What differs between two states of plain data, as a list of small changes: an edit inside a path of 20,000 points
 * takes the points that changed, not the path. Reversed, it leads back. Plain data itself, so it can be kept as JSON.
 *
 * Fields that are undefined count as not there; groups that differ only in the order of their fields are equal. Values
 * that a patch holds are shared, never changed.
 */

type Path = readonly (string | number)[];

/** The value at `p` was `f` and becomes `t`; without `f` (or `t`) it was not (will not be) there. */
interface SetChange {
  readonly p: Path;
  readonly f?: unknown;
  readonly t?: unknown;
}
/** In the list at `p`, at place `at`, `out` gives way to `in`. */
interface SpliceChange {
  readonly p: Path;
  readonly at: number;
  readonly out: readonly unknown[];
  readonly in: readonly unknown[];
}
/** The fields of the group at `p` stood in the order `was` and then stand in the order `is`. */
interface OrderChange {
  readonly p: Path;
  readonly was: readonly string[];
  readonly is: readonly string[];
}
export type Patch = readonly (SetChange | SpliceChange | OrderChange)[];

type Group = Record<string, unknown>;
type Out = (SetChange | SpliceChange | OrderChange)[];

const isGroup = (x: unknown): x is Group => typeof x === 'object' && x !== null && !Array.isArray(x);

/** The changes that lead from one state to another; none when they are equal. */
export function diff(from: unknown, to: unknown): Patch {
  const out: Out = [];
  diffAt([], from, to, out);
  return out;
}

function diffAt(p: Path, from: unknown, to: unknown, out: Out): void {
  if (from === to) return;
  if (isGroup(from) && isGroup(to)) diffGroup(p, from, to, out);
  else if (Array.isArray(from) && Array.isArray(to)) diffList(p, from, to, out);
  else if (!same(from, to)) out.push(setOf(p, from, to));
}

function setOf(p: Path, f: unknown, t: unknown): SetChange {
  if (f === undefined) return { p, t };
  return t === undefined ? { p, f } : { p, f, t };
}

const fieldsOf = (g: Group) => Object.keys(g).filter((k) => g[k] !== undefined);

function diffGroup(p: Path, from: Group, to: Group, out: Out): void {
  let differ = false;
  for (const k in from) {
    const [f, t] = [from[k], to[k]];
    if (f === t) continue;
    if (t === undefined) differ = true;
    diffAt([...p, k], f, t, out);
  }
  for (const k in to) {
    if (to[k] === undefined || from[k] !== undefined) continue;
    differ = true;
    if (!Object.hasOwn(from, k)) out.push(setOf([...p, k], undefined, to[k]));
  }
  // Fields that come back would stand last, and a file would list them in another order than before.
  if (differ) out.push({ p, was: fieldsOf(from), is: fieldsOf(to) });
}

/** Elements that changed in place, or, where elements came or went or most differ, one stretch for another. */
function diffList(p: Path, from: readonly unknown[], to: readonly unknown[], out: Out): void {
  const short = Math.min(from.length, to.length);
  let head = 0;
  while (head < short && same(from[head], to[head])) head++;
  if (head === from.length && head === to.length) return;
  let tail = 0;
  while (tail < short - head && same(from[from.length - 1 - tail], to[to.length - 1 - tail])) tail++;
  if (from.length === to.length) {
    const end = from.length - tail;
    let changed = 0;
    for (let i = head; i < end; i++) if (!same(from[i], to[i])) changed++;
    if (changed <= 8 || changed < from.length / 4) {
      for (let i = head; i < end; i++) if (from[i] !== to[i]) diffAt([...p, i], from[i], to[i], out);
      return;
    }
  }
  out.push({
    p,
    at: head,
    out: from.slice(head, from.length - tail),
    in: to.slice(head, to.length - tail),
  });
}

/** Whether two values are equal as JSON has them. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null)
    return Number.isNaN(a) && Number.isNaN(b);
  if (Array.isArray(a)) {
    if (!Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (!same(a[i], b[i])) return false;
    return true;
  }
  if (Array.isArray(b)) return false;
  const [x, y] = [a as Group, b as Group];
  for (const k in x) if (!same(x[k], y[k])) return false;
  for (const k in y) if (x[k] === undefined && y[k] !== undefined) return false;
  return true;
}

/** The patch that leads back. The changes of a patch touch different parts, so their order stays (a group's own last). */
export function reversed(patch: Patch): Patch {
  return patch.map((c) => {
    if ('is' in c) return { p: c.p, was: c.is, is: c.was };
    if ('in' in c) return { p: c.p, at: c.at, out: c.in, in: c.out };
    return setOf(c.p, c.t, c.f);
  });
}

/** Whether a patch leads into a long list, so that a copy of it is made for each state. */
export function isWide(patch: Patch): boolean {
  return patch.some((c) => 'in' in c || c.p.some((k) => typeof k === 'number' && k > 64));
}

/** The state that a patch leads to from `value`, which stays as it is; what the patch does not touch is shared. */
export function patched(value: unknown, patch: Patch): unknown {
  /** Copies made here, which may be changed. */
  const own = new Set<object>();
  const copy = (x: unknown): unknown => {
    if (typeof x !== 'object' || x === null) throw new Error('a patch leads into a value that has no parts');
    if (own.has(x)) return x;
    const c = Array.isArray(x) ? x.slice() : { ...x };
    own.add(c);
    return c;
  };
  let root = value;
  for (const c of patch) {
    if (c.p.length === 0 && !('in' in c) && !('is' in c)) {
      root = c.t;
      continue;
    }
    const deep = 'in' in c || 'is' in c ? c.p : c.p.slice(0, -1);
    root = copy(root);
    let holder: unknown = null;
    let at = root as Group;
    for (const k of deep) {
      holder = at;
      const next = copy(at[k]) as Group;
      at[k] = next;
      at = next;
    }
    if ('in' in c) replace(at as unknown as unknown[], c.at, c.out.length, c.in);
    else if ('is' in c) {
      const inOrder = ordered(at, c.is);
      own.add(inOrder);
      if (holder === null) root = inOrder;
      else (holder as Group)[deep.at(-1) as string] = inOrder;
    } else {
      const last = c.p.at(-1) as string;
      if (c.t !== undefined) at[last] = c.t;
      else if (Array.isArray(at)) at[last as unknown as number] = undefined;
      else delete at[last];
    }
  }
  return root;
}

/** Like `splice`, which cannot take 100,000 values as arguments. */
function replace(list: unknown[], at: number, count: number, values: readonly unknown[]): void {
  const rest = list.slice(at + count);
  list.length = at;
  for (const v of values) list.push(v);
  for (const v of rest) list.push(v);
}

function ordered(g: Group, order: readonly string[]): Group {
  const out: Group = {};
  for (const k of order) if (Object.hasOwn(g, k)) out[k] = g[k];
  for (const k of Object.keys(g)) if (!Object.hasOwn(out, k)) out[k] = g[k];
  return out;
}

/** Which parts of the tree are folded: a choice of this browser, by piece. What is chosen is never folded away. */
import { useMemo, useState } from 'react';
import { useSession, useUi } from '../../session/hooks.ts';
import { readPref, writePref } from '../../session/keep/prefs.ts';
import { ancestorsOf } from '../../session/model-help.ts';
import type { TreeRow } from './Tree.tsx';

export interface Folding {
  /** The rows that are seen. */
  readonly rows: readonly TreeRow[];
  readonly folded: ReadonlySet<string>;
  /** Those that have something below them. */
  readonly parents: ReadonlySet<string>;
  /** Folds or unfolds one; `whole`: with all that is below it. */
  readonly fold: (id: string, fold: boolean, whole?: boolean) => void;
}

export function useFolding(all: readonly TreeRow[]): Folding {
  const s = useSession();
  const name = `folded/${s.store.head.id}`;
  const [kept, setKept] = useState<ReadonlySet<string>>(() => new Set(readPref(name)?.split(' ')));
  const object = useUi((u) => u.object);
  const also = useUi((u) => u.also);
  return useMemo(() => {
    const parents = new Set(all.flatMap((r) => (r.o.parent === null ? [] : [r.o.parent])));
    const open = new Set([object, ...also].flatMap((id) => (id === null ? [] : ancestorsOf(s.store, id))));
    const folded = new Set([...kept].filter((id) => parents.has(id) && !open.has(id)));
    return { rows: seenRows(all, folded), folded, parents, fold };

    function fold(id: string, to: boolean, whole = false): void {
      const next = new Set(kept);
      for (const x of whole ? [id, ...below(all, id)] : [id])
        if (to && parents.has(x)) next.add(x);
        else next.delete(x);
      writePref(name, [...next].join(' '));
      setKept(next);
      // What is chosen below it would keep it open.
      if (to && s.chosen.some((x) => ancestorsOf(s.store, x).includes(id))) s.select({ kind: 'object', id });
    }
  }, [all, kept, object, also, s, name]);
}

/** The rows without what lies below folded ones. */
export function seenRows(all: readonly TreeRow[], folded: ReadonlySet<string>): readonly TreeRow[] {
  if (folded.size === 0) return all;
  const out: TreeRow[] = [];
  let depth = Number.POSITIVE_INFINITY;
  for (const r of all) {
    if (r.depth > depth) continue;
    depth = folded.has(r.o.id) ? r.depth : Number.POSITIVE_INFINITY;
    out.push(r);
  }
  return out;
}

/** Everything below an object. */
function below(all: readonly TreeRow[], id: string): string[] {
  const at = all.findIndex((r) => r.o.id === id);
  const out: string[] = [];
  for (let i = at + 1; i < all.length && (all[i] as TreeRow).depth > (all[at] as TreeRow).depth; i++)
    out.push((all[i] as TreeRow).o.id);
  return out;
}

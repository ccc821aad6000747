/** Copies of symbols in a newer version of a drawing, where those of the older one are instances of templates. */
import type { PieceStore, SceneObject } from '../model/index.ts';
import type { Copies, Uses } from './copies.ts';
import { isPart, listed, type Part } from './newer-pairs.ts';

/** A template that was made of a symbol, and what the newer file has of that symbol. */
export interface FoundSymbol {
  readonly template: string;
  /** What the template holds all in. */
  readonly root: Part;
  /** The copy in the newer file that the template is to become like. */
  readonly like: string;
  /** All copies there that hold the same, `like` among them, each with its instance. */
  readonly pairs: readonly (readonly [now: Part, old: Part])[];
  /** All that lies in these copies: it is the template's affair. */
  readonly hidden: readonly string[];
  /** Instances in the piece whose copy there holds something else now: they cannot follow the template. */
  readonly apart: readonly string[];
}

/** `pairs`: which part of the newer file is which object; `alike`: copies there that hold the same. */
export function symbolsOf(
  store: PieceStore,
  root: Part,
  pairs: ReadonlyMap<Part, Part>,
  copies: Copies,
  alike: readonly Uses[],
): FoundSymbol[] {
  const instances = [...pairs].flatMap(([p, q]) =>
    q.kind === 'instance' ? [{ p, q, template: q.template }] : [],
  );
  if (instances.length === 0) return [];
  const all = [...listed(instances, (x) => x.template)].flatMap(([template, list]): FoundSymbol[] => {
    const top = store.within('objects', template).find((o) => o.parent === null);
    if (!top || !isPart(top) || top.brought.drawing !== root.brought.drawing) return [];
    // The template follows what most of its copies hold.
    const kinds = [
      ...listed(list, ({ p }) => alike.find((u) => u.ids.includes(p.id))?.ids[0] ?? p.id).values(),
    ].sort((a, b) => b.length - a.length);
    const [most = [], ...others] = kinds;
    const like = most.find(({ p }) => p.brought.part === top.brought.part) ?? most[0];
    if (!like) return [];
    return [
      {
        ...{ template, root: top, like: like.p.id, pairs: most.map(({ p, q }) => [p, q] as const) },
        hidden: most.flatMap(({ p: { id } }) =>
          copies
            .subtree(id)
            .slice(1)
            .map((o: SceneObject) => o.id),
        ),
        apart: others.flat().map(({ q }) => q.id),
      },
    ];
  });
  return all;
}

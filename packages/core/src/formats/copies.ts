/** Copies of one symbol of a drawing as instances of a template: what is drawn once there is drawn once here. */
import type { IdKind } from '../base/index.ts';
import {
  type Asset,
  defaultBase,
  type Editor,
  type KindOf,
  namer,
  type SceneObject,
} from '../model/index.ts';
import { assetSigns, partAbove } from './brought.ts';
import { listed } from './newer-pairs.ts';

/** Groups of a file that are copies of one symbol, by their ids. */
export interface Uses {
  readonly name: string;
  readonly ids: readonly string[];
}

/** A template that a drawing brings: its one topmost object comes first. */
export interface BroughtTemplate {
  readonly id: string;
  readonly name: string;
  readonly objects: readonly SceneObject[];
}

/** Numbers of two copies differ by what rounding leaves, px. */
const ROUNDED = 0.003;

/** The objects of a file by what they lie in, and what of them is drawn alike. */
export class Copies {
  readonly #below: ReadonlyMap<string | null, readonly SceneObject[]>;
  readonly #byId: ReadonlyMap<string, SceneObject>;
  readonly #signs: ReadonlyMap<string, string>;

  constructor(objects: readonly SceneObject[], assets: readonly Asset[]) {
    this.#below = listed(objects, (o) => o.parent);
    this.#byId = new Map(objects.map((o) => [o.id, o]));
    this.#signs = assetSigns(assets);
  }

  /** An object and all below it, parents before children. */
  subtree(id: string): SceneObject[] {
    const root = this.#byId.get(id);
    if (!root) return [];
    const out = [root];
    for (let i = 0; i < out.length; i++) out.push(...(this.#below.get(out[i]?.id ?? '') ?? []));
    return out;
  }

  /**
   * Of groups that are copies of one symbol those that hold the same, in lists of two or more. What each has as a whole (its
   * place, turn, opacity, mask) may differ.
   */
  alike(uses: readonly Uses[]): Uses[] {
    return uses.flatMap(({ name, ids }) => {
      const kinds: { readonly like: SceneObject[]; readonly ids: string[] }[] = [];
      for (const id of ids) {
        const tree = this.subtree(id);
        if (tree[0]?.kind !== 'group' || tree.length < 2) continue;
        const kind = kinds.find((k) => this.#isAlike(k.like, tree));
        if (kind) kind.ids.push(id);
        else kinds.push({ like: tree, ids: [id] });
      }
      return kinds.filter((k) => k.ids.length > 1).map((k) => ({ name, ids: k.ids }));
    });
  }

  #isAlike(a: readonly SceneObject[], b: readonly SceneObject[]): boolean {
    if (a.length !== b.length) return false;
    const standsFor = new Map(a.map((o, i) => [o.id, b[i]?.id ?? '']));
    return a.every((o, i) => i === 0 || this.#same(plain(o), plain(b[i] as SceneObject), standsFor));
  }

  #same(a: unknown, b: unknown, standsFor: ReadonlyMap<string, string>): boolean {
    if (typeof a === 'number') return typeof b === 'number' && Math.abs(a - b) <= ROUNDED;
    if (typeof a === 'string' && typeof b === 'string')
      return (
        a === b || standsFor.get(a) === b || (this.#signs.has(a) && this.#signs.get(a) === this.#signs.get(b))
      );
    if (typeof a !== 'object' || a === null || typeof b !== 'object' || b === null) return a === b;
    const [x, y] = [Object.entries(a), b as Record<string, unknown>];
    return x.length === Object.keys(y).length && x.every(([k, v]) => this.#same(v, y[k], standsFor));
  }
}

/** What of an object its copy has, too. */
const plain = ({ id: _, brought: __, ...rest }: SceneObject) => rest;

/**
 * Objects of a file with copies of one symbol as instances. `lists`: copies that hold the same (`Copies.alike`); of some
 * there is a template already. Of the other lists that have two or more among the objects a template is made.
 */
export function asInstances(
  objects: readonly SceneObject[],
  copies: Copies,
  lists: readonly (Uses & { readonly template?: string | undefined })[],
  newId: (kind: IdKind) => string,
): { objects: SceneObject[]; templates: BroughtTemplate[] } {
  const present = new Map(objects.map((o) => [o.id, o]));
  const within = new Map<string, string>();
  const freshId = (): string => {
    const id = newId('objects');
    return present.has(id) ? freshId() : id;
  };
  const templates: { id: string; name: string; root: SceneObject; ids: string[] }[] = [];
  for (const list of outerFirst(lists, present)) {
    const ids = list.ids.filter((id) => present.get(id)?.kind === 'group');
    let { template } = list;
    const [first] = ids;
    if (first === undefined || (template === undefined && ids.length < 2)) continue;
    let kept: string | null = null;
    if (template === undefined) {
      const root = present.get(first) as SceneObject;
      template = newId('templates');
      templates.push({ id: template, name: list.name, root: rootOf(root, freshId()), ids: [] });
      kept = first;
    }
    const own = templates.find((t) => t.id === template);
    for (const id of ids)
      for (const o of copies.subtree(id).slice(1)) {
        if (!present.has(o.id)) continue;
        if (id !== kept) present.delete(o.id);
        else if (own) {
          within.set(o.id, own.id);
          if (o.parent === id) present.set(o.id, { ...o, parent: own.root.id });
        }
      }
    for (const id of ids) present.set(id, instanceOf(present.get(id) as SceneObject, template));
  }
  const all = [...present.values()];
  return {
    objects: all.filter((o) => !within.has(o.id)),
    templates: templates.map(({ id, name, root }) => ({
      ...{ id, name },
      objects: [root, ...all.filter((o) => within.get(o.id) === id)],
    })),
  };
}

/** Lists of copies, each after those in whose copies one of its own lies. */
function outerFirst<T extends Uses>(lists: readonly T[], objects: ReadonlyMap<string, SceneObject>): T[] {
  const listOf = new Map(lists.flatMap((l) => l.ids.map((id) => [id, l] as const)));
  const out = new Set<T>();
  const visit = (list: T) => {
    if (out.has(list)) return;
    for (const id of list.ids)
      for (let at = objects.get(id)?.parent; at; at = objects.get(at)?.parent) {
        const above = listOf.get(at);
        if (above && above !== list) visit(above);
      }
    out.add(list);
  };
  for (const l of lists) visit(l);
  return [...out];
}

/** Puts templates into the piece, under names that are free there. */
export function addTemplates(e: Editor, templates: readonly BroughtTemplate[]): void {
  const free = namer(e.store.all('templates').map((t) => t.name));
  for (const { id, name, objects } of templates) {
    e.add('templates', { id, name: free(name), max: 64 });
    for (const o of objects) e.add('objects', o, undefined, id);
  }
}

/** What a template holds all in: a group that stands nowhere in particular, and knows which part of the file it was. */
function rootOf(use: SceneObject, id: string): SceneObject {
  const { name, brought } = use;
  const root = {
    ...{ id, name, parent: null, order: 'a0', tags: [], hint: '' },
    kind: 'group',
    base: defaultBase(),
  };
  const { rotation: _, scale: __, pivot: ___, ...known } = brought ?? {};
  return {
    ...root,
    ...(brought ? { brought: { ...known, position: [0, 0, 0] } } : {}),
  } as unknown as SceneObject;
}

function instanceOf(use: SceneObject, template: string): KindOf<'instance'> {
  return { ...use, kind: 'instance', template, signals: {} } as KindOf<'instance'>;
}

/** The parts of a copy as those of another one, whose topmost is `to`: as they would be named there. */
export function namedAs<T extends SceneObject>(tree: readonly T[], to: SceneObject): T[] {
  const [was, now] = [tree[0]?.brought?.part ?? '', to.brought?.part ?? ''];
  const renamed = (part: string) =>
    part === was || part.startsWith(`${was}/`) ? now + part.slice(was.length) : part;
  return tree.map((o) => {
    if (!o.brought) return o;
    const above = partAbove(o.brought);
    const part = renamed(o.brought.part);
    const { within: _, ...brought } = o.brought;
    const lies = above === undefined ? undefined : renamed(above);
    const isSaid = lies === undefined || part === `${lies}/${o.brought.name}`;
    return { ...o, brought: { ...brought, part, ...(isSaid ? {} : { within: lies }) } };
  });
}

/**
 * A newer version of a file in place of what was brought in of it. Of each part it is known how it came, how it is now, and
 * how the file has it now: what nobody changed here follows the file, what was changed here stays. Keys, reactions, zones
 * and masks are not touched: they name objects, and the objects stay.
 * It is long since a plan is worked out over one pair of trees; what each works out by itself lies beside it.
 */
import { type IdKind, newId } from '../base/index.ts';
import { checkIntegrity } from '../check/index.ts';
import {
  type Asset,
  assetsOf,
  type Base,
  type Brought,
  type Clip,
  compareSiblings,
  Editor,
  namer,
  PieceStore,
  removeUnused,
  removeWithReferences,
  type SceneObject,
  TABLES,
  type Vec3,
  visitReferences,
  withIds,
} from '../model/index.ts';
import { aside, assetSigns, DRAWING, partAbove, partLine, signOf, signsIn, signsOf } from './brought.ts';
import { addTemplates, asInstances, type BroughtTemplate, Copies, namedAs, type Uses } from './copies.ts';
import { withField } from './newer-fields.ts';
import { ordersFor, woven } from './newer-order.ts';
import { extent, isPart, listed, medianOf, NUMBERED, type Part, pairParts } from './newer-pairs.ts';
import {
  hasPoints,
  isDrawnAlike,
  less,
  NONE,
  ONE,
  originOf,
  same,
  targetOf,
  tidy,
  undone,
} from './newer-places.ts';
import { type FoundSymbol, symbolsOf } from './newer-symbols.ts';

/** One thing that the newer file brings, takes away or changes; whoever looks at the plan may leave it as it is. */
export interface NewerRow {
  /** Of the object: in the piece, or of what would be added to it. */
  readonly id: string;
  readonly name: string;
  /** `back`: it is in the file as before, and was taken out here. */
  readonly kind: 'new' | 'gone' | 'changed' | 'moved' | 'back';
  /** The fields that follow the file: those of the object, those of its base after `base.`, and `drawing`. */
  readonly fields: readonly string[];
  /** The fields that the file changed too, but which stay as they were made here. */
  readonly own: readonly string[];
  /** Of what is gone: whether something here needs it (keys, reactions, a mask, an object of one's own in it). */
  readonly isNeeded: boolean;
}

/** What taking the newer file would change. */
export interface NewerPlan {
  /** The object that holds all. */
  readonly root: string;
  readonly rows: readonly NewerRow[];
  /** How many parts of the file were found again. */
  readonly found: number;
  /** Objects as they would be, by the ids that they have. */
  readonly updates: readonly SceneObject[];
  /** Parents before children. */
  readonly adds: readonly SceneObject[];
  /** The assets that what follows the file needs, and that the piece lacks. */
  readonly assets: readonly Asset[];
  /** Of symbols that the newer file uses more than once, and that nothing here is an instance of yet. */
  readonly templates: readonly BroughtTemplate[];
  /** Motions that the newer file has and nothing here is called like: those that are here may have been changed by hand. */
  readonly clips: readonly Clip[];
}

/** A newer version of a file, read anew and marked (`markBrought`). */
export interface NewerFile {
  readonly objects: readonly SceneObject[];
  readonly assets: readonly Asset[];
  readonly uses?: readonly Uses[];
  readonly clips?: readonly Clip[];
}

/** The rows that are taken unless somebody says otherwise. */
export const isUsual = (r: NewerRow): boolean => r.kind !== 'back' && !(r.kind === 'gone' && r.isNeeded);

/**
 * What a newer file would change of the drawing that `root` holds. Where an outline cannot become of another kind (something
 * keys what only the old kind has), it stays as it is.
 */
export function planNewer(store: PieceStore, root: string, file: NewerFile): NewerPlan {
  const plan = (keepsKinds: boolean) => new Planner(store, root, file, keepsKinds).plan();
  const first = plan(false);
  if (first.updates.every((o) => o.kind === store.get('objects', o.id)?.kind)) return first;
  const tried = new PieceStore(store.toPiece());
  takeNewer(new Editor(tried), first, new Set());
  return checkIntegrity(tried.toPiece()).length === 0 ? first : plan(true);
}

/** Carries out a plan that was made of the piece as it is; `left`: the ids of the rows that are left as they are. */
export function takeNewer(e: Editor, plan: NewerPlan, left: ReadonlySet<string>): void {
  const { store } = e;
  const leftOut = new Set(plan.rows.filter((r) => left.has(r.id) && isAdded(r)).map((r) => r.id));
  const adds = plan.adds.filter((o) => {
    if (o.parent !== null && leftOut.has(o.parent)) leftOut.add(o.id);
    return !leftOut.has(o.id);
  });
  const updates = plan.updates.filter((o) => !left.has(o.id));
  const before = new Set(updates.map((o) => o.id));
  const shown = assetsOf(store, (id) => before.has(id));
  const needed = new Set<string>();
  for (const o of [...updates, ...adds])
    visitReferences('objects', o, (kind, id) => {
      if (kind === 'assets') needed.add(id);
    });
  for (const a of plan.assets) if (needed.has(a.id)) e.add('assets', a);
  const added = new Set(adds.map((o) => (o.kind === 'instance' ? o.template : '')));
  const inside = new Set(
    plan.templates.flatMap((t) => t.objects.map((o) => (o.kind === 'instance' ? o.template : ''))),
  );
  addTemplates(
    e,
    plan.templates.filter((t) => added.has(t.id) || inside.has(t.id)),
  );
  // A mask may name what comes later: first all of them, then what they are.
  for (const o of adds)
    e.add('objects', { ...o, mask: null }, undefined, store.homeOf(o.parent ?? plan.root));
  for (const o of [...updates, ...adds]) e.update('objects', o.id, (was) => fitting(store, o, was));
  for (const c of plan.clips)
    if (c.tracks.every((t) => store.has('objects', t.object)))
      e.add('clips', c, undefined, store.homeOf(plan.root));
  removeWithReferences(
    e,
    plan.rows.filter((r) => r.kind === 'gone' && !left.has(r.id)).map((r) => r.id),
  );
  removeUnused(e, shown);
}

/** An object without what it names of things that are left out. */
function fitting(store: PieceStore, o: SceneObject, was: SceneObject): SceneObject {
  const parent = o.parent === null || store.has('objects', o.parent) ? o.parent : was.parent;
  const isUnmasked = o.mask && 'by' in o.mask && !store.has('objects', o.mask.by);
  return { ...o, parent, ...(isUnmasked ? { mask: null } : {}) };
}

const isAdded = (r: NewerRow) => r.kind === 'new' || r.kind === 'back';
/** Px that are not seen, and are not told. */
const UNSEEN = 0.05;

interface Symbol extends FoundSymbol {
  readonly plan: { readonly made: NewerPlan; readonly origin: Vec3 };
}

class Planner {
  private readonly store: PieceStore;
  private readonly root: Part;
  private readonly file: NewerFile;
  private readonly now: readonly Part[];
  private readonly copies: Copies;
  /** All objects of what the drawing lies in, and by what they lie in. */
  private readonly all: readonly SceneObject[];
  private readonly inside: ReadonlyMap<string | null, readonly SceneObject[]>;
  /** Parts of the older file; of those that were copied within the drawing the first, then the copies. */
  private readonly old: Part[] = [];
  private readonly doubles: Part[] = [];
  private readonly pairs: Map<Part, Part>;
  /** The object of the piece that each part of the newer file is, or will be. */
  private readonly idOf = new Map<Part, string>();
  private readonly byPart = new Map<string, Part>();
  private readonly children: ReadonlyMap<string | undefined, readonly Part[]>;
  /** Where the origin of a part of the newer file is in its own px, so that what did not move stays where it is. */
  private readonly origins = new Map<Part, Vec3>();
  private readonly oldSigns: Map<string, string>;
  private readonly newIds: ReadonlyMap<string, string>;

  /** Whether all objects stay of the kind that they are. */
  private readonly keepsKinds: boolean;

  /** All parts that the older file had, as lines of the list that its root keeps; and templates that are planned already. */
  private readonly of: { readonly lines: readonly string[]; readonly planned: Set<string> };
  /** The symbols whose copies are instances here, each with the plan of its template. */
  private readonly symbols: readonly Symbol[];
  /** Copies in the newer file that hold the same; and those that are, or will be, instances of a template that is there. */
  private readonly alike: readonly Uses[];
  private readonly symbolOf: ReadonlyMap<string, Symbol>;
  /** The parts of instances that cannot follow their template any more: they come anew. */
  private readonly apart: ReadonlySet<string>;

  constructor(store: PieceStore, root: string, file: NewerFile, keepsKinds: boolean, of?: Planner['of']) {
    this.store = store;
    this.keepsKinds = keepsKinds;
    this.file = file;
    this.root = store.get('objects', root) as Part;
    this.of = of ?? { lines: this.root.brought.file?.parts ?? [], planned: new Set() };
    this.all = store.within('objects', store.homeOf(root));
    this.inside = listed(this.all, (o) => o.parent);
    this.findOld();
    this.copies = new Copies(file.objects, file.assets);
    const parts = file.objects.filter(isPart);
    this.alike = this.copies.alike(file.uses ?? []);
    const found = symbolsOf(store, this.root, pairParts(this.old, parts), this.copies, this.alike);
    this.symbols = found.map((x) => ({ ...x, plan: this.symbolPlan(x) }));
    this.symbolOf = new Map(
      this.symbols.flatMap((x) => {
        const all = this.alike.find((u) => u.ids.includes(x.like))?.ids ?? x.pairs.map(([p]) => p.id);
        return all.map((id) => [id, x] as const);
      }),
    );
    const hidden = new Set(found.flatMap((x) => x.hidden));
    const now = parts.filter((p) => !hidden.has(p.id));
    this.now = now;
    const leaving = new Set(found.flatMap((x) => x.apart));
    this.apart = new Set(this.old.flatMap((q) => (leaving.has(q.id) ? [q.brought.part] : [])));
    // What an instance holds is never paired with what lies in the drawing itself.
    const known = found.flatMap((x) => x.pairs);
    const follow = new Set(known.map(([, q]) => q));
    const free = this.old.filter((q) => q.kind !== 'instance' || follow.has(q));
    this.pairs = pairParts(free, now, known);
    for (const p of now) {
      this.byPart.set(p.brought.part, p);
      this.idOf.set(p, this.pairs.get(p)?.id ?? p.id);
    }
    this.children = listed(now, (p) => partAbove(p.brought));
    const assets = assetSigns(store.all('assets'));
    const byContents = new Map([...assets].map(([id, sign]) => [sign, id]));
    const same = [...assetSigns(file.assets)].flatMap(([id, sign]): [string, string][] => {
      const own = byContents.get(sign);
      return own === undefined ? [] : [[id, own]];
    });
    this.newIds = new Map([...[...this.idOf].map(([p, id]): [string, string] => [p.id, id]), ...same]);
    this.oldSigns = new Map(assets);
    for (const o of [...this.old, ...this.doubles]) this.oldSigns.set(o.id, o.brought.part);
  }

  /** What is there of the drawing: below its root, and what was taken out of that to another place. */
  private findOld(): void {
    const { drawing } = this.root.brought;
    const isOther = (o: SceneObject) => o.brought?.file !== undefined && o.id !== this.root.id;
    const seen = new Set<string>();
    const met = new Set<string>();
    const meet = (o: SceneObject) => {
      met.add(o.id);
      if (!isPart(o) || o.brought.drawing !== drawing) return;
      (seen.has(o.brought.part) ? this.doubles : this.old).push(o);
      seen.add(o.brought.part);
    };
    const stack: SceneObject[] = [this.root];
    for (let o = stack.pop(); o; o = stack.pop()) {
      meet(o);
      const below = this.siblings(o.id).filter((c) => !isOther(c));
      stack.push(...below.sort(compareSiblings).reverse());
    }
    // Another use of the drawing keeps its own.
    const isElsewhere = (o: SceneObject | undefined): boolean =>
      o !== undefined &&
      !isOther(o) &&
      (o.parent === null || isElsewhere(this.store.get('objects', o.parent)));
    for (const o of this.all)
      if (!met.has(o.id) && isPart(o) && !seen.has(o.brought.part) && isElsewhere(o)) meet(o);
  }

  plan(): NewerPlan {
    this.findOrigins();
    const rows: NewerRow[] = [];
    const updates = new Map<string, SceneObject>();
    const olds = new Map([...this.pairs].map(([p, q]) => [q.brought.part, p]));
    for (const [p, q] of this.pairs) this.merge(p, q, rows, updates, true);
    for (const q of this.doubles) {
      const p = olds.get(q.brought.part);
      if (p) this.merge(p, q, rows, updates, false);
    }
    const adds = this.added(rows);
    this.inOrder(updates, adds);
    this.gone(rows);
    const order = new Map(this.now.map((p, i) => [this.idOf.get(p), i]));
    const last = this.now.length;
    const symbols = this.symbols.map((x) => x.plan.made);
    const placed = this.placedCopies([...adds.values()]);
    return {
      root: this.root.id,
      rows: [
        ...rows.sort((a, b) => (order.get(a.id) ?? last) - (order.get(b.id) ?? last)),
        ...symbols.flatMap((x) => x.rows),
      ],
      // What lies in a symbol is found in each of its copies.
      found: this.symbols.reduce(
        (n, x) => n + Math.max(0, x.plan.made.found - 1) * x.pairs.length,
        this.pairs.size,
      ),
      updates: [...updates.values(), ...symbols.flatMap((x) => x.updates)],
      adds: [...placed.objects, ...symbols.flatMap((x) => x.adds)],
      assets: this.file.assets.filter((a) => !this.newIds.has(a.id)),
      templates: [...placed.templates, ...symbols.flatMap((x) => x.templates)],
      clips: this.newClips(),
    };
  }

  private newClips(): Clip[] {
    const names = new Set(this.store.within('clips', this.store.homeOf(this.root.id)).map((c) => c.name));
    return (this.file.clips ?? []).flatMap((c) =>
      names.has(c.name) ? [] : [withIds('clips', c, this.newIds)],
    );
  }

  /** What the newer file changes of a symbol's template: but for the copy as a whole, which its instances stand for. */
  private symbolPlan({ template, root, like }: FoundSymbol) {
    const [top, ...below] = namedAs(this.copies.subtree(like), root);
    const { id: _, ...own } = root;
    const tree = [{ ...(top as SceneObject), ...own, id: like } as SceneObject, ...below];
    const file = { ...this.file, objects: tree, clips: [] };
    const planner = new Planner(this.store, root.id, file, this.keepsKinds, this.of);
    const made = planner.plan();
    const isInside = (x: { readonly id: string }) => x.id !== root.id;
    const isFirst = !this.of.planned.has(template);
    this.of.planned.add(template);
    const none = { rows: [], updates: [], adds: [], templates: [], found: 0 };
    return {
      made: isFirst
        ? { ...made, rows: made.rows.filter(isInside), updates: made.updates.filter(isInside) }
        : { ...made, ...none },
      origin: planner.originOf(like),
    };
  }

  private originOf(id: string): Vec3 {
    const p = this.now.find((x) => x.id === id);
    return (p && this.origins.get(p)) ?? NONE;
  }

  /** What is new, with copies of symbols as instances. */
  private placedCopies(adds: readonly SceneObject[]) {
    // One that holds something that was there already, in another place, stays as it is.
    const isNew = new Set(adds.map((o) => o.id));
    const isWhole = (id: string) => this.copies.subtree(id).every((o) => isNew.has(o.id));
    const lists = this.alike.map((u) => ({
      ...{ name: u.name, ids: u.ids.filter(isWhole) },
      template: this.symbolOf.get(u.ids[0] ?? '')?.template,
    }));
    const ids = new Set([
      ...this.store.everywhere('objects').map((o) => o.id),
      ...this.file.objects.map((o) => o.id),
    ]);
    const fresh = (kind: IdKind) =>
      newId(kind, (x) => ids.has(x) || this.store.has('templates', x), Math.random);
    return asInstances(adds, this.copies, lists, fresh);
  }

  private below(p: Part): readonly Part[] {
    return this.children.get(p.brought.part) ?? [];
  }

  /**
   * A file's parts are read with their origin in their middle, which moves when something is drawn beside them. Here it
   * stays: of a group by those of its children that are as they were, of an outline by where it was.
   */
  private findOrigins(): void {
    const known = new Map<Part, Vec3>();
    // What lies in a symbol speaks for all of its copies.
    for (const p of this.now.toReversed()) {
      const symbol = this.symbolOf.get(p.id);
      if (symbol) known.set(p, symbol.plan.origin);
      const q = this.pairs.get(p);
      if (q && p.kind === 'group') {
        const moves = this.below(p)
          .map((c) => this.moveOf(c, q, known))
          .filter((m) => m !== null);
        if (moves.length > 0) known.set(p, medianOf(moves));
      }
    }
    for (const p of this.now) this.origins.set(p, known.get(p) ?? this.stayed(p));
  }

  /** How far a child that is drawn as it was lies from where it was within the group; null for one that is not. */
  private moveOf(c: Part, group: Part, known: ReadonlyMap<Part, Vec3>): Vec3 | null {
    const was = this.pairs.get(c);
    if (!was || partAbove(was.brought) !== group.brought.part) return null;
    const origin = c.kind === 'group' ? known.get(c) : isDrawnAlike(c, was) ? originOf(was) : undefined;
    return origin ? less(targetOf(c, was, origin, NONE), was.brought.position) : null;
  }

  /** The origin of a part that no child speaks for: where it was, unless it was drawn somewhere else. */
  private stayed(p: Part): Vec3 {
    const q = this.pairs.get(p);
    if (!q || (p.kind !== 'group' && !hasPoints(p))) return NONE;
    if (p.kind !== 'group' && isDrawnAlike(p, q)) return originOf(q);
    const off = less(q.brought.position, targetOf(p, q, NONE, this.originAbove(p)));
    const back = undone(p.base, off);
    const isNear = p.kind === 'group' || Math.hypot(...back) <= extent(p) / 2;
    return isNear ? (back.map(tidy) as Vec3) : NONE;
  }

  private originAbove(p: Part): Vec3 {
    const above = this.byPart.get(partAbove(p.brought) ?? '');
    return (above && this.origins.get(above)) ?? NONE;
  }

  /** The piece's own object `q` with what the file changed of it; tells it as a row where `p` is its one part. */
  private merge(
    p: Part,
    q: Part,
    rows: NewerRow[],
    updates: Map<string, SceneObject>,
    isOnly: boolean,
  ): void {
    const origin = this.origins.get(p) ?? NONE;
    const now = withIds('objects', aside(p, [origin[0], origin[1]]), this.newIds) as Part;
    const was = signsIn(q.brought.was);
    const next = signsIn(p.brought.was);
    const present = signsOf(q, this.oldSigns);
    const [fields, own]: [string[], string[]] = [[], []];
    let merged: SceneObject = q;
    for (const field of new Set([...was.keys(), ...next.keys()])) {
      if (was.get(field) === next.get(field) || present.get(field) === next.get(field)) continue;
      if (present.get(field) !== was.get(field) || (field === DRAWING && !this.canBecome(q, now)))
        own.push(field);
      else {
        fields.push(field);
        merged = withField(merged, now, field);
      }
    }
    const place = this.placed(p, q, fields, own);
    merged = { ...merged, base: { ...merged.base, ...place.base } };
    if (isOnly) {
      if (q !== this.root && p.name !== q.brought.name) {
        if (q.name !== q.brought.name) own.push('name');
        else if (this.isFree(p.name, q)) {
          fields.push('name');
          merged = { ...merged, name: p.name };
        }
      }
      const parent = this.parentOf(p, q);
      if (parent !== q.parent) {
        fields.push('parent');
        merged = { ...merged, parent };
      }
    }
    const isSame = fields.length === 0 && own.length === 0;
    if (isSame && signOf(place.brought) === signOf(q.brought)) return;
    updates.set(q.id, { ...merged, brought: place.brought });
    if (isSame) return;
    const kind = fields.length > 0 && fields.every((f) => PLACE.includes(f)) ? 'moved' : 'changed';
    rows.push({ id: q.id, name: q.name, kind, fields, own, isNeeded: false });
  }

  /** Whether an object may become of another kind: what was made for the kind that it is would not fit any more. */
  private canBecome(q: Part, now: Part): boolean {
    return q.kind === now.kind || (!this.keepsKinds && !q.looks?.length && !(q.mask && !('by' in q.mask)));
  }

  private isFree(name: string, q: Part): boolean {
    return !this.siblings(q.parent).some((o) => o.name === name && o.id !== q.id);
  }

  private siblings(parent: string | null): readonly SceneObject[] {
    return this.inside.get(parent) ?? [];
  }

  /** Where the part stands: what it was moved here is kept on top of what it was moved in the file. */
  private placed(p: Part, q: Part, fields: string[], own: string[]) {
    const base: Partial<Base> = {};
    const { rotation = NONE, scale = ONE, pivot: turning = NONE, position } = q.brought;
    const was = { rotation, scale, pivot: turning, position };
    for (const k of ['rotation', 'scale'] as const) {
      if (same(p.base[k], was[k]) || same(p.base[k], q.base[k])) continue;
      if (!same(q.base[k], was[k])) own.push(`base.${k}`);
      else {
        fields.push(`base.${k}`);
        base[k] = p.base[k];
      }
    }
    const origin = this.origins.get(p) ?? NONE;
    const given = less(p.base.pivot, origin).map(tidy) as Vec3;
    let pivot = was.pivot;
    // A file says where something turns, or nothing.
    if (!same(p.base.pivot, NONE) && !same(given, was.pivot) && !same(given, q.base.pivot)) {
      if (!same(q.base.pivot, was.pivot)) own.push('base.pivot');
      else {
        fields.push('base.pivot');
        pivot = given;
        base.pivot = given;
      }
    }
    const target = targetOf(p, q, origin, this.originAbove(p), pivot).map(tidy) as Vec3;
    const off = less(target, was.position);
    const isMoved = Math.hypot(...off) >= UNSEEN;
    if (isMoved) {
      base.position = q.base.position.map((n, i) => tidy(n + (off[i] as number))) as Vec3;
      // What is drawn anew has its middle elsewhere, which nobody calls moving.
      if (fields.length === 0 || Math.hypot(...off) > extent(p) / 4) fields.push('base.position');
    }
    const { pivot: _, ...came } = p.brought;
    const brought: Brought = {
      ...came,
      drawing: q.brought.drawing,
      position: isMoved ? target : was.position,
      ...(same(pivot, NONE) ? {} : { pivot }),
      ...(hasPoints(p) && !same(origin, NONE) ? { origin: [origin[0], origin[1]] } : {}),
    };
    return { base, brought };
  }

  /** The object that a part lies in: the file's, unless it was put into another here. */
  private parentOf(p: Part, q: Part): string | null {
    if (q === this.root) return q.parent;
    const wasIn = partAbove(q.brought);
    const isIn = q.parent === null ? undefined : this.oldSigns.get(q.parent);
    if (isIn === undefined || isIn !== wasIn) return q.parent;
    const above = this.byPart.get(partAbove(p.brought) ?? '');
    const parent = above && this.idOf.get(above);
    if (parent === undefined || parent === q.parent) return q.parent;
    // One that was put into this one here would lie in itself.
    for (let at: string | null = parent; at !== null; at = this.store.get('objects', at)?.parent ?? null)
      if (at === q.id) return q.parent;
    return parent;
  }

  private added(rows: NewerRow[]): Map<string, SceneObject> {
    const { lines } = this.of;
    const were = new Set([...lines, ...lines.map((l) => l.slice(0, l.lastIndexOf(' ')))]);
    const told = new Set<string>();
    const adds = new Map<string, SceneObject>();
    for (const p of this.now) {
      if (this.pairs.has(p)) continue;
      const above = this.byPart.get(partAbove(p.brought) ?? '');
      const parent = (above && this.idOf.get(above)) ?? this.root.id;
      const origin = this.origins.get(p) ?? NONE;
      const pivot = less(p.base.pivot, origin).map(tidy) as Vec3;
      const position = targetOf(p, p, origin, this.originAbove(p), pivot).map(tidy) as Vec3;
      const object = withIds('objects', p, this.newIds);
      const { pivot: _, ...came } = p.brought;
      adds.set(p.id, {
        ...object,
        parent,
        base: { ...object.base, position, pivot },
        brought: {
          ...came,
          drawing: this.root.brought.drawing,
          position,
          ...(same(pivot, NONE) ? {} : { pivot }),
        },
      });
      if (!told.has(parent)) {
        const { part } = p.brought;
        const isBack =
          part.startsWith('#') && !NUMBERED.test(part) ? were.has(part) : were.has(partLine(p.brought));
        const kind = isBack && !this.apart.has(part) ? ('back' as const) : ('new' as const);
        rows.push({ id: p.id, name: p.name, kind, fields: [], own: [], isNeeded: false });
      }
      told.add(p.id);
    }
    return adds;
  }

  /** The order among siblings as the file has it, unless it was changed here; what is new lies where the file has it. */
  private inOrder(updates: Map<string, SceneObject>, adds: Map<string, SceneObject>): void {
    const known = (id: string) => updates.get(id) ?? adds.get(id) ?? this.store.get('objects', id);
    for (const p of this.now) {
      const q = this.pairs.get(p);
      const wanted = this.below(p).map((c) => this.idOf.get(c) as string);
      if (!q || wanted.length === 0) continue;
      const there = this.siblings(q.id).toSorted(compareSiblings);
      const parts = there.filter((o) => o.brought?.drawing === this.root.brought.drawing);
      const isAsCame = parts.every((o, i) => {
        const before = parts[i - 1]?.brought?.order;
        return before === undefined || before <= (o.brought?.order ?? '');
      });
      const inIt = wanted.filter((id) => known(id)?.parent === q.id);
      const stay = there.map((o) => o.id).filter((id) => (known(id)?.parent ?? q.id) === q.id);
      const sequence = isAsCame ? woven(inIt, stay) : woven(stay, inIt);
      const orders = ordersFor(sequence, (id) => {
        const o = this.store.get('objects', id);
        return o?.parent === q.id ? o.order : null;
      });
      for (const [id, order] of orders) {
        const changed = known(id);
        if (!changed || changed.order === order) continue;
        (adds.has(id) ? adds : updates).set(id, { ...changed, order });
      }
      // Names of what is new give way to those that are there.
      const own = namer(stay.map((id) => known(id)?.name ?? ''));
      for (const id of inIt) {
        const o = adds.get(id);
        if (o) adds.set(id, { ...o, name: own(o.name) });
      }
    }
  }

  private gone(rows: NewerRow[]): void {
    const kept = new Set([...this.pairs.values()].map((q) => q.brought.part));
    const gone = new Set(
      [...this.old, ...this.doubles].filter((q) => !kept.has(q.brought.part)).map((q) => q.id),
    );
    const tops = [...gone].filter((id) => !gone.has(this.store.get('objects', id)?.parent ?? ''));
    const needed = new Set<string>();
    for (const table of TABLES)
      for (const r of this.store.everywhere(table)) {
        if (gone.has(r.id)) continue;
        const object = table === 'objects' ? { ...(r as SceneObject), parent: null } : r;
        visitReferences(table, object as never, (kind, id) => {
          if (kind === 'objects') needed.add(id);
        });
      }
    for (const o of this.all)
      if (o.parent !== null && gone.has(o.parent) && !gone.has(o.id)) needed.add(o.parent);
    for (const id of tops) {
      const o = this.store.get('objects', id);
      const isNeeded = [...this.belowIn(id)].some(
        (x) => needed.has(x) || this.store.get('objects', x)?.colliders?.length,
      );
      if (o) rows.push({ id, name: o.name, kind: 'gone', fields: [], own: [], isNeeded });
    }
  }

  private *belowIn(id: string): Iterable<string> {
    yield id;
    for (const o of this.siblings(id)) yield* this.belowIn(o.id);
  }
}

const PLACE = ['base.position', 'base.rotation', 'base.scale', 'base.pivot'];

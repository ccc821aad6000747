/**
 * Taking something away together with whatever cannot be without it. A part that only names what is gone (a
 * condition, an action, a track) goes; what would lose its reason (a reaction to it, a transition on it) goes whole.
 */
import type { Action } from './action.ts';
import type { Condition, On } from './event.ts';
import type { Lane, Machine, State, Transition } from './machine.ts';
import type { AnyRecord, RecordOf, TableName } from './piece.ts';
import { type RefVisitor, visitActions, visitConditions, visitOn, visitReferences } from './references.ts';
import type { Editor, PieceStore } from './store.ts';

/** The ids of an object and of everything below it. */
export function subtreeOf(store: PieceStore, root: string): Set<string> {
  const children = new Map<string, string[]>();
  for (const o of store.all('objects')) {
    if (o.parent === null) continue;
    const list = children.get(o.parent);
    if (list) list.push(o.id);
    else children.set(o.parent, [o.id]);
  }
  const all = new Set<string>();
  const stack = [root];
  for (let id = stack.pop(); id !== undefined; id = stack.pop()) {
    all.add(id);
    stack.push(...(children.get(id) ?? []));
  }
  return all;
}

/**
 * Removes the records `ids` (objects with all below them, and the machines and clips they own) and mends what
 * pointed at any of them, so that the piece has no reference that leads nowhere.
 */
export function removeWithReferences(e: Editor, ids: Iterable<string>): void {
  const { store } = e;
  const gone = new Set<string>();
  for (const id of ids) for (const x of store.has('objects', id) ? subtreeOf(store, id) : [id]) gone.add(x);
  for (const c of store.all('clips')) if (gone.has(c.root)) gone.add(c.id);
  for (const m of store.all('machines'))
    if (gone.has(m.object) || gone.has(m.id)) {
      gone.add(m.id);
      for (const l of m.lanes) for (const x of [l.id, ...l.states.map((s) => s.id)]) gone.add(x);
    }
  for (const c of store.all('clips')) if (gone.has(c.id)) for (const q of c.cues) gone.add(q.id);
  for (const o of store.all('objects')) if (gone.has(o.id)) for (const l of o.looks ?? []) gone.add(l.id);
  for (const table of ['reactions', 'machines', 'clips', 'objects'] as const)
    for (const r of store.all(table)) {
      const left = gone.has(r.id) ? null : without(table, r, gone);
      if (left === null) gone.add(r.id);
      else e.update(table, r.id, () => left as never);
    }
  const assets = assetsOf(store, (id) => gone.has(id));
  for (const table of ['reactions', 'machines', 'clips', 'signals', 'messages', 'tags', 'sounds'] as const)
    for (const id of [...store.ids(table)].reverse()) if (gone.has(id)) e.remove(table, id);
  for (const id of [...store.ids('objects')].reverse()) if (gone.has(id)) e.remove('objects', id);
  if (assets.size === 0) return;
  // A file or mesh that nothing shows any more would only make the piece heavy.
  const used = assetsOf(store, () => true);
  for (const id of assets) if (!used.has(id) && store.has('assets', id)) e.remove('assets', id);
}

/** The assets of the objects and sounds that `which` picks. */
function assetsOf(store: PieceStore, which: (id: string) => boolean): Set<string> {
  const found = new Set<string>();
  for (const table of ['objects', 'sounds'] as const)
    for (const r of store.all(table))
      if (which(r.id))
        visitReferences(table, r, (kind, id) => {
          if (kind === 'assets') found.add(id);
        });
  return found;
}

/** The record without what names something gone; null when nothing sensible is left of it. */
function without<T extends TableName>(
  table: T,
  record: RecordOf<T>,
  gone: ReadonlySet<string>,
): RecordOf<T> | null {
  let names = false;
  const seen: RefVisitor = (_, id) => {
    if (gone.has(id)) names = true;
  };
  visitReferences(table, record, seen);
  if (!names && !(table === 'machines' && holds(record as Machine, gone))) return record;
  const clean = new Cleaner(gone);
  const r = record as AnyRecord;
  switch (table) {
    case 'objects': {
      const o = r as RecordOf<'objects'>;
      const masked = o.mask && 'by' in o.mask && gone.has(o.mask.by);
      const base = o.base.look && gone.has(o.base.look) ? { ...o.base, look: '' } : o.base;
      return {
        ...o,
        base,
        tags: o.tags.filter((t) => !gone.has(t)),
        ...(masked ? { mask: null } : {}),
      } as RecordOf<T>;
    }
    case 'clips': {
      const c = r as RecordOf<'clips'>;
      const tracks = c.tracks.flatMap((t) => {
        if (gone.has(t.object)) return [];
        if (t.property !== 'look') return [t];
        const keys = t.keys.filter((k) => !gone.has(String(k.value)));
        return keys.length > 0 ? [{ ...t, keys }] : [];
      });
      const cues = c.cues.map((q) => ({ ...q, actions: clean.actions(q.actions) }));
      return { ...c, tracks, cues } as RecordOf<T>;
    }
    case 'reactions': {
      const re = r as RecordOf<'reactions'>;
      const actions = clean.actions(re.actions);
      if (gone.has(re.object) || clean.namesGone(re.on) || actions.length === 0) return null;
      const limit =
        typeof re.limit === 'object' && clean.namesGone(re.limit.onceUntil) ? ('once' as const) : re.limit;
      return { ...re, when: clean.conditions(re.when), limit, actions } as RecordOf<T>;
    }
    case 'machines':
      return { ...r, lanes: (r as Machine).lanes.flatMap((l) => clean.lane(l)) } as RecordOf<T>;
    default:
      return record;
  }
}

/** Whether a lane, state or transition of the machine is itself among what goes. */
function holds(m: Machine, gone: ReadonlySet<string>): boolean {
  return m.lanes.some(
    (l) =>
      gone.has(l.id) || l.states.some((s) => gone.has(s.id)) || l.transitions.some((t) => gone.has(t.id)),
  );
}

class Cleaner {
  private readonly gone: ReadonlySet<string>;
  constructor(gone: ReadonlySet<string>) {
    this.gone = gone;
  }

  private asks(visit: (v: RefVisitor) => void): boolean {
    let names = false;
    visit((_, id) => {
      if (this.gone.has(id)) names = true;
    });
    return names;
  }
  namesGone(on: On): boolean {
    return this.asks((v) => visitOn(on, '', v));
  }
  actions(list: readonly Action[]): Action[] {
    return list.filter((a) => !this.asks((v) => visitActions([a], '', v)));
  }
  conditions(list: readonly Condition[]): Condition[] {
    return list.filter((c) => !this.asks((v) => visitConditions([c], '', v)));
  }

  /** The lane, or nothing when it goes itself or no state of it is left. */
  lane(l: Lane): Lane[] {
    const states = l.states.filter((s) => !this.gone.has(s.id)).map((s) => this.state(s));
    const first = states[0];
    if (this.gone.has(l.id) || !first) return [];
    const transitions = l.transitions.filter((t) => !this.gone.has(t.id)).flatMap((t) => this.transition(t));
    let initial = l.initial;
    if (typeof initial === 'string') initial = this.gone.has(initial) ? first.id : initial;
    else {
      const draw = initial.draw.filter((d) => !this.gone.has(d.state));
      initial = draw.length > 0 ? { draw } : first.id;
    }
    const amount = typeof l.amount === 'object' && this.gone.has(l.amount.signal) ? 1 : l.amount;
    return [{ ...l, initial, states, transitions, amount }];
  }

  private state(s: State): State {
    let play = s.play;
    if (typeof play === 'object') {
      if (this.gone.has(play.clip)) play = 'rest';
      else if (typeof play.speed === 'object' && this.gone.has(play.speed.signal))
        play = { ...play, speed: 1 };
    }
    return {
      ...s,
      play,
      ...(s.onEntry ? { onEntry: this.actions(s.onEntry) } : {}),
      ...(s.onExit ? { onExit: this.actions(s.onExit) } : {}),
    };
  }

  /** A transition that lost its only reason stays, but as one not yet set. */
  private transition(t: Transition): Transition[] {
    if (this.gone.has(t.from) || this.gone.has(t.to) || (t.on && this.namesGone(t.on))) return [];
    const when = this.conditions(t.when);
    return [{ ...t, when, set: t.set && isSet({ ...t, when }) }];
  }
}

/** Whether a transition has an event, a condition, a not-before or odds: what the editor stores in `set`. */
export function isSet(t: Pick<Transition, 'on' | 'when' | 'notBefore' | 'odds'>): boolean {
  return t.on !== null || t.when.length > 0 || t.notBefore !== null || t.odds !== null;
}

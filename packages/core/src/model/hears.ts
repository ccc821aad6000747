/** What a piece hears of the hands of who looks on: which objects, which keyboard keys. Worked out once a piece. */
import { cuesIn } from './cue-plan.ts';
import type { EventName, On } from './event.ts';
import { treeOrder } from './objects.ts';
import type { Piece } from './piece.ts';

/** `KeyboardEvent.key`s are the same whatever their case: with Shift or without. */
export function isSameKey(a: string, b: string | undefined): boolean {
  return b !== undefined && (a === b || a.toLowerCase() === b.toLowerCase());
}

export interface Heard {
  /** The objects of which the pointer is heard, in tree order: coming and going, presses and clicks. */
  readonly pointed: readonly string[];
  /** Those of them that answer to more than the pointer's coming and going. */
  readonly clicked: ReadonlySet<string>;
  /** In lower case; null when any key is heard. */
  readonly keys: ReadonlySet<string> | null;
}

/** Calls `visit` with each event that reactions, transitions and cues listen to, and the object whose they are. */
function listeners(piece: Piece, visit: (on: On, owner: string) => void): void {
  for (const r of Object.values(piece.reactions)) {
    visit(r.on, r.object);
    if (typeof r.limit === 'object') visit(r.limit.onceUntil, r.object);
  }
  for (const m of Object.values(piece.machines))
    for (const l of m.lanes) for (const t of l.transitions) if (t.on) visit(t.on, m.object);
  for (const x of Object.values(piece.cueSheets)) for (const c of cuesIn(x)) if (c.wait) visit(c.wait, '');
}

const COMES_AND_GOES: ReadonlySet<EventName> = new Set(['pointer.enter', 'pointer.leave']);
const known = new WeakMap<Piece, Heard>();

export function heardBy(piece: Piece): Heard {
  const had = known.get(piece);
  if (had) return had;
  const pointed = new Set<string>();
  const clicked = new Set<string>();
  const keys = new Set<string>();
  let any = false;
  listeners(piece, (on, owner) => {
    if (on.event.startsWith('pointer.')) {
      const object = on.object ?? owner;
      pointed.add(object);
      if (!COMES_AND_GOES.has(on.event)) clicked.add(object);
    } else if (on.event === 'key.down' || on.event === 'key.up') {
      if (on.key === undefined) any = true;
      else keys.add(on.key.toLowerCase());
    }
  });
  if (piece.visitor)
    for (const all of Object.values(piece.visitor.keys)) for (const k of all) keys.add(k.toLowerCase());
  const inOrder = treeOrder(Object.values(piece.objects)).flatMap((o) => (pointed.has(o.id) ? [o.id] : []));
  const made = { pointed: inOrder, clicked, keys: any ? null : keys };
  known.set(piece, made);
  return made;
}

/** Whether the piece listens to this keyboard key. */
export function hearsKey({ keys }: Heard, key: string): boolean {
  return keys === null || keys.has(key.toLowerCase());
}

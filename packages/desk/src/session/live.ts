/** What the live frame says of itself: what answers to a click or can be dragged there, and whether keys are heard. */
import { cuesIn, type EventName, type On, type Piece, type SceneObject } from '@apple-tick/core/model';

const CLICKS: readonly EventName[] = ['pointer.click', 'pointer.press', 'pointer.double', 'pointer.long'];

/** Calls `visit` with each event that reactions, transitions and cues listen to, and the object whose they are. */
function listeners(piece: Piece, visit: (on: On, owner: string) => void): void {
  for (const r of Object.values(piece.reactions)) visit(r.on, r.object);
  for (const m of Object.values(piece.machines))
    for (const l of m.lanes) for (const t of l.transitions) if (t.on) visit(t.on, m.object);
  for (const x of Object.values(piece.cueSheets)) for (const c of cuesIn(x)) if (c.wait) visit(c.wait, '');
}

const known = new WeakMap<Piece, ReadonlySet<string>>();
/** The objects that answer to a click, each once. */
export function clickableIn(piece: Piece): ReadonlySet<string> {
  let found = known.get(piece);
  if (!found) {
    const made = new Set<string>();
    listeners(piece, (on, owner) => CLICKS.includes(on.event) && made.add(on.object ?? owner));
    known.set(piece, made);
    found = made;
  }
  return found;
}

export function hearsKeys(piece: Piece): boolean {
  let any = piece.visitor !== null;
  listeners(piece, (on) => {
    any ||= on.event === 'key.down' || on.event === 'key.up';
  });
  return any;
}

export type Hand = '' | 'click' | 'drag';

/** What a hand can do with what it is over, or with what that belongs to. */
export function handOver(piece: Piece, over: SceneObject | undefined): Hand {
  const clickable = clickableIn(piece);
  for (let o = over; o; o = o.parent === null ? undefined : piece.objects[o.parent]) {
    if (o.drag || (piece.visitor?.drag && piece.visitor.object === o.id)) return 'drag';
    if (clickable.has(o.id)) return 'click';
  }
  return '';
}

/** Where one works: in the piece, or in templates that are opened in place. */
import { isContent, type RecordsDiff, type SceneObject } from '@apple-tick/core/model';
import type { Piece, PieceStore } from './model-help.ts';

/** What a way leads into, the outermost first: instances and their templates, as far as the piece has them still. */
export function insideOf(store: PieceStore, way: readonly string[]): { id: string; template: string }[] {
  const out: { id: string; template: string }[] = [];
  let home: string | null = null;
  for (const id of way) {
    const o = store.get('objects', id);
    const alone = out.length === 0 && store.has('templates', id);
    const isIn = o?.kind === 'instance' && store.homeOf(id) === home;
    if (!alone && !isIn) break;
    home = alone ? id : (o as Extract<SceneObject, { kind: 'instance' }>).template;
    out.push({ id, template: home });
  }
  return out;
}

/** Where what a diff is about lies: in templates that are there, or (null) in the piece. What is seen from both is left out. */
export function homesOf(store: PieceStore, diff: RecordsDiff): (string | null)[] {
  const homes = diff.flatMap((c) => {
    if (c.op === 'head' || c.table === 'signals' || !isContent(c.table)) return [];
    return [c.op === 'update' ? store.homeOf(c.id) : (c.within ?? null)];
  });
  return homes.filter((x) => x === null || store.has('templates', x));
}

/** The way to a template, by an instance in the piece if there is one; none to the piece itself. */
export function wayTo(store: PieceStore, template: string | null): string[] {
  if (template === null) return [];
  const all = store.within('objects', null);
  return [all.find((o) => o.kind === 'instance' && o.template === template)?.id ?? template];
}

/** The words shown to who points at an object: its own, else those of what it lies in. */
export function hintOf(piece: Piece, over: SceneObject | undefined): string {
  for (let o = over; o; o = o.parent === null ? undefined : piece.objects[o.parent])
    if (o.hint) return o.hint;
  return '';
}

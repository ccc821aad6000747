/** Drawings of one thing for another: a part in place of a part, or as one of its looks. */
import { checkIntegrity, lookProblem } from '@apple-tick/core/check';
import { asLook, drawnAs, Editor, PieceStore, type SceneObject, uniqueName } from '@apple-tick/core/model';
import { isBare } from '../model-help.ts';
import type { Session } from '../session.ts';

/** The other parts of the file that a thing came from; of one that came from none, what lies beside it. */
export function drawingsFor(s: Session, o: SceneObject): SceneObject[] {
  const drawing = o.brought?.drawing;
  return s.store
    .within('objects', s.store.homeOf(o.id))
    .filter(
      (x) =>
        x.id !== o.id &&
        !isBare(x) &&
        (drawing === undefined ? x.parent === o.parent : x.brought?.drawing === drawing),
    );
}

/**
 * Draws a thing as another is drawn; its place, keys and reactions stay. What it was of its file it is no more: with a newer
 * version it follows the other part.
 */
export function swapDrawing(s: Session, id: string, by: string): void {
  const [o, other] = [s.store.get('objects', id), s.store.get('objects', by)];
  if (!o || !other) return;
  const drawn = drawnAs(o, other);
  const to = other.brought && o.brought ? { ...drawn, brought: other.brought } : drawn;
  const tried = new PieceStore(s.piece());
  new Editor(tried).update('objects', id, () => to);
  const [problem] = checkIntegrity(tried.toPiece());
  if (problem) return s.set({ notice: `${o.name} cannot be drawn as ${other.name}: ${problem.message}` });
  s.edit(`Drew ${o.name} as ${other.name}`, (e) => e.update('objects', id, () => to));
}

/** Adds a look that is drawn as another thing is, and puts it on. */
export function addLookOf(
  s: Session,
  o: SceneObject,
  other: SceneObject,
  onLook: (id: string) => void,
): void {
  const id = s.newId('looks');
  const look = asLook(other, id, uniqueName(other.name, new Set((o.looks ?? []).map((l) => l.name))));
  const problem =
    (o.kind === 'image') === (other.kind === 'image')
      ? lookProblem(o, look)
      : 'of pictures only pictures can be looks';
  if (problem !== null) return s.set({ notice: `${o.name} cannot look as ${other.name}: ${problem}.` });
  s.step(`Added the look ${look.name} to ${o.name}`, () => {
    s.edit('Added a look', (e) =>
      e.update('objects', o.id, (x) => ({ ...x, looks: [...(x.looks ?? []), look] })),
    );
    onLook(id);
  });
}

/** The visitor: the person as a figure of the piece. */
import { type SceneObject, uniqueName, VISITOR_KEYS, type Visitor } from '@apple-tick/core/model';
import type { PieceStore } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { zonesOfVisitor } from '../../session/things/depth.ts';
import { newObject } from '../../session/things/new-object.ts';
import { giveZone, newZone } from '../zones/edit.ts';

const visitorOf = (object: string): Visitor => ({
  ...{ object, speed: 160, plane: 'xz', drag: true, facing: 'none' },
  keys: structuredClone(VISITOR_KEYS),
});

/** Whether an object can be the visitor: nothing on top of the frame walks in the piece, and what is in a template is there more than once. */
export function canWalk(store: PieceStore, o: SceneObject): boolean {
  if (store.homeOf(o.id) !== null) return false;
  for (
    let at: SceneObject | undefined = o;
    at;
    at = at.parent === null ? undefined : store.get('objects', at.parent)
  )
    if (at.overlay) return false;
  return true;
}

/** The person walks this object; null: there is no visitor any more. One step. */
export function setVisitor(s: Session, object: SceneObject | null): void {
  const name = object ? `The person walks ${object.name}` : 'The person walks no more';
  s.edit(name, (e) => e.head((h) => ({ ...h, visitor: object && visitorOf(object.id) })));
}

export function changeVisitor(s: Session, part: Partial<Visitor>): void {
  const { visitor } = s.store.head;
  if (!visitor) return;
  s.edit('Changed how the visitor walks', (e) => e.head((h) => ({ ...h, visitor: { ...visitor, ...part } })));
}

/** A figure of a coat and a head, standing on the ground before the middle, as the visitor; one step. */
export function addVisitor(s: Session): void {
  if (s.state.readOnly) return;
  s.step('Added a visitor', () => {
    const taken = new Set(s.store.all('objects').flatMap((o) => (o.parent === null ? [o.name] : [])));
    const group = newObject(s.store, 'group', s.newId('objects'), uniqueName('Visitor', taken), null);
    s.edit('Added a visitor', (e) => {
      // Where it can be noticed, if something is to; else before the middle.
      const z = Math.round(zonesOfVisitor(s)[0]?.[2] ?? 60);
      e.add('objects', { ...group, base: { ...group.base, position: [0, 0, z] } });
      const part = (kind: 'cylinder' | 'ball', name: string, fill: string, y: number, size: number[]) => {
        const o = newObject(e.store, kind, s.newId('objects'), name, group.id, fill);
        e.add('objects', { ...o, size, base: { ...o.base, position: [0, y, 0] } } as SceneObject);
      };
      part('cylinder', 'Coat', '#3f6f8a', 35, [44, 70, 44]);
      part('ball', 'Head', '#e2b98f', 88, [38, 38, 38]);
      e.head((h) => ({ ...h, visitor: visitorOf(group.id) }));
      // Its body, by which it is stopped.
      giveZone(e, group.id, {
        ...newZone(e.store, s.newId('colliders'), group.id, 'box', 'blocker'),
        name: `${group.name} body`,
      });
    });
    s.chooseNew(group.id);
  });
}

/** Whatever an action may say can be changed where it stands: by its sentence, an editor of its own, or by its form. */
import { ACTIONS, type ActionName } from '@apple-tick/core/model';
import { expect, it } from 'vitest';
import { isPlain, plainStart } from '../session/words/plain-forms.ts';
import { ownParts, restOf, saidFields } from './own-parts.ts';

/** What is only written in files, each for a reason: it goes with another field, or is for who reads the trace. */
const IN_FILES = ['go.lane', 'go.crossfade', 'sound.object'];

it('every field of every action is edited; what a new one has of plain forms is, too', () => {
  const left = (Object.keys(ACTIONS) as ActionName[]).flatMap((action) => {
    const edited = new Set<string>([
      ...saidFields(ACTIONS[action].says),
      ...(ownParts(action)?.fields ?? []),
      ...restOf(action).map(([field]) => field),
    ]);
    return Object.keys(ACTIONS[action].fields).flatMap((f) => (edited.has(f) ? [] : [`${action}.${f}`]));
  });
  expect(left.sort()).toEqual([...IN_FILES].sort());
});

it('an editor of its own edits fields that there are', () => {
  for (const action of Object.keys(ACTIONS) as ActionName[])
    for (const field of ownParts(action)?.fields ?? [])
      expect(Object.keys(ACTIONS[action].fields), action).toContain(field);
});

it('a plain field begins within its bounds', () => {
  const within = (bounds: object) => plainStart({ is: 'number', ...bounds });
  expect([within({}), within({ min: 5 }), within({ max: 0.5 }), within({ above: 3 })]).toEqual([
    1, 5, 0.5, 4,
  ]);
  expect(plainStart({ is: 'one of', values: ['x', 'y'] })).toBe('x');
  expect(isPlain({ is: 'ref', to: 'objects' })).toBe(false);
});

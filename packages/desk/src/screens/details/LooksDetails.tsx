import {
  baseLook,
  type Look,
  type Piece,
  removeWithReferences,
  type SceneObject,
  uniqueName,
} from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { useMemo } from 'react';
import { useIdleVersion, useSession } from '../../session/hooks.ts';
import { addLookOf } from '../../session/things/drawings.ts';
import { TextField } from '../../ui/fields.tsx';
import { PieceThumb } from '../../ui/PieceThumb.tsx';
import { Section } from '../../ui/Section.tsx';
import { Parts } from './Parts.tsx';

/** Several drawings of one object, with a picture each; choosing one puts it on, and keys it while keying. */
export function LooksDetails(props: { object: SceneObject; now: string; onLook: (id: string) => void }) {
  const { object, now, onLook } = props;
  const s = useSession();
  const version = useIdleVersion();
  const looks = object.looks ?? [];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version stands for the contents of the store
  const piece = useMemo(() => s.piece(), [s, version]);
  const change = (name: string, to: (l: readonly Look[]) => Look[]) =>
    s.edit(name, (e) => e.update('objects', object.id, (o) => ({ ...o, looks: to(o.looks ?? []) })));
  const add = () => {
    const id = s.newId('looks');
    const name = uniqueName('look', new Set(looks.map((l) => l.name)));
    // It begins as what is shown now: another look's copy, or the same as the own drawing.
    const like = baseLook(object);
    s.step(`Added a look to ${object.name}`, () => {
      change('Added a look', (l) => [...l, { ...like, id, name }]);
      onLook(id);
    });
  };
  const card = (id: string, name: React.ReactNode, label: string) => (
    <li
      key={id}
      className={`border rounded-md p-1 ${now === id ? 'border-brass bg-chosen' : 'border-line bg-card'}`}
    >
      <button
        type="button"
        aria-label={`Put on ${label}`}
        aria-pressed={now === id}
        className="block w-full"
        onClick={() => onLook(id)}
      >
        <PieceThumb piece={lookedAs(piece, object, id)} width={70} height={44} only={object.id} />
      </button>
      {name}
    </li>
  );
  return (
    <Section title="Looks" note={looks.length === 0 ? 'one' : `${looks.length + 1}`} open={looks.length > 0}>
      <ul className="grid grid-cols-3 gap-1.5">
        {card('', <span className="block px-1">own</span>, 'its own drawing')}
        {looks.map((l) =>
          card(
            l.id,
            <span className="flex items-center">
              <TextField
                label={`Name of the look ${l.name}`}
                className="bg-transparent w-full min-w-0 px-1"
                value={l.name}
                onChange={(name) =>
                  name.trim() !== '' &&
                  change(`Renamed ${l.name}`, (list) =>
                    list.map((x) => (x.id === l.id ? { ...x, name: name.trim() } : x)),
                  )
                }
              />
              <button
                type="button"
                aria-label={`Delete the look ${l.name}`}
                onClick={() =>
                  s.edit(`Deleted the look ${l.name}`, (e) => {
                    removeWithReferences(e, [l.id]);
                    e.update('objects', object.id, (o) => ({
                      ...o,
                      looks: (o.looks ?? []).filter((x) => x.id !== l.id),
                    }));
                  })
                }
              >
                <X size={12} />
              </button>
            </span>,
            l.name,
          ),
        )}
      </ul>
      <div className="flex flex-wrap gap-1.5">
        <button type="button" className="btn inline-flex items-center gap-1" onClick={add}>
          <Plus size={12} aria-hidden="true" /> look
        </button>
        <Parts
          label="A look drawn as another part"
          object={object}
          onPick={(other) => addLookOf(s, object, other, onLook)}
        >
          look as ▾
        </Parts>
      </div>
      {now !== '' && <p className="text-ink-2">Size, fill and stroke now change this look.</p>}
    </Section>
  );
}

function lookedAs(piece: Piece, o: SceneObject, look: string): Piece {
  return { ...piece, objects: { ...piece.objects, [o.id]: { ...o, base: { ...o.base, look } } } };
}

import type { SceneObject } from '@apple-tick/core/model';
import { useSession, useUi } from '../../session/hooks.ts';
import { isBare } from '../../session/model-help.ts';
import { drawingOf, paintedIn, takeOutPainted } from '../../session/things/brought.ts';
import { swapDrawing } from '../../session/things/drawings.ts';
import { Section } from '../../ui/Section.tsx';
import { canWatch } from '../../ui/watch-file.ts';
import { Parts } from './Parts.tsx';

const pxWords = ([w, h]: readonly [number, number]) =>
  `${w.toLocaleString('en')} × ${h.toLocaleString('en')} px`;

/** The file that an object came from: what was left out of it, and a newer version in its place. */
export function FileDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const watched = useUi((u) => u.watched);
  const root = drawingOf(s.store, object.id);
  const file = root?.brought?.file;
  if (!root || !file) return null;
  const asset = root.kind === 'image' ? s.store.get('assets', root.asset) : undefined;
  const size = asset?.kind === 'image' ? ([asset.width, asset.height] as const) : null;
  const isWatched = watched.has(root.id);
  const painted = paintedIn(s, object.id);
  return (
    <Section title="File" note={file.name} open={root.id === object.id}>
      {root.id !== object.id && (
        <button type="button" className="underline" onClick={() => s.select({ kind: 'object', id: root.id })}>
          It is a part of {root.name}
        </button>
      )}
      {object.brought?.painted !== undefined && (
        <p className="text-ink-2">
          It is a picture, since {object.brought.painted} cannot be drawn as shapes.
        </p>
      )}
      {size && file.scaledFrom && (
        <p className="text-ink-2">
          It is kept with {pxWords(size)}; the file has {pxWords(file.scaledFrom)}.{' '}
          <button type="button" className="underline" onClick={() => s.page?.whole(root.id)}>
            Keep it as large as it is
          </button>
        </p>
      )}
      {file.notes.length > 0 && (
        <>
          <p className="text-ink-2">Left out or taken otherwise:</p>
          <ul aria-label="Left out or taken otherwise" className="list-disc pl-4">
            {file.notes.map((n) => (
              <li key={n}>{n}</li>
            ))}
          </ul>
        </>
      )}
      <div className="flex flex-wrap gap-1.5">
        {root.id !== object.id && !isBare(object) && (
          <Parts
            label="Draw it as another part"
            object={object}
            onPick={(part) => swapDrawing(s, object.id, part.id)}
          >
            Draw it as ▾
          </Parts>
        )}
        {painted.length > 0 && (
          <button type="button" className="btn" onClick={() => takeOutPainted(s, root, painted)}>
            {painted.length === 1 ? 'Take out the painted part' : `Take out ${painted.length} painted parts`}
          </button>
        )}
        <button type="button" className="btn" onClick={() => s.page?.newer(root.id)}>
          Replace with a newer file…
        </button>
        {canWatch() && (
          <button
            type="button"
            className="btn"
            aria-pressed={isWatched}
            title="It is read again whenever it is saved, until this page is left"
            onClick={() => {
              if (!isWatched) return s.page?.newer(root.id, true);
              const left = new Set(watched);
              left.delete(root.id);
              s.set({ watched: left });
            }}
          >
            {isWatched ? 'Watched: stop' : 'Watch a file…'}
          </button>
        )}
      </div>
    </Section>
  );
}

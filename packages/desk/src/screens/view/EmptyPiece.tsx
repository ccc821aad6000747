import { memo } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { useIdleTable, useSession, useUiParts } from '../../session/hooks.ts';
import { capital, DRAW_KEYS, DRAWN_KINDS, KIND_WORDS } from '../../session/model-help.ts';
import { ShapePicture } from '../../ui/ShapePicture.tsx';

/** What is to be done with a piece in which there is nothing yet: a shape is taken and drawn, or a drawing brought in. */
export const EmptyPiece = memo(function EmptyPiece() {
  const s = useSession();
  const { tool, readOnly } = useUiParts('tool', 'readOnly');
  const isEmpty = useIdleTable('objects').length === 0;
  if (!isEmpty || readOnly || tool === 'shape' || tool === 'pen') return null;
  return (
    <section
      aria-label="Begin here"
      className="absolute left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 w-max max-w-[92%] text-center pointer-events-none bg-card border border-line rounded-[12px] px-5 py-4"
    >
      <h3 className="font-serif text-[17px] mb-2">Take a shape and draw it here</h3>
      <div className="flex flex-wrap justify-center gap-1.5 pointer-events-auto">
        {DRAWN_KINDS.filter((k) => k !== 'group').map((kind) => (
          <button
            key={kind}
            type="button"
            className="btn !p-1.5 w-[66px]"
            onClick={() => runCommand(s, `draw.${kind}`)}
          >
            <span className="flex justify-center">
              <ShapePicture kind={kind} size={30} />
            </span>
            <span className="block text-[11.5px]">{capital(KIND_WORDS[kind])}</span>
            <span className="block num text-[10.5px] text-ink-3 h-[15px]" aria-hidden="true">
              {DRAW_KEYS[kind]}
            </span>
          </button>
        ))}
      </div>
      <p className="mt-3 text-ink-2 pointer-events-auto">
        or drop a drawing, a picture or a model here, or{' '}
        <button type="button" className="underline text-ink" onClick={() => runCommand(s, 'piece.bring')}>
          choose a file
        </button>
      </p>
    </section>
  );
});

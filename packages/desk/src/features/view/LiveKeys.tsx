import { useSession, useVersion } from '../../session/hooks.ts';
import { clickableIn } from '../../session/live.ts';
import { nameOf } from '../../session/words.ts';

/** For the keyboard and for screen readers: a button for each thing in the live frame that hears clicks. */
export function LiveKeys() {
  const s = useSession();
  useVersion();
  const piece = s.player?.run.program.piece;
  if (!piece) return null;
  return (
    <div className="absolute top-1 left-1 flex gap-1">
      {[...clickableIn(piece)].map((id) => {
        // Where something may be spawned, nothing is yet.
        const o = id.includes('#') ? undefined : piece.objects[id];
        return (
          o && (
            <button
              key={id}
              type="button"
              className="btn sr-only focus:not-sr-only"
              onClick={() => s.player?.input({ click: id })}
            >
              {o.hint || `Click ${nameOf(s.store, id)}`}
            </button>
          )
        );
      })}
    </div>
  );
}

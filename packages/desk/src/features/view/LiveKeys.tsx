import { useSession } from '../../session/hooks.ts';
import { clickableIn } from '../../session/live.ts';

/** For the keyboard and for screen readers: a button for each thing in the live frame that hears clicks. */
export function LiveKeys() {
  const s = useSession();
  return (
    <div className="absolute top-1 left-1 flex gap-1">
      {[...clickableIn(s.piece())].map((id) => {
        const o = s.store.get('objects', id);
        return (
          o && (
            <button
              key={id}
              type="button"
              className="btn sr-only focus:not-sr-only"
              onClick={() => s.player?.input({ click: id })}
            >
              {o.hint || `Click ${o.name}`}
            </button>
          )
        );
      })}
    </div>
  );
}

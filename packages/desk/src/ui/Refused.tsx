import { useOpen, useSession } from '../session/hooks.ts';
import { moveWithKeys } from '../session/things/properties.ts';

/** Why a change was refused, and the ways out: key it, move all its keys along, or fold the clip and change the base. */
export function Refused({ words }: { words: string }) {
  const s = useSession();
  const open = useOpen();
  if (!open) return null;
  return (
    <div role="alert" className="border border-brass rounded-md bg-chosen p-2 space-y-1.5">
      <p>{words}</p>
      <div className="flex gap-1.5 flex-wrap">
        {!s.keying && (
          <button type="button" className="btn" onClick={() => s.set({ keying: true, refused: null })}>
            Turn on “key as I move”
          </button>
        )}
        <button type="button" className="btn" onClick={() => moveWithKeys(s)}>
          Move its keys along
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => s.set({ openState: null, openClip: null, playing: false, refused: null })}
        >
          Fold the clip
        </button>
      </div>
    </div>
  );
}

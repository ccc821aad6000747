import { Activity } from 'lucide-react';
import { runCommand } from '../commands/registry.ts';
import { useSession, useUi } from '../session/hooks.ts';

/** Animates what is chosen, from wherever it is listed. */
export function AnimateButton() {
  const s = useSession();
  const object = useUi((u) => u.object);
  return (
    <button
      type="button"
      className="p-0.5 text-brass disabled:text-ink-3"
      aria-label="Animate what is chosen"
      title="Animate what is chosen (A)"
      disabled={object === null}
      onClick={() => runCommand(s, 'animate')}
    >
      <Activity size={14} aria-hidden="true" />
    </button>
  );
}

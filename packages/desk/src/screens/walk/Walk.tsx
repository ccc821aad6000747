import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useSession } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import { useStarters } from '../../ui/starters.ts';
import { Told } from '../../ui/Told.tsx';

/** Three sentences that lead through a starter, in the piece itself: what to press, and what to look at. */
export function Walk() {
  const s = useSession();
  const [params, setParams] = useSearchParams();
  const [at, setAt] = useState(0);
  const key = params.get('walk');
  const walk = useStarters(key !== null).data?.starters.find((x) => x.key === key)?.walk ?? [];
  const choice = params.get('choose');
  // Whoever comes from the guide finds what it spoke of.
  useEffect(() => {
    if (choice !== null) choose(s, choice);
  }, [s, choice]);
  const step = walk[at];
  if (key === null || !step) return null;
  const goTo = (n: number) => {
    setAt(n);
    const { choose: name } = walk[n] ?? {};
    if (name !== undefined) choose(s, name);
  };
  const end = () =>
    setParams(
      (p) => {
        p.delete('walk');
        p.delete('choose');
        return p;
      },
      { replace: true },
    );
  return (
    <section
      aria-label="Look around"
      className="flex items-center gap-3 px-3.5 py-1.5 bg-chosen border-b border-line min-w-0"
    >
      <span className="num text-ink-2 whitespace-nowrap">
        {at + 1} of {walk.length}
      </span>
      <p className="flex-1 min-w-0" aria-live="polite">
        <Told say={step.say} />
      </p>
      {at > 0 && (
        <button type="button" className="btn" onClick={() => goTo(at - 1)}>
          Back
        </button>
      )}
      <button
        type="button"
        className="btn btn-ink whitespace-nowrap"
        onClick={() => (at < walk.length - 1 ? goTo(at + 1) : end())}
      >
        {at < walk.length - 1 ? 'Go on' : 'Seen all'}
      </button>
      <button type="button" aria-label="Look around alone" title="Look around alone" onClick={end}>
        <X size={14} />
      </button>
    </section>
  );
}

/** Chooses the first object of that name. */
function choose(s: Session, name: string): void {
  const object = s.store.all('objects').find((o) => o.name === name);
  if (object) s.select({ kind: 'object', id: object.id });
}

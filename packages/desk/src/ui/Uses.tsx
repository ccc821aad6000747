import { useMemo } from 'react';
import { useSession, useVersion } from '../session/hooks.ts';
import { type Use, usesOf } from '../session/words/uses.ts';

/** Who sets it and who goes by it, each a way there. `verb`: what is done to it. */
export function Uses({ id, verb, heard }: { id: string; verb: string; heard: string }) {
  const s = useSession();
  const version = useVersion();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version stands for the contents of the store
  const uses = useMemo(() => usesOf(s.store, id), [s, id, version]);
  const part = (title: string, list: readonly Use[]) =>
    list.length > 0 && (
      <section aria-label={title}>
        <h3 className="text-[13px] pb-0.5">{title}</h3>
        <ul>
          {list.map((u, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: one thing may do the same twice
            <li key={i}>
              <button
                type="button"
                className="w-full text-left flex gap-2 items-baseline rounded-[5px] px-1 -mx-1 hover:bg-chosen"
                title={`${u.who}: ${u.words}`}
                onClick={() => s.select(u.select)}
              >
                <span className="font-medium truncate flex-none max-w-[55%]">{u.who}</span>
                <span className="text-ink-2 truncate min-w-0">{u.words}</span>
              </button>
            </li>
          ))}
        </ul>
      </section>
    );
  const [sets, hears] = [uses.filter((u) => u.sets), uses.filter((u) => !u.sets)];
  return (
    <>
      {part(`${verb} by`, sets)}
      {part(heard, hears)}
      {uses.length === 0 && <p className="text-ink-2">Nothing in the piece uses it yet.</p>}
    </>
  );
}

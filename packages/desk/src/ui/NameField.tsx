import { useEffect, useRef } from 'react';
import { useSession } from '../session/hooks.ts';
import { useDraft } from './use-draft.ts';

/** A name that is typed over where it stands: Enter keeps it, Escape leaves it as it was. `onDone` is given the focus back. */
export function NameField(props: { name: string; onName: (name: string) => void; onDone: () => void }) {
  const { name, onName, onDone } = props;
  const s = useSession();
  const input = useRef<HTMLInputElement>(null);
  const given = useRef(true);
  const field = useDraft(name, (to) => given.current && onName(to));
  const { type } = field;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when it comes
  useEffect(() => {
    input.current?.focus();
    // Begun by typing, it goes on with what is typed.
    const { renamesWith } = s.state;
    if (renamesWith === '') input.current?.select();
    else type(renamesWith);
    s.set({ renamesWith: '' });
  }, [s]);
  return (
    <input
      ref={input}
      aria-label={`New name of ${name}`}
      className="field flex-1 min-w-0 h-[21px]"
      maxLength={200}
      value={field.text}
      data-clean={field.clean}
      onChange={(e) => field.type(e.target.value)}
      onBlur={() => {
        field.settle();
        s.set({ renaming: null });
      }}
      onClick={(e) => e.stopPropagation()}
      onPointerDown={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') field.settle();
        else if (e.key === 'Escape') {
          given.current = false;
          field.forget();
        } else return;
        e.preventDefault();
        s.set({ renaming: null });
        onDone();
      }}
    />
  );
}

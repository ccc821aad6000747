import type { Lane, Machine } from '@apple-tick/core/model';
import { useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { type Back, type Likely, likelyEvents, wire } from '../../session/motion/wiring.ts';

const BACKS: readonly (readonly [Back, string])[] = [
  ['no', 'stays there'],
  ['again', 'and back again'],
  ['softly', 'and softly back'],
];

/** What may set a transition off, to be chosen in one act, and whether there is a way back. */
export function WhenList(props: {
  machine: Machine;
  lane: Lane;
  from: string;
  to: string;
  onDone: () => void;
  /** None of these: it is set in the properties. */
  onElse: () => void;
}) {
  const { machine, lane, from, to, onDone } = props;
  const s = useSession();
  const [back, setBack] = useState<Back>('no');
  const [asksKey, setAsksKey] = useState<Likely | null>(null);
  const take = (likely: Likely, key?: string) => {
    wire(s, machine, lane, from, to, likely, back, key);
    onDone();
  };
  if (asksKey)
    return (
      <input
        ref={(el) => el?.focus()}
        readOnly
        aria-label="Keyboard key that sets it off"
        className="field w-full text-center"
        value="Press the key"
        onKeyDown={(e) => {
          // Escape gives it up, like the whole list.
          if (e.key === 'Tab' || e.key === 'Escape') return;
          // It is the key that is meant, whatever else it would do here.
          e.preventDefault();
          e.stopPropagation();
          take(asksKey, e.key.length === 1 ? e.key.toLowerCase() : e.key);
        }}
      />
    );
  const row =
    'block w-full text-left px-2 py-1 rounded-[5px] hover:bg-chosen focus-visible:bg-chosen truncate';
  return (
    <div
      onKeyDown={(e) => {
        if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
        e.preventDefault();
        const all = [...e.currentTarget.querySelectorAll('button')];
        const at = all.indexOf(document.activeElement as HTMLButtonElement);
        all[(at + (e.key === 'ArrowDown' ? 1 : all.length - 1)) % all.length]?.focus();
      }}
    >
      <fieldset className="flex gap-1 px-1 pb-1.5 mb-1 border-b border-line">
        <legend className="sr-only">The way back</legend>
        {BACKS.map(([id, words]) => (
          <button
            key={id}
            type="button"
            className="btn px-1.5 whitespace-nowrap"
            aria-pressed={back === id}
            onClick={() => setBack(id)}
          >
            {words}
          </button>
        ))}
      </fieldset>
      {likelyEvents(s, machine, lane, from, to).map((likely) => (
        <button
          key={likely.words}
          type="button"
          className={row}
          onClick={() => (likely.asksKey ? setAsksKey(likely) : take(likely))}
        >
          {likely.words}
        </button>
      ))}
      <button type="button" className={`${row} text-ink-2`} onClick={props.onElse}>
        something else…
      </button>
    </div>
  );
}

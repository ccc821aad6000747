import { type ReactNode, useState } from 'react';
import { readPref, writePref } from '../session/keep/prefs.ts';

const FOLDED = 'apple-tick-sections';
/** Sections that were opened or folded by hand, by title: whatever is selected next shows them the same way. */
const byHand = new Map<string, boolean>(read());
function read(): [string, boolean][] {
  try {
    return JSON.parse(readPref(FOLDED) ?? '[]');
  } catch {
    return [];
  }
}

/** A part of the properties that folds; open when there is something in it. */
export function Section(props: { title: string; note?: string; open: boolean; children: ReactNode }) {
  const [chosen, setChosen] = useState(byHand.get(props.title));
  const open = chosen ?? props.open;
  return (
    <details open={open} className="border-t border-line pt-2">
      {/* Folded by the click, which Enter and Space make too: the toggle event comes later, when `open` may say the same for another reason. */}
      <summary
        className="cursor-pointer flex items-baseline gap-2"
        onClick={(e) => {
          e.preventDefault();
          byHand.set(props.title, !open);
          writePref(FOLDED, JSON.stringify([...byHand]));
          setChosen(!open);
        }}
      >
        <span className="font-serif font-semibold text-[13px] flex-1">{props.title}</span>
        {props.note && <span className="text-ink-2">{props.note}</span>}
      </summary>
      <div className="space-y-2 pt-2">{props.children}</div>
    </details>
  );
}

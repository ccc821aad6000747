import type { ReactNode } from 'react';

/** A part of the properties that folds; open when there is something in it. */
export function Section(props: { title: string; note?: string; open: boolean; children: ReactNode }) {
  return (
    <details open={props.open} className="border-t border-line pt-2">
      <summary className="cursor-pointer flex items-baseline gap-2">
        <span className="font-serif font-semibold text-[13px] flex-1">{props.title}</span>
        {props.note && <span className="text-ink-2">{props.note}</span>}
      </summary>
      <div className="space-y-2 pt-2">{props.children}</div>
    </details>
  );
}

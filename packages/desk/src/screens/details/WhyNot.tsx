import type { Transition } from '@apple-tick/core/model';
import { explain, type Part } from '@apple-tick/core/run';
import { Check, X } from 'lucide-react';
import { useRun, useSession } from '../../session/hooks.ts';
import type { PieceStore } from '../../session/model-help.ts';
import { conditionWords, eventWords, nameOf } from '../../session/words/words.ts';

/** While running: what of a transition holds now, and what it still waits for. */
export function WhyNot({ transition: t, owner }: { transition: Transition; owner: string }) {
  const s = useSession();
  // As text, so that what has not changed is not drawn anew.
  const now = useRun((run) => JSON.stringify(explain(run, s.inRun(t.id))));
  if (!now) return null;
  const parts = JSON.parse(now) as Part[];
  const words = parts.map((p) => partWords(s.store, p, t, owner));
  return (
    <section aria-label="Why not now" className="border border-line rounded-[7px] p-2">
      <h3 className="text-[13px] pb-1">
        {parts.every((p) => p.holds || p.of === 'event') ? 'Ready now' : 'Why not now'}
      </h3>
      <ul>
        {parts.map((p, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the parts of one transition stand in one order
          <li key={i} className={`flex gap-1.5 items-center ${p.holds ? 'text-ink-2' : ''}`}>
            {p.holds ? (
              <Check size={12} className="text-leaf flex-none" aria-label="holds" />
            ) : (
              <X size={12} className="text-apple flex-none" aria-label="does not hold" />
            )}
            {words[i]}
          </li>
        ))}
      </ul>
    </section>
  );
}

function partWords(store: PieceStore, p: Part, t: Transition, owner: string): string {
  switch (p.of) {
    case 'able':
      return p.holds ? 'set and switched on' : 'not set, switched off, or without odds';
    case 'state':
      return t.from === '*' ? 'the lane may go there' : `in ${nameOf(store, t.from)}`;
    case 'event':
      return `${p.holds ? 'remembered' : 'waits for'}: ${t.on ? eventWords(store, t.on, owner) : ''}`;
    case 'condition': {
      const c = t.when[p.at];
      return c ? conditionWords(store, c) : '';
    }
    case 'notBefore':
      if (p.holds) return 'not before: reached';
      return p.left === null ? 'not before: at its end' : `not before: in ${p.left.toFixed(1)} s`;
    case 'crossfade':
      return 'a crossfade must finish first';
  }
}

import { ChevronRight } from 'lucide-react';
import { timesWords, usesOfTemplate } from '../../features/templates/edit.ts';
import { useHead, useSession, useUi, useVersion } from '../../session/hooks.ts';

/** Where one works, above the view: the piece, and the instances that lead to the template that is open. */
export function WayBar() {
  const s = useSession();
  const head = useHead();
  useVersion();
  useUi((u) => u.way);
  const { inside } = s;
  const last = inside.at(-1);
  const template = s.store.get('templates', last?.template ?? '');
  if (!last || !template) return null;
  const nameOf = ({ id, template: t }: { id: string; template: string }) =>
    s.store.get('objects', id)?.name ?? s.store.get('templates', t)?.name ?? '';
  const times = usesOfTemplate(s.store, template.id).length;
  return (
    <nav
      aria-label="Where you work"
      className="flex flex-wrap items-center gap-1 px-3 py-1 flex-none bg-chosen border-y border-line"
    >
      <button type="button" className="underline" onClick={() => s.goInside([])}>
        {head.name}
      </button>
      {inside.map((x, k) => (
        <span key={x.id} className="flex items-center gap-1">
          <ChevronRight size={12} aria-hidden="true" className="text-ink-3" />
          {k === inside.length - 1 ? (
            <strong aria-current="location">{nameOf(x)}</strong>
          ) : (
            <button
              type="button"
              className="underline"
              onClick={() => s.goInside(inside.slice(0, k + 1).map((y) => y.id))}
            >
              {nameOf(x)}
            </button>
          )}
        </span>
      ))}
      <span className="text-ink-2 ml-1">
        You change the template {template.name}, {timesWords(times)}.
      </span>
      <button type="button" className="btn ml-auto" title="Escape" onClick={() => s.goOut()}>
        Out
      </button>
    </nav>
  );
}

import { PROPERTIES, propertyUnit } from '@apple-tick/core/model';
import { propertyValue, type Run, type Writer, writersOf } from '@apple-tick/core/run';
import { useRun, useSession } from '../../session/hooks.ts';
import type { PieceStore } from '../../session/model-help.ts';
import { labelOf, lookWords, nameOf } from '../../session/words/words.ts';

interface Line {
  readonly property: string;
  readonly value: number | boolean | string;
  readonly by: readonly Writer[];
}

/** While running: what of an object is not as its base says, its value now, and who writes it, the last word first. */
export function Written({ object }: { object: string }) {
  const s = useSession();
  // As text, so that nothing is drawn anew while nothing changes.
  const now = useRun((run) => JSON.stringify(linesOf(run, s.inRun(object))));
  const lines = now ? (JSON.parse(now) as Line[]) : [];
  if (lines.length === 0) return null;
  return (
    <section aria-label="Who writes this" className="border border-line rounded-[7px] p-2">
      <h3 className="text-[13px] pb-1">Who writes this now</h3>
      <ul className="space-y-0.5">
        {lines.map(({ property, value, by }) => (
          <li key={property} className="flex gap-2">
            <span className="w-14 flex-none truncate" title={labelOf(s.store, property)}>
              {labelOf(s.store, property)}
            </span>
            <span className="num w-14 flex-none text-right truncate">
              {typeof value === 'number'
                ? `${Math.round(value * 10) / 10}${propertyUnit(property)}`
                : property === 'look'
                  ? lookWords(s.store, String(value))
                  : typeof value === 'boolean'
                    ? value
                      ? 'on'
                      : 'off'
                    : value}
            </span>
            <span className="text-ink-2 flex-1 min-w-0">
              {by.map((w) => words(s.store, w)).join(', over ')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function linesOf(run: Run, object: string): Line[] {
  const index = run.program.objectIndex.get(object) ?? -1;
  if (index < 0) return [];
  const line = (of: number, lies: string, property: string): Line[] => {
    const by = writersOf(run, of, lies).filter((w) => w.by !== 'base');
    const value = propertyValue(run.state.values, of, lies);
    return by.length > 0 && value !== null ? [{ property, value, by: by.reverse() }] : [];
  };
  // Its parts lie in objects of their own.
  const parts = run.program.spawns.parts.flatMap(({ part }) =>
    part.object === object
      ? line(run.program.objectIndex.get(part.id) ?? -1, part.property, part.id.slice(part.object.length + 1))
      : [],
  );
  return [...PROPERTIES.flatMap((p) => line(index, p.name, p.name)), ...parts];
}

function words(store: PieceStore, w: Writer): string {
  if (w.by === 'motor') return 'a motor';
  if (w.by === 'follow') return 'what it follows';
  if (w.by === 'put') return 'put by an action';
  if (w.by === 'play') return `${nameOf(store, w.clip)}, played by itself`;
  const part = w.weight < 1 ? ` (${Math.round(w.weight * 100)} %)` : '';
  return `${nameOf(store, w.lane)}: ${nameOf(store, w.state)}${part}`;
}

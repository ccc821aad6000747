import type { Clip } from '@apple-tick/core/model';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { memo } from 'react';
import { useSession, useUi } from '../../session/hooks.ts';
import { nameOf } from '../../session/words/words.ts';
import { HEAD, type TimeScale, xOf } from './scale.ts';

/** An object over its properties: its name, which chooses it, and where any of them has a pip. */
export const GroupRow = memo(function GroupRow(props: {
  clip: Clip;
  object: string;
  folded: boolean;
  scale: TimeScale;
  style: React.CSSProperties;
  onFold: () => void;
}) {
  const { clip, object, folded, scale } = props;
  const s = useSession();
  const chosen = useUi((u) => u.object === object);
  const name = nameOf(s.store, object);
  const own = clip.tracks.filter((t) => t.object === object);
  const times = folded ? new Set(own.flatMap((t) => t.keys.map((k) => k.t))) : [];
  // One for each px: more would not be seen.
  const marks = [...new Set([...times].map((t) => Math.round(xOf(scale, t))))]
    .map((x) => `M${x} 7v9`)
    .join('');
  return (
    <div
      className={`absolute inset-x-0 top-0 flex border-t border-line ${chosen ? 'bg-chosen/60' : 'bg-paper/50'}`}
      style={props.style}
    >
      <div className="flex-none flex items-center gap-1 pl-1.5 pr-3" style={{ width: HEAD }}>
        <button
          type="button"
          aria-label={folded ? `Unfold ${name}` : `Fold ${name}`}
          aria-expanded={!folded}
          onClick={props.onFold}
        >
          {folded ? <ChevronRight size={14} /> : <ChevronDown size={14} />}
        </button>
        <button
          type="button"
          className="font-semibold truncate text-left flex-1"
          onClick={() => s.select({ kind: 'object', id: object })}
        >
          {name}
        </button>
        {folded && <span className="text-ink-3 text-[11px]">{own.length} rows</span>}
      </div>
      <svg width={scale.width} height="100%" aria-hidden="true">
        {folded && <path d={marks} stroke="var(--ink-3)" strokeWidth="2" />}
      </svg>
    </div>
  );
});

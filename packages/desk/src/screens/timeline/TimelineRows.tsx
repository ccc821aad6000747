import { type Clip, type KeyId, keysTrack, type Track } from '@apple-tick/core/model';
import type { VirtualItem } from '@tanstack/react-virtual';
import { useCallback, useRef } from 'react';
import { useSession } from '../../session/hooks.ts';
import { chosenKeys, selectKeys } from '../../session/motion/keys.ts';
import { dragKeys } from './drag-keys.ts';
import { GroupRow } from './GroupRow.tsx';
import type { TimelineRow } from './rows.ts';
import type { TimeScale } from './scale.ts';
import { type GrabKey, TrackRow } from './TrackRow.tsx';

const NO_KEYS: readonly number[] = [];

/** The rows in sight, and what hands do with the pips on them. */
export function TimelineRows(props: {
  clip: Clip;
  rows: readonly TimelineRow[];
  items: readonly VirtualItem[];
  scale: TimeScale;
  /** The times of the chosen keys, by row. */
  chosenByRow: ReadonlyMap<string, readonly number[]>;
  timeUnder: (clientX: number, targets: readonly number[]) => number;
  onFold: (object: string) => void;
}) {
  const { clip, rows, scale, chosenByRow, timeUnder } = props;
  const s = useSession();
  /** A pip is taken hold of: chosen if it is not, then all chosen ones follow, along time or along their value. */
  const grab = useCallback<GrabKey>(
    (e, id, perPx) => {
      const now = chosenKeys(s);
      const own = now?.clip.id === clip.id ? now.keys : [];
      const isIn = own.some((k) => same(k, id));
      if (e.shiftKey || e.ctrlKey || e.metaKey)
        return selectKeys(s, clip.id, isIn ? own.filter((k) => !same(k, id)) : [...own, id]);
      const meant = isIn ? own : [id];
      if (!isIn) selectKeys(s, clip.id, meant);
      dragKeys(s, clip.id, meant, id, e, perPx, timeUnder);
    },
    [s, clip.id, timeUnder],
  );
  const pick = useCallback((id: KeyId) => selectKeys(s, clip.id, [id]), [s, clip.id]);
  return props.items.map((v) => {
    const r = rows[v.index];
    if (!r) return null;
    const style = { transform: `translateY(${v.start}px)`, height: r.height };
    if (r.kind === 'object')
      return (
        <GroupRow
          key={`o ${r.object}`}
          clip={clip}
          object={r.object}
          folded={r.folded}
          scale={scale}
          style={style}
          onFold={() => props.onFold(r.object)}
        />
      );
    const t = clip.tracks[r.track] as Track;
    return (
      <div key={keysTrack(t)} className="absolute inset-x-0 top-0" style={style}>
        <TrackRow
          clip={clip.id}
          duration={clip.duration}
          track={t}
          under={r.under}
          height={r.height}
          chosen={chosenByRow.get(keysTrack(t)) ?? NO_KEYS}
          scale={scale}
          onGrab={grab}
          onPick={pick}
        />
      </div>
    );
  });
}

const same = (a: KeyId, b: KeyId) =>
  a.object === b.object && a.property === b.property && Math.abs(a.t - b.t) < 1e-9;

/** The chosen times of each row; a row whose chosen keys are the same keeps its list. */
export function useSteadyLists(keys: readonly KeyId[]): ReadonlyMap<string, readonly number[]> {
  const kept = useRef<ReadonlyMap<string, readonly number[]>>(new Map());
  const next = new Map<string, number[]>();
  for (const k of keys) {
    const list = next.get(keysTrack(k));
    if (list) list.push(k.t);
    else next.set(keysTrack(k), [k.t]);
  }
  let isSame = next.size === kept.current.size;
  for (const [row, list] of next) {
    const old = kept.current.get(row);
    if (old && old.length === list.length && old.every((t, i) => t === list[i]))
      next.set(row, old as number[]);
    else isSame = false;
  }
  if (!isSame) kept.current = next;
  return kept.current;
}

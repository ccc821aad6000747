import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { dropPiece, putBack } from '../../session/keep/keeping.ts';
import { forgetLost, lost, restoreLost } from '../../session/keep/second-copy.ts';
import { db, type Space, spaceUsed, storage } from '../../session/keep/storage.ts';
import { unkept } from '../../session/keep/unkept.ts';

/** Where pieces are kept, how much room they take, and whether the browser promises to keep them. */
export function KeptHere() {
  const lasts = useStore(storage, (x) => x.lasts);
  const waiting = useStore(unkept, (x) => x.list);
  const [space, setSpace] = useState<Space | null>(null);
  // Asked again whenever a piece came or went.
  const count = useLiveQuery(() => db.pieces.count());
  useEffect(() => {
    if (count !== undefined) void spaceUsed().then(setSpace);
  }, [count]);
  const mb = (n: number) => (n < 1e9 ? `${(n / 1e6).toFixed(1)} MB` : `${(n / 1e9).toFixed(1)} GB`);
  if (!lasts)
    return (
      <p role="alert" className="text-apple mb-3">
        This browser keeps nothing: what you make is gone when the page is closed. Export it as a file before
        you leave.
      </p>
    );
  return (
    <div className="text-ink-2 mb-3">
      <Missing />
      <p>
        Kept in this browser
        {space && ` · ${mb(space.used)}${space.room ? ` of ${mb(space.room)}` : ''} used`}
        {space && !space.safe && ' · the browser may clear it when it runs short of room'}
      </p>
      {waiting.map((x) => (
        <p key={x.id} role="alert" className="text-apple">
          {x.name} is not kept yet. {x.why}
        </p>
      ))}
    </div>
  );
}

/** Pieces that were kept here and are not there any more, and which of them can be had again. */
function Missing() {
  const gone = useStore(lost, (x) => x.lost);
  if (!gone) return null;
  const { names, copies } = gone;
  const list =
    names.length > 6 ? `${names.slice(0, 6).join(', ')} and ${names.length - 6} more` : names.join(', ');
  return (
    <div
      role="alert"
      className="border border-apple rounded-[9px] p-3 mb-2 text-ink flex gap-3 items-center flex-wrap"
    >
      <p className="flex-1 min-w-[260px]">
        This browser has lost {names.length === 1 ? 'a piece that was' : `${names.length} pieces that were`}{' '}
        kept here: {list}.{' '}
        {copies.length === names.length
          ? 'A second copy of all that was done is still there.'
          : copies.length > 0
            ? `Of ${copies.length} there is a second copy.`
            : 'There is no second copy: what was exported as a file can be imported.'}
      </p>
      {copies.length > 0 && (
        <button type="button" className="btn btn-ink" onClick={() => void restoreLost()}>
          Put {copies.length === 1 ? 'it' : 'them'} back
        </button>
      )}
      <button type="button" className="underline" onClick={forgetLost}>
        Good
      </button>
    </div>
  );
}

/** Pieces that were deleted lately: each can be put back, also after a reload. */
export function Bin() {
  const rows = useLiveQuery(async () =>
    (await db.bin.toArray()).sort((a, b) => (Number(b.deleted) || 0) - (Number(a.deleted) || 0)),
  );
  if (!rows || rows.length === 0) return null;
  return (
    <details className="mb-8" open={Date.now() - (rows[0]?.deleted ?? 0) < 60_000}>
      <summary className="cursor-pointer text-ink-2">
        Deleted lately: {rows.length} · kept for a month, then gone
      </summary>
      <ul className="mt-2 space-y-1" aria-label="Deleted lately">
        {rows.map((r) => (
          <li key={r.id} className="flex gap-2 items-center">
            <span className="truncate min-w-0">{String(r.name)}</span>
            <button type="button" className="btn" onClick={() => void putBack(r.id)}>
              Put back
            </button>
            <button type="button" className="btn" onClick={() => void dropPiece(r.id)}>
              Delete for good
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

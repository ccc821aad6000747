import { useSession } from '../../session/hooks.ts';

/** For the keyboard and for screen readers: a button for each thing in the live frame that hears clicks. */
export function LiveKeys() {
  const s = useSession();
  const clickable = new Set(
    s.store
      .all('reactions')
      .flatMap((r) => (r.on.event === 'pointer.click' ? [r.on.object ?? r.object] : [])),
  );
  for (const m of s.store.all('machines'))
    for (const l of m.lanes)
      for (const t of l.transitions)
        if (t.on?.event === 'pointer.click') clickable.add(t.on.object ?? m.object);
  return (
    <div className="absolute top-1 left-1 flex gap-1">
      {[...clickable].map((id) => {
        const o = s.store.get('objects', id);
        return (
          o && (
            <button
              key={id}
              type="button"
              className="btn sr-only focus:not-sr-only"
              onClick={() => s.player?.input({ click: id })}
            >
              {o.hint || `Click ${o.name}`}
            </button>
          )
        );
      })}
    </div>
  );
}

import type { Piece } from '@apple-tick/core/model';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { isFound } from '../../ui/find.ts';
import { pictureOf, readStarter, type Starter } from '../../ui/starters.ts';

/** What runs pieces comes when a starter is first pointed at. */
const ClipReel = lazy(() => import('../../ui/ClipReel.tsx'));

/** The starters, found by what one wants to do. */
export function Starters(props: { all: readonly Starter[]; onTake: (starter: Starter) => void }) {
  const { all, onTake } = props;
  const [wanted, setWanted] = useState('');
  const found = all.filter((x) => isFound(wanted, x.title, x.find));
  return (
    <>
      <input
        className="field w-[260px] mb-3"
        aria-label="Find a starter"
        placeholder="door, drag, score, blink …"
        value={wanted}
        onChange={(e) => setWanted(e.target.value)}
      />
      {all.length > 0 && found.length === 0 && (
        <p role="status" className="text-ink-2">
          Nothing found for “{wanted}”.
        </p>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-4">
        {found.map((starter) => (
          <li key={starter.key}>
            <button
              type="button"
              className="bg-card border border-line rounded-[9px] overflow-hidden text-left w-full"
              onClick={() => onTake(starter)}
            >
              <Moving starter={starter} />
              <span className="block px-3 py-2 font-semibold">{starter.title}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** A starter whose clips are seen while the pointer is on it, or the focus; else its still picture. */
function Moving({ starter }: { starter: Starter }) {
  const [piece, setPiece] = useState<Piece | null>(null);
  const box = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const card = box.current?.closest('button');
    if (!card || matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    let on = false;
    const show = () => {
      on = true;
      void readStarter(starter.piece).then((p) => on && setPiece(p));
    };
    const rest = () => {
      on = false;
      setPiece(null);
    };
    card.addEventListener('pointerenter', show);
    card.addEventListener('focus', show);
    card.addEventListener('pointerleave', rest);
    card.addEventListener('blur', rest);
    return () => {
      rest();
      card.removeEventListener('pointerenter', show);
      card.removeEventListener('focus', show);
      card.removeEventListener('pointerleave', rest);
      card.removeEventListener('blur', rest);
    };
  }, [starter]);
  return (
    <span ref={box} className="block relative overflow-hidden aspect-[2/1]">
      <img
        src={pictureOf(starter.key)}
        alt=""
        className="absolute inset-0 w-full h-full object-cover"
        draggable={false}
      />
      {piece && (
        <Suspense>
          <ClipReel piece={piece} width={240} height={120} />
        </Suspense>
      )}
    </span>
  );
}

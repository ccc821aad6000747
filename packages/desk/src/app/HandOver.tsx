import { useMemo } from 'react';
import { Link } from 'react-router';
import { useHead, useSession, useTable, useVersion } from '../session/hooks.ts';
import { ExportButton } from '../ui/ExportButton.tsx';
import { Mark } from '../ui/Mark.tsx';
import { PieceThumb } from '../ui/PieceThumb.tsx';

/** The open piece, for others: it is the live one, with all that was done until now. */
export function HandOver() {
  const s = useSession();
  const head = useHead();
  const objects = useTable('objects').length;
  const version = useVersion();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version stands for the contents of the store
  const piece = useMemo(() => s.piece(), [s, version]);
  return (
    <div className="h-full overflow-auto">
      <header className="h-11 bg-card border-b border-line flex items-center px-4 gap-3">
        <Link to="/" aria-label="To the shelf">
          <Mark />
        </Link>
        <span className="font-serif text-[17px] font-semibold">Apple Tick</span>
        <Link className="btn" to="..">
          Back to {head.name}
        </Link>
      </header>
      <main className="px-11 py-6 max-w-[760px]">
        <h1 className="text-[23px] mb-3">Hand over {head.name}</h1>
        <div className="flex gap-6">
          <div className="border border-line rounded-[9px] overflow-hidden flex-none self-start">
            <PieceThumb piece={piece} width={320} height={180} />
          </div>
          <div>
            <p className="mb-4">
              The file holds the whole piece: {objects} {objects === 1 ? 'object' : 'objects'}, every clip,
              machine and reaction. Whoever imports it gets an equal one.
            </p>
            <ExportButton session={s} />
          </div>
        </div>
      </main>
    </div>
  );
}

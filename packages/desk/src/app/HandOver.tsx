import { Link } from 'react-router';
import { useHead, useSession, useTable } from '../session/hooks.ts';
import { ExportButton } from '../ui/ExportButton.tsx';

/** The open piece, for others: it is the live one, with all that was done until now. */
export function HandOver() {
  const s = useSession();
  const head = useHead();
  const objects = useTable('objects').length;
  return (
    <main className="p-11 max-w-[640px]">
      <h1 className="text-[23px] mb-2">Hand over {head.name}</h1>
      <p className="mb-4">
        The file holds the whole piece: {objects} {objects === 1 ? 'object' : 'objects'}, every clip, machine
        and reaction. Whoever imports it gets an equal one.
      </p>
      <ExportButton session={s} />
      <p className="mt-6">
        <Link className="underline" to="..">
          Back
        </Link>
      </p>
    </main>
  );
}

import type { Piece } from '@apple-tick/core/model';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { loadHistory } from '../session/keeping.ts';
import { exportPiece } from '../ui/export-piece.ts';

export function HandOver() {
  const { id = '' } = useParams();
  const [piece, setPiece] = useState<Piece | null | undefined>(undefined);
  useEffect(() => {
    void loadHistory(id).then((k) => setPiece(k?.store.toPiece() ?? null));
  }, [id]);
  return (
    <main className="p-11 max-w-[640px]">
      <h1 className="text-[23px] mb-2">Hand over {piece?.name}</h1>
      {piece === null && <p>There is no such piece in this browser.</p>}
      {piece && (
        <>
          <p className="mb-4">
            The file holds the whole piece: {Object.keys(piece.objects).length} objects, every clip, machine
            and reaction. Whoever imports it gets an equal one.
          </p>
          <button type="button" className="btn btn-ink" onClick={() => void exportPiece(piece)}>
            Export the file
          </button>
        </>
      )}
      <p className="mt-6">
        <Link className="underline" to={piece ? `/piece/${id}` : '/'}>
          Back
        </Link>
      </p>
    </main>
  );
}

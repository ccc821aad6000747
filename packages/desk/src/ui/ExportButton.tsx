import { useState } from 'react';
import type { Session } from '../session/session.ts';
import { exportPiece, exportWords } from './export-piece.ts';

/** Hands the piece over as a file, and says what could not go with it. */
export function ExportButton({ session }: { session: Session }) {
  const [said, setSaid] = useState('');
  return (
    <>
      <button
        type="button"
        className="btn btn-ink"
        onClick={async () => setSaid(exportWords(await exportPiece(session.piece())))}
      >
        Export the file
      </button>
      {said !== '' && (
        <p role="status" className="mt-3">
          {said}
        </p>
      )}
    </>
  );
}

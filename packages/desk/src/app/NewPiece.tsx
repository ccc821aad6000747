import { emptyPiece } from '@apple-tick/core/model';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { addPiece } from '../session/keep/keeping.ts';
import { whyNotKept } from '../session/keep/storage.ts';
import { newPieceId } from '../session/model-help.ts';
import { Notice } from '../ui/Notice.tsx';

/** The address that begins a new piece at once, for who keeps it at hand; it is then the address of that piece. */
export function NewPiece() {
  const go = useNavigate();
  const begun = useRef(false);
  const [refused, setRefused] = useState<string | null>(null);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    const piece = emptyPiece(newPieceId(), 'Untitled piece');
    addPiece(piece).then(
      () => go(`/piece/${piece.id}`, { replace: true }),
      (e) => setRefused(whyNotKept(e)),
    );
  }, [go]);
  if (refused === null) return <p className="p-6">Opening…</p>;
  return <Notice title="A new piece could not be made" words={refused} />;
}

/** Pieces compiled with all features: what everybody uses who does not choose among them. */
import { ALL } from '../features/all.ts';
import type { Piece } from '../model/index.ts';
import { compilePiece, withFeatures } from '../run/compile.ts';
import { compilePieceAgain } from '../run/compile-again.ts';
import type { Program } from '../run/program.ts';

const all = withFeatures(ALL);

/** See `compilePiece`. */
export function compile(piece: Piece, moved: readonly string[] = []): Program {
  return compilePiece(piece, all, moved);
}

/** See `compilePieceAgain`. */
export function compileAgain(piece: Piece, like: Program | undefined, open: string | null = null): Program {
  return compilePieceAgain(piece, all, like, open);
}

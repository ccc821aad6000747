import { writeTickpack } from '@apple-tick/core/formats';
import { isFile, type Piece, writePiece } from '@apple-tick/core/model';
import { bytesOf } from '../session/pictures.ts';
import { saveFile } from './save-file.ts';

/** Hands the whole piece over as a file: a text, or with its pictures and sounds a tickpack. */
export async function exportPiece(piece: Piece): Promise<void> {
  const assets = Object.values(piece.assets).filter(isFile);
  if (assets.length === 0) saveFile(`${piece.name}.tick.json`, writePiece(piece, true), 'application/json');
  else saveFile(`${piece.name}.tickpack`, writeTickpack(piece, await bytesOf(assets)), 'application/zip');
}

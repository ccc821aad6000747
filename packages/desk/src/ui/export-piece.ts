import { isFile, type Piece, writePiece } from '@apple-tick/core/model';
import { bytesOf } from '../session/keep/pictures.ts';
import { saveFile } from './save-file.ts';

/**
 * Hands the whole piece over as a file: a text, or with its pictures and sounds a tickpack. Returns the names of those
 * that are missing here, or broken, and so did not go with it.
 */
export async function exportPiece(piece: Piece): Promise<string[]> {
  const assets = Object.values(piece.assets).filter(isFile);
  if (assets.length === 0) {
    saveFile(`${piece.name}.tick.json`, writePiece(piece, true), 'application/json');
    return [];
  }
  const bytes = await bytesOf(assets).catch(() => new Map<string, Uint8Array>());
  const { writeTickpack } = await import('../session/keep/handed-over.ts');
  saveFile(`${piece.name}.tickpack`, writeTickpack(piece, bytes), 'application/zip');
  return assets.filter((a) => !bytes.has(a.id)).map((a) => a.name);
}

/** What is to be said after an export; '' when all went with it. */
export function exportWords(missing: readonly string[]): string {
  if (missing.length === 0) return '';
  const one = missing.length === 1;
  return `The file lacks ${missing.map((n) => `“${n}”`).join(', ')}: ${one ? 'it is' : 'they are'} missing here. Bring ${one ? 'it' : 'them'} in again.`;
}

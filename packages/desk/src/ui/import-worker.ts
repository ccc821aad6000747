/** Reads a file away from the page, so that it never freezes; the page ends the worker to cancel. */
import { type IdKind, newId, type Result } from '@apple-tick/core/base';
import { importSvg, type SvgImport } from '@apple-tick/core/formats';
import { MAX_TEXT, type Piece, readPiece, tooLarge } from '@apple-tick/core/model';

export type ReadJob =
  | { readonly as: 'piece'; readonly file: File }
  | {
      readonly as: 'picture';
      readonly file: File;
      /** Ids that the piece has: new ones must differ. */
      readonly known: readonly string[];
      readonly room: { readonly width: number; readonly height: number };
    };
export type ReadResult = Result<Piece> | Result<SvgImport>;

/** Larger pictures would make a piece that nothing can work with. */
const MAX_PICTURE = 16 * 1024 * 1024;

self.onmessage = async (e: MessageEvent<ReadJob>) => {
  self.postMessage(await read(e.data));
};

async function read(job: ReadJob): Promise<ReadResult> {
  const { file } = job;
  if (job.as === 'piece')
    return file.size > MAX_TEXT ? { ok: false, problems: [tooLarge()] } : readPiece(await file.text());
  const no = (message: string): ReadResult => ({
    ok: false,
    problems: [{ code: 'picture', path: '', message }],
  });
  if (!/\.svg$/i.test(file.name) && file.type !== 'image/svg+xml')
    return no('This kind of file cannot be brought in: SVG pictures can. A piece is imported on the shelf.');
  if (file.size > MAX_PICTURE) return no('The picture is larger than 16 MB.');
  const taken = new Set(job.known);
  const fresh = (kind: IdKind) => {
    const id = newId(kind, (x) => taken.has(x), Math.random);
    taken.add(id);
    return id;
  };
  return importSvg(await file.text(), file.name.replace(/\.svg$/i, '') || 'Picture', fresh, job.room);
}

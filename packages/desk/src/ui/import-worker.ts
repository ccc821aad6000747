/** Reads a file away from the page, so that it never freezes; the page ends the worker to cancel. */
import { MAX_TEXT, readPiece, tooLarge } from '@apple-tick/core/model';

self.onmessage = async (e: MessageEvent<File>) => {
  const file = e.data;
  const result = file.size > MAX_TEXT ? { ok: false, problems: [tooLarge()] } : readPiece(await file.text());
  self.postMessage(result);
};

/** A piece with its pictures in one file: a zip of `piece.json` and `assets/`. */
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Problem, Result } from '../base/index.ts';
import { MAX_TEXT, readPiece } from '../check/index.ts';
import {
  assetFile,
  type FileAsset,
  isFile,
  type PictureAsset,
  type Piece,
  type SoundAsset,
  writePiece,
} from '../model/index.ts';
import { readPictureHead } from './picture-head.ts';
import { soundType } from './sound-head.ts';
import { crc32, readZipList } from './zip-list.ts';

export interface Tickpack {
  readonly piece: Piece;
  /** Bytes by the id of the asset. */
  readonly files: ReadonlyMap<string, Uint8Array>;
  /** Names of the assets whose file is not in the archive: whoever packed it did not have them either. */
  readonly missing: readonly string[];
}

const MAX_FILE = 64 * 1024 * 1024;
const MAX_ALL = 256 * 1024 * 1024;
const MAX_ENTRIES = 2000;

export function isZip(bytes: Uint8Array): boolean {
  return bytes[0] === 0x50 && bytes[1] === 0x4b;
}

export function writeTickpack(piece: Piece, files: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const entries: Record<string, [Uint8Array, { level: 0 | 6 }]> = {
    'piece.json': [strToU8(writePiece(piece, true)), { level: 6 }],
  };
  for (const a of Object.values(piece.assets).filter(isFile)) {
    const bytes = files.get(a.id);
    // Pictures and sounds are packed already.
    if (bytes) entries[assetFile(a)] = [bytes, { level: 0 }];
  }
  return zipSync(entries);
}

/** Reads a tickpack. Only `piece.json` and the files of its assets are taken; no name of the zip is ever a path. */
export function readTickpack(bytes: Uint8Array): Result<Tickpack> {
  const fail = (path: string, message: string): Result<Tickpack> => {
    const problem: Problem = { code: 'tickpack', path, message };
    return { ok: false, problems: [problem] };
  };
  const listed = readZipList(bytes);
  if (!listed) return fail('', 'The file is broken: its list of entries cannot be read.');
  const encrypted = listed.find((e) => e.encrypted);
  if (encrypted) return fail(encrypted.name, 'This entry is encrypted, which a tickpack never is.');
  let refused: Result<Tickpack> | null = null;
  let all = 0;
  let count = 0;
  let entries: Record<string, Uint8Array>;
  try {
    entries = unzipSync(bytes, {
      filter: (f) => {
        if (refused) return false;
        count++;
        all += f.originalSize;
        if (count > MAX_ENTRIES) refused = fail('', `The file holds more than ${MAX_ENTRIES} entries.`);
        else if (f.name.endsWith('/')) return false;
        else if (
          f.name !== 'piece.json' &&
          !/^assets\/as_[A-Za-z0-9_-]{1,60}\.(png|jpg|webp|wav|mp3|ogg|m4a)$/.test(f.name)
        )
          refused = fail(f.name, 'This entry does not belong in a tickpack.');
        else if (f.originalSize > (f.name === 'piece.json' ? MAX_TEXT : MAX_FILE) || all > MAX_ALL)
          refused = fail(f.name, 'This entry is too large when unpacked.');
        return refused === null;
      },
    });
  } catch {
    return (
      refused ??
      fail('', 'The file is broken: it cannot be unpacked, or an entry is not as large as it says.')
    );
  }
  if (refused) return refused;
  for (const e of listed) {
    const file = entries[e.name];
    if (file && (file.length !== e.size || crc32(file) !== e.crc))
      return fail(e.name, 'This entry is broken: it is not what the list of the archive says.');
  }
  const json = entries['piece.json'];
  if (!json) return fail('piece.json', 'The file holds no piece.json.');
  const read = readPiece(strFromU8(json));
  if (!read.ok) return read;
  const files = new Map<string, Uint8Array>();
  const missing: string[] = [];
  for (const a of Object.values(read.value.assets).filter(isFile)) {
    const file = entries[assetFile(a)];
    if (!file) {
      missing.push(a.name);
      continue;
    }
    const problem = fileProblem(a, file);
    if (problem) return fail(assetFile(a), problem);
    files.set(a.id, file);
  }
  return { ok: true, value: { piece: read.value, files, missing } };
}

/** Why these bytes are not those of the asset, as one sentence; null when they are. */
export function fileProblem(a: FileAsset, file: Uint8Array): string | null {
  return a.kind === 'image' ? pictureProblem(a, file) : soundProblem(a, file);
}

function pictureProblem(a: PictureAsset, file: Uint8Array): string | null {
  const head = readPictureHead(file);
  if (!head.ok) return head.problems[0]?.message ?? 'The picture cannot be read.';
  // A photograph taken with a turned camera has its sides the other way round in the file.
  const { width, height, mime } = head.value;
  const upright = width === a.width && height === a.height;
  if ((upright || (width === a.height && height === a.width)) && mime === a.mime) return null;
  return `The picture is not what the asset "${a.name}" says it is.`;
}

function soundProblem(a: SoundAsset, file: Uint8Array): string | null {
  return soundType(file) === a.mime ? null : `The sound is not what the asset "${a.name}" says it is.`;
}

/**
 * Files of older versions are brought up step by step. Migrations are named, append-only and gapless: entry i
 * leads from version i to i + 1. Each has a test; `migrate.test.ts` fails when one has none.
 */
import { FORMAT_VERSION } from '../model/index.ts';

type Json = Record<string, unknown>;
export interface Migration {
  readonly name: string;
  /** Changes a file of the version before in place. It may be malformed: touch only what is as expected. */
  readonly up: (file: Json) => void;
}

const isObject = (x: unknown): x is Json => typeof x === 'object' && x !== null && !Array.isArray(x);

export const MIGRATIONS: readonly Migration[] = [
  {
    // Version 0 said `loop: true | false` and had no way to play there and back.
    name: '0-to-1-loop-by-name',
    up: (file) => {
      if (!isObject(file['clips'])) return;
      for (const clip of Object.values(file['clips'])) {
        if (isObject(clip) && typeof clip['loop'] === 'boolean')
          clip['loop'] = clip['loop'] ? 'loop' : 'once';
      }
    },
  },
];

/** Applies every migration from the file's version on and sets the version. The version must be a known one. */
export function migrate(file: Json): void {
  for (let v = file['version'] as number; v < FORMAT_VERSION; v++) (MIGRATIONS[v] as Migration).up(file);
  file['version'] = FORMAT_VERSION;
}

// What a build consists of: written when it is made (`node scripts/manifest.mjs`), checked before it is served.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const root = path.resolve(import.meta.dirname, '..');
const FOLDERS = ['packages/desk/dist', 'packages/server/dist', 'packages/cli/dist'];
const FILE = path.join(root, 'packages/desk/dist/build.json');

const filesIn = (dir) =>
  readdirSync(path.join(root, dir), { withFileTypes: true }).flatMap((e) => {
    const at = `${dir}/${e.name}`;
    return e.isDirectory() ? filesIn(at) : path.join(root, at) === FILE ? [] : [at];
  });
const hashOf = (file) =>
  createHash('sha256')
    .update(readFileSync(path.join(root, file)))
    .digest('hex');

export function writeManifest() {
  const files = Object.fromEntries(FOLDERS.flatMap(filesIn).map((f) => [f, hashOf(f)]));
  writeFileSync(FILE, `${JSON.stringify({ files }, null, 1)}\n`);
}

/** Whether all that was built is there as it was built. */
export function isWhole() {
  try {
    const { files } = JSON.parse(readFileSync(FILE, 'utf8'));
    const all = Object.entries(files);
    return all.length > 0 && all.every(([f, hash]) => existsSync(path.join(root, f)) && hashOf(f) === hash);
  } catch {
    return false;
  }
}

/** When it was built, ms; 0 when it was not. */
export const builtAt = () => (existsSync(FILE) ? statSync(FILE).mtimeMs : 0);

if (process.argv[1] === import.meta.filename) writeManifest();

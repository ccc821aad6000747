// `npm run -s apple-tick -- …`: the built command line, or the sources through tsx when nothing is built.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const cwd = process.env.INIT_CWD ?? process.cwd();
const root = new URL('..', import.meta.url).pathname;
const built = `${root}packages/cli/dist/main.js`;
const args = existsSync(built)
  ? [built]
  : [`${root}node_modules/tsx/dist/cli.mjs`, `${root}packages/cli/src/main.ts`];
const r = spawnSync(process.execPath, [...args, ...process.argv.slice(2)], { stdio: 'inherit', cwd });
process.exitCode = r.status ?? 1;

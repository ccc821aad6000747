// Runs the server (tsx watch) and the desk (vite) together; Ctrl-C or either one's end stops both.
import { spawn } from 'node:child_process';

const node = process.execPath;
const env = { ...process.env, FORCE_COLOR: process.env.FORCE_COLOR ?? '1' };
const api = process.env.API_PORT ?? '4310';
const kids = [
  spawn(
    node,
    ['node_modules/tsx/dist/cli.mjs', 'watch', '--clear-screen=false', 'packages/server/src/main.ts'],
    { stdio: ['ignore', 'inherit', 'inherit'], env: { ...env, PORT: api } },
  ),
  spawn(node, ['../../node_modules/vite/bin/vite.js'], {
    cwd: 'packages/desk',
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...env, API_PORT: api },
  }),
];
let ending = false;
const end = (code) => {
  if (ending) return;
  ending = true;
  for (const k of kids) k.kill('SIGTERM');
  process.exitCode = code;
};
for (const k of kids) k.on('exit', (code) => end(code ?? 0));
for (const s of ['SIGINT', 'SIGTERM']) process.on(s, () => end(0));

/** Serves the built desk and the starters: on the loopback address, or the one in `HOST`; at the port in `PORT`. */
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { pino } from 'pino';
import { addressesOf, createApp } from './app.ts';
import { readPort } from './port.ts';

const root = process.env['APPLE_TICK_ROOT'] ?? process.cwd();
const dist = path.join(root, 'packages/desk/dist');
const host = process.env['HOST'] || '127.0.0.1';
const port = readPort(process.env['PORT']);
const log = pino({ level: process.env['LOG_LEVEL'] ?? 'info' });

if (port === null) {
  process.stderr.write('PORT must be a whole number from 0 to 65535; 0 takes any that is free.\n');
  process.exit(1);
}
const lacks = missingFile(root);
if (lacks !== null) {
  log.error(
    lacks === ''
      ? 'The desk is not built yet: run npm start, which builds it.'
      : `The build is incomplete (${lacks} is missing): run npm start, which makes it anew.`,
  );
  process.exit(1);
}
const folders = { dist, starters: path.join(root, 'starters'), demo: path.join(root, 'demo') };
const server = createApp(folders, host).listen(port, host, (error?: Error) => {
  if (error) {
    process.stderr.write(`${whyNot((error as NodeJS.ErrnoException).code)}\n`);
    process.exit(1);
  }
  const at = server.address();
  for (const address of addressesOf(host)) {
    const shown = address.includes(':') ? `[${address}]` : address;
    process.stdout.write(
      `Apple Tick is at http://${shown}:${typeof at === 'object' && at ? at.port : port}\n`,
    );
  }
});

/** What the build's own list names and is not there; '' when there is no list, null when nothing is missing. */
function missingFile(at: string): string | null {
  try {
    const list = readFileSync(path.join(at, 'packages/desk/dist/build.json'), 'utf8');
    const { files } = JSON.parse(list) as { files: Record<string, string> };
    return Object.keys(files).find((f) => !existsSync(path.join(at, f))) ?? null;
  } catch {
    return '';
  }
}

function whyNot(code: string | undefined): string {
  if (code === 'EADDRINUSE') return `Port ${port} is taken: set PORT to another one.`;
  if (code === 'EACCES') return `Port ${port} may not be used here: set PORT to one of 1024 or more.`;
  if (code === 'EADDRNOTAVAIL' || code === 'ENOTFOUND')
    return `HOST ${host} is not an address of this machine: leave it out for 127.0.0.1.`;
  return `The server cannot start (${code ?? 'unknown'}).`;
}

for (const s of ['SIGINT', 'SIGTERM'] as const)
  process.on(s, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });

/** Serves the built desk and the starters: on the loopback address, or the one in `HOST`; at the port in `PORT`. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { pino } from 'pino';
import { createApp } from './app.ts';
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
if (!existsSync(path.join(dist, 'index.html'))) {
  log.error('The desk is not built yet: run npm start, which builds it.');
  process.exit(1);
}
const folders = { dist, starters: path.join(root, 'starters'), demo: path.join(root, 'demo') };
const server = createApp(folders, host).listen(port, host, (error?: Error) => {
  if (error) {
    process.stderr.write(`${whyNot((error as NodeJS.ErrnoException).code)}\n`);
    process.exit(1);
  }
  const at = server.address();
  const shown = host.includes(':') ? `[${host}]` : host;
  process.stdout.write(`Apple Tick is at http://${shown}:${typeof at === 'object' && at ? at.port : port}\n`);
});

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

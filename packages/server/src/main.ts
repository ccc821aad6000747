/** Serves the built desk and the starters on a loopback address. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { pino } from 'pino';
import { createApp } from './app.ts';

const root = process.env['APPLE_TICK_ROOT'] ?? process.cwd();
const dist = path.join(root, 'packages/desk/dist');
const starters = path.join(root, 'starters');
const port = Number(process.env['PORT'] ?? 4300);
const log = pino({ level: process.env['LOG_LEVEL'] ?? 'info' });

const app = createApp(dist, starters, path.join(root, 'demo'));
if (!existsSync(path.join(dist, 'index.html'))) {
  log.error('The desk is not built yet: run npm start, which builds it.');
  process.exit(1);
}
const server = app.listen(port, '127.0.0.1', (error?: Error) => {
  if (error) {
    const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
    process.stderr.write(
      taken
        ? `Port ${port} is taken: set PORT to another one.\n`
        : `The server cannot start: ${error.message}\n`,
    );
    process.exit(1);
  }
  process.stdout.write(`Apple Tick is at http://127.0.0.1:${port}\n`);
});
for (const s of ['SIGINT', 'SIGTERM'] as const)
  process.on(s, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });

/** Serves the built desk and the starters on a loopback address. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import express from 'express';
import helmet from 'helmet';
import { pino } from 'pino';

const root = process.env['APPLE_TICK_ROOT'] ?? process.cwd();
const dist = path.join(root, 'packages/desk/dist');
const starters = path.join(root, 'starters');
const port = Number(process.env['PORT'] ?? 4300);
const log = pino({ level: process.env['LOG_LEVEL'] ?? 'info' });

const app = express();
app.use(
  helmet({
    // Plain http on loopback: a browser must not be told to insist on TLS.
    strictTransportSecurity: false,
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': ["'self'"],
        'script-src': ["'self'"],
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'data:', 'blob:'],
        'font-src': ["'self'", 'data:'],
        'worker-src': ["'self'", 'blob:'],
        'connect-src': ["'self'"],
        'object-src': ["'none'"],
        'base-uri': ["'none'"],
        'frame-ancestors': ["'none'"],
      },
    },
  }),
);

app.get('/api/health', (_req, res) => {
  res.json({ ok: true });
});
app.get('/api/starters', (_req, res) => {
  const files = readdirSync(starters).filter((f) => f.endsWith('.tick.json'));
  res.json(files.map((f) => JSON.parse(readFileSync(path.join(starters, f), 'utf8'))));
});
app.use(express.static(dist, { index: 'index.html' }));
app.get('/{*path}', (req, res) => {
  if (req.path.startsWith('/api/')) res.status(404).json({ error: 'There is nothing at this address.' });
  else res.sendFile(path.join(dist, 'index.html'));
});

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

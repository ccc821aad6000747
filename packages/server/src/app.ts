/** The server's answers: the built desk, the starters, and whether it is well. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';

/** `dist` is the folder of the built desk, `starters` that of the pieces it offers. */
export function createApp(dist: string, starters: string): Express {
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
  return app;
}

/** The server's answers: the built desk, the starters, and whether it is well. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';

/** `dist` is the folder of the built desk, `starters` and `demo` those of the pieces it offers. */
export function createApp(dist: string, starters: string, demo: string): Express {
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
    res.json({ demo: piecesIn(demo).map((p) => p.piece), starters: piecesIn(starters) });
  });
  app.use(express.static(dist, { index: 'index.html' }));
  app.get('/{*path}', (req, res) => {
    if (req.path.startsWith('/api/')) res.status(404).json({ error: 'There is nothing at this address.' });
    else res.sendFile(path.join(dist, 'index.html'));
  });
  return app;
}

/** The pieces of a folder; a file's name is the title of what it shows: "masked-riser" is "Masked riser". */
function piecesIn(folder: string): { title: string; piece: unknown }[] {
  return readdirSync(folder)
    .filter((f) => f.endsWith('.tick.json'))
    .map((f) => {
      const words = f.replace('.tick.json', '').replaceAll('-', ' ');
      return {
        title: words.charAt(0).toUpperCase() + words.slice(1),
        piece: JSON.parse(readFileSync(path.join(folder, f), 'utf8')),
      };
    });
}

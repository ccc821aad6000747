/** The server's answers: the built desk, the starters, and whether it is well. */
import { readdirSync, readFileSync } from 'node:fs';
import { networkInterfaces } from 'node:os';
import path from 'node:path';
import express, { type ErrorRequestHandler, type Express } from 'express';
import helmet from 'helmet';

export interface Folders {
  /** The built desk. */
  readonly dist: string;
  /** The pieces that it offers. */
  readonly starters: string;
  readonly demo: string;
}

/** The names of this machine to itself. A page elsewhere can point a name of its own here, but not one of these. */
const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/i;

/** The addresses of this machine at which a server that was told to listen on `host` is reached. */
export function addressesOf(host: string): string[] {
  if (host !== '0.0.0.0' && host !== '::') return [host];
  return Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((a) => (host === '::' || a.family === 'IPv4') && !a.address.startsWith('fe80'))
    .map((a) => a.address);
}

/** `host` is the address that the server was told to listen on, which is served besides the loopback names. */
export function createApp({ dist, starters, demo }: Folders, host: string): Express {
  const own = new Set(addressesOf(host).map((a) => (a.includes(':') ? `[${a}]` : a)));
  const app = express();
  app.disable('x-powered-by');
  app.use((req, res, next) => {
    const name = (req.headers.host ?? '').replace(/:\d*$/, '');
    if (LOOPBACK.test(name) || name === host || own.has(name)) next();
    else res.status(421).type('text').send('Apple Tick is not served under this name.\n');
  });
  app.use(
    helmet({
      // Plain http on loopback: a browser must not be told to insist on TLS.
      strictTransportSecurity: false,
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          // WebAssembly of our own files: what makes models simpler. It lets no text be run as a script.
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'font-src': ["'self'", 'data:'],
          'worker-src': ["'self'", 'blob:'],
          'connect-src': ["'self'"],
          'object-src': ["'none'"],
          'base-uri': ["'none'"],
          'form-action': ["'none'"],
          'frame-ancestors': ["'none'"],
        },
      },
    }),
  );

  app.get('/api/health', (_req, res) => {
    res.json({ ok: true });
  });
  app.get('/api/starters', (_req, res) => {
    const about = aboutIn(starters);
    const all = piecesIn(starters).map((x) => ({ ...x, find: '', walk: [], ...about[x.key] }));
    res.json({ demo: piecesIn(demo), starters: all });
  });
  app.use('/api/starters', express.static(path.join(starters, 'pictures'), { index: false }));
  app.use('/api', (_req, res) => {
    res.status(404).json({ error: 'There is nothing at this address.' });
  });
  app.use((req, res, next) => {
    if (/\.map$/i.test(req.path)) res.status(404).type('text').send('There is nothing at this address.\n');
    else next();
  });
  app.use(express.static(dist, { index: 'index.html' }));
  // A file that is not there is no page: whoever asks for a script must not be given the desk.
  app.use((req, res, next) => {
    if (req.path.startsWith('/assets/') || path.extname(req.path) !== '')
      res.status(404).type('text').send('There is nothing at this address.\n');
    else next();
  });
  app.get('/{*path}', (_req, res) => {
    res.sendFile(path.join(dist, 'index.html'));
  });
  app.use(failed);
  return app;
}

/** Whatever goes wrong is one sentence: never a stack, which names places of this machine. */
const failed: ErrorRequestHandler = (error: { status?: number } | undefined, req, res, _next) => {
  const status = error?.status && error.status >= 400 && error.status < 500 ? error.status : 500;
  const sentence = status < 500 ? 'This address is broken.' : 'The server could not answer.';
  if (req.path.startsWith('/api')) res.status(status).json({ error: sentence });
  else res.status(status).type('text').send(`${sentence}\n`);
};

/** The pieces of a folder; a file's name is the title of what it shows: "masked-riser" is "Masked riser". */
function piecesIn(folder: string): { key: string; title: string; piece: unknown }[] {
  return readdirSync(folder)
    .filter((f) => f.endsWith('.tick.json'))
    .map((f) => {
      const key = f.replace('.tick.json', '');
      const words = key.replaceAll('-', ' ');
      return {
        key,
        title: words.charAt(0).toUpperCase() + words.slice(1),
        piece: JSON.parse(readFileSync(path.join(folder, f), 'utf8')),
      };
    });
}

/** What is told of the pieces of a folder: by which words they are found, and what leads through them. */
function aboutIn(folder: string): Readonly<Record<string, object>> {
  return JSON.parse(readFileSync(path.join(folder, 'about.json'), 'utf8'));
}

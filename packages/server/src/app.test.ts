import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { readPieceJson } from '@apple-tick/core/check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { addressesOf, createApp } from './app.ts';

const dist = mkdtempSync(path.join(tmpdir(), 'apple-tick-dist-'));
writeFileSync(path.join(dist, 'index.html'), '<title>desk</title>');
writeFileSync(path.join(dist, 'desk.js.map'), '{}');
let server: ReturnType<ReturnType<typeof createApp>['listen']>;
let base = '';
beforeAll(async () => {
  const root = path.resolve(import.meta.dirname, '../../..');
  await new Promise<void>((done) => {
    const folders = { dist, starters: path.join(root, 'starters'), demo: path.join(root, 'demo') };
    server = createApp(folders, '127.0.0.1').listen(0, '127.0.0.1', () => done());
  });
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.close();
});

it('is well, and says so', async () => {
  expect(await (await fetch(`${base}/api/health`)).json()).toEqual({ ok: true });
});

it('offers the demo and starters with their titles, each of which can be read', async () => {
  const all = (await (await fetch(`${base}/api/starters`)).json()) as {
    demo: { key: string; piece: unknown }[];
    starters: { key: string; title: string; find: string; walk: unknown[]; piece: unknown }[];
  };
  expect(all.demo).toHaveLength(1);
  expect(all.starters.map((s) => s.title)).toContain('Hinge that turns back');
  for (const { key, piece } of [...all.demo, ...all.starters]) {
    expect(readPieceJson(piece)).toMatchObject({ ok: true });
    const picture = await fetch(`${base}/api/starters/${key}.webp`);
    expect([picture.status, picture.headers.get('content-type')], key).toEqual([200, 'image/webp']);
  }
  // Each is found by the words of those who look for it, and three sentences lead through it.
  for (const { key, find, walk } of all.starters) {
    expect(find.split(' ').length, key).toBeGreaterThanOrEqual(4);
    expect(walk, key).toHaveLength(3);
  }
});

it('gives the desk for every page, and a sentence for an address of the interface that is not there', async () => {
  for (const page of ['/', '/piece/x', '/piece/x/hand-over'])
    expect(await (await fetch(base + page)).text()).toContain('desk');
  for (const [method, at] of [
    ['GET', '/api/nothing'],
    ['GET', '/api'],
    ['POST', '/api/starters'],
  ] as const) {
    const missing = await fetch(base + at, { method });
    expect(missing.status).toBe(404);
    expect(await missing.json()).toEqual({ error: 'There is nothing at this address.' });
  }
});

/** What is answered to an address, and under a name, that `fetch` would not send as they are. */
function ask(at: string, host = '127.0.0.1'): Promise<{ status: number | undefined; text: string }> {
  return new Promise((done, fail) => {
    const { port } = server.address() as AddressInfo;
    const r = request({ host: '127.0.0.1', port, path: at, headers: { host } }, (res) => {
      let text = '';
      res.on('data', (d) => {
        text += d;
      });
      res.on('end', () => done({ status: res.statusCode, text }));
    });
    r.on('error', fail);
    r.end();
  });
}

it('answers under its own names only, so that no page elsewhere can point a name here', async () => {
  for (const name of ['localhost', 'localhost:4300', '127.0.0.1:1', '[::1]:4300'])
    expect((await ask('/api/health', name)).status, name).toBe(200);
  for (const name of ['evil.example', 'evil.example:4300', '127.0.0.1.evil.example'])
    expect(await ask('/api/health', name), name).toMatchObject({ status: 421 });
});

it('a file that is not there is not answered with the page', async () => {
  for (const at of ['/assets/index-abc.js', '/desk.css', '/piece/x.js']) {
    const missing = await fetch(base + at);
    expect(missing.status, at).toBe(404);
    expect(await missing.text()).toBe('There is nothing at this address.\n');
  }
});

it('told to listen on all addresses it knows this machine’s own, and answers under them', () => {
  expect(addressesOf('127.0.0.1')).toEqual(['127.0.0.1']);
  expect(addressesOf('0.0.0.0')).toContain('127.0.0.1');
  for (const a of addressesOf('0.0.0.0')) expect(a).toMatch(/^\d+(\.\d+){3}$/);
});

it.each(['/%', '/%ff', '/api/%', '/piece/%c0%af', '/..%2f..%2fetc/passwd'])(
  'a broken address, %s, tells no stack and no place of this machine',
  async (at) => {
    const { text } = await ask(at);
    expect(text).not.toMatch(/node_modules|\.ts|\.js|\bat \//);
    expect(text).not.toContain(path.resolve(import.meta.dirname, '../../..'));
    expect(text.trim().split('\n')).toHaveLength(1);
  },
);

it('serves no source maps', async () => {
  expect((await ask('/desk.js.map')).status).toBe(404);
});

it.each(['abc', '-1', '99999', '1.5', ''])('a port such as "%s" is refused in one sentence', async (port) => {
  const root = path.resolve(import.meta.dirname, '../../..');
  const child = spawn(
    process.execPath,
    [path.join(root, 'node_modules/tsx/dist/cli.mjs'), path.join(root, 'packages/server/src/main.ts')],
    { stdio: ['ignore', 'ignore', 'pipe'], env: { ...process.env, PORT: port } },
  );
  let said = '';
  child.stderr.on('data', (d) => {
    said += d;
  });
  const [status] = await once(child, 'close');
  expect(status).toBe(1);
  expect(said).toMatch(/^PORT must be a whole number.*\n$/);
});

it('lets no foreign script run, and asks no browser for TLS on loopback', async () => {
  const h = (await fetch(`${base}/`)).headers;
  const csp = h.get('content-security-policy') ?? '';
  expect(csp).toContain("script-src 'self' 'wasm-unsafe-eval';");
  expect(csp).toContain("form-action 'none'");
  expect(csp).not.toContain("'unsafe-eval'");
  expect(csp).not.toContain('upgrade-insecure-requests');
  expect(h.get('strict-transport-security')).toBeNull();
  expect(h.get('x-content-type-options')).toBe('nosniff');
});

it('has pictures of its starters that were made of them as they are', () => {
  const root = path.resolve(import.meta.dirname, '../../..');
  const made = JSON.parse(readFileSync(path.join(root, 'starters/pictures/made-of.json'), 'utf8'));
  const now = Object.fromEntries(
    ['demo', 'starters'].flatMap((folder) =>
      readdirSync(path.join(root, folder))
        .filter((f) => f.endsWith('.tick.json'))
        .map((f) => [
          f.replace('.tick.json', ''),
          createHash('sha256')
            .update(readFileSync(path.join(root, folder, f)))
            .digest('hex'),
        ]),
    ),
  );
  // After a change: npm run build && npm run pictures
  expect(made).toEqual(now);
});

import { mkdtempSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { readPieceJson } from '@apple-tick/core/model';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createApp } from './app.ts';

const dist = mkdtempSync(path.join(tmpdir(), 'apple-tick-dist-'));
writeFileSync(path.join(dist, 'index.html'), '<title>desk</title>');
let server: ReturnType<ReturnType<typeof createApp>['listen']>;
let base = '';
beforeAll(async () => {
  const root = path.resolve(import.meta.dirname, '../../..');
  await new Promise<void>((done) => {
    server = createApp(dist, path.join(root, 'starters'), path.join(root, 'demo')).listen(
      0,
      '127.0.0.1',
      () => done(),
    );
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
    demo: unknown[];
    starters: { title: string; piece: unknown }[];
  };
  expect(all.demo).toHaveLength(1);
  expect(all.starters.map((s) => s.title)).toContain('Hinge that turns back');
  for (const p of [...all.demo, ...all.starters.map((s) => s.piece)])
    expect(readPieceJson(p)).toMatchObject({ ok: true });
});

it('gives the desk for every page, and a sentence for an address of the interface that is not there', async () => {
  for (const page of ['/', '/piece/x', '/piece/x/hand-over'])
    expect(await (await fetch(base + page)).text()).toContain('desk');
  const missing = await fetch(`${base}/api/nothing`);
  expect(missing.status).toBe(404);
  expect(await missing.json()).toEqual({ error: 'There is nothing at this address.' });
});

it('lets no foreign script run, and asks no browser for TLS on loopback', async () => {
  const h = (await fetch(`${base}/`)).headers;
  const csp = h.get('content-security-policy') ?? '';
  expect(csp).toContain("script-src 'self'");
  expect(csp).not.toContain('unsafe-eval');
  expect(csp).not.toContain('upgrade-insecure-requests');
  expect(h.get('strict-transport-security')).toBeNull();
  expect(h.get('x-content-type-options')).toBe('nosniff');
});

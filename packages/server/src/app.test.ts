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
  const starters = path.resolve(import.meta.dirname, '../../../starters');
  await new Promise<void>((done) => {
    server = createApp(dist, starters).listen(0, '127.0.0.1', () => done());
  });
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.close();
});

it('is well, and says so', async () => {
  expect(await (await fetch(`${base}/api/health`)).json()).toEqual({ ok: true });
});

it('offers starters, each of which can be read', async () => {
  const list = (await (await fetch(`${base}/api/starters`)).json()) as unknown[];
  expect(list.length).toBeGreaterThan(0);
  for (const p of list) expect(readPieceJson(p)).toMatchObject({ ok: true });
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

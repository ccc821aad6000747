import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '../../..');
const dir = mkdtempSync(path.join(tmpdir(), 'apple-tick-'));
function cli(...args: string[]) {
  const tsx = path.join(root, 'node_modules/tsx/dist/cli.mjs');
  const r = spawnSync(process.execPath, [tsx, path.join(root, 'packages/cli/src/main.ts'), ...args], {
    encoding: 'utf8',
  });
  return { code: r.status, out: r.stdout, err: r.stderr };
}
function file(name: string, text: string): string {
  const p = path.join(dir, name);
  writeFileSync(p, text);
  return p;
}
const chute = path.join(root, 'starters/hinge-that-turns-back.tick.json');

describe('the command line', () => {
  it('validates, and names the place of a problem', () => {
    expect(cli('validate', chute)).toEqual({ code: 0, out: '', err: '' });
    const bad = cli('validate', file('bad.json', '{"format":"apple-tick","version":1,'));
    expect(bad.code).toBe(1);
    expect(bad.err).toMatch(/^line 1, column \d+: The file is not valid JSON/);
  });

  it('runs with inputs and writes poses at the asked times', () => {
    const inputs = file('in.json', JSON.stringify([{ at: 0.5, click: 'Flap' }]));
    const r = cli(
      'run',
      chute,
      '--for',
      '1',
      '--inputs',
      inputs,
      '--pose',
      'Chute/Flap.rotation.x',
      '--every',
      '0.5',
    );
    expect(r.code).toBe(0);
    const lines = r.out
      .trim()
      .split('\n')
      .map((l) => JSON.parse(l));
    expect(lines.map((l) => l.t)).toEqual([0, 0.5, 1]);
    expect(lines[1].pose).toEqual({ 'Chute/Flap.rotation.x': 0 });
    expect(lines[2].pose['Chute/Flap.rotation.x']).toBeLessThan(-60);
  });

  it('says when it is used wrongly', () => {
    expect(cli('run', chute, '--pose', 'Nobody.rotation.x').code).toBe(2);
    expect(cli('run', chute, '--inputs', file('i.json', '[{"at":0,"dance":1}]')).code).toBe(2);
    expect(cli('nonsense').code).toBe(2);
  });
});

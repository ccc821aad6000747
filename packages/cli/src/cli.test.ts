import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '../../..');
const dir = mkdtempSync(path.join(tmpdir(), 'apple-tick-'));
const command = [
  process.execPath,
  path.join(root, 'node_modules/tsx/dist/cli.mjs'),
  path.join(root, 'packages/cli/src/main.ts'),
] as const;
function cli(...args: string[]) {
  const [node, ...rest] = command;
  const r = spawnSync(node, [...rest, ...args], { encoding: 'utf8' });
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
    expect(bad.err).toContain('bad.json: line 1, column 36: The file is not valid JSON');
  });

  it('does not write a trace over the piece that it runs', () => {
    const piece = file('own.tick.json', readFileSync(chute, 'utf8'));
    const before = readFileSync(piece, 'utf8');
    for (const trace of [piece, path.join(dir, '.', 'own.tick.json')]) {
      const r = cli('run', piece, '--trace', trace);
      expect(r).toMatchObject({ code: 2, out: '' });
      expect(r.err).toContain('that is the piece itself');
    }
    expect(readFileSync(piece, 'utf8')).toBe(before);
    const inputs = file('own-inputs.json', '[]');
    expect(cli('run', piece, '--inputs', inputs, '--trace', inputs).err).toContain(
      'that is the list of inputs',
    );
    expect(readFileSync(inputs, 'utf8')).toBe('[]');
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
    for (const length of ['', ' ', 'Infinity', '1e300', '-1', 'long', 'NaN']) {
      const r = cli('run', chute, '--for', length);
      expect([r.code, r.out], length).toEqual([2, '']);
      expect(r.err).toBe(`--for "${length}": this must be a number from 0 to 86400.\n`);
    }
    expect(cli('run', chute, '--seed', '1.5').err).toContain('whole number');
  });

  it.each([
    ['a trace to a folder', ['run', chute, '--trace', dir], 'this is a folder, not a file'],
    ['a trace to nowhere', ['run', chute, '--trace', path.join(dir, 'no', 't')], 'there is no such file'],
    ['a folder as the piece', ['validate', dir], 'this is a folder, not a file'],
    ['a piece that is not there', ['validate', 'nothing here.json'], 'nothing here.json: cannot be read'],
  ])('%s is one sentence that names it as it was given, and no stack', (_, args, says) => {
    const r = cli(...args);
    expect(r.code).toBe(2);
    expect(r.err).toContain(says);
    expect(r.err.trim().split('\n')).toHaveLength(1);
  });

  it.runIf(existsSync('/dev/full'))('a full disk is said, and a reader that goes away is no error', () => {
    const full = cli('run', chute, '--trace', '/dev/full');
    expect([full.code, full.err]).toEqual([2, '/dev/full: cannot be written, the disk is full.\n']);
    const piped = spawnSync(
      'bash',
      [
        '-c',
        `set -o pipefail; "$0" "$1" "$2" run "$3" --for 600 --pose Flap.rotation.x | head -n 2`,
        ...command,
        chute,
      ],
      { encoding: 'utf8' },
    );
    expect(piped.status).toBe(0);
    expect(piped.stdout.trim().split('\n')).toHaveLength(2);
    expect(piped.stderr).toBe('');
  });

  it('300,000 wrong inputs are told by the first', () => {
    const wrong = file(
      'wrong.json',
      JSON.stringify(Array.from({ length: 300_000 }, () => ({ at: 0, dance: 1 }))),
    );
    const r = cli('run', chute, '--inputs', wrong);
    expect([r.code, r.err]).toEqual([2, `${wrong}: input [0] is not one that this version knows.\n`]);
    expect(cli('run', chute, '--inputs', file('o.json', '{}')).err).toContain('must be a list');
    const walk = file('w.json', '[{"at":0,"move":{"x":1,"y":0,"z":0}}]');
    expect(cli('run', chute, '--inputs', walk).err).toContain('input [0] is not one that this version knows');
    expect(cli('export', chute, '--as', 'gif').err).toBe(
      'export comes later: this version does not have it.\n',
    );
  });

  it('control characters in names reach no terminal', () => {
    const text = readFileSync(chute, 'utf8');
    const evil = text.replace('"format": "apple-tick"', '"format": "apple-tick", "\\u001b[31mred\\u202e": 1');
    const r = cli('validate', file('evil.json', evil));
    expect(r.code).toBe(1);
    expect(r.err).toContain('\\u001b[31mred\\u202e');
    // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what must not be there.
    expect(r.err).not.toMatch(/[\u0000-\u0009\u000b-\u001f\u007f-\u009f\u202e]/);
  });
});

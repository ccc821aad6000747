import { spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterEach, expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '..');
const planted = path.join(root, 'packages/core/src/base/planted.ts');
afterEach(() => rmSync(planted, { force: true }));

it('the import borders are enforced: a planted violation is found', () => {
  writeFileSync(planted, "import '../run/index.ts';\nimport 'node:fs';\n");
  const r = spawnSync(
    process.execPath,
    [
      'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
      '-c',
      '.dependency-cruiser.cjs',
      'packages/core/src',
    ],
    { cwd: root, encoding: 'utf8' },
  );
  expect(r.status).not.toBe(0);
  expect(r.stdout).toContain('core-base-imports');
  expect(r.stdout).toContain('core-is-pure');
});

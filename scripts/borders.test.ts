import { spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '..');
/** A house of the same plan beside the real one, with what must not be planted in it. */
const house = mkdtempSync(path.join(tmpdir(), 'apple-tick-borders-'));
afterAll(() => rmSync(house, { recursive: true, force: true }));

function plant(files: Record<string, string>): string {
  copyFileSync(path.join(root, 'tsconfig.base.json'), path.join(house, 'tsconfig.base.json'));
  for (const [name, text] of Object.entries(files)) {
    const file = path.join(house, name);
    mkdirSync(path.dirname(file), { recursive: true });
    writeFileSync(file, text);
  }
  const r = spawnSync(
    process.execPath,
    [
      path.join(root, 'node_modules/dependency-cruiser/bin/dependency-cruise.mjs'),
      ...['-c', path.join(root, '.dependency-cruiser.cjs'), 'packages'],
    ],
    { cwd: house, encoding: 'utf8' },
  );
  expect(r.status).not.toBe(0);
  return r.stdout;
}

it('the import borders are enforced: planted violations are found', () => {
  const found = plant({
    'packages/core/src/base/planted.ts': "import '../run/index.ts';\nimport 'node:fs';\n",
    'packages/core/src/run/a.ts': "import type { B } from './b.ts';\nexport type A = B;\n",
    'packages/core/src/run/b.ts': "import type { A } from './a.ts';\nexport type B = A | 1;\n",
    'packages/core/src/run/index.ts': "import type {} from '../features/zones/index.ts';\n",
    'packages/core/src/features/zones/index.ts': "export type { Rows } from '../blockers/index.ts';\n",
    'packages/core/src/features/blockers/index.ts': 'export type Rows = number;\n',
    'packages/player/src/index.ts': "import '../../core/src/check/index.ts';\n",
    'packages/core/src/check/index.ts': 'export {};\n',
    'packages/desk/src/features/zones/Handles.tsx': 'export {};\n',
    'packages/desk/src/features/visitor/edit.ts': "import '../zones/Handles.tsx';\n",
    'packages/desk/src/session/session.ts': "import '../features/zones/Handles.tsx';\n",
    'packages/desk/src/ui/fields.tsx': "import '../screens/run/RunSide.tsx';\n",
    'packages/desk/src/screens/run/RunSide.tsx': "import '../lanes/Lanes.tsx';\n",
    'packages/desk/src/screens/lanes/Lanes.tsx': 'export {};\n',
  });
  for (const border of [
    ...['core-base-imports', 'core-is-pure', 'core-without-any-circle', 'player-stays-small'],
    // The spine knows no feature, and no feature another: types count.
    ...['core-run-imports', 'core-features-apart'],
    ...[
      'desk-features-apart',
      'desk-features-by-their-edits',
      'desk-screens-apart',
      'desk-parts-below-screens',
    ],
  ])
    expect(found).toContain(border);
});

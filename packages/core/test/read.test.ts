import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';
import { MIGRATIONS, migrate, readPiece } from '../src/check/index.ts';
import { History, PieceStore, writePiece } from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';

const text = readFileSync(
  path.join(import.meta.dirname, '../../../starters/hinge-that-turns-back.tick.json'),
  'utf8',
);
const changed = (change: (j: never) => void) => {
  const j = JSON.parse(text);
  change(j as never);
  return JSON.stringify(j);
};
const problems = (t: string) => {
  const r = readPiece(t);
  return r.ok ? [] : r.problems.map((p) => `${p.path}: ${p.message}`);
};

it('what is written is read back equal', () => {
  const first = readPiece(text);
  if (!first.ok) throw new Error('unreadable');
  const second = readPiece(writePiece(first.value, true));
  expect(second.ok && second.value).toEqual(first.value);
});

it.each<[string, string, RegExp]>([
  ['not JSON', '{"a":\n  NaN}', /^line 2, column 3: The file is not valid JSON/],
  ['noise', '\u0000\u0007junk', /^line 1, column 1:/],
  ['another format', '{"format":"x"}', /^format: This is not a piece/],
  [
    'newer',
    changed((j: { version: number }) => {
      j.version = 9;
    }),
    /^version: The file was made by a newer/,
  ],
  [
    'a wrong type',
    changed((j: { fps: unknown }) => {
      j.fps = 'fast';
    }),
    /^fps: This must be a number/,
  ],
  ['infinity', text.replace('"fps": 60', '"fps": 1e999'), /^fps: /],
  [
    'a missing reference',
    changed((j: { clips: { cl_tip: { root: string } } }) => {
      j.clips.cl_tip.root = 'ob_none';
    }),
    /^clips.cl_tip.root: There is no object/,
  ],
  [
    'a circle',
    changed((j: { objects: { ob_chute: { parent: string } } }) => {
      j.objects.ob_chute.parent = 'ob_flap';
    }),
    /its own ancestor/,
  ],
  ['a dangerous key', text.replace('"tags": {', '"tags": { "__proto__": {},'), /"__proto__" is not allowed/],
  ['deep nesting', '['.repeat(100000), /nested too deeply/],
  [
    'a doubled name',
    changed((j: { objects: { ob_lid: { name: string } } }) => {
      j.objects.ob_lid.name = 'Flap';
    }),
    /already called "Flap"/,
  ],
])('%s is explained with its place', (_, t, sentence) => {
  expect(problems(t).join('\n')).toMatch(sentence);
});

it('migrations are gapless and the first one names the loops', () => {
  expect(MIGRATIONS.map((m) => m.name)).toEqual(['0-to-1-loop-by-name']);
  const file = { version: 0, clips: { a: { loop: true }, b: { loop: false } } };
  migrate(file);
  expect(file).toEqual({ version: 1, clips: { a: { loop: 'loop' }, b: { loop: 'once' } } });
});

it('10,000 seeded edits, undone and redone, come back to equal pieces', () => {
  const first = readPiece(text);
  if (!first.ok) throw new Error('unreadable');
  const random = seeded(12345);
  const store = new PieceStore(first.value);
  const history = new History(store);
  const start = JSON.stringify(store.toPiece());
  for (let round = 0; round < 25; round++) {
    for (let n = 0; n < 400; n++) {
      const ids = store.ids('signals');
      const id = ids[Math.floor(random() * ids.length)];
      const what = random();
      history.edit('edit', (e) => {
        if (what < 0.4 || id === undefined) {
          const fresh = `si_${round}x${n}`;
          e.add(
            'signals',
            { id: fresh, name: fresh, type: 'switch', initial: false, shared: false, note: '' },
            Math.floor(random() * (ids.length + 1)),
          );
        } else if (what < 0.7) e.remove('signals', id);
        else e.update('signals', id, (s) => ({ ...s, note: `${n}` }));
      });
    }
    const end = JSON.stringify(store.toPiece());
    let steps = 0;
    while (history.undo()) steps++;
    expect(JSON.stringify(store.toPiece())).toBe(start);
    while (steps-- > 0) history.redo();
    expect(JSON.stringify(store.toPiece())).toBe(end);
    while (history.undo());
  }
});

it.each<[string, string, string, unknown, string]>([
  [
    'an action',
    'Messages to other peers come',
    'reactions.re_click.actions.0',
    { do: 'send', message: 'me_a', to: 'host' },
    'actions[0].to',
  ],
])(
  'refuses %s that comes later by its name and place, and says nothing else of it',
  (_, says, at, value, where) => {
    const file = changed((j) => {
      const names = at.split('.');
      const last = names.pop() as string;
      const owner = names.reduce<Record<string, unknown>>((o, n) => o[n] as Record<string, unknown>, j);
      owner[last] = value;
    });
    const found = problems(file);
    expect(found).toHaveLength(1);
    expect(found[0]).toContain(`${where}: ${says} later: this version does not read `);
  },
);

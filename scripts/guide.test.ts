/** The guide and the sentences that lead through the starters speak of what there is. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';
import { GUIDE } from '../packages/desk/src/session/words/guide-pages.ts';

const src = path.resolve(import.meta.dirname, '../packages/desk/src');
const starters = path.resolve(import.meta.dirname, '../starters');
interface About {
  readonly find: string;
  readonly walk: readonly { readonly say: string; readonly choose?: string }[];
}
const about = JSON.parse(readFileSync(path.join(starters, 'about.json'), 'utf8')) as Record<string, About>;
const namesIn = (key: string) => {
  const piece = JSON.parse(readFileSync(path.join(starters, `${key}.tick.json`), 'utf8'));
  return Object.values(piece.objects as Record<string, { name: string }>).map((o) => o.name);
};
/** What the desk says on its screens. */
const screens = readdirSync(src, { recursive: true, encoding: 'utf8' })
  .filter((f) => /\.tsx?$/.test(f) && !f.includes('.test.') && !f.includes('guide'))
  .map((f) => readFileSync(path.join(src, f), 'utf8'))
  .join('\n');
/** Names that end with what they are about: as much of them as is always there. */
const STEMS = ['Put on', 'let the person walk', 'Try from'];
const isOnScreen = (name: string) => {
  const said = STEMS.find((x) => name.startsWith(x)) ?? name;
  const plain = said.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  return new RegExp(`[>"'\`]\\s*${plain}\\s*[<"'\`{$]`).test(screens);
};
const controlsIn = (say: string) => [...say.matchAll(/\[([^\]]+)\]/g)].map((m) => m[1] as string);

it('has twenty pages, each with a place in a starter where it is tried', () => {
  expect(GUIDE).toHaveLength(20);
  expect(new Set(GUIDE.map((p) => p.id)).size).toBe(20);
  for (const p of GUIDE) {
    expect(namesIn(p.starter), p.id).toContain(p.choose);
    expect(p.text.join(' ').split(' ').length, p.id).toBeLessThan(130);
  }
});

it('names controls that there are', () => {
  const said = GUIDE.flatMap((p) => p.text).concat(
    Object.values(about).flatMap((a) => a.walk.map((w) => w.say)),
  );
  expect(isOnScreen('No such control')).toBe(false);
  const unknown = [...new Set(said.flatMap(controlsIn))].filter((name) => !isOnScreen(name));
  expect(unknown).toEqual([]);
});

it('leads through every starter by things that are in it', () => {
  const files = readdirSync(starters).filter((f) => f.endsWith('.tick.json'));
  expect(Object.keys(about).sort()).toEqual(files.map((f) => f.replace('.tick.json', '')).sort());
  for (const [key, { walk }] of Object.entries(about))
    for (const { choose } of walk) if (choose !== undefined) expect(namesIn(key), key).toContain(choose);
});

import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { checkIntegrity, salvagePiece } from '../src/check/index.ts';
import { type Piece, TABLES } from '../src/model/index.ts';
import { compile, Run } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';

const root = path.resolve(import.meta.dirname, '../../..');
const mill = readFileSync(path.join(root, 'demo/windfall-mill.tick.json'), 'utf8');
const changed = (change: (p: never) => void) => {
  const p = JSON.parse(mill);
  change(p as never);
  return JSON.stringify(p);
};
/** Nothing that is left may be wrong in a way that a run or the screen cannot bear. */
function sound(piece: Piece): void {
  const bad = checkIntegrity(piece).filter((p) => !['name', 'size', 'range'].includes(p.code));
  expect(bad).toEqual([]);
  const run = new Run(compile(piece));
  for (let i = 0; i < 5; i++) run.step();
  run.scene.faces();
}

describe('salvaging a kept piece', () => {
  it('takes a sound piece as it is', () => {
    const s = salvagePiece(mill, 'p');
    expect(s?.left).toEqual([]);
    for (const t of TABLES)
      expect(Object.keys(s?.piece[t] ?? {})).toEqual(Object.keys(JSON.parse(mill)[t] ?? {}));
    const starters = readdirSync(path.join(root, 'starters')).filter((f) => f.endsWith('.tick.json'));
    expect(starters.length).toBeGreaterThan(20);
    for (const file of starters)
      expect(salvagePiece(readFileSync(path.join(root, 'starters', file), 'utf8'), 'p')?.left).toEqual([]);
  });

  it('nothing can be had from what is cut, null, of another form, newer, or dangerous', () => {
    for (const text of [
      '',
      'null',
      '[]',
      '7',
      '"x"',
      '{}',
      mill.slice(0, 900),
      '{"version":9,"objects":{}}',
      '{"version":1,"objects":[]}',
    ])
      expect(salvagePiece(text, 'p'), text.slice(0, 30)).toBeNull();
    expect(salvagePiece(mill.replace('"tags": {', '"tags": { "__proto__": {},'), 'p')).toBeNull();
  });

  it('leaves out a broken object and says so; its children stay, at the root', () => {
    const s = salvagePiece(
      changed((p: never) => {
        const { objects } = p as { objects: Record<string, object | null> };
        objects['ob_chute'] = null;
      }),
      'p',
    );
    expect(s?.left[0]).toMatch(/^objects.ob_chute: /);
    expect(s?.piece.objects['ob_flap']?.parent).toBeNull();
    expect(s?.piece.machines['ma_chute']).toBeUndefined();
    sound(s?.piece as Piece);
  });

  it('leaves out what is broken in a template, and a template that cannot be, with what is made of it', () => {
    const broken = (
      change: (t: Record<string, Record<string, { parent?: string | null; kind?: string }>>) => void,
    ) =>
      salvagePiece(
        changed((p: { templates: Record<string, never> }) => {
          change(p.templates['te_crate'] as never);
        }),
        'p',
      );
    const one = broken((t) => {
      (t['objects']?.['ob_cslat1'] as { kind: string }).kind = 'nothing';
    });
    expect(one?.left).toHaveLength(1);
    expect(Object.keys(one?.piece.templates['te_crate']?.objects ?? {})).not.toContain('ob_cslat1');
    expect(one?.piece.objects['ob_crate1']?.kind).toBe('instance');
    sound(one?.piece as Piece);
    const two = broken((t) => {
      (t['objects']?.['ob_cbody'] as { parent: null }).parent = null;
    });
    expect(two?.left.some((l) => l.includes('exactly one object'))).toBe(true);
    expect(two?.piece.objects['ob_crate1']).toBeUndefined();
    sound(two?.piece as Piece);
  });

  it('a hint too long or a name twice costs nothing', () => {
    const s = salvagePiece(
      changed((p: never) => {
        const { objects } = p as { objects: Record<string, { hint: string; name: string }> };
        for (const o of Object.values(objects).slice(0, 3)) {
          o.hint = 'x'.repeat(500);
          o.name = 'Same';
        }
      }),
      'p',
    );
    expect(s?.left).toEqual([]);
    expect(Object.values(s?.piece.objects ?? {}).filter((o) => o.name === 'Same')).toHaveLength(3);
  });

  it('whatever part of a piece is spoilt, what is left runs', () => {
    const random = seeded(41);
    const junk = [null, 7, -1e300, '', 'ob_none', [], {}, [null], { id: 'x' }, true];
    for (let round = 0; round < 300; round++) {
      const p = JSON.parse(mill);
      for (let n = 0; n < 1 + random() * 4; n++) {
        let at: unknown = p;
        for (;;) {
          const owner = at as Record<string, unknown>;
          const keys = Object.keys(owner);
          const key = keys[Math.floor(random() * keys.length)];
          if (key === undefined) break;
          const next = owner[key];
          if (typeof next === 'object' && next !== null && Object.keys(next).length > 0 && random() < 0.85)
            at = next;
          else {
            if (key === 'version' || key === 'format') break;
            if (random() < 0.3) delete owner[key];
            else owner[key] = structuredClone(junk[Math.floor(random() * junk.length)]);
            break;
          }
        }
      }
      const s = salvagePiece(JSON.stringify(p), 'p');
      expect(s, `round ${round}`).not.toBeNull();
      sound(s?.piece as Piece);
    }
  });
});

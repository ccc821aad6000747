/** What is worked out from schemas, shown on planted kinds of actions and facts, and against naive readings. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readPiece, toZod } from '../src/check/index.ts';
import {
  GONE,
  list,
  maybe,
  namesAnything,
  number,
  ref,
  replaceIds,
  type Schema,
  visitIds,
  visitProperties,
  withoutIds,
} from '../src/grammar/index.ts';
import {
  ACTIONS,
  actionSchema,
  conditionOf,
  FACTS,
  type Piece,
  PieceStore,
  pieceSchema,
  RECORDS,
  TABLES,
  type TableName,
  valueSchema,
  visitOwnIds,
  visitReferences,
} from '../src/model/index.ts';

const none = { onDelete: {}, after: {} };
const ids = (form: Schema, value: unknown) => {
  const out: string[] = [];
  visitIds(form, value, { ref: (kind, id, path) => out.push(`${kind} ${id} ${path}`) });
  return out;
};

describe('an action that is only a descriptor', () => {
  const wave = {
    pick: 'wave',
    says: 'wave {object} at {lanes} for {seconds}',
    fields: {
      object: ref('objects'),
      lanes: list(ref('lanes'), { max: 3 }),
      seconds: number({ min: 0, low: 'must not be negative' }),
      strength: maybe(valueSchema),
    },
  };
  const form = list(actionSchema({ ...ACTIONS, wave }));
  const good = [
    {
      do: 'wave',
      object: 'ob_a',
      lanes: ['la_a', 'la_b'],
      seconds: 1,
      strength: { sum: [1, { signal: 'si_a' }] },
    },
    { do: 'toggle', signal: 'si_b', after: 1 },
  ];

  it('is read, and refused with its place', () => {
    expect(toZod(form).safeParse(good).success).toBe(true);
    for (const [bad, path] of [
      [{ ...good[0], seconds: -1 }, [0, 'seconds']],
      [{ ...good[0], object: 'Flap' }, [0, 'object']],
      [{ ...good[0], other: 1 }, [0]],
      [{ do: 'waves' }, [0, 'do']],
    ] as const) {
      const read = toZod(form).safeParse([bad]);
      expect(read.error?.issues[0]?.path).toEqual(path);
    }
  });

  it('tells what it names, may name something else, and goes with what it names', () => {
    expect(ids(form, good)).toEqual([
      'objects ob_a [0].object',
      'lanes la_a [0].lanes[0]',
      'lanes la_b [0].lanes[1]',
      'signals si_a [0].strength.sum[1].signal',
      'signals si_b [1].signal',
    ]);
    const other = replaceIds(
      form,
      good,
      new Map([
        ['ob_a', 'ob_z'],
        ['wave', 'ob_y'],
        ['si_a', 'si_z'],
      ]),
    );
    expect(other).toEqual([
      { ...good[0], object: 'ob_z', strength: { sum: [1, { signal: 'si_z' }] } },
      good[1],
    ]);
    expect(withoutIds(form, good, new Set(['ob_a']), none)).toEqual([good[1]]);
    expect(withoutIds(form, good, new Set(['la_b']), none)).toEqual([
      { ...good[0], lanes: ['la_a'] },
      good[1],
    ]);
    expect(withoutIds(form, good, new Set(['ob_b']), none)).toBe(good);
    expect(withoutIds({ ...form, needed: true } as Schema, [good[1]], new Set(['si_b']), none)).toBe(GONE);
  });
});

it('a fact that is only a descriptor is read beside the others', () => {
  const held = { pick: 'is held', says: '{object} {not}held', fields: { object: ref('objects') } };
  const form = conditionOf({ ...FACTS, held });
  const c = { fact: 'held', object: 'ob_a', is: false };
  expect(toZod(form).safeParse(c).success).toBe(true);
  expect(toZod(form).safeParse({ fact: 'held' }).success).toBe(false);
  expect(toZod(form).safeParse({ signal: 'si_a', is: true }).success).toBe(true);
  expect(ids(form, c)).toEqual(['objects ob_a .object']);
});

const readDemo = (): Piece => {
  const file = new URL('../../../demo/windfall-mill.tick.json', import.meta.url);
  const r = readPiece(readFileSync(file, 'utf8'));
  if (!r.ok) throw new Error('the demo cannot be read');
  return r.value;
};

/** All records by table, those of templates among them; of a template its head. */
const recordsOf = (piece: Piece): (readonly [TableName, { readonly id: string }])[] => {
  const store = new PieceStore(piece);
  return TABLES.flatMap((t) => store.everywhere(t).map((r) => [t, r] as const));
};

/** All strings of a value that look like ids, but for what people wrote. */
function idsIn(value: unknown, out: string[] = [], key = ''): string[] {
  if (['name', 'hint', 'note', 'synth', 'hash'].includes(key)) return out;
  // Words, but of a caption perhaps a signal.
  if (key === 'text' && typeof value === 'string') return out;
  if (typeof value === 'string') {
    if (/^(ob|ta|cl|si|me|ma|re|so|as|la|st|tr|cu|lo|fo|co|ef|an|sh|te)_\w+$/.test(value)) out.push(value);
  } else if (Array.isArray(value)) for (const x of value) idsIn(x, out);
  else if (typeof value === 'object' && value !== null)
    for (const [k, x] of Object.entries(value)) idsIn(x, out, k);
  return out;
}

it('every id in the demo is found by the forms, and nothing else', () => {
  const piece = readDemo();
  let found = 0;
  for (const [table, record] of recordsOf(piece)) {
    const seen: string[] = [record.id];
    visitReferences(table, record as never, (_, id) => void seen.push(id));
    visitOwnIds(table, record as never, (_, id) => void seen.push(id));
    expect(seen.sort(), `${table}.${record.id}`).toEqual(idsIn(record).sort());
    found += seen.length;
  }
  expect(found).toBeGreaterThan(200);
});

it('replacing all ids by others and back gives the piece again', () => {
  const piece = readDemo();
  const all = new Set(idsIn(piece));
  const there = new Map([...all].map((id) => [id, `${id}_x`]));
  const back = new Map([...there].map(([a, b]) => [b, a]));
  for (const [table, record] of recordsOf(piece)) {
    const form = RECORDS[table] as Schema;
    const other = replaceIds(form, record, there);
    expect(idsIn(other).every((id) => id.endsWith('_x'))).toBe(true);
    expect(replaceIds(form, other, back)).toEqual(record);
  }
});

it('properties are found wherever they are named', () => {
  const piece = readDemo();
  const named: string[] = [];
  visitProperties(pieceSchema, piece, (name) => void named.push(name));
  const tracks = Object.values(piece.clips).flatMap((c) => c.tracks.map((t) => t.property));
  for (const t of tracks) expect(named).toContain(t);
  expect(namesAnything(number())).toBe(false);
});

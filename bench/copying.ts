/** Duplicating many objects. Ratios within this one run; nothing here is an absolute time. */
import { newId } from '@apple-tick/core/base';
import {
  type AnyRecord,
  defaultBase,
  emptyPiece,
  excerpt,
  History,
  insertExcerpt,
  PieceStore,
} from '@apple-tick/core/model';

const OBJECTS = 2000;
const p = emptyPiece('large', 'Large');
for (let i = 0; i < OBJECTS; i++)
  p.objects[`ob_${i}`] = {
    ...{ id: `ob_${i}`, name: `Object ${i}`, parent: null, order: `a${String(i).padStart(5, '0')}` },
    ...{ kind: 'box', size: [10, 10, 10], tags: [], hint: '', base: defaultBase() },
  } as (typeof p.objects)[string];
const ids = Object.keys(p.objects);

const duplicate = () => {
  const store = new PieceStore(p);
  const given = new Set(ids);
  const next = (kind: 'objects') => {
    const id = newId(kind, (x) => given.has(x), Math.random);
    given.add(id);
    return id;
  };
  new History(store).edit('Duplicated', (e) =>
    insertExcerpt(e, excerpt(store, ids, true), (o) => o.parent, next as never),
  );
  if (store.ids('objects').length !== 2 * OBJECTS) throw new Error('not all were duplicated');
};
/** The same by hand: a copy of each record under another id. */
const byHand = () => {
  const all: Record<string, AnyRecord> = { ...p.objects };
  for (const o of Object.values(p.objects)) {
    const id = `${o.id}_2`;
    all[id] = { ...o, id, base: structuredClone(o.base) };
  }
};
const time = (f: () => void) => {
  const start = performance.now();
  f();
  return performance.now() - start;
};
duplicate();
byHand();
const ratios = Array.from({ length: 9 }, () => time(duplicate) / time(byHand)).sort((a, b) => a - b);
console.log(
  `duplicating 2,000 objects ÷ copying their records: ${(ratios[4] as number).toFixed(1)} (goal ≤ 20)`,
);

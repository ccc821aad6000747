/** What is kept from one compiling to the next, against compiling a copy that shares nothing with it. */
import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { readPiece } from '../src/check/index.ts';
import { Editor, orderBetween, PieceStore, removeWithReferences, resized } from '../src/model/index.ts';
import { compile, compileAgain, FaceBuilder, type Program } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';

const demo = () => {
  const read = readPiece(
    readFileSync(new URL('../../../demo/windfall-mill.tick.json', import.meta.url), 'utf8'),
  );
  if (!read.ok) throw new Error('the demo cannot be read');
  return read.value;
};
/** Everything that is painted, as text. */
const painted = (program: Program) => {
  const faces = new FaceBuilder().build(program, program.base, { azimuth: 35, elevation: 29 });
  return JSON.stringify({
    ids: program.objects.map((o) => o.id),
    parent: [...program.geometry.parent],
    plain: [...program.geometry.plain],
    order: [...faces.order.subarray(0, faces.count)],
    plane: [...faces.plane.subarray(0, 9 * faces.count)],
    rgb: [...faces.rgb.subarray(0, faces.count)],
    hulls: faces.outline.slice(0, faces.count).map((o) => [...o.hull]),
    styles: faces.style.slice(0, faces.count),
  });
};

it('compiling like before gives what compiling anew gives, whatever was edited', () => {
  const random = seeded(33);
  const store = new PieceStore(demo());
  let program = compile(store.toPiece());
  const any = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)] as T;
  for (let round = 0; round < 40; round++) {
    const e = new Editor(store);
    const o = any(store.all('objects'));
    const n = Math.round(random() * 100);
    const edits = [
      () => e.update('objects', o.id, (x) => ({ ...x, base: { ...x.base, position: [n, 2, 3] } })),
      () =>
        e.update('objects', o.id, (x) => ({ ...x, base: { ...x.base, fill: n > 50 ? '#123456' : 'none' } })),
      () => e.update('objects', o.id, (x) => resized(x, n % 3, 5 + n)),
      () =>
        e.update('objects', o.id, (x) => ({
          ...x,
          order: orderBetween(null, any(store.all('objects')).order),
        })),
      () => e.update('objects', o.id, (x) => ({ ...x, parent: null })),
      () => e.update('objects', o.id, (x) => ({ ...x, hitShape: { kind: 'rect', size: [n, n] } })),
      () => e.update('objects', o.id, (x) => (x.kind === 'rect' ? { ...x, radius: n } : x)),
      () => e.add('objects', { ...o, id: `ob_new${round}`, name: `new ${round}`, looks: [] }),
      () => round % 4 === 0 && removeWithReferences(e, [o.id]),
    ];
    any(edits)();
    const piece = store.toPiece();
    program = compileAgain(piece, program);
    expect(painted(program)).toBe(painted(compile(JSON.parse(JSON.stringify(piece)))));
  }
});

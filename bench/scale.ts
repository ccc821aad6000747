/** A large piece: 2,000 objects and 50,000 keys. Ratios within this one run; nothing here is an absolute time. */
import { readPiece } from '@apple-tick/core/check';
import { defaultBase, emptyPiece, History, type Piece, PieceStore, writePiece } from '@apple-tick/core/model';
import { compile } from '@apple-tick/core/run';

const OBJECTS = 2000;
const TRACKS = 2000;
const KEYS = 25;

function largePiece(): Piece {
  const p = emptyPiece('large', 'Large');
  for (let i = 0; i < OBJECTS; i++) {
    const id = `ob_${i}`;
    p.objects[id] = {
      id,
      name: `Object ${i}`,
      parent: i % 20 === 0 ? null : `ob_${i - (i % 20)}`,
      order: `a${String(i).padStart(5, '0')}`,
      kind: 'box',
      size: [10, 10, 10],
      tags: [],
      hint: '',
      base: { ...defaultBase(), position: [(i % 50) * 18 - 450, Math.floor(i / 50) * 13 - 260, 0] },
    };
  }
  for (let c = 0; c < TRACKS / 100; c++)
    p.clips[`cl_${c}`] = {
      id: `cl_${c}`,
      name: `Clip ${c}`,
      root: 'ob_0',
      duration: KEYS,
      loop: 'once',
      cues: [],
      tracks: Array.from({ length: 100 }, (_, t) => ({
        object: `ob_${c * 100 + t}`,
        property: 'position.x',
        mode: 'absolute' as const,
        keys: Array.from({ length: KEYS }, (_, k) => ({ t: k, value: k * t, easing: 'linear' as const })),
      })),
    };
  return p;
}

const median = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1] as number;
const time = (f: () => void) => {
  const start = performance.now();
  f();
  return performance.now() - start;
};
const ratio = (a: () => void, b: () => void, rounds = 9) => {
  a();
  b();
  return median(Array.from({ length: rounds }, () => time(a) / time(b)));
};

const piece = largePiece();
const store = new PieceStore(piece);
const history = new History(store);
let n = 0;
const edits = 500;
const edit = () => {
  for (let i = 0; i < edits; i++) {
    n++;
    history.edit('Moved', (e) =>
      e.update('objects', `ob_${n % OBJECTS}`, (o) => ({
        ...o,
        base: { ...o.base, position: [n, o.base.position[1], o.base.position[2]] },
      })),
    );
  }
};
const undo = () => {
  for (let i = 0; i < edits; i++) history.undo();
};
/** The same by hand: a new record in an array that has an index of ids, and the old one kept for undoing. */
const array = Object.values(piece.objects);
const index = new Map(array.map((o, i) => [o.id, i]));
const kept: (typeof array)[number][] = [];
const byHand = () => {
  for (let i = 0; i < edits; i++) {
    n++;
    const at = index.get(`ob_${n % OBJECTS}`) as number;
    const o = array[at] as (typeof array)[number];
    kept.push(o);
    array[at] = { ...o, base: { ...o.base, position: [n, o.base.position[1], o.base.position[2]] } };
  }
};
const redo: (typeof array)[number][] = [];
const undoByHand = () => {
  redo.length = 0;
  for (let i = 0; i < edits; i++) {
    const last = kept.pop();
    if (!last) continue;
    const at = index.get(last.id) as number;
    redo.push(array[at] as (typeof array)[number]);
    array[at] = last;
  }
};
const editRatios: number[] = [];
const undoRatios: number[] = [];
for (let round = 0; round < 9; round++) {
  const [a, b] = [time(edit), time(byHand)];
  editRatios.push(a / b);
  // The history keeps 500 steps: all of this round's.
  const [c, d] = [time(undo), time(undoByHand)];
  undoRatios.push(c / d);
}
console.log(`edit in 2,000 objects ÷ by hand: ${median(editRatios).toFixed(1)} (goal ≤ 10)`);
console.log(`undo in 2,000 objects ÷ by hand: ${median(undoRatios).toFixed(1)} (goal ≤ 10)`);

const text = writePiece(piece);
const open = () => {
  const r = readPiece(text);
  if (!r.ok) throw new Error('unreadable');
  new PieceStore(r.value);
  compile(r.value);
};
const bareOpen = () => {
  const r = readPiece(text);
  if (!r.ok) throw new Error('unreadable');
};
console.log(`open and compile ÷ parse and validate: ${ratio(open, bareOpen, 5).toFixed(2)} (goal ≤ 2)`);

// What an edit costs the view: compiling anew, of which only the changed record is new.
const again = () => {
  history.edit('Moved', (e) => e.update('objects', 'ob_7', (o) => ({ ...o, hint: `${n++}` })));
  compile(store.toPiece());
};
const whole = () => {
  compile(structuredClone(piece));
};
console.log(`compile after one edit ÷ compile of a new piece: ${ratio(again, whole, 5).toFixed(2)}`);
console.log();

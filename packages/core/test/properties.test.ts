/**
 * Each property that there is goes through all that properties go through: the record, the compiled row, a key, a put, a
 * snapshot, and what is drawn. One that is added and works nowhere fails here.
 */
import { describe, expect, it } from 'vitest';
import { readPieceJson } from '../src/check/index.ts';
import {
  baseSchema,
  canOffset,
  defaultBase,
  emptyPiece,
  fitsProperty,
  type Piece,
  PROPERTIES,
  type PropertyInfo,
  type PropertyValue,
  propertyLabel,
  propertyOf,
  type SceneObject,
  withProperty,
} from '../src/model/index.ts';
import {
  compile,
  FaceBuilder,
  loadRun,
  poseClip,
  propertyValue,
  Run,
  saveRun,
} from '../src/runtime/index.ts';

/** A text with a dashed line that is turned, moved, and shown half, so that each property has something to change. */
const base = { ...defaultBase(), rotation: [10, 20, 30], scale: [1, 2, 3], pivot: [4, 5, 6], opacity: 0.5 };
const words = {
  ...{ id: 'ob_a', name: 'A', parent: null, order: 'a', tags: [], hint: '', base },
  stroke: { color: '#000000', width: 2, cap: 'butt', join: 'miter', dashes: [4, 2], dashStart: 1 },
  ...{ kind: 'text', text: 'Cider', font: 'sans', size: 40, weight: 400, align: 'left' },
  looks: [{ id: 'lk_big', name: 'big', size: 80 }],
} as unknown as SceneObject;

const OTHER: Readonly<Record<PropertyInfo['kind'], PropertyValue>> = {
  ...{ number: 7, angle: 75, amount: 0.25, switch: false },
  ...{ color: '#123456', look: 'lk_big', text: 'Perry' },
};

/** The piece with the one object, which can be put by a key, and with a clip that keys the property. */
function pieceOf(object: SceneObject, { name }: PropertyInfo, to: PropertyValue): Piece {
  const p = emptyPiece('p', 'P');
  p.objects['ob_a'] = object;
  p.reactions['re_p'] = {
    ...{ id: 're_p', object: 'ob_a', on: { event: 'key.down', key: 'p' }, when: [], after: 0, cooldown: 0 },
    ...{ limit: 'always', actions: [{ do: 'put', object: 'ob_a', property: name, to }] },
  };
  p.clips['cl_k'] = {
    ...{ id: 'cl_k', name: 'k', root: 'ob_a', duration: 1, loop: 'once', cues: [] },
    tracks: [
      { object: 'ob_a', property: name, mode: 'absolute', keys: [{ t: 0, value: to, easing: 'hold' }] },
    ],
  };
  return p;
}

const drawn = (p: Piece, values: Float64Array) => {
  const faces = new FaceBuilder().build(compile(p), values, { azimuth: 35, elevation: 29 });
  return JSON.stringify(
    Object.entries(faces).map(([key, list]) => [key, ArrayBuffer.isView(list) ? [...(list as never)] : list]),
  );
};

/** What a property of the row is for whoever reads it; a colour goes through another space and comes back. */
const rowOf = (values: Float64Array) => PROPERTIES.map((p) => propertyValue(values, 0, p.name));

describe.each(PROPERTIES)('$name', (property) => {
  const to = OTHER[property.kind];
  const p = pieceOf(words, property, to);
  const before = compile(p).base;
  const after = compile(pieceOf(withProperty(words, property, to), property, to)).base;

  it('is the object’s own, alone, and survives its file', () => {
    const changed = withProperty(words, property, to);
    for (const x of PROPERTIES)
      expect(propertyOf(changed, x)).toBe(x === property ? to : propertyOf(words, x));
    expect(fitsProperty(property, to)).toBe(true);
    const read = readPieceJson(JSON.parse(JSON.stringify({ ...p, objects: { ob_a: changed } })));
    expect(read.ok && read.value.objects['ob_a']).toEqual(changed);
  });

  it('lies in the compiled row, alone', () => {
    expect(rowOf(after)).toEqual(rowOf(before).map((v, i) => (PROPERTIES[i] === property ? to : v)));
    expect(before).not.toEqual(after);
  });

  it('is set to the same by a key, by a put, and by a put that a snapshot brought back', () => {
    const program = compile(p);
    const values = program.base.slice();
    poseClip(program, 'cl_k', 0.5, values);
    expect(values).toEqual(after);
    const run = new Run(program);
    run.step([{ at: 0, key: 'p', down: true }]);
    run.step();
    expect(run.state.values).toEqual(after);
    expect(loadRun(new Run(program), saveRun(run)).state.values).toEqual(after);
  });

  it('changes what is drawn', () => {
    expect(drawn(p, before)).toBe(drawn(p, before.slice()));
    expect(drawn(p, after)).not.toBe(drawn(p, before));
  });

  it('has a name', () => {
    expect(propertyLabel(property.name)).toMatch(/^[a-z]+( [xyz])?$/);
  });
});

describe('properties', () => {
  it('take channels that do not overlap, and every field of a base is one', () => {
    const taken = PROPERTIES.flatMap((p) => Array.from({ length: p.width }, (_, k) => p.channel + k));
    expect(taken.sort((a, b) => a - b)).toEqual(taken.map((_, i) => i));
    expect([...new Set(PROPERTIES.map((p) => p.field))].sort()).toEqual(
      [...Object.keys(baseSchema.fields), 'text', 'dashStart'].sort(),
    );
  });

  it('words of what is no text are nobody’s', () => {
    const box = { ...words, kind: 'rect', size: [4, 4] } as unknown as SceneObject;
    const text = PROPERTIES.find((p) => p.kind === 'text') as PropertyInfo;
    expect(withProperty(box, text, 'Perry')).toBe(box);
    expect(propertyOf(box, text)).toBeNull();
    const program = compile({ ...emptyPiece('p', 'P'), objects: { ob_a: box } });
    expect(program.base[text.channel]).toBe(0);
    expect(canOffset(text)).toBe(false);
  });
});

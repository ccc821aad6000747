/** Pictures cut into parts: by equal cells, or by rectangles on them. */
import {
  type Clip,
  defaultBase,
  type KindOf,
  type Look,
  orderBetween,
  type PictureAsset,
  removeWithReferences,
  uniqueName,
} from '@apple-tick/core/model';
import type { Session } from '../session.ts';
import { noRoomFor } from './arrange.ts';

/** x, y, width, height in the picture's own px, y down. */
export type Cut = readonly [number, number, number, number];

/** The picture that an object shows, and the part of it that it shows; null for what is no picture. */
export function pictureOf(
  s: Session,
  id: string,
): { o: KindOf<'image'>; asset: PictureAsset; area: Cut } | null {
  const o = s.store.get('objects', id);
  const asset = o?.kind === 'image' ? s.store.get('assets', o.asset) : undefined;
  if (o?.kind !== 'image' || asset?.kind !== 'image') return null;
  return { o, asset, area: o.cut ?? [0, 0, asset.width, asset.height] };
}

/** Equal cells of a part of a picture, row by row. */
export function cellsOf([x, y, w, h]: Cut, across: number, down: number): Cut[] {
  // None is smaller than a px.
  const [columns, rows] = [Math.min(across, Math.floor(w)), Math.min(down, Math.floor(h))];
  return Array.from({ length: columns * rows }, (_, i) => {
    const [c, r] = [i % columns, Math.floor(i / columns)];
    return [x + (w * c) / columns, y + (h * r) / rows, w / columns, h / rows] as const;
  });
}

/** A group of pictures that show a part each, every part where it was and as large as it was. */
export function cutIntoParts(s: Session, id: string, cuts: readonly Cut[]): void {
  const picture = pictureOf(s, id);
  if (!picture || cuts.length === 0) return;
  const full = noRoomFor(s, cuts.length);
  if (full !== null) return s.set({ notice: full });
  const { o, area } = picture;
  const [kx, ky] = [o.size[0] / area[2], o.size[1] / area[3]];
  const ids: string[] = [];
  s.edit(`Cut ${o.name}`, (e) => {
    // A group has no looks, so whatever gave it one goes with them.
    removeWithReferences(
      e,
      (o.looks ?? []).map((l) => l.id),
    );
    const { asset: _, size: __, cut: ___, pixel: ____, looks: _____, mask, ...rest } = o;
    // The picture's own record becomes the group: place, machine and reactions stay where they are. Each part shows by its
    // own opacity, where the picture did.
    const ownMask = mask && !('by' in mask) ? mask : null;
    e.update('objects', id, () => ({
      ...rest,
      kind: 'group',
      base: { ...o.base, look: '' },
      ...(mask && !ownMask ? { mask } : {}),
    }));
    const children = s.store.all('objects').filter((x) => x.parent === id);
    const names = new Set(children.map((x) => x.name));
    const orders = children.map((x) => x.order).sort();
    let order: string | null = null;
    for (const [i, cut] of cuts.entries()) {
      order = orderBetween(order, orders[0] ?? null);
      const part = s.newId('objects');
      ids.push(part);
      const name = uniqueName(`${o.name.slice(0, 190)} ${i + 1}`, names);
      names.add(name);
      const [x, y] = [cut[0] + cut[2] / 2 - area[0], cut[1] + cut[3] / 2 - area[1]];
      e.add('objects', {
        id: part,
        name,
        ...(ownMask ? { mask: ownMask } : {}),
        parent: id,
        order,
        tags: [],
        hint: '',
        kind: 'image',
        asset: o.asset,
        pixel: o.pixel,
        cut: [...cut],
        size: [cut[2] * kx, cut[3] * ky],
        base: {
          ...defaultBase(),
          fill: o.base.fill,
          position: [x * kx - o.size[0] / 2, o.size[1] / 2 - y * ky, 0],
        },
      });
    }
  });
  s.selectMany(ids);
}

/** Each part becomes a look of the object, the first its own drawing; with `rate` a clip that shows so many a second. */
export function cutIntoLooks(s: Session, id: string, cuts: readonly Cut[], rate: number | null): void {
  const picture = pictureOf(s, id);
  const [own, ...others] = cuts;
  if (!picture || !own) return;
  const { o, area } = picture;
  const [kx, ky] = [o.size[0] / area[2], o.size[1] / area[3]];
  const size = (cut: Cut): [number, number] => [cut[2] * kx, cut[3] * ky];
  const names = new Set((o.looks ?? []).map((l) => l.name));
  const looks = others.map((cut, i): Look => {
    const name = uniqueName(`picture ${i + 2}`, names);
    names.add(name);
    return { id: s.newId('looks'), name, cut: [...cut], size: size(cut) };
  });
  s.step(`Cut ${o.name} into looks`, () => {
    s.edit('Cut', (e) =>
      e.update('objects', id, () => ({
        ...o,
        cut: [...own],
        size: size(own),
        looks: [...(o.looks ?? []), ...looks],
      })),
    );
    if (rate === null) return;
    const keys = ['', ...looks.map((l) => l.id)].map((value, i) => ({
      t: Math.round((i / rate) * 1000) / 1000,
      value,
      easing: 'hold' as const,
    }));
    const taken = new Set(s.store.all('clips').map((c) => c.name));
    const clip: Clip = {
      id: s.newId('clips'),
      name: uniqueName(`${o.name.slice(0, 190)} moves`, taken),
      root: id,
      duration: Math.round((cuts.length / rate) * 1000) / 1000,
      loop: 'loop',
      tracks: [{ object: id, property: 'look', mode: 'absolute', keys }],
      cues: [],
    };
    s.edit('Added a clip', (e) => e.add('clips', clip));
    s.set({ notice: `${clip.name} came as a clip.` });
  });
  s.select({ kind: 'object', id });
}

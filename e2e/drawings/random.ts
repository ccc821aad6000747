/** Drawings made at random of all that is read: shapes, groups, paint, strokes, clip paths, copies. */
import { seeded } from '@apple-tick/core/testing';

/** A drawing of 256 × 256 with so many shapes, from a seed. */
export function randomDrawing(seed: number, shapes: number): string {
  const random = seeded(seed);
  const n = (a: number, z: number) => Math.round((a + (z - a) * random()) * 100) / 100;
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const color = () => `hsl(${n(0, 360)} ${n(30, 90)}% ${n(20, 80)}%)`;
  let ids = 0;
  const defs: string[] = [];
  const stops = () =>
    Array.from(
      { length: 2 + Math.floor(random() * 3) },
      (_, i) =>
        `<stop offset="${n(i * 0.25, i * 0.25 + 0.25)}" stop-color="${color()}" stop-opacity="${one([1, 1, 0.5])}"/>`,
    ).join('');
  const spread = () => one(['', '', 'spreadMethod="reflect"', 'spreadMethod="repeat"']);
  const bend = () =>
    one(['', '', `gradientTransform="rotate(${n(0, 90)}) scale(${n(0.5, 1)} ${n(0.5, 1)})"`]);
  const gradient = () => {
    const id = `g${ids++}`;
    const units = one(['', 'gradientUnits="userSpaceOnUse"']);
    const at = () => (units === '' ? n(0, 1) : n(0, 256));
    const size = () => (units === '' ? n(0.3, 0.8) : n(60, 160));
    defs.push(
      random() < 0.5
        ? `<linearGradient id="${id}" ${units} x1="${at()}" y1="${at()}" x2="${at()}" y2="${at()}" ${spread()} ${bend()}>${stops()}</linearGradient>`
        : `<radialGradient id="${id}" ${units} cx="${at()}" cy="${at()}" r="${size()}" ${bend()}>${stops()}</radialGradient>`,
    );
    return `url(#${id})`;
  };
  const paint = () => (random() < 0.3 ? gradient() : color());
  const stroke = () => {
    if (random() < 0.5) return '';
    const dashes = one(['', '', `stroke-dasharray="${n(5, 20)} ${n(3, 12)}" stroke-dashoffset="${n(0, 9)}"`]);
    return `stroke="${paint()}" stroke-width="${n(1, 14)}" stroke-linecap="${one(['butt', 'round', 'square'])}" stroke-linejoin="${one(['miter', 'round', 'bevel'])}" stroke-opacity="${one([1, 0.6])}" ${dashes}`;
  };
  const transform = () =>
    one([
      ...['', '', `transform="translate(${n(-40, 40)} ${n(-40, 40)})"`],
      `transform="rotate(${n(-180, 180)} ${n(0, 256)} ${n(0, 256)})"`,
      `transform="translate(${n(0, 60)},${n(0, 60)})scale(${n(-1.2, 1.2)} ${n(0.4, 1.2)})"`,
    ]);
  const common = () =>
    `fill="${one([paint(), paint(), 'none'])}" fill-opacity="${one([1, 1, 0.5])}" ${stroke()} opacity="${one([1, 1, 0.6])}" ${transform()}`;
  const shape = (): string => {
    const p = () => `${n(0, 256)} ${n(0, 256)}`;
    const kind = Math.floor(random() * 5);
    if (kind === 0)
      return `<rect x="${n(0, 200)}" y="${n(0, 200)}" width="${n(10, 120)}" height="${n(10, 120)}" rx="${one([0, n(0, 30)])}" ${common()}/>`;
    if (kind === 1)
      return `<ellipse cx="${n(0, 256)}" cy="${n(0, 256)}" rx="${n(5, 80)}" ry="${n(5, 80)}" ${common()}/>`;
    if (kind === 2)
      return `<polygon points="${p()} ${p()} ${p()} ${p()}" fill-rule="${one(['evenodd', 'nonzero'])}" ${common()}/>`;
    if (kind === 3)
      return `<path d="M${p()}C${p()} ${p()} ${p()}S${p()} ${p()}Q${p()} ${p()}Z" ${common()}/>`;
    return `<path d="M${p()}A${n(20, 90)} ${n(20, 90)} ${n(0, 90)} ${one([0, 1])} ${one([0, 1])} ${p()}L${p()}" ${common()}/>`;
  };
  const parts: string[] = [];
  for (let i = 0; i < shapes; ) {
    const count = Math.min(shapes - i, 1 + Math.floor(random() * 4));
    const inside = Array.from({ length: count }, shape).join('');
    i += count;
    if (random() < 0.3) {
      const id = `c${ids++}`;
      defs.push(
        `<clipPath id="${id}"><circle cx="${n(60, 200)}" cy="${n(60, 200)}" r="${n(40, 120)}"/></clipPath>`,
      );
      parts.push(`<g clip-path="url(#${id})" ${transform()}>${inside}</g>`);
    } else if (random() < 0.2) {
      const id = `u${ids++}`;
      defs.push(`<g id="${id}">${inside}</g>`);
      parts.push(`<use href="#${id}" x="${n(-40, 40)}" y="${n(-40, 40)}"/>`);
    } else
      parts.push(
        `<g opacity="${one([1, 0.5])}" style="mix-blend-mode:${one(['normal', 'normal', 'multiply', 'screen', 'darken'])}">${inside}</g>`,
      );
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 256 256"><defs>${defs.join('')}</defs>${parts.join('')}</svg>`;
}

/**
 * Real drawings from packages that are installed with the tools, by name and version in `package.json`: flags, logos,
 * emoji, symbols of many hands and programs. All licences allow it: flagpack, skill-icons, super-tiny-icons and flag-icons
 * MIT, logos CC0 1.0, streamline-emojis CC BY 4.0 (https://creativecommons.org/licenses/by/4.0/, by Streamline).
 */
import { readdirSync, readFileSync } from 'node:fs';
import { seeded } from '@apple-tick/core/testing';

export interface RealDrawing {
  readonly name: string;
  readonly text: string;
}

interface IconSet {
  readonly width?: number;
  readonly height?: number;
  readonly icons: Readonly<
    Record<string, { body: string; width?: number; height?: number; left?: number; top?: number }>
  >;
}

const MODULES = `${import.meta.dirname}/../../node_modules`;
const SETS = ['flagpack', 'logos', 'skill-icons', 'streamline-emojis'];
const FOLDERS = ['flag-icons/flags/4x3', 'super-tiny-icons/images/svg'];

/** `each` drawings of each package, always the same ones. */
export function realDrawings(each: number): RealDrawing[] {
  const random = seeded(20261202);
  const some = <T>(all: readonly T[]): T[] => {
    const left = [...all];
    return Array.from(
      { length: Math.min(each, left.length) },
      () => left.splice(Math.floor(random() * left.length), 1)[0] as T,
    );
  };
  const out: RealDrawing[] = [];
  for (const set of SETS) {
    const { icons, width, height } = JSON.parse(
      readFileSync(`${MODULES}/@iconify-json/${set}/icons.json`, 'utf8'),
    ) as IconSet;
    for (const name of some(Object.keys(icons))) {
      const icon = icons[name] as IconSet['icons'][string];
      const [w, h] = [icon.width ?? width ?? 16, icon.height ?? height ?? 16];
      const box = `${icon.left ?? 0} ${icon.top ?? 0} ${w} ${h}`;
      const text = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="${box}">${icon.body}</svg>`;
      out.push({ name: `${set}/${name}`, text });
    }
  }
  for (const folder of FOLDERS)
    for (const file of some(readdirSync(`${MODULES}/${folder}`).filter((f) => f.endsWith('.svg'))))
      out.push({ name: `${folder}/${file}`, text: readFileSync(`${MODULES}/${folder}/${file}`, 'utf8') });
  return out;
}

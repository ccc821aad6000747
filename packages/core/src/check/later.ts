/**
 * What the format knows and this version does not build yet. A file that uses it is refused by its name and place, so
 * that its maker knows that nothing is misspelt.
 */
import type { Problem } from '../base/result.ts';

const MAX_FOUND = 100;

type Add = (path: string, what: string) => void;

export interface Later {
  readonly problem: Problem;
  /** The path of the record that cannot be read for it: what else is wrong within is not told. */
  readonly within: string;
}

/** The things in a parsed file that come later, in the order of the file; at most 100. The file may be malformed. */
export function findLater(file: Record<string, unknown>): Later[] {
  const out: Later[] = [];
  const add: Add = (path, what) => {
    const message = `${what} come later: this version does not read them.`;
    out.push({ problem: { code: 'later', path, message }, within: path });
  };
  const stack: { value: object; path: string }[] = [{ value: file, path: '' }];
  for (let top = stack.pop(); top && out.length < MAX_FOUND; top = stack.pop()) {
    const { value, path } = top;
    if (!Array.isArray(value)) inRecord(value as Record<string, unknown>, path, add);
    for (const [k, child] of Object.entries(value).reverse()) {
      if (typeof child !== 'object' || child === null) continue;
      const at = Array.isArray(value) ? `${path}[${k}]` : path === '' ? k : `${path}.${k}`;
      stack.push({ value: child, path: at });
    }
  }
  return out;
}

function inRecord(r: Record<string, unknown>, path: string, add: Add): void {
  if (r['do'] === 'send' && r['to'] !== undefined) add(`${path}.to`, 'Messages to other peers');
}

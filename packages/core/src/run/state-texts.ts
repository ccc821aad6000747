/** Texts that a run has made. */
import type { Program } from './program.ts';

/** Strings by number, each once. */
export class Texts {
  readonly list: string[];
  readonly #numbers: Map<string, number>;

  constructor(list: readonly string[]) {
    this.list = [...list];
    this.#numbers = new Map(this.list.map((text, i) => [text, i]));
  }

  number(text: string): number {
    let n = this.#numbers.get(text);
    if (n === undefined) {
      n = this.list.push(text) - 1;
      this.#numbers.set(text, n);
    }
    return n;
  }
}

/** The strings that a piece's choices and texts may hold at its start. */
export function textsIn(program: Program): string[] {
  const all = new Set<string>();
  for (const s of program.signals) {
    if (s.type === 'choice') for (const o of s.options) all.add(o);
    if (s.type === 'choice' || s.type === 'text') all.add(s.initial);
  }
  return [...all];
}

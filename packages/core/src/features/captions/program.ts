/** Captions compiled: their answers, which actions have. */
import type { CompilingPart } from '../../run/compiling.ts';

export type Answers = readonly { readonly id: string; readonly text: string }[];

export class CompilingCaptions implements CompilingPart {
  readonly #answers: Answers[] = [];
  readonly #index = new Map<string, number>();

  /** The number of a caption's answers. */
  number(of: Answers): number {
    const n = this.#answers.push(of) - 1;
    this.#index.set(of.map((a) => a.id).join(), n);
    return n;
  }

  part() {
    return { answers: this.#answers, index: this.#index };
  }
}

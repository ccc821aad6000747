/** Weighted choice: weights are added in order and the first whose sum exceeds value × total is taken. */
import { drawUnit } from '../base/index.ts';

/** The index drawn, or −1 when all weights are 0. With one weight above 0 no number is drawn. */
export function drawWeighted(weights: readonly number[], words: Uint32Array, at: number): number {
  let total = 0;
  let only = -1;
  let ready = 0;
  weights.forEach((w, i) => {
    if (w > 0) {
      total += w;
      only = i;
      ready++;
    }
  });
  if (ready <= 1) return only;
  const goal = drawUnit(words, at) * total;
  let sum = 0;
  for (let i = 0; i < weights.length; i++) {
    const w = weights[i] as number;
    sum += w;
    if (w > 0 && sum > goal) return i;
  }
  return only;
}

/** Seconds between the ruler's marks, so that their numbers never touch. */
export function rulerStep(s: { readonly span: number; readonly width: number }): number {
  const least = (56 / s.width) * s.span;
  return [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 30, 60, 300, 3600].find((x) => x >= least) ?? 3600;
}

/** Whether each word that is looked for begins a word of these. */
export function isFound(wanted: string, ...among: readonly string[]): boolean {
  const words = ` ${among.join(' ').toLowerCase()}`;
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((w) => words.includes(` ${w}`));
}

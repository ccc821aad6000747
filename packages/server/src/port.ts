/** The port that a text asks for; 4300 when there is none, null when it is not one. */
export function readPort(text: string | undefined): number | null {
  if (text === undefined) return 4300;
  if (!/^\d{1,5}$/.test(text.trim())) return null;
  const port = Number(text);
  return port <= 65535 ? port : null;
}

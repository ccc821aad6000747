/**
 * Entities that old drawing programs declare for the addresses of namespaces. They are written out in the text before
 * anything reads it, within bounds, so that no file grows without end; those of other files are never fetched.
 */

/** So often an entity may lie in another, and so long the text may become, characters. */
const MAX_NESTED = 3;
const MAX_LENGTH = 20_000_000;

/** The text without its DOCTYPE and with its entities written out; null when they would make it grow out of all bounds. */
export function withoutEntities(text: string): string | null {
  const head = /<!DOCTYPE\s[^[>]*(?:\[((?:[^\]"']|"[^"]*"|'[^']*')*)\]\s*)?>/i.exec(text);
  if (!head) return text;
  const rest = text.slice(0, head.index) + text.slice(head.index + head[0].length);
  const known = new Map<string, string>();
  for (const [, name, double, single] of (head[1] ?? '').matchAll(
    /<!ENTITY\s+([\w:.-]+)\s+(?:"([^"]*)"|'([^']*)')\s*>/gi,
  ))
    if (name !== undefined && !known.has(name)) known.set(name, double ?? single ?? '');
  if (known.size === 0) return rest;
  let out = rest;
  for (let depth = 0; depth <= MAX_NESTED; depth++) {
    let length = out.length;
    let found = false;
    const next = out.replace(/&([\w:.-]+);/g, (whole, name: string) => {
      const value = known.get(name);
      if (value === undefined || length > MAX_LENGTH) return whole;
      found = true;
      length += value.length - whole.length;
      return value;
    });
    if (length > MAX_LENGTH) return null;
    if (!found) return next;
    out = next;
  }
  return null;
}

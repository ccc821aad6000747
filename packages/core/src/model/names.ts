/** Names that are unique within their owner. */

/** A name that none of `taken` has: `name`, else `name 2`, `name 3`, … (an existing number at its end counts on). */
export function uniqueName(name: string, taken: ReadonlySet<string>): string {
  return namer(taken)(name);
}

/** Gives names as `uniqueName` does, one after the other, each taken from then on; quick also for thousands alike. */
export function namer(taken: Iterable<string>): (name: string) => string {
  const all = new Set(taken);
  const next = new Map<string, number>();
  return (wish) => {
    // A name holds 200 characters, however long what it is made of.
    const name = wish.slice(0, 200);
    let own = name;
    if (all.has(name)) {
      // Room for the number within the 200 characters that a name may have.
      const stem = name.replace(/ \d+$/, '').slice(0, 190);
      let n = next.get(stem) ?? 2;
      while (all.has(`${stem} ${n}`)) n++;
      next.set(stem, n + 1);
      own = `${stem} ${n}`;
    }
    all.add(own);
    return own;
  };
}

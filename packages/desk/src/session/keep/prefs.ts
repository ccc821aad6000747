/** Small choices of this browser (theme, sizes). Where it keeps none, each page begins with the usual ones. */
export function readPref(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

export function writePref(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing says so on the shelf; a theme is not worth a message.
  }
}

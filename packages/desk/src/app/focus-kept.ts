/** Focus never falls to the page's start: when what has it goes away, what it lay in gets it. */

const PLACES = '[role="tree"], [role="group"][tabindex], aside, section, main';

/** Watches until the returned function is called. `root`: the page without what is laid over it. */
export function keepFocus(root: HTMLElement): () => void {
  /** What had the focus last, and the places that it lay in, the innermost first. */
  let last: HTMLElement | null = null;
  let around: HTMLElement[] = [];
  const note = (e: FocusEvent) => {
    last = e.target as HTMLElement;
    around = [];
    for (let at = last.parentElement?.closest<HTMLElement>(PLACES) ?? null; at; )
      at = around[around.push(at) - 1]?.parentElement?.closest<HTMLElement>(PLACES) ?? null;
  };
  const look = () => {
    if (!last || last.isConnected || document.activeElement !== document.body) return;
    const place = around.find((x) => x.isConnected);
    last = null;
    if (!place) return;
    if (!place.hasAttribute('tabindex')) place.tabIndex = -1;
    place.focus({ preventScroll: true });
  };
  const watch = new MutationObserver(look);
  root.addEventListener('focusin', note);
  watch.observe(root, { childList: true, subtree: true });
  return () => {
    root.removeEventListener('focusin', note);
    watch.disconnect();
  };
}

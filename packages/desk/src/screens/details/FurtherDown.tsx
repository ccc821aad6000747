import { useEffect, useRef, useState } from 'react';

/** Px of height of a small room. */
const SMALL = 220;

interface Below {
  readonly name: string;
  readonly heading: HTMLElement;
}

/** The headings of the properties that lie below what is in sight, each a way to it: read from what is there. */
export function FurtherDown() {
  const self = useRef<HTMLElement>(null);
  const [below, setBelow] = useState<readonly Below[]>([]);
  /** In a small room, beside a run, it keeps to one line, which is pushed along. */
  const [isSmall, setIsSmall] = useState(false);
  useEffect(() => {
    const nav = self.current;
    const whole = nav?.parentElement;
    const room = nav && scrollerOf(nav);
    if (!nav || !whole || !room) return;
    let frame = 0;
    const look = () => {
      frame = 0;
      const end = room.getBoundingClientRect().bottom - (nav.firstElementChild?.clientHeight ?? 0);
      const found = headingsIn(whole).filter((x) => x.heading.getBoundingClientRect().bottom > end);
      const same = (now: readonly Below[]) =>
        now.length === found.length && now.every((x, k) => x.heading === found[k]?.heading);
      setIsSmall(room.clientHeight < SMALL);
      setBelow((now) => (same(now) ? now : found));
    };
    const later = () => {
      frame ||= requestAnimationFrame(look);
    };
    const changed = new MutationObserver(later);
    changed.observe(whole, { childList: true, subtree: true, attributeFilter: ['open'] });
    const sized = new ResizeObserver(later);
    sized.observe(room);
    room.addEventListener('scroll', later);
    later();
    return () => {
      cancelAnimationFrame(frame);
      changed.disconnect();
      sized.disconnect();
      room.removeEventListener('scroll', later);
    };
  }, []);
  return (
    // It lies over the rest and takes no room of its own: what is under the hand stays where it is.
    <nav ref={self} aria-label="Further down" className="sticky bottom-0 h-0 z-10">
      <div
        className={`absolute bottom-0 inset-x-0 bg-card text-[11.5px] flex gap-x-2.5 px-3.5 ${isSmall ? 'overflow-x-auto whitespace-nowrap [scrollbar-width:none]' : 'flex-wrap'} ${below.length > 0 ? 'border-t border-line py-1' : ''}`}
      >
        {below.map(({ name, heading }) => (
          <button
            key={name}
            type="button"
            className="text-ink-2 hover:text-ink hover:underline"
            onClick={() => {
              const folded = heading.closest('details');
              if (folded && !folded.open) heading.closest('summary')?.click();
              heading.scrollIntoView({ block: 'start' });
            }}
          >
            {name}
          </button>
        ))}
      </div>
    </nav>
  );
}

function headingsIn(whole: HTMLElement): Below[] {
  const names = new Set<string>();
  return [...whole.querySelectorAll<HTMLElement>('h3, summary')].flatMap((heading) => {
    const name = (heading.matches('summary') ? heading.firstElementChild : heading)?.textContent ?? '';
    if (name === '' || names.has(name)) return [];
    names.add(name);
    return { name, heading };
  });
}

/** What scrolls the properties. */
function scrollerOf(el: HTMLElement): HTMLElement | null {
  for (let at = el.parentElement; at; at = at.parentElement)
    if (/auto|scroll/.test(getComputedStyle(at).overflowY)) return at;
  return null;
}

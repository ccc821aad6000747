/**
 * One owner of an open piece, from its lock to its last write. Whoever leaves it, by whatever way, gets the same order:
 * what is half typed is settled, what waits is written, then the piece is let go.
 */
import { createStore } from 'zustand/vanilla';
import { Session } from '../session.ts';
import { settleDrafts } from './drafts.ts';
import { type News, newsOf } from './keeping.ts';
import { type Loaded, loadPiece } from './loading.ts';
import { unkept } from './unkept.ts';

export type Opening =
  | { readonly kind: 'opening' }
  | { readonly kind: 'open'; readonly session: Session }
  | { readonly kind: 'closed'; readonly why: Extract<Loaded, { ok: false }>['why']; readonly text: string };

/** Milliseconds that a page which is being left has for letting go, before a piece is shown as another tab's. */
const LETTING_GO = 400;

/**
 * The pieces that are open in this tab, and those that were left and are not kept yet: they stay until they are, and who
 * comes back to one finds it as it was left.
 */
const live = new Map<string, OpenPiece>();
/** The open piece of this id; whoever asks for it leaves it with `leave`. */
export function openPiece(id: string): OpenPiece {
  const open = live.get(id) ?? new OpenPiece(id);
  live.set(id, open);
  open.enter();
  return open;
}

/** Renames a piece that is not shown, as a step of its history; a sentence when it cannot be. */
export async function renameKept(id: string, name: string): Promise<string | null> {
  const piece = openPiece(id);
  try {
    const opening = await new Promise<Opening>((resolve) => {
      const look = (now: Opening) => now.kind !== 'opening' && resolve(now);
      piece.state.subscribe(look);
      look(piece.state.getState());
    });
    if (opening.kind !== 'open')
      return opening.kind === 'closed' && opening.why === 'newer'
        ? 'This piece was made by a newer Apple Tick: rename it there.'
        : 'What is kept of this piece is broken: it cannot be renamed.';
    if (opening.session.state.readOnly) return 'This piece is open in another tab: rename it there.';
    opening.session.edit('Renamed the piece', (e) => e.head((h) => ({ ...h, name })));
    return null;
  } finally {
    piece.leave();
  }
}

export class OpenPiece {
  readonly state = createStore<Opening>(() => ({ kind: 'opening' }));
  private readonly id: string;
  private readonly news: BroadcastChannel | null;
  private readonly abort = new AbortController();
  private owner = false;
  private letGo = () => {};
  private readonly leaving = () => {
    settleDrafts();
    this.session?.keeper.leave();
  };

  /** How many pages show it. */
  private shown = 0;

  constructor(id: string) {
    this.id = id;
    this.news = newsOf(id);
    if (this.news) this.news.onmessage = (e: MessageEvent<News>) => this.heard(e.data);
    addEventListener('pagehide', this.leaving);
    void this.open();
  }

  enter(): void {
    this.shown++;
    this.tellUnkept();
  }

  /** Settles, writes, and lets go: at once when all is kept, else as soon as it is. */
  leave(): void {
    this.shown--;
    try {
      settleDrafts();
      this.session?.stopRun();
    } finally {
      void this.finish();
    }
  }

  private finishing = false;
  private async finish(): Promise<void> {
    if (this.finishing || this.left) return;
    const keeper = this.session?.keeper;
    this.finishing = true;
    try {
      await keeper?.flush();
    } finally {
      this.finishing = false;
    }
    if (this.shown > 0) return;
    if (keeper && !keeper.isKept) {
      this.tellUnkept();
      return;
    }
    this.abort.abort();
    live.delete(this.id);
    keeper?.close();
    removeEventListener('pagehide', this.leaving);
    this.news?.close();
    this.letGo();
    this.tellUnkept();
  }

  private tellUnkept(): void {
    const { session } = this;
    const state = session?.state.keep;
    const list = unkept.getState().list.filter((x) => x.id !== this.id);
    if (session && this.shown === 0 && state?.kind === 'failed' && live.has(this.id))
      list.push({ id: this.id, name: session.store.head.name, why: state.why });
    unkept.setState({ list });
  }

  private get session(): Session | null {
    const now = this.state.getState();
    return now.kind === 'open' ? now.session : null;
  }
  private get left(): boolean {
    return this.abort.signal.aborted;
  }

  private async open(): Promise<void> {
    const { locks } = navigator;
    // Without locks (an address that is not secure) every tab is its own.
    if (!locks) return this.hold();
    let shows: ReturnType<typeof setTimeout> | undefined;
    try {
      const held = locks.request(`apple-tick/${this.id}`, { signal: this.abort.signal }, () => {
        clearTimeout(shows);
        return this.hold();
      });
      // Whoever held it last may be letting go just now; a tab that stays is looked on at after this.
      shows = setTimeout(() => {
        if (!this.owner && !this.left) void this.load(true);
      }, LETTING_GO);
      await held;
    } catch {
      clearTimeout(shows);
      // The piece was left while it waited for the lock; or locks are denied, and it is held without.
      if (!this.left && !this.session) await this.hold();
    }
  }

  /** The piece is this tab's to change until it is left. */
  private async hold(): Promise<void> {
    if (this.left) return;
    const over = new Promise<void>((resolve) => {
      this.letGo = resolve;
    });
    this.owner = true;
    await this.load(false);
    await over;
  }

  private loads = 0;

  private async load(readOnly: boolean): Promise<void> {
    const mine = ++this.loads;
    const loaded = await loadPiece(this.id);
    // Reading a large piece and showing it are two stops of the page, not one.
    await new Promise((go) => setTimeout(go));
    // One begun before this tab became the owner may end after the owner's own.
    if (this.left || mine !== this.loads) return;
    this.session?.stopRun();
    if (!loaded.ok) {
      this.state.setState({ kind: 'closed', why: loaded.why, text: loaded.text }, true);
      return;
    }
    const session = new Session(loaded, readOnly, (state) => {
      if (state.kind === 'kept' && !this.left) this.news?.postMessage('kept' satisfies News);
      if (this.shown === 0 && state.kind !== 'waiting') void this.finish();
    });
    this.state.setState({ kind: 'open', session }, true);
  }

  private heard(news: News): void {
    if (!this.owner) void this.load(true);
    else if (this.session && news !== 'kept') this.session.keeper.setGone(news === 'deleted');
    else if (news === 'back') void this.load(false);
  }

  /** Loads the piece anew: it was put back. */
  again(): void {
    void this.load(!this.owner);
  }
}

import { compareSiblings, fillColor, type SceneObject } from '@apple-tick/core/model';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ChevronRight, Eye, EyeOff, Lock, LockOpen, LogIn } from 'lucide-react';
import { memo, useEffect, useRef, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { openTemplate } from '../../features/templates/edit.ts';
import { useIdleTable, useSession, useUi } from '../../session/hooks.ts';
import { isBare, type PieceStore } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { moveInTree, renameObject, stepInTree, topmost } from '../../session/things/arrange.ts';
import { IS_COARSE } from '../../ui/coarse.ts';
import { NameField } from '../../ui/NameField.tsx';
import type { Folding } from './folding.ts';

const ROW = IS_COARSE ? 32 : 25;

export interface TreeRow {
  o: SceneObject;
  depth: number;
}

/** All objects as rows, children below their parents. */
export function rowsOf(objects: readonly SceneObject[]): TreeRow[] {
  const children = new Map<string | null, SceneObject[]>();
  for (const o of objects) {
    const list = children.get(o.parent);
    if (list) list.push(o);
    else children.set(o.parent, [o]);
  }
  const rows: TreeRow[] = [];
  const visit = (parent: string | null, depth: number) => {
    for (const o of (children.get(parent) ?? []).sort(compareSiblings)) {
      rows.push({ o, depth });
      visit(o.id, depth + 1);
    }
  };
  visit(null, 1);
  return rows;
}

/** Where a dragged row would go: under `parent`, before `before` (null: last). */
export interface Drop {
  parent: string | null;
  before: string | null;
  /** For drawing: the row, and whether the line is above it, below it, or the row itself is meant. */
  row: number;
  where: 'above' | 'below' | 'in';
}

/** The drop at a height in the list: the upper and lower quarter of a row mean beside it, its middle means in it. */
function dropAt(rows: readonly TreeRow[], y: number): Drop | null {
  const row = Math.max(0, Math.min(rows.length - 1, Math.floor(y / ROW)));
  const r = rows[row];
  if (!r) return null;
  const part = y / ROW - row;
  if (part < 0.25) return { parent: r.o.parent, before: r.o.id, row, where: 'above' };
  // An instance holds what its template does, and nothing else.
  if (part <= 0.75 && r.o.kind !== 'instance') return { parent: r.o.id, before: null, row, where: 'in' };
  const next = rows[row + 1];
  // Below an open parent's row is before its first child.
  if (next && next.o.parent === r.o.id) return { parent: r.o.id, before: next.o.id, row, where: 'below' };
  const siblings = rows.filter((x) => x.o.parent === r.o.parent);
  const after = siblings[siblings.findIndex((x) => x.o.id === r.o.id) + 1];
  return { parent: r.o.parent, before: after?.o.id ?? null, row, where: 'below' };
}

/** From this many rows on only those near what is seen are made. */
const MANY_ROWS = 300;

/** The rows to make: all, or of very many those that are seen and some beyond. */
function useWindow(box: React.RefObject<HTMLElement | null>, count: number): [from: number, to: number] {
  const many = count > MANY_ROWS;
  const rows = useVirtualizer({
    count,
    enabled: many,
    getScrollElement: () => box.current?.closest<HTMLElement>('[data-scrolls]') ?? null,
    estimateSize: () => ROW,
    overscan: 20,
    scrollMargin: box.current?.offsetTop ?? 0,
  });
  if (!many) return [0, count];
  const seen = rows.getVirtualItems();
  return [seen[0]?.index ?? 0, (seen.at(-1)?.index ?? -1) + 1];
}

/** The tree of objects. `rows` may be filtered; then nothing is dragged, nor folded. */
export function Tree(props: Folding & { filtered: boolean }) {
  const { rows, folded, parents, filtered } = props;
  const s = useSession();
  const machines = useIdleTable('machines');
  const reactions = useIdleTable('reactions');
  const object = useUi((u) => u.object);
  const also = useUi((u) => u.also);
  const hidden = useUi((u) => u.hidden);
  const renaming = useUi((u) => u.renaming);
  const naming = useUi((u) => u.naming);
  const box = useRef<HTMLDivElement>(null);
  const [drop, setDrop] = useState<Drop | null>(null);
  const [from, to] = useWindow(box, rows.length);
  const lanes = new Map<string, number>();
  for (const m of machines) lanes.set(m.object, (lanes.get(m.object) ?? 0) + m.lanes.length);
  const reacts = new Map<string, number>();
  for (const r of reactions) reacts.set(r.object, (reacts.get(r.object) ?? 0) + 1);
  const chosen = new Set(also);
  const take = (e: React.PointerEvent, id: string) => {
    if (filtered || e.button !== 0 || e.shiftKey || e.ctrlKey || e.metaKey) return;
    const y0 = e.clientY;
    let now: Drop | null = null;
    const move = (ev: PointerEvent) => {
      if (!now && Math.abs(ev.clientY - y0) < 5) return;
      if (!s.chosen.includes(id)) s.select({ kind: 'object', id });
      now = dropAt(rows, ev.clientY - (box.current as HTMLElement).getBoundingClientRect().top);
      setDrop(now);
    };
    const stop = () => {
      removeEventListener('pointermove', move);
      removeEventListener('pointerup', stop);
      removeEventListener('keydown', cancel, true);
      if (now) moveInTree(s, inTreeOrder(rows, topmost(s)), now.parent, keepOut(rows, now, topmost(s)));
      setDrop(null);
    };
    const cancel = (ev: KeyboardEvent) => {
      if (ev.key !== 'Escape') return;
      now = null;
      ev.stopPropagation();
      stop();
    };
    addEventListener('pointermove', move);
    addEventListener('pointerup', stop);
    addEventListener('keydown', cancel, true);
  };
  const live = useRef({ rows, take, fold: props.fold });
  live.current = { rows, take, fold: props.fold };
  // Whatever is chosen elsewhere comes into sight here, too.
  useEffect(() => {
    const at = live.current.rows.findIndex((r) => r.o.id === object);
    const scroller = box.current?.closest<HTMLElement>('[data-scrolls]');
    if (at < 0 || !scroller || !box.current) return;
    const above = box.current.getBoundingClientRect().top - scroller.getBoundingClientRect().top;
    const top = scroller.scrollTop + above + at * ROW;
    const [from, to] = [scroller.scrollTop, scroller.scrollTop + scroller.clientHeight - ROW];
    if (top < from || top > to) scroller.scrollTo({ top: top - (scroller.clientHeight - ROW) / 2 });
  }, [object]);
  return (
    <div
      ref={box}
      role="tree"
      tabIndex={0}
      aria-label="Objects"
      aria-multiselectable="true"
      aria-activedescendant={object ? `tree-${object}` : undefined}
      className="relative select-none"
      onKeyDown={(e) => {
        if (onTreeKey(s, props, e)) {
          e.preventDefault();
          e.stopPropagation();
        }
      }}
    >
      <div style={{ height: from * ROW }} />
      {rows.slice(from, to).map(({ o, depth }) => (
        <Row
          key={o.id}
          o={o}
          depth={depth}
          chosen={o.id === object || chosen.has(o.id)}
          unseen={hidden.has(o.id)}
          open={filtered || !parents.has(o.id) ? null : !folded.has(o.id)}
          renaming={renaming === o.id}
          naming={naming === o.id}
          carries={carries(reacts.get(o.id) ?? 0, lanes.get(o.id) ?? 0)}
          live={live}
        />
      ))}
      <div style={{ height: (rows.length - to) * ROW }} />
      {drop && <DropMark drop={drop} />}
    </div>
  );
}

function carries(reactions: number, lanes: number): string {
  if (reactions > 0) return reactions === 1 ? '1 reaction' : `${reactions} reactions`;
  return lanes > 0 ? (lanes === 1 ? '1 lane' : `${lanes} lanes`) : '';
}

function inTreeOrder(rows: readonly TreeRow[], ids: readonly string[]): string[] {
  return rows.flatMap((r) => (ids.includes(r.o.id) ? [r.o.id] : []));
}

/** A drop before something that is itself dragged means before the next sibling that is not. */
function keepOut(rows: readonly TreeRow[], drop: Drop, dragged: readonly string[]): string | null {
  const siblings = rows.filter((r) => r.o.parent === drop.parent).map((r) => r.o.id);
  const at = drop.before === null ? siblings.length : siblings.indexOf(drop.before);
  return siblings.slice(at).find((id) => !dragged.includes(id)) ?? null;
}

function onTreeKey(s: Session, tree: Folding & { filtered: boolean }, e: React.KeyboardEvent): boolean {
  const { rows, folded, parents, filtered } = tree;
  const at = rows.findIndex((r) => r.o.id === s.state.object);
  const go = (to: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, to))];
    if (!next) return;
    if (e.shiftKey) s.selectMany([...s.chosen.filter((id) => id !== next.o.id), next.o.id]);
    else s.select({ kind: 'object', id: next.o.id });
    const row = document.getElementById(`tree-${next.o.id}`);
    if (row) row.scrollIntoView({ block: 'nearest' });
    // It is not made yet: scrolled near it, it will be.
    else
      (e.currentTarget as HTMLElement).closest('[data-scrolls]')?.scrollTo({ top: rows.indexOf(next) * ROW });
  };
  const canTurn = (id: string, fold: boolean) => parents.has(id) && folded.has(id) !== fold;
  const isBack = e.key === 'ArrowUp' || e.key === 'ArrowLeft' || e.key === 'Home';
  switch (localKey('tree', e)) {
    case 'step':
      stepInTree(s, isBack ? 'up' : 'down');
      return true;
    case 'parent':
      stepInTree(s, isBack ? 'out' : 'in');
      return true;
    case 'along':
      go(at + (isBack ? -1 : 1));
      return true;
    case 'fold':
      if (!filtered && at >= 0 && canTurn(rows[at]?.o.id as string, isBack))
        tree.fold(rows[at]?.o.id as string, isBack);
      else go(isBack ? rows.findIndex((r) => r.o.id === rows[at]?.o.parent) : at + 1);
      return true;
    case 'ends':
      go(isBack ? 0 : rows.length - 1);
      return true;
    default:
      return false;
  }
}

function toggleHidden(s: Session, id: string): void {
  const hidden = new Set(s.state.hidden);
  if (!hidden.delete(id)) hidden.add(id);
  s.set({ hidden });
}

function toggleLock(s: Session, id: string): void {
  const o = s.store.get('objects', id);
  if (!o) return;
  s.edit(`${o.locked ? 'Unlocked' : 'Locked'} ${o.name}`, (e) =>
    e.update('objects', id, (x) => ({ ...x, locked: !x.locked })),
  );
}

/** What draws nothing itself: a group, and one of several of a template. */
const SWATCHES: Partial<Record<SceneObject['kind'], string>> = {
  group: 'border-dashed border-ink-3',
  instance: 'border-ink-3 bg-card shadow-[2.5px_-2.5px_0_-0.5px_var(--brass)]',
};

const swatchOf = (o: SceneObject) =>
  isBare(o) ? undefined : (fillColor(o.base.fill) ?? fillColor(o.stroke?.color ?? 'none') ?? undefined);

const Row = memo(TreeItem);

interface TreeItemProps {
  o: SceneObject;
  depth: number;
  chosen: boolean;
  unseen: boolean;
  /** Whether what is below it is seen; null where there is nothing. */
  open: boolean | null;
  renaming: boolean;
  /** What is typed next is its name. */
  naming: boolean;
  carries: string;
  /** What changes with every render of the tree, so that a row that has not changed is not made again. */
  live: React.RefObject<{
    rows: readonly TreeRow[];
    take: (e: React.PointerEvent, id: string) => void;
    fold: Folding['fold'];
  }>;
}

function TreeItem(props: TreeItemProps) {
  const { o, depth, chosen, unseen, open, live } = props;
  const s = useSession();
  const choose = (e: React.MouseEvent) => {
    if (e.ctrlKey || e.metaKey) s.toggle(o.id);
    else if (e.shiftKey) s.selectMany(range(s.store, live.current.rows, s.state.object, o.id));
    else s.select({ kind: 'object', id: o.id });
  };
  const mark = (label: string, on: boolean, icon: React.ReactNode, click: () => void) => (
    <button
      type="button"
      tabIndex={-1}
      aria-label={`${label} ${o.name}`}
      className={`flex-none text-ink-2 ${on ? '' : 'hidden group-hover:block'}`}
      onClick={(e) => {
        e.stopPropagation();
        click();
      }}
    >
      {icon}
    </button>
  );
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the tree itself hears the keyboard
    // biome-ignore lint/a11y/useFocusableInteractive: the tree has the focus, as in the ARIA tree pattern
    <div
      id={`tree-${o.id}`}
      role="treeitem"
      aria-label={[o.name, props.carries, unseen ? 'hidden while working' : '', o.locked ? 'locked' : '']
        .filter((x) => x !== '')
        .join(', ')}
      aria-level={depth}
      aria-expanded={open ?? undefined}
      aria-selected={chosen}
      className={`group flex items-center gap-1.5 h-[25px] pr-2.5 border-l-[3px] cursor-default ${chosen ? 'bg-chosen border-brass' : 'border-transparent'}`}
      style={{ paddingLeft: 3 + (depth - 1) * 14 }}
      onClick={choose}
      onDoubleClick={() => !s.state.readOnly && s.set({ renaming: o.id })}
      onPointerDown={(e) => !props.renaming && live.current.take(e, o.id)}
    >
      {open === null ? (
        <span className="w-3.5 flex-none" />
      ) : (
        <button
          type="button"
          tabIndex={-1}
          aria-label={`${open ? 'Fold' : 'Unfold'} ${o.name}`}
          className="w-3.5 -mr-0.5 flex-none text-ink-3 hover:text-ink"
          onPointerDown={(e) => e.stopPropagation()}
          onDoubleClick={(e) => e.stopPropagation()}
          onClick={(e) => {
            e.stopPropagation();
            live.current.fold(o.id, open, e.shiftKey);
          }}
        >
          <ChevronRight size={13} className={open ? 'rotate-90' : ''} />
        </button>
      )}
      <span
        className={`w-3.5 h-3.5 rounded-[4px] border flex-none ${SWATCHES[o.kind] ?? 'border-black/15'}`}
        style={{ background: swatchOf(o) }}
      />
      {props.renaming ? (
        <NameField
          name={o.name}
          onName={(name) => renameObject(s, o.id, name)}
          onDone={() => document.querySelector<HTMLElement>('[role="tree"]')?.focus()}
        />
      ) : (
        <span
          className={`truncate flex-1 ${unseen ? 'text-ink-3 line-through' : ''} ${props.naming ? 'bg-brass/20 underline decoration-brass decoration-2 underline-offset-4' : ''}`}
          title={props.naming ? 'Type its name' : undefined}
        >
          {o.name}
        </span>
      )}
      <span className="text-ink-2 text-[11px] whitespace-nowrap group-hover:hidden">{props.carries}</span>
      {o.kind === 'instance' &&
        mark('Open', false, <LogIn size={13} />, () => {
          openTemplate(s, o.id);
        })}
      {mark(
        o.locked ? 'Unlock' : 'Lock',
        o.locked ?? false,
        o.locked ? <Lock size={12} /> : <LockOpen size={12} />,
        () => toggleLock(s, o.id),
      )}
      {mark(
        unseen ? 'Show while working' : 'Hide while working',
        unseen,
        unseen ? <EyeOff size={13} /> : <Eye size={13} />,
        () => toggleHidden(s, o.id),
      )}
    </div>
  );
}

/** All rows between two objects, the second last. */
function range(store: PieceStore, rows: readonly TreeRow[], from: string | null, to: string): string[] {
  const a = rows.findIndex((r) => r.o.id === from && store.has('objects', r.o.id));
  const b = rows.findIndex((r) => r.o.id === to);
  if (a < 0) return [to];
  const ids = rows.slice(Math.min(a, b), Math.max(a, b) + 1).map((r) => r.o.id);
  return b < a ? ids.reverse() : ids;
}

/** Where what is dragged would come to lie: in a row, or between two. */
function DropMark({ drop }: { drop: Drop }) {
  return (
    <div
      className={`absolute left-1 right-1 pointer-events-none ${drop.where === 'in' ? 'border-2 border-brass rounded' : 'h-[3px] bg-brass'}`}
      style={
        drop.where === 'in'
          ? { top: drop.row * ROW, height: ROW }
          : { top: (drop.row + (drop.where === 'below' ? 1 : 0)) * ROW - 1 }
      }
    />
  );
}

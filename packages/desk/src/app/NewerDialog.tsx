import { hexToOklab } from '@apple-tick/core/base';
import { isUsual, type NewerRow, takeNewer } from '@apple-tick/core/formats';
import { Editor, fillColor, type Piece, PieceStore } from '@apple-tick/core/model';
import { Dialog } from 'radix-ui';
import { useMemo, useRef, useState } from 'react';
import { useSession } from '../session/hooks.ts';
import { nameOf } from '../session/words/words.ts';
import { DialogBox } from '../ui/DialogBox.tsx';
import { PieceThumb } from '../ui/PieceThumb.tsx';
import { type Mark, partFor } from '../ui/thumbs.ts';
import type { Asked } from './use-bring-in.ts';

const KINDS: Record<NewerRow['kind'], { words: string; color: string }> = {
  new: { words: 'new', color: 'var(--leaf)' },
  gone: { words: 'gone', color: 'var(--apple)' },
  changed: { words: 'changed', color: 'var(--brass)' },
  moved: { words: 'moved', color: 'var(--brass)' },
  back: { words: 'taken out here', color: 'var(--ink-2)' },
};

/** What fields are called; one that is not here is called as it is. */
const FIELDS: Record<string, string> = {
  drawing: 'drawing',
  'base.position': 'place',
  'base.rotation': 'turn',
  'base.shown': 'visible',
  fillOpacity: 'opacity of the fill',
  parent: 'what it lies in',
};
const fieldWords = (fields: readonly string[]) =>
  [...new Set(fields.map((f) => FIELDS[f] ?? f.replace('base.', '')))].join(', ');

/** A newer version of a drawing beside what is there: what it brings, changes and takes away, each to be left as it is. */
export function NewerDialog(props: {
  asked: Asked;
  onTake: (left: ReadonlySet<string>) => void;
  onBeside: () => void;
  onClose: () => void;
}) {
  const { plan, coming } = props.asked;
  const s = useSession();
  const [left, setLeft] = useState<ReadonlySet<string>>(
    () => new Set(plan.rows.filter((r) => !isUsual(r)).map((r) => r.id)),
  );
  const replace = useRef<HTMLButtonElement>(null);
  const [pointed, setPointed] = useState<string | null>(null);
  const whole = useMemo(() => s.piece(), [s]);
  const { scope } = s.store;
  const now = useMemo(() => inScope(whole, scope), [whole, scope]);
  const after = useMemo(() => inScope(tried(whole, scope, plan, left), scope), [whole, scope, plan, left]);
  const marks = useMemo(
    () =>
      plan.rows
        .filter((r) => (pointed === null ? !left.has(r.id) : r.id === pointed))
        .map((r): Mark => ({ id: r.id, color: resolved(KINDS[r.kind].color), isStrong: r.id === pointed })),
    [plan, left, pointed],
  );
  const put = (id: string, isTaken: boolean) =>
    setLeft((was) => {
      const to = new Set(was);
      if (isTaken) to.delete(id);
      else to.add(id);
      return to;
    });
  const taken = plan.rows.length - left.size;
  return (
    <DialogBox
      title={`A newer version of ${nameOf(s.store, plan.root)}`}
      className="top-[7%] w-[780px] max-h-[86vh] flex flex-col"
      first={replace}
      onClose={props.onClose}
    >
      <p className="text-ink-2 mb-3">
        {coming.file.name}. Keys, pivots, reactions and what you changed here stay.
      </p>
      <div className="grid grid-cols-2 gap-4 mb-3">
        <Side title="As it is" piece={now} beside={after} root={plan.root} marks={marks} />
        <Side title="With the newer file" piece={after} beside={now} root={plan.root} marks={marks} />
      </div>
      <ul className="overflow-auto min-h-0 border-t border-line" aria-label="What differs">
        {plan.rows.map((r) => (
          <RowOf
            key={r.id}
            row={r}
            isTaken={!left.has(r.id)}
            isPointed={pointed === r.id}
            onPut={(isTaken) => put(r.id, isTaken)}
            onPoint={(on) => setPointed(on ? r.id : null)}
          />
        ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className="btn">Cancel</Dialog.Close>
        {coming.said === undefined && (
          <button type="button" className="btn" onClick={props.onBeside}>
            Bring it in beside
          </button>
        )}
        <button
          ref={replace}
          type="button"
          className="btn btn-ink"
          disabled={taken === 0}
          onClick={() => props.onTake(left)}
        >
          Replace
        </button>
      </div>
    </DialogBox>
  );
}

function RowOf(props: {
  row: NewerRow;
  isTaken: boolean;
  isPointed: boolean;
  onPut: (isTaken: boolean) => void;
  /** The pointer or the focus has come to it, or left it. */
  onPoint: (on: boolean) => void;
}) {
  const { row, onPoint } = props;
  const { words, color } = KINDS[row.kind];
  return (
    <li
      className={`border-b border-line ${props.isPointed ? 'bg-chosen' : ''}`}
      onPointerEnter={() => onPoint(true)}
      onPointerLeave={() => onPoint(false)}
    >
      <label className="flex items-center gap-2 px-1 py-1.5">
        <input
          type="checkbox"
          checked={props.isTaken}
          disabled={row.kind === 'changed' && row.fields.length === 0}
          onChange={(e) => props.onPut(e.target.checked)}
          onFocus={() => onPoint(true)}
          onBlur={() => onPoint(false)}
        />
        <span className="w-[180px] truncate" title={row.name}>
          {row.name}
        </span>
        <span className="w-[110px] flex items-center gap-1.5">
          <i aria-hidden="true" className="w-2 h-2 rounded-full flex-none" style={{ background: color }} />
          {words}
        </span>
        <span className="flex-1 text-ink-2">{rowWords(row)}</span>
      </label>
    </li>
  );
}

function rowWords(r: NewerRow): string {
  if (r.kind === 'gone')
    return r.isNeeded ? 'has keys, reactions or things of yours: it stays unless ticked' : '';
  const follows = fieldWords(r.fields);
  const own = r.own.length > 0 ? `yours stays: ${fieldWords(r.own)}` : '';
  return [follows, own].filter((x) => x !== '').join(' · ');
}

function Side(props: { title: string; piece: Piece; beside: Piece; root: string; marks: readonly Mark[] }) {
  const { piece, beside, root, marks } = props;
  const isLost = useMemo(() => {
    const ground = lightnessOf(resolved('var(--ground)'));
    const own = lightness(partFor(piece, root, null));
    return own !== null && Math.abs(own - ground) < LEAST;
  }, [piece, root]);
  return (
    <figure>
      <figcaption className="mb-1">{props.title}</figcaption>
      <div className={`border border-line rounded-md p-1 ${isLost ? 'bg-ink-2' : 'bg-ground'}`}>
        <PieceThumb piece={piece} beside={beside} width={350} height={220} only={root} marks={marks} fills />
      </div>
    </figure>
  );
}

/** How much lighter or darker than its ground a drawing has to be so that it is seen. */
const LEAST = 0.15;

const lab = new Float64Array(3);
/** 0 to 1: the L of OKLab. */
function lightnessOf(color: string): number {
  hexToOklab(color, lab, 0);
  return lab[0] as number;
}

/** How light what is drawn is on the whole; null where it is not drawn in colours. */
function lightness(piece: Piece): number | null {
  const all = Object.values(piece.objects).flatMap((o) => {
    if (o.kind === 'group' || o.kind === 'image' || !o.base.shown) return [];
    const colors = [fillColor(o.base.fill), o.stroke ? fillColor(o.stroke.color) : null];
    return colors.flatMap((c) => (c === null ? [] : [lightnessOf(c)]));
  });
  return all.length === 0 ? null : all.reduce((sum, n) => sum + n, 0) / all.length;
}

/** What lies in a template as the objects of a piece. */
function inScope(piece: Piece, scope: string | null): Piece {
  const template = scope === null ? undefined : piece.templates[scope];
  return template ? { ...piece, objects: template.objects } : piece;
}

/** The piece as it would be. */
function tried(piece: Piece, scope: string | null, plan: Asked['plan'], left: ReadonlySet<string>): Piece {
  const store = new PieceStore(piece);
  store.enter(scope);
  takeNewer(new Editor(store), plan, left);
  return store.toPiece();
}

/** A colour variable as a canvas away from the page can use it. */
const resolved = (color: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(color.slice(4, -1)).trim();

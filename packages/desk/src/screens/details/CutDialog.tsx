import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { type Cut, cellsOf, cutIntoLooks, cutIntoParts, pictureOf } from '../../session/things/cut.ts';
import { type Opacity, partsIn, tightened } from '../../session/things/find-parts.ts';
import { track } from '../../session/view/drag-gesture.ts';
import { DialogBox } from '../../ui/DialogBox.tsx';
import { NumberField, Pick } from '../../ui/fields.tsx';

/** Room for the picture, px of the screen. */
const [WIDE, HIGH] = [620, 400];
/** Px a side that are looked at for parts: of larger pictures each stands for several. */
const FINEST = 2048;
/** Px of the screen that a press has to be dragged to draw a rectangle. */
const DRAWN = 4;
const MOST = 200;

const WAYS = [
  ['parts', 'a group of parts, each where it is'],
  ['looks', 'looks of one picture'],
  ['clip', 'looks, and a clip that shows them in turn'],
] as const;
type Way = (typeof WAYS)[number][0];

/** Rectangles on a picture, drawn by hand, found by what is clear, or equal cells; and what is made of them. */
export function CutDialog({ object, onClose }: { object: string; onClose: () => void }) {
  const s = useSession();
  const picture = pictureOf(s, object);
  const [cuts, setCuts] = useState<readonly Cut[]>([]);
  const [leftOut, setLeftOut] = useState(0);
  const [chosen, setChosen] = useState<number | null>(null);
  const [way, setWay] = useState<Way>('parts');
  const [rate, setRate] = useState(12);
  const bitmap = picture ? s.pictures(picture.asset.id) : undefined;
  const seen = useMemo(() => (bitmap ? opacityOf(bitmap) : null), [bitmap]);
  if (!picture || !bitmap || !seen) return null;
  const { o, area } = picture;
  /** At most so many: what is beyond them is told. */
  const put = (all: readonly Cut[]) => {
    setCuts(all.slice(0, MOST));
    setLeftOut(Math.max(0, all.length - MOST));
    setChosen(null);
  };
  const find = () =>
    put(
      partsIn(seen.opacity)
        .map((c) => c.map((n) => n * seen.by) as unknown as Cut)
        .filter((c) => isIn(c, area)),
    );
  const take = (k: number) => {
    put(cuts.filter((_, i) => i !== k));
  };
  return (
    <DialogBox
      title={`Cut ${o.name}`}
      className="top-[6%] w-[680px] max-h-[88vh] overflow-auto"
      onClose={onClose}
    >
      <p className="text-ink-2 mb-2">
        Drag round each part: what you draw fits itself to the part. Hold Alt to keep it as drawn. Delete
        takes one away.
      </p>
      <Board
        bitmap={bitmap}
        area={area}
        cuts={cuts}
        chosen={chosen}
        onChoose={setChosen}
        onDraw={(cut, isKept) => {
          const small = seen.by === 1 && !isKept ? within(tightened(seen.opacity, cut), area) : cut;
          if (!cuts.some((c) => c.join() === small.join())) put([...cuts, small]);
        }}
        onTake={take}
      />
      <Tools onFind={find} onCells={(columns, rows) => put(cellsOf(area, columns, rows))} />
      <div className="flex items-center gap-2 mt-2">
        <span>Make</span>
        <Pick label="What is made" value={way} options={WAYS} onChange={(v) => setWay(v as Way)} />
        {way === 'clip' && (
          <span className="flex items-center gap-1.5 w-[170px]">
            <NumberField
              label="Pictures a second"
              value={rate}
              least={1}
              most={60}
              onChange={(n) => setRate(n)}
            />
            a second
          </span>
        )}
      </div>
      <div className="mt-4 flex items-center justify-end gap-2">
        <output className="flex-1 text-ink-2">
          {cuts.length === 0 ? 'No parts yet' : cuts.length === 1 ? 'One part' : `${cuts.length} parts`}
          {leftOut > 0 && `, ${leftOut} more than can be cut at once are left out`}
        </output>
        <Dialog.Close className="btn">Cancel</Dialog.Close>
        <button
          type="button"
          className="btn btn-ink"
          disabled={cuts.length === 0}
          onClick={() => {
            onClose();
            if (way === 'parts') cutIntoParts(s, object, cuts);
            else cutIntoLooks(s, object, cuts, way === 'clip' ? rate : null);
          }}
        >
          Cut
        </button>
      </div>
    </DialogBox>
  );
}

/** The ways to make many rectangles at once. */
function Tools(props: { onFind: () => void; onCells: (columns: number, rows: number) => void }) {
  const [grid, setGrid] = useState({ columns: 4, rows: 1 });
  return (
    <div className="flex items-center gap-2 mt-3">
      <button type="button" className="btn" onClick={props.onFind}>
        Find the parts
      </button>
      <span className="flex-1" />
      <NumberField
        label="Columns"
        axis="across"
        value={grid.columns}
        onChange={(n) => setGrid({ ...grid, columns: Math.max(1, Math.min(50, Math.round(n))) })}
      />
      ×
      <NumberField
        label="Rows"
        axis="down"
        value={grid.rows}
        onChange={(n) => setGrid({ ...grid, rows: Math.max(1, Math.min(50, Math.round(n))) })}
      />
      <button type="button" className="btn" onClick={() => props.onCells(grid.columns, grid.rows)}>
        Equal cells
      </button>
    </div>
  );
}

/** The picture with its rectangles, of which one may be chosen. */
function Board(props: {
  bitmap: ImageBitmap;
  area: Cut;
  cuts: readonly Cut[];
  chosen: number | null;
  onChoose: (k: number | null) => void;
  /** `isKept`: it is to stay as it is drawn. */
  onDraw: (cut: Cut, isKept: boolean) => void;
  onTake: (k: number) => void;
}) {
  const { bitmap, area, cuts, chosen } = props;
  const [ax, ay, aw, ah] = area;
  const k = Math.min(WIDE / aw, HIGH / ah, 8);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [drawing, setDrawing] = useState<Cut | null>(null);
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    ctx.clearRect(0, 0, ctx.canvas.width, ctx.canvas.height);
    ctx.imageSmoothingEnabled = k < 2;
    ctx.drawImage(bitmap, ax, ay, aw, ah, 0, 0, aw * k, ah * k);
  }, [bitmap, ax, ay, aw, ah, k]);
  const press = (e: React.PointerEvent<SVGSVGElement>) => {
    if (e.button !== 0) return;
    const box = e.currentTarget.getBoundingClientRect();
    const from = [e.clientX - box.left, e.clientY - box.top] as const;
    props.onChoose(null);
    let drawn: Cut | null = null;
    let isKept = false;
    track(
      (ev) => {
        const to = [ev.clientX - box.left, ev.clientY - box.top] as const;
        if (Math.hypot(to[0] - from[0], to[1] - from[1]) < DRAWN) return;
        const at = (i: 0 | 1) => [Math.min(from[i], to[i]) / k, Math.abs(to[i] - from[i]) / k] as const;
        const [x, w] = at(0);
        const [y, h] = at(1);
        drawn = within([Math.round(ax + x), Math.round(ay + y), Math.round(w), Math.round(h)], area);
        isKept = ev.altKey;
        setDrawing(drawn);
      },
      () => {
        setDrawing(null);
        if (drawn && drawn[2] >= 1 && drawn[3] >= 1) props.onDraw(drawn, isKept);
      },
    );
  };
  const shown = ([x, y, w, h]: Cut) => ({ x: (x - ax) * k, y: (y - ay) * k, width: w * k, height: h * k });
  return (
    <div className="grid place-items-center bg-ground border border-line rounded-md p-1 min-h-[120px]">
      <div className="relative" style={{ width: aw * k, height: ah * k }}>
        <canvas ref={canvas} width={aw * k} height={ah * k} aria-hidden="true" />
        <svg
          className="absolute inset-0 touch-none cursor-crosshair"
          width={aw * k}
          height={ah * k}
          data-board
          onPointerDown={press}
        >
          {cuts.map((cut, i) => (
            <g key={cut.join()}>
              <rect
                {...shown(cut)}
                role="button"
                tabIndex={0}
                aria-label={`Part ${i + 1}`}
                aria-pressed={chosen === i}
                fill="var(--sky)"
                fillOpacity={chosen === i ? 0.35 : 0.12}
                stroke={chosen === i ? 'var(--brass)' : 'var(--sky)'}
                strokeWidth={chosen === i ? 2.5 : 1.5}
                onPointerDown={(e) => {
                  e.stopPropagation();
                  props.onChoose(i);
                }}
                onFocus={() => props.onChoose(i)}
                onKeyDown={(e) => {
                  if (e.key !== 'Delete' && e.key !== 'Backspace') return;
                  e.preventDefault();
                  // The part is gone before the page hears the key, which would then mean the picture.
                  e.stopPropagation();
                  props.onTake(i);
                }}
              />
            </g>
          ))}
          {drawing && (
            <rect
              {...shown(drawing)}
              fill="none"
              stroke="var(--brass)"
              strokeWidth="1.5"
              strokeDasharray="4 3"
            />
          )}
        </svg>
      </div>
    </div>
  );
}

/** How opaque a picture is, each px standing for `by` of its own in both directions. */
function opacityOf(bitmap: ImageBitmap): { opacity: Opacity; by: number } | null {
  const by = Math.max(1, Math.ceil(Math.max(bitmap.width, bitmap.height) / FINEST));
  const [width, height] = [Math.floor(bitmap.width / by), Math.floor(bitmap.height / by)];
  const ctx = new OffscreenCanvas(Math.max(1, width), Math.max(1, height)).getContext('2d');
  if (!ctx) return null;
  ctx.drawImage(bitmap, 0, 0, width * by, height * by, 0, 0, width, height);
  const { data } = ctx.getImageData(0, 0, Math.max(1, width), Math.max(1, height));
  const alpha = new Uint8Array(width * height);
  for (let i = 0; i < alpha.length; i++) alpha[i] = data[4 * i + 3] as number;
  return { opacity: { width, height, alpha }, by };
}

const isIn = (c: Cut, [x, y, w, h]: Cut) =>
  c[0] >= x && c[1] >= y && c[0] + c[2] <= x + w && c[1] + c[3] <= y + h;

/** What of a rectangle lies in another one. */
function within([x, y, w, h]: Cut, [ax, ay, aw, ah]: Cut): Cut {
  const [x0, y0] = [Math.max(ax, Math.min(ax + aw, x)), Math.max(ay, Math.min(ay + ah, y))];
  const [x1, y1] = [Math.max(ax, Math.min(ax + aw, x + w)), Math.max(ay, Math.min(ay + ah, y + h))];
  return [x0, y0, x1 - x0, y1 - y0];
}

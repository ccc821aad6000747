import { emptyPiece, type Piece } from '@apple-tick/core/model';
import { wrap } from 'comlink';
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { DialogBox } from '../ui/DialogBox.tsx';
import type { Reader, ReadJob, ReadThings } from '../ui/import-worker.ts';
import { PieceThumb } from '../ui/PieceThumb.tsx';
import { finished } from './bring-in.ts';

/** Triangles that can be drawn of one model, and the fewest that are offered. */
const MOST = 4000;
const FEWEST = 200;
/** Ms that the slider has to rest before the model is made anew. */
const RESTS = 150;
/** Seen a little from the side and from above. */
const VIEW = { azimuth: 30, elevation: 18 };

/** A model that has more triangles than can be drawn: how many it is to have. */
export function FinenessDialog(props: {
  job: Extract<ReadJob, { as: 'things' }>;
  things: ReadThings;
  onTake: (things: ReadThings) => void;
  onClose: () => void;
}) {
  const { job } = props;
  const [things, setThings] = useState(props.things);
  const [faces, setFaces] = useState(MOST);
  const take = useRef<HTMLButtonElement>(null);
  const made = useRef(MOST);
  useEffect(() => {
    if (faces === made.current) return;
    const worker = new Worker(new URL('../ui/import-worker.ts', import.meta.url), { type: 'module' });
    const timer = setTimeout(async () => {
      const reader = wrap<Reader>(worker);
      const read = await reader.read({ ...job, faces });
      const whole = read.ok && 'objects' in read.value ? await finished(read.value, reader) : null;
      // What cannot be so simple stays as it was made last.
      if (!whole?.ok) return;
      made.current = faces;
      setThings(whole.value);
    }, RESTS);
    return () => {
      clearTimeout(timer);
      worker.terminate();
    };
  }, [job, faces]);
  const piece = useMemo(() => pieceOf(things), [things]);
  const number = (n: number | undefined) => (n ?? 0).toLocaleString('en');
  return (
    <DialogBox
      title={`${job.file.name} is finer than can be drawn`}
      className="top-[12%] w-[520px]"
      first={take}
      onClose={props.onClose}
    >
      <p className="text-ink-2 mb-3">
        It has {number(things.faces?.had)} triangles; at most {number(MOST)} can be drawn. Fewer are quicker.
      </p>
      <div className="border border-line rounded-md bg-ground p-1">
        <PieceThumb piece={piece} width={460} height={260} only={things.objects[0]?.id ?? ''} fills />
      </div>
      <label className="flex items-center gap-3 mt-3">
        Triangles
        <input
          type="range"
          className="flex-1 accent-[var(--brass)]"
          min={FEWEST}
          max={MOST}
          step={100}
          value={faces}
          aria-valuetext={`${number(faces)} triangles`}
          onChange={(e) => setFaces(Number(e.target.value))}
        />
        <output className="num w-14 text-right">{number(things.faces?.has)}</output>
      </label>
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className="btn">Cancel</Dialog.Close>
        <button ref={take} type="button" className="btn btn-ink" onClick={() => props.onTake(things)}>
          Bring it in
        </button>
      </div>
    </DialogBox>
  );
}

function pieceOf({ objects, assets }: ReadThings): Piece {
  return {
    ...emptyPiece('shown', 'Shown'),
    view: VIEW,
    objects: Object.fromEntries(objects.map((o) => [o.id, o])),
    assets: Object.fromEntries(assets.map((a) => [a.id, a])),
  };
}

import { type Clip, clipOnto, partsAt, partsOfClip } from '@apple-tick/core/model';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { useSession } from '../session/hooks.ts';
import { addClipOnto } from '../session/motion/clips.ts';
import type { Session } from '../session/session.ts';
import { nameOf } from '../session/words/words.ts';
import { DialogBox } from './DialogBox.tsx';
import { type Option, Pick } from './fields.tsx';

/** Makes a clip for another object: its parts are found by name, and what is not found is matched here by hand. */
export function OntoDialog(props: {
  clip: Clip;
  to?: string;
  onClose: () => void;
  onDone?: (clip: string) => void;
}) {
  const { clip, onClose } = props;
  const s = useSession();
  const [to, setTo] = useState(props.to ?? '');
  const [byHand, setByHand] = useState<ReadonlyMap<string, string>>(new Map());
  const found = to === '' ? null : partsAt(s.store.all('objects'), clip, to);
  const parts = new Map<string, string | null>(
    partsOfClip(clip).map((p) => [p, byHand.get(p) ?? found?.get(p) ?? null]),
  );
  const missing = [...parts.values()].filter((x) => x === null).length;
  const made = clipOnto(clip, to, parts);
  const below = to === '' ? [] : subtree(s, to);
  return (
    <DialogBox
      title={`${clip.name} of ${nameOf(s.store, clip.root)}, for another object`}
      className="top-[12%] w-[460px] max-h-[76vh] flex flex-col"
      onClose={onClose}
    >
      <div className="flex items-center gap-2 pb-3">
        <span className="w-40">For</span>
        <Pick
          label="Object that it is made for"
          value={to}
          options={[['', 'choose an object'], ...roots(s, clip.root).map((o): Option => [o.id, o.name])]}
          onChange={(id) => {
            setTo(id);
            setByHand(new Map());
          }}
        />
      </div>
      {found && (
        <>
          <p className="text-ink-2 pb-1.5">
            {missing === 0
              ? 'Everything that it moves is there, by its name.'
              : `${missing === 1 ? 'One thing that it moves is' : `${missing} things that it moves are`} not there by that name: choose what stands for ${missing === 1 ? 'it' : 'them'}, or leave ${missing === 1 ? 'it' : 'them'} out.`}
          </p>
          <ul className="overflow-auto space-y-1" aria-label="Parts">
            {[...parts].map(([part, at]) => (
              <li key={part} className="flex items-center gap-2">
                <span className="w-40 truncate">{nameOf(s.store, part)}</span>
                <Pick
                  label={`What stands for ${nameOf(s.store, part)}`}
                  value={at ?? ''}
                  options={[['', 'left out'], ...below]}
                  onChange={(id) => setByHand(new Map([...byHand, [part, id]]))}
                />
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className="btn">Cancel</Dialog.Close>
        <button
          type="button"
          className="btn"
          disabled={to === '' || made.tracks.length === 0}
          onClick={() => {
            const id = addClipOnto(s, made);
            onClose();
            props.onDone?.(id);
          }}
        >
          Make the clip
        </button>
      </div>
    </DialogBox>
  );
}

/** What a clip can be made for: what carries others, then everything else; not what it is made for already. */
function roots(s: Session, not: string): { id: string; name: string }[] {
  const carriers = new Set(s.store.all('objects').map((o) => o.parent));
  const all = s.store.all('objects').filter((o) => o.id !== not);
  return [...all.filter((o) => carriers.has(o.id)), ...all.filter((o) => !carriers.has(o.id))];
}

/** The object and all below it, each set in by its depth. */
function subtree(s: Session, root: string): Option[] {
  const children = new Map<string | null, string[]>();
  for (const o of s.store.all('objects')) children.set(o.parent, [...(children.get(o.parent) ?? []), o.id]);
  const out: Option[] = [];
  const walk = (id: string, depth: number) => {
    out.push([id, `${'\u2003'.repeat(depth)}${nameOf(s.store, id)}`]);
    for (const child of children.get(id) ?? []) walk(child, depth + 1);
  };
  walk(root, 0);
  return out;
}

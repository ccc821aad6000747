import {
  ANCHORS,
  type Mask,
  type Overlay,
  type SceneObject,
  sizeOf,
  subtreeOf,
} from '@apple-tick/core/model';
import { useIdleTable, useSession } from '../../session/hooks.ts';
import type { PieceStore } from '../../session/model-help.ts';
import { chosenWords } from '../../session/things/arrange.ts';
import { beside, keptAt, nearestAnchor } from '../../session/things/overlay.ts';
import { nameOf } from '../../session/words/words.ts';
import { NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { Section } from '../../ui/Section.tsx';

/** How opaque a picture must be where it is a window, before anybody says otherwise. */
const HALF = 0.5;
/** Stands for the object itself in the list of windows. */
const OWN = '(own)';
const MIXED = '(mixed)';

/** The window that hides parts: another object's outline, seen through or cut out, or a picture's own opaque part. */
export function MaskDetails({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const all = useIdleTable('objects');
  const own = new Set(objects.flatMap((o) => [...subtreeOf(s.store, o.id)]));
  const ids = objects.map((o) => o.id);
  const words = chosenWords(s, ids);
  const mixed = objects.some(
    (o) => JSON.stringify(o.mask ?? null) !== JSON.stringify(objects[0]?.mask ?? null),
  );
  const mask = mixed ? null : (objects[0]?.mask ?? null);
  const other = mask && 'by' in mask ? mask : null;
  const set = (to: Mask | null) =>
    s.edit(to ? `Masked ${words}` : `Took the mask off ${words}`, (e) => {
      for (const id of ids) e.update('objects', id, (o) => ({ ...o, mask: to }));
    });
  const pictures = other !== null && showsPictures(s.store, other.by);
  const pick = (v: string) => {
    if (v === MIXED) return;
    if (v === '') return set(null);
    if (v === OWN) return set({ alpha: mask?.alpha ?? HALF });
    const [side, by] = v.split(' ') as ['inside' | 'outside', string];
    set({
      ...{ by, side },
      ...(mask?.alpha !== undefined && showsPictures(s.store, by) ? { alpha: mask.alpha } : {}),
    });
  };
  const windows = all.filter((o) => !own.has(o.id));
  const only = (side: 'inside' | 'outside') => ({
    group: `Only ${side}`,
    options: windows.map((o): Option => [`${side} ${o.id}`, `only ${side} ${o.name}`]),
  });
  return (
    <Section
      title="Mask"
      note={
        other ? `by ${nameOf(s.store, other.by)}` : mask ? 'where it is opaque' : mixed ? 'several' : 'none'
      }
      open={mask !== null}
    >
      <div className="sentence flex flex-wrap gap-x-1 items-center">
        shows
        <Pick
          label="Mask"
          value={other ? `${other.side} ${other.by}` : mask ? OWN : mixed ? MIXED : ''}
          options={[
            ...(mixed ? [[MIXED, 'as each says'] as Option] : []),
            ['', 'everywhere'],
            ...(objects.every((o) => o.kind === 'image') ? [[OWN, 'only where it is opaque'] as Option] : []),
            only('inside'),
            only('outside'),
          ]}
          onChange={pick}
        />
      </div>
      {pictures && other && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={other.alpha !== undefined}
            onChange={(e) =>
              set({ by: other.by, side: other.side, ...(e.target.checked ? { alpha: HALF } : {}) })
            }
          />
          where its picture is opaque
        </label>
      )}
      {mask?.alpha !== undefined && (
        <Row title="At least">
          <NumberField
            label="Per cent opaque"
            unit="%"
            value={Math.round(mask.alpha * 100)}
            onChange={(n) => set({ ...mask, alpha: Math.max(1, Math.min(100, n)) / 100 })}
          />
        </Row>
      )}
      {mask && (
        <p className="text-ink-2">
          {other ? 'The window works by its outline, shown or not. ' : ''}What is masked away cannot be
          clicked.
        </p>
      )}
    </Section>
  );
}

/** Whether the object or something below it is a picture. */
function showsPictures(store: PieceStore, id: string): boolean {
  return [...subtreeOf(store, id)].some((x) => store.get('objects', x)?.kind === 'image');
}

/** Fixed to the frame: an anchor of nine, and how far from it. */
export function OverlayDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const overlay = object.overlay ?? null;
  const set = (to: Overlay | null) =>
    s.edit(to ? `Fixed ${object.name} to the frame` : `Let ${object.name} go from the frame`, (e) =>
      e.update('objects', object.id, (o) => ({ ...o, overlay: to })),
    );
  const pair = (
    title: string,
    label: string,
    value: readonly [number, number],
    change: (v: [number, number]) => void,
  ) => (
    <Row title={title}>
      {(['x', 'y'] as const).map((axis, k) => (
        <NumberField
          key={axis}
          axis={axis}
          label={`${label} ${axis}`}
          value={value[k] as number}
          onChange={(n) => change(k === 0 ? [n, value[1]] : [value[0], n])}
        />
      ))}
    </Row>
  );
  return (
    <Section title="On top" note={overlay ? overlay.anchor : 'no'} open={overlay !== null}>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={overlay !== null}
          onChange={(e) => set(e.target.checked ? keptAt(s, object, nearestAnchor(s, object)) : null)}
        />
        fixed to the frame
      </label>
      {overlay && (
        <>
          <div className="flex gap-3 items-start">
            <span className="w-16 flex-none">Anchor</span>
            <fieldset className="grid grid-cols-3 border border-line rounded-md p-1" aria-label="Anchor">
              {ANCHORS.map((a) => (
                <button
                  key={a}
                  type="button"
                  className="w-7 h-5 grid place-items-center"
                  aria-label={`Anchor ${a}`}
                  aria-pressed={overlay.anchor === a}
                  onClick={() => set(keptAt(s, object, a))}
                >
                  <span
                    className={`rounded-full ${overlay.anchor === a ? 'w-2.5 h-2.5 bg-brass' : 'w-1.5 h-1.5 bg-ink-3'}`}
                  />
                </button>
              ))}
            </fieldset>
          </div>
          {pair('Offset', 'Offset', overlay.offset, (offset) => set({ ...overlay, offset }))}
          {pair('% of own', 'Per cent of own size', overlay.ofOwn, (ofOwn) => set({ ...overlay, ofOwn }))}
          <div className="flex gap-1.5 flex-wrap">
            <button
              type="button"
              className="btn"
              onClick={() => set(beside(object, overlay.anchor, 'inside'))}
            >
              Just inside the edge
            </button>
            <button
              type="button"
              className="btn"
              onClick={() => set(beside(object, overlay.anchor, 'outside'))}
            >
              Just outside
            </button>
          </div>
        </>
      )}
    </Section>
  );
}

/** Where it can be clicked, when that is not where it is drawn. */
export function HitDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const hit = object.hitShape ?? null;
  const set = (to: SceneObject['hitShape']) =>
    s.edit(`Changed where ${object.name} is clicked`, (e) =>
      e.update('objects', object.id, (o) => ({ ...o, hitShape: to })),
    );
  const [w, h] = sizeOf(object);
  const roomy = (n: number) => Math.round(Math.max(40, n * 1.3));
  return (
    <Section
      title="Hit shape"
      note={hit ? (hit.kind === 'rect' ? 'rectangle' : 'ellipse') : 'as drawn'}
      open={hit !== null}
    >
      <Row title="Clicked">
        <Pick
          label="Where it is clicked"
          value={hit?.kind ?? ''}
          options={[
            ['', 'where it is drawn'],
            ['rect', 'in a rectangle'],
            ['ellipse', 'in an ellipse'],
          ]}
          onChange={(v) =>
            set(v === '' ? null : { size: [roomy(w), roomy(h)], ...hit, kind: v as 'rect' | 'ellipse' })
          }
        />
      </Row>
      {hit && (
        <Row title="Size">
          {([0, 1] as const).map((k) => (
            <NumberField
              key={k}
              axis={'wh'[k] as string}
              label={`Hit shape ${'wh'[k]}`}
              value={hit.size[k]}
              onChange={(n) => {
                const to = Math.max(1, n);
                set({ ...hit, size: k === 0 ? [to, hit.size[1]] : [hit.size[0], to] });
              }}
            />
          ))}
        </Row>
      )}
    </Section>
  );
}

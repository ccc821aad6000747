import {
  ANCHORS,
  type Anchor,
  type Overlay,
  type SceneObject,
  sizeOf,
  subtreeOf,
} from '@apple-tick/core/model';
import { useSession, useTable } from '../../session/hooks.ts';
import { nameOf } from '../../session/words.ts';
import { NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { Section } from './Section.tsx';

/** The window that hides parts: another object's outline, seen through or cut out. */
export function MaskDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const objects = useTable('objects');
  const own = subtreeOf(s.store, object.id);
  const { mask } = object;
  const set = (to: SceneObject['mask']) =>
    s.edit(to ? `Masked ${object.name}` : `Took the mask off ${object.name}`, (e) =>
      e.update('objects', object.id, (o) => ({ ...o, mask: to })),
    );
  return (
    <Section title="Mask" note={mask ? `by ${nameOf(s.store, mask.by)}` : 'none'} open={mask != null}>
      <div className="sentence flex flex-wrap gap-x-1 items-center">
        shows
        {mask && (
          <Pick
            label="Side of the mask"
            value={mask.side}
            options={[
              ['inside', 'only inside'],
              ['outside', 'only outside'],
            ]}
            onChange={(v) => set({ ...mask, side: v as 'inside' | 'outside' })}
          />
        )}
        <Pick
          label="Mask"
          value={mask?.by ?? ''}
          options={[
            ['', 'everywhere'],
            ...objects.filter((o) => !own.has(o.id)).map((o): Option => [o.id, o.name]),
          ]}
          onChange={(v) => set(v === '' ? null : { by: v, side: mask?.side ?? 'inside' })}
        />
      </div>
      {mask && (
        <p className="text-ink-2">
          The window works by its outline, shown or not. What is masked away cannot be clicked.
        </p>
      )}
    </Section>
  );
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
          onChange={(e) => set(e.target.checked ? beside('top right', 'inside') : null)}
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
                  onClick={() => set(beside(a, 'inside'))}
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
            <button type="button" className="btn" onClick={() => set(beside(overlay.anchor, 'inside'))}>
              Just inside the edge
            </button>
            <button type="button" className="btn" onClick={() => set(beside(overlay.anchor, 'outside'))}>
              Just outside
            </button>
          </div>
        </>
      )}
    </Section>
  );
}

/** Just inside its anchor's edge (with a small margin), or just beyond it, at any size of frame. */
function beside(anchor: Anchor, where: 'inside' | 'outside'): Overlay {
  const i = ANCHORS.indexOf(anchor);
  const way = [(i % 3) - 1, 1 - Math.floor(i / 3)] as const;
  const k = where === 'inside' ? -1 : 1;
  const margin = where === 'inside' ? -12 : 0;
  return {
    anchor,
    offset: [way[0] * margin + 0, way[1] * margin + 0],
    ofOwn: [way[0] * 50 * k + 0, way[1] * 50 * k + 0],
  };
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

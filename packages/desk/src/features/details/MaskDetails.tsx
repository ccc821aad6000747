import {
  ANCHORS,
  type Anchor,
  type Mask,
  type Overlay,
  type SceneObject,
  sizeOf,
  subtreeOf,
} from '@apple-tick/core/model';
import { chosenWords, worldsOf } from '../../session/arrange.ts';
import { useCalmTable, useSession } from '../../session/hooks.ts';
import type { PieceStore } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { pointIn, toScreen } from '../../session/view-math.ts';
import { nameOf } from '../../session/words.ts';
import { NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { Section } from './Section.tsx';

/** How opaque a picture must be where it is a window, before anybody says otherwise. */
const HALF = 0.5;
/** Stands for the object itself in the list of windows. */
const OWN = '(own)';
const MIXED = '(mixed)';

/** The window that hides parts: another object's outline, seen through or cut out, or a picture's own opaque part. */
export function MaskDetails({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const all = useCalmTable('objects');
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
    if (v === '') set(null);
    else if (v === OWN) set({ alpha: mask?.alpha ?? HALF });
    else
      set({
        by: v,
        side: other?.side ?? 'inside',
        ...(mask?.alpha !== undefined && showsPictures(s.store, v) ? { alpha: mask.alpha } : {}),
      });
  };
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
        {other && (
          <Pick
            label="Side of the mask"
            value={other.side}
            options={[
              ['inside', 'only inside'],
              ['outside', 'only outside'],
            ]}
            onChange={(v) => set({ ...other, side: v as 'inside' | 'outside' })}
          />
        )}
        <Pick
          label="Mask"
          value={other ? other.by : mask ? OWN : mixed ? MIXED : ''}
          options={[
            ...(mixed ? [[MIXED, 'as each says'] as Option] : []),
            ['', 'everywhere'],
            ...(objects.every((o) => o.kind === 'image') ? [[OWN, 'only where it is opaque'] as Option] : []),
            ...all.filter((o) => !own.has(o.id)).map((o): Option => [o.id, o.name]),
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
            axis="%"
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
  /** Where the pivot is seen, px from the middle of the frame; the same place is kept whatever it is fixed to. */
  const fixedTo = (anchor: Anchor): Overlay => keptAt(s, object, anchor);
  const fix = () => set(fixedTo(nearestAnchor(s, object)));
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
          onChange={(e) => (e.target.checked ? fix() : set(null))}
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
                  onClick={() => set(fixedTo(a))}
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

/** To the left or right, and up or down, −1 to 1. */
function wayOf(anchor: Anchor): readonly [number, number] {
  const i = ANCHORS.indexOf(anchor);
  return [(i % 3) - 1, 1 - Math.floor(i / 3)];
}

/** Where the pivot of an object is seen, px from the middle of the frame, y up. */
function seenAt(s: Session, object: SceneObject): readonly [number, number] {
  const { width, height } = s.store.head.frame;
  const [px, py, pz] = object.base.pivot;
  const fixed = s.program.geometry.overlays[s.program.objectIndex.get(object.id) ?? -1];
  if (fixed) {
    const [x, y] = object.base.position;
    return [(fixed.ax * width) / 2 + fixed.x + x + px, (fixed.ay * height) / 2 + fixed.y + y + py];
  }
  const { azimuth, elevation } = s.state;
  const world = worldsOf(s).get(object.id);
  const at = world ? pointIn(world, 0, [px, py, pz]) : object.base.position;
  const [x, y] = toScreen({ x: 0, y: 0, scale: 1, azimuth, elevation }, at);
  return [x, -y];
}

/** The anchor in whose ninth of the frame an object is seen. */
function nearestAnchor(s: Session, object: SceneObject): Anchor {
  const { width, height } = s.store.head.frame;
  const [x, y] = seenAt(s, object);
  const third = (n: number) => (n < -1 / 6 ? 0 : n > 1 / 6 ? 2 : 1);
  return ANCHORS[(2 - third(y / height)) * 3 + third(x / width)] as Anchor;
}

/** Fixed to an anchor, and seen where it is seen now. */
function keptAt(s: Session, object: SceneObject, anchor: Anchor): Overlay {
  const { width, height } = s.store.head.frame;
  const [x, y] = seenAt(s, object);
  const way = wayOf(anchor);
  const { position, pivot } = object.base;
  const tenth = (n: number) => Math.round(n * 10) / 10 + 0;
  return {
    anchor,
    offset: [
      tenth(x - position[0] - pivot[0] - (way[0] * width) / 2),
      tenth(y - position[1] - pivot[1] - (way[1] * height) / 2),
    ],
    ofOwn: [0, 0],
  };
}

/** Just inside its anchor's edge (with a small margin), or just beyond it, at any size of frame. */
function beside(object: SceneObject, anchor: Anchor, where: 'inside' | 'outside'): Overlay {
  const way = wayOf(anchor);
  const [x, y] = object.base.position;
  const k = where === 'inside' ? -1 : 1;
  const margin = where === 'inside' ? -12 : 0;
  return {
    anchor,
    // Its place counts from there.
    offset: [way[0] * margin - x, way[1] * margin - y],
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

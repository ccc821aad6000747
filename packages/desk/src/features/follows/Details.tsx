import type { Drag, Follow, SceneObject } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { Timing } from '../../sentences/Timing.tsx';
import { useSession, useTable } from '../../session/hooks.ts';
import { FOLLOWING, partOption, partsThatFollow, propertyOption } from '../../session/things/parts.ts';
import { labelOf, TWEEN_EASINGS } from '../../session/words/words.ts';
import { NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { Section } from '../../ui/Section.tsx';
import { addFollow, withTarget } from './edit.ts';
import { FollowParts } from './Parts.tsx';

/** The properties of an object that go after something while it runs. */
export function FollowDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const own = useTable('follows').filter(({ target: t }) => 'object' in t && t.object === object.id);
  const change = (f: Follow) =>
    s.edit(`Changed what ${object.name} follows`, (e) => e.update('follows', f.id, () => f));
  return (
    <section aria-label="Follows">
      <div className="flex items-center">
        <h3 className="text-[13px] flex-1">Follows</h3>
        {own.length === 0 && <span className="text-ink-2">nothing</span>}
        <button
          type="button"
          aria-label="Add what it follows"
          className="ml-2"
          onClick={() => addFollow(s, object.id)}
        >
          <Plus size={14} />
        </button>
      </div>
      {own.map((f) => (
        <fieldset
          key={f.id}
          aria-label={`${labelOf(s.store, property(f))} follows`}
          className="border-l-2 border-line pl-2.5 mt-1.5 sentence flex flex-wrap gap-x-1 gap-y-1 items-center"
        >
          <Pick
            label="What follows"
            value={property(f)}
            options={[
              ...partsThatFollow(s.store, object.id).map(partOption),
              ...FOLLOWING.filter((p) => p.kind !== 'text' || object.kind === 'text').map((p) =>
                propertyOption(p.name),
              ),
            ]}
            onChange={(p) => change(withTarget(s.store, f, { object: object.id, property: p }))}
          />
          follows
          <FollowParts follow={f} owner={object.id} onChange={change} />
          <span className="flex-1" />
          <button
            type="button"
            aria-label="Delete what it follows"
            onClick={() => s.edit(`${object.name} follows no more`, (e) => e.remove('follows', f.id))}
          >
            <X size={13} />
          </button>
        </fieldset>
      ))}
    </section>
  );
}

const property = ({ target }: Follow) => ('object' in target ? target.property : '');

const ALONG: readonly Option[] = [
  ['', 'not dragged'],
  ['x', 'along x'],
  ['y', 'along y'],
  ['z', 'along z'],
  ['xy', 'along x and y'],
  ['xz', 'along x and z'],
  ['yz', 'along y and z'],
];

/** Whether a person can pull it while it runs: along which axes, how far, and what happens when it is let go. */
export function DragDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const drag = object.drag ?? null;
  const set = (to: Drag | null) =>
    s.edit(to ? `Changed how ${object.name} is dragged` : `${object.name} is not dragged`, (e) =>
      e.update('objects', object.id, (o) => ({ ...o, drag: to })),
    );
  const along = drag ? ALONG.find(([v]) => v === drag.along)?.[1] : undefined;
  return (
    <Section title="Drag" note={along ?? 'no'} open={drag !== null}>
      <Row title="Dragged">
        <Pick
          label="Dragged"
          value={drag?.along ?? ''}
          options={ALONG}
          onChange={(v) =>
            set(v === '' ? null : { moves: true, back: null, ...drag, along: v as Drag['along'] })
          }
        />
      </Row>
      {drag && (
        <>
          {[...drag.along].map((c) => (
            <Limits key={c} axis={c as 'x'} drag={drag} onChange={set} />
          ))}
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={!drag.moves}
              onChange={(e) => set({ ...drag, moves: !e.target.checked })}
            />
            stays in its place: only what follows it moves
          </label>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={drag.back !== null}
              onChange={(e) =>
                set({
                  ...drag,
                  back: e.target.checked ? { seconds: 0.4, easing: TWEEN_EASINGS[2]?.[1] ?? 'linear' } : null,
                })
              }
            />
            goes back when it is let go
          </label>
          {drag.back && (
            <Row title="Back in">
              <Timing
                labels={['Seconds to go back', 'Easing of going back']}
                seconds={drag.back.seconds}
                easing={drag.back.easing}
                onChange={(part) => drag.back && set({ ...drag, back: { ...drag.back, ...part } })}
              />
            </Row>
          )}
          {drag.back && <Unless back={drag.back} onChange={(back) => set({ ...drag, back })} />}
        </>
      )}
    </Section>
  );
}

function Limits(props: { axis: 'x' | 'y' | 'z'; drag: Drag; onChange: (d: Drag) => void }) {
  const { axis, drag, onChange } = props;
  const now = drag.limits?.[axis];
  const set = (to: [number, number] | null) => {
    const { [axis]: _, ...rest } = drag.limits ?? {};
    const limits = to ? { ...rest, [axis]: to } : rest;
    const { limits: _old, ...others } = drag;
    onChange({ ...others, ...(Object.keys(limits).length > 0 ? { limits } : {}) });
  };
  return (
    <Row title={`Along ${axis}`}>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          aria-label={`Limits along ${axis}`}
          checked={now !== undefined}
          onChange={(e) => set(e.target.checked ? [0, 100] : null)}
        />
        within
      </label>
      {now && (
        <>
          <NumberField label={`Least along ${axis}`} value={now[0]} onChange={(n) => set([n, now[1]])} />
          to
          <NumberField label={`Most along ${axis}`} value={now[1]} onChange={(n) => set([now[0], n])} />
        </>
      )}
    </Row>
  );
}

/** The zones into which it may be dropped. */
function Unless(props: {
  back: NonNullable<Drag['back']>;
  onChange: (b: NonNullable<Drag['back']>) => void;
}) {
  const { back, onChange } = props;
  const zones = useTable('colliders').filter((c) => c.role === 'zone');
  const chosen = back.unless ?? [];
  if (zones.length === 0) return null;
  const put = (unless: string[]) => {
    const { unless: _, ...rest } = back;
    onChange(unless.length > 0 ? { ...rest, unless } : rest);
  };
  return (
    <div className="sentence flex flex-wrap gap-1 items-center">
      unless it is dropped into
      {zones
        .filter((z) => chosen.includes(z.id))
        .map((z) => (
          <button
            key={z.id}
            type="button"
            className="btn inline-flex items-center gap-1"
            aria-label={`Not into ${z.name}`}
            onClick={() => put(chosen.filter((c) => c !== z.id))}
          >
            {z.name} <X size={11} aria-hidden="true" />
          </button>
        ))}
      <Pick
        label="Zone that it may be dropped into"
        value=""
        options={[
          ['', chosen.length > 0 ? 'or…' : 'a zone…'],
          ...zones.filter((z) => !chosen.includes(z.id)).map((z): Option => [z.id, z.name]),
        ]}
        onChange={(z) => z !== '' && put([...chosen, z])}
      />
    </div>
  );
}

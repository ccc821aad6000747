import { type Collider, removeWithReferences, type SceneObject, type Vec3 } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { useIdleVersion, useRun, useSession, useTable, useUiParts } from '../../session/hooks.ts';
import { missedInDepth } from '../../session/things/depth.ts';
import { nameOf } from '../../session/words/words.ts';
import { AddMenu } from '../../ui/AddMenu.tsx';
import { NumberField, type Option, Pick, Row, TextField } from '../../ui/fields.tsx';
import { TagList } from '../../ui/TagList.tsx';
import { addZones, changeZone, reshapeZone, type ZoneKind, zoneKind } from './edit.ts';

const KINDS: readonly Option[] = [
  ['box', 'in a box'],
  ['ball', 'in a ball'],
  ['outline', 'in an outline'],
  ['near', 'near its pivot'],
];

/** Where objects notice others, and stop them: each zone a sentence, with its measures below; of several objects what all notice. */
export function ZoneDetails({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const all = useTable('colliders');
  const own = objects.flatMap((o) =>
    (o.colliders ?? []).flatMap((id) => {
      const zone = all.find((c) => c.id === id);
      return zone ? [{ zone, object: o.id }] : [];
    }),
  );
  const noticing = own.flatMap(({ zone }) => (zone.role === 'blocker' ? [] : [zone]));
  return (
    <section aria-label="Zones">
      <div className="flex items-center">
        <h3 className="text-[13px] flex-1">Zones</h3>
        {own.length === 0 && <span className="text-ink-2">none</span>}
        <AddMenu
          label="Add a zone"
          className="ml-2"
          kinds={[
            ['box', 'Notice what is in it'],
            ['near', 'Notice what comes near'],
            ['block', 'Block what comes'],
          ]}
          onPick={(kind) =>
            addZones(
              s,
              objects.map((o) => o.id),
              kind === 'block' ? 'box' : (kind as ZoneKind),
              kind === 'block' ? 'blocker' : 'zone',
            )
          }
        >
          <Plus size={14} aria-hidden="true" />
        </AddMenu>
      </div>
      {objects.length === 1
        ? own.map(({ zone, object }) => <ZoneCard key={zone.id} object={object} zone={zone} />)
        : noticing.length > 0 && <Together zones={noticing} />}
    </section>
  );
}

/** What all of these zones notice. */
function Together({ zones }: { zones: readonly Collider[] }) {
  const s = useSession();
  const [first] = zones;
  const shared = first?.tags.filter((t) => zones.every((z) => z.tags.includes(t))) ?? [];
  const words = zones.length === 1 ? (first?.name ?? '') : `${zones.length} zones`;
  const verb = zones.length === 1 ? 'notices' : 'notice';
  const put = (tag: string, on: boolean) =>
    s.edit(`Changed what ${words} ${verb}`, (e) => {
      for (const z of zones)
        e.update('colliders', z.id, (c) => ({
          ...c,
          tags: on ? [...new Set([...c.tags, tag])] : c.tags.filter((t) => t !== tag),
        }));
    });
  return (
    <div className="sentence flex flex-wrap gap-1 items-center border-l-2 border-sky pl-2.5 mt-1.5">
      {words} {verb}
      <TagList
        on={shared}
        adding={`Changed what ${words} ${verb}`}
        offer={shared.length === 0 ? 'not all the same…' : 'and…'}
        onPut={put}
      />
    </div>
  );
}

function ZoneCard({ object, zone }: { object: string; zone: Collider }) {
  const s = useSession();
  const change = (to: object) => changeZone(s, zone, to);
  const blocks = zone.role === 'blocker';
  return (
    <fieldset aria-label={zone.name} className="border-l-2 border-sky pl-2.5 mt-1.5 space-y-1.5">
      <div className="flex items-center gap-1">
        <TextField
          label="Name of the zone"
          className="bg-transparent font-semibold flex-1 min-w-0"
          value={zone.name}
          onChange={(n) => n.trim() !== '' && changeZone(s, zone, { name: n.trim() }, `Renamed ${zone.name}`)}
        />
        <button
          type="button"
          aria-label={`Delete ${zone.name}`}
          onClick={() => s.edit(`Deleted ${zone.name}`, (e) => removeWithReferences(e, [zone.id]))}
        >
          <X size={13} />
        </button>
      </div>
      <div className="sentence flex flex-wrap gap-1 items-center">
        {blocks ? 'stops' : 'notices'}
        <TagList
          on={zone.tags}
          adding={`${zone.name} ${blocks ? 'stops' : 'notices'} another tag`}
          offer={zone.tags.length > 0 ? 'and…' : blocks ? 'all that is dragged' : 'nothing: pick a tag…'}
          onPut={(tag, on) =>
            changeZone(
              s,
              zone,
              { tags: on ? [...zone.tags, tag] : zone.tags.filter((t) => t !== tag) },
              `Changed what ${zone.name} ${blocks ? 'stops' : 'notices'}`,
            )
          }
        />
        <Pick
          label="Shape of the zone"
          value={zoneKind(zone)}
          options={blocks ? KINDS.filter(([k]) => k !== 'near') : KINDS}
          onChange={(k) => reshapeZone(s, object, zone, k as ZoneKind)}
        />
      </div>
      {!blocks && (
        <>
          <Noticed zone={zone} />
          <MissedInDepth zone={zone} />
        </>
      )}
      <ZoneShape zone={zone} change={change} />
      <div className="flex gap-x-3 gap-y-1 flex-wrap">
        {zone.role !== 'near' && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={zone.through}
              onChange={(e) => change({ through: e.target.checked })}
            />
            endless in depth
          </label>
        )}
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={zone.visitor}
            onChange={(e) => change({ visitor: e.target.checked })}
          />
          the visitor, too
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={zone.on} onChange={(e) => change({ on: e.target.checked })} />
          on
        </label>
      </div>
    </fieldset>
  );
}

/** What lies in it only as it is seen: it will not be noticed, since it lies before or behind. */
function MissedInDepth({ zone }: { zone: Collider }) {
  const s = useSession();
  useIdleVersion();
  useUiParts('azimuth', 'elevation', 'running');
  if (s.state.running) return null;
  return missedInDepth(s, zone).map(({ object, by }) => (
    <p key={object} className="text-sky">
      {nameOf(s.store, object)} lies in it as seen from here, but {Math.abs(by)} px{' '}
      {by > 0 ? 'in front of' : 'behind'} it.
    </p>
  ));
}

/** What is in the zone while it runs. */
function Noticed({ zone }: { zone: Collider }) {
  const s = useSession();
  const things = useRun((run) => run.parts.zones?.thingsIn(s.inRun(zone.id)).join() ?? '');
  if (things === undefined) return null;
  const names = things === '' ? [] : things.split(',').map((id) => nameOf(s.store, id));
  return (
    <p className={names.length > 0 ? 'text-sky font-semibold' : 'text-ink-2'}>
      now: {names.length > 0 ? names.join(', ') : 'nothing'}
    </p>
  );
}

/** How large a zone is and where it lies, or how near is near. */
function ZoneShape({ zone, change }: { zone: Collider; change: (to: object) => void }) {
  const number = (label: string, axis: string, value: number, to: (n: number) => object, least?: number) => (
    <NumberField
      key={label}
      short
      label={label}
      axis={axis}
      value={value}
      {...(least === undefined ? {} : { least })}
      onChange={(n) => change(to(n))}
    />
  );
  const vector = (label: string, v: Vec3, to: (v: Vec3) => object, least?: number, axes = 'xyz') =>
    v.map((n, k) =>
      number(`${label} ${axes[k]}`, axes[k] as string, n, (x) => to(v.with(k, x) as Vec3), least),
    );
  return (
    <>
      {zone.role === 'near' ? (
        <Row title="Distance">
          {number(
            'Near from',
            'from',
            zone.enter,
            (enter) => ({ enter, leave: Math.max(enter, zone.leave) }),
            0,
          )}
          {number('Near until', 'until', zone.leave, (n) => ({ leave: Math.max(zone.enter, n) }), 0)}
        </Row>
      ) : (
        <>
          <Row title="Place">{vector('Zone at', zone.at as Vec3, (at) => ({ at }))}</Row>
          {zone.size && (
            <Row title="Size">{vector('Zone size', zone.size as Vec3, (size) => ({ size }), 0, 'whd')}</Row>
          )}
          {(zone.radius !== undefined || zone.points) && (
            <Row title={zone.points ? 'Depth' : 'Radius'}>
              {zone.points
                ? number('Zone depth', 'd', zone.depth ?? 0, (depth) => ({ depth }), 0)
                : number('Zone radius', 'r', zone.radius ?? 0, (radius) => ({ radius }), 0)}
            </Row>
          )}
        </>
      )}
    </>
  );
}

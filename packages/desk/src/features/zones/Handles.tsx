import { CHANNELS, type Collider, type Vec3 } from '@apple-tick/core/model';
import { memo } from 'react';
import { useRun, useSession, useTable, useUi } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import { follow, type Posed } from '../../session/view/drag.ts';
import { column, onScreen, pointIn, type Screen, solve2, toScreen } from '../../session/view/view-math.ts';
import { nameOf } from '../../session/words/words.ts';
import { Knob } from '../../ui/marks.tsx';
import { changeZone, nearReach, type Shaped, zoneRings } from './edit.ts';

interface Placed {
  readonly zone: Collider;
  readonly owner: string;
  /** Matrix of its owner, a copy that stays as it is, and where the pivot of that is. */
  readonly world: Float64Array;
  readonly pivot: Vec3;
}

/** The zones of the piece, dashed; those of what is chosen can be taken hold of. */
export function Zones(props: { posed: Posed; screen: Screen; width: number; height: number }) {
  const { posed, screen } = props;
  const s = useSession();
  const zones = useTable('colliders');
  const shown = useUi((u) => u.zones);
  const chosen = useUi((u) => u.object);
  if (!shown || zones.length === 0) return null;
  const { world } = posed.builder;
  const placed = placedZones(s, zones, (i) => ({
    world: world.slice(i * 12, (i + 1) * 12),
    pivot: Array.from(posed.values.subarray(i * CHANNELS + 9, i * CHANNELS + 12)) as Vec3,
  }));
  return (
    <Drawing width={props.width} height={props.height}>
      {placed.map((p) => (
        <g key={p.zone.id}>
          <Outline {...p} screen={screen} strong={p.owner === chosen} lit="" />
          {p.owner === chosen && <ZoneHandles placed={p} screen={screen} />}
        </g>
      ))}
    </Drawing>
  );
}

/** The zones while it runs: one that has something in it lights up, and says what. */
export function LiveZones({ screen, width, height }: { screen: Screen; width: number; height: number }) {
  // What blocks says nothing while it runs.
  const zones = useTable('colliders').filter((z) => z.role !== 'blocker');
  const shown = useUi((u) => u.zones);
  const s = useSession();
  if (!shown || zones.length === 0) return null;
  return (
    <Drawing width={width} height={height}>
      {ownersOf(s, zones).map(({ zone, owner }) => (
        <LiveZone key={zone.id} zone={zone} owner={owner} screen={screen} />
      ))}
    </Drawing>
  );
}

/** One of them, drawn anew only when it stands elsewhere or has something else in it. */
const LiveZone = memo(function LiveZone(props: { zone: Collider; owner: string; screen: Screen }) {
  const { zone, owner, screen } = props;
  const s = useSession();
  const now = useRun((run) => {
    const i = run.program.objectIndex.get(s.inRun(owner));
    if (i === undefined) return '';
    const pivot = new Float64Array(3);
    run.scene.pivot(i, false, pivot);
    const things = (run.parts.zones?.thingsIn(s.inRun(zone.id)) ?? []).map((id) => nameOf(s.store, id));
    return JSON.stringify([[...run.scene.matrix(i)], [...pivot], things.join(', ')]);
  });
  if (!now) return null;
  const [matrix, pivot, lit] = JSON.parse(now) as [number[], Vec3, string];
  const world = Float64Array.from(matrix);
  return <Outline {...{ zone, owner, world, pivot, screen, lit }} strong={false} />;
});

/** Zones with the objects that have them, by id; those that nothing has are left out. */
function ownersOf(s: Session, zones: readonly Collider[]): { zone: Collider; owner: string }[] {
  const owners = new Map(s.store.all('objects').flatMap((o) => (o.colliders ?? []).map((c) => [c, o.id])));
  return zones.flatMap((zone) => {
    const owner = owners.get(zone.id);
    return owner === undefined ? [] : [{ zone, owner }];
  });
}

function placedZones(
  s: Session,
  zones: readonly Collider[],
  where: (object: number) => { world: Float64Array; pivot: Vec3 },
): Placed[] {
  return ownersOf(s, zones).flatMap(({ zone, owner }) => {
    const i = s.program.objectIndex.get(owner);
    if (i === undefined) return [];
    const { world, pivot } = where(i);
    if (world.length < 12) return [];
    return [{ zone, owner, world, pivot: pointIn(world, 0, pivot) }];
  });
}

function Drawing(props: { width: number; height: number; children: React.ReactNode }) {
  return (
    <svg
      className="absolute inset-0 pointer-events-none"
      width={props.width}
      height={props.height}
      aria-hidden="true"
      data-zones
    >
      <defs>
        <pattern id="blocks" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" x2="0" y1="0" y2="7" stroke="var(--zone)" strokeWidth="2" strokeOpacity="0.5" />
        </pattern>
      </defs>
      {props.children}
    </svg>
  );
}

type Outlined = Placed & { readonly screen: Screen; readonly strong: boolean; readonly lit: string };

const isEqual = (a: Float64Array | Vec3, b: ArrayLike<number>) => Array.from(a).every((n, k) => n === b[k]);
function isSameOutline(a: Outlined, b: Outlined): boolean {
  const isLike = a.zone === b.zone && a.strong === b.strong && a.lit === b.lit;
  const isThere = isEqual(a.world, b.world) && isEqual(a.pivot, b.pivot);
  const isSeen = (['x', 'y', 'scale', 'azimuth', 'elevation'] as const).every(
    (k) => a.screen[k] === b.screen[k],
  );
  return isLike && isThere && isSeen;
}

const Outline = memo(function Outline({ zone, world, pivot, screen, strong, lit }: Outlined) {
  const blocks = zone.role === 'blocker';
  const look = {
    stroke: 'var(--zone)',
    strokeWidth: strong || lit !== '' ? 2 : 1.25,
    strokeOpacity: strong || lit !== '' ? 1 : blocks ? 0.3 : 0.6,
    strokeDasharray: '6 4',
    // What blocks is told by its hatching, not by a colour.
    fill: blocks ? 'url(#blocks)' : 'var(--zone)',
    fillOpacity: blocks ? (strong ? 0.9 : 0.16) : lit !== '' ? 0.22 : strong ? 0.07 : 0,
  };
  // Its name stands below the left of what is drawn: above are the object's own handles.
  let corner: [number, number] = [Infinity, -Infinity];
  const up = (p: [number, number]) => {
    corner = [Math.min(corner[0], p[0]), Math.max(corner[1], p[1])];
    return p;
  };
  const [x, y] = toScreen(screen, pivot);
  const drawn =
    zone.role === 'near' ? (
      (['enter', 'leave'] as const).map((which) => {
        const r = nearReach(zone)[which] * screen.scale;
        if (which === 'enter') up([x - r / 2, y + r]);
        const faint = which === 'leave' ? { fillOpacity: 0, strokeOpacity: look.strokeOpacity / 2 } : {};
        return <circle key={which} cx={x} cy={y} r={r} {...look} {...faint} />;
      })
    ) : (
      <path
        d={zoneRings(zone)
          .map((ring) => ring.map((p) => up(toScreen(screen, pointIn(world, 0, p)))))
          .map((ring) => `M${ring.map((p) => p.join(' ')).join('L')}${ring.length > 2 ? 'Z' : ''}`)
          .join('')}
        {...look}
      />
    );
  return (
    <>
      {drawn}
      {(strong || lit !== '') && (
        <text
          x={corner[0]}
          y={corner[1] + 15}
          className="text-[11.5px] font-semibold"
          fill="var(--zone)"
          stroke="var(--mark-halo)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {lit === '' ? zone.name : `${zone.name}: ${lit}`}
        </text>
      )}
    </>
  );
}, isSameOutline);

/** A point of a zone that can be taken hold of, and what a drag of it, px on the screen, makes of the zone. */
interface Hold {
  readonly key: string;
  readonly at: Vec3;
  readonly to: (dx: number, dy: number) => object | null;
}

/** Handles stand off the axes, where those of the object itself are. */
const DIAGONAL = Math.SQRT1_2;
const ASIDE = -0.3;
/** Px on the screen that two handles across from each other need. */
const ROOM = 44;

const round = (n: number) => Math.round(n * 10) / 10;

function ZoneHandles({ placed, screen }: { placed: Placed; screen: Screen }) {
  const s = useSession();
  const { zone, world, pivot } = placed;
  if (zone.role === 'near')
    return (
      <>
        {(['enter', 'leave'] as const).map((k) => {
          const [x, y] = toScreen(screen, pivot);
          const r = nearReach(zone)[k];
          const side = k === 'enter' ? 1 : -1;
          return (
            <Knob
              color="var(--zone)"
              key={k}
              name={`zone-${k}`}
              at={[x + side * DIAGONAL * r * screen.scale, y + DIAGONAL * r * screen.scale]}
              onStart={(e) =>
                follow(s, `Changed ${zone.name}`, e.clientX, e.clientY, (dx, dy) => {
                  const to = Math.max(0, round(r + (DIAGONAL * (side * dx + dy)) / screen.scale));
                  const both =
                    k === 'enter'
                      ? { enter: to, leave: Math.max(to, zone.leave) }
                      : { leave: Math.max(zone.enter, to) };
                  changeZone(s, zone, both);
                })
              }
            />
          );
        })}
      </>
    );
  const axes = [0, 1, 2].map((k) => onScreen(screen, column(world, 0, k))) as [Vec3, Vec3, Vec3];
  return holdsOf(zone, axes).map(({ key, at, to }) => (
    <Knob
      color="var(--zone)"
      key={key}
      name={`zone-${key}`}
      round={key === 'whole'}
      at={toScreen(screen, pointIn(world, 0, at))}
      onStart={(e) =>
        follow(s, `Changed ${zone.name}`, e.clientX, e.clientY, (dx, dy) => {
          const part = to(dx, dy);
          if (part) changeZone(s, zone, part);
        })
      }
    />
  ));
}

/** Where a zone is taken hold of as a whole: its upper left. */
function cornerOf(zone: Shaped): Vec3 {
  const [x, y, z] = zone.at;
  if (zone.size) return [x - zone.size[0] / 2, y + zone.size[1] / 2, zone.through ? z : z + zone.size[2] / 2];
  if (zone.radius !== undefined) return [x - DIAGONAL * zone.radius, y + DIAGONAL * zone.radius, z];
  // An outline by its middle: at its corners it is pulled.
  const points = zone.points ?? [];
  const mean = (k: 0 | 1) => points.reduce((sum, p) => sum + p[k], 0) / Math.max(1, points.length);
  return [x + mean(0), y + mean(1), z];
}

function holdsOf(zone: Shaped, axes: readonly [Vec3, Vec3, Vec3]): Hold[] {
  const at = zone.at as Vec3;
  const moved = (v: readonly number[], k: number, by: number) =>
    v.with(k, round((v[k] as number) + by)) as Vec3;
  /** Px along an axis; null where it points at the viewer. */
  const along = (k: number, dx: number, dy: number): number | null => {
    const [ux, uy] = axes[k] as Vec3;
    const length = ux * ux + uy * uy;
    return length < 1e-4 ? null : (dx * ux + dy * uy) / length;
  };
  // Moved in the plane of the two axes that are seen best.
  const away = axes.map((a) => Math.abs(a[2]));
  const [p, q] = [0, 1, 2].filter((k) => k !== away.indexOf(Math.max(...away))) as [number, number];
  const out: Hold[] = [
    {
      key: 'whole',
      at: cornerOf(zone),
      to: (dx, dy) => {
        const d = solve2(axes[p] as Vec3, axes[q] as Vec3, dx, dy);
        return d && { at: moved(moved(at, p, d[0]), q, d[1]) };
      },
    },
  ];
  if (zone.size) {
    const size = zone.size as Vec3;
    for (let k = 0; k < (zone.through ? 2 : 3); k++) {
      // Too small on the screen, they would only lie over each other: there are the fields, and the zoom.
      const [ux, uy] = axes[k] as Vec3;
      if (Math.hypot(ux, uy) * (size[k] as number) < ROOM) continue;
      for (const side of [-1, 1]) {
        const half = (size[k] as number) / 2;
        out.push({
          key: `${'xyz'[k]}${side < 0 ? '-' : '+'}`,
          at: at.map(
            (n, j) => n + (j === k ? side * half : ASIDE * (size[j] as number) * (j === 2 ? 0 : 1)),
          ) as Vec3,
          // The side across stays.
          to: (dx, dy) => {
            const d = along(k, dx, dy);
            if (d === null) return null;
            const by = Math.max(1 - (size[k] as number), side * d);
            return { size: moved(size, k, by), at: moved(at, k, (side * by) / 2) };
          },
        });
      }
    }
  } else if (zone.radius !== undefined) {
    const radius = zone.radius;
    out.push({
      key: 'radius',
      at: [at[0] + DIAGONAL * radius, at[1] - DIAGONAL * radius, at[2]],
      to: (dx, dy) => {
        const d = solve2(axes[0], axes[1], dx, dy);
        // Seen from the side or from above only one of the two is left.
        const only = along(0, dx, dy) ?? -(along(1, dx, dy) ?? 0);
        const by = d ? DIAGONAL * (d[0] - d[1]) : only / DIAGONAL;
        return { radius: Math.max(1, round(radius + by)) };
      },
    });
  } else
    zone.points?.forEach((point, i) => {
      out.push({
        key: `point-${i}`,
        at: [at[0] + point[0], at[1] + point[1], at[2]],
        to: (dx, dy) => {
          const d = solve2(axes[0], axes[1], dx, dy);
          return d && { points: zone.points?.with(i, [round(point[0] + d[0]), round(point[1] + d[1])]) };
        },
      });
    });
  return out;
}

import type { Subpath } from '@apple-tick/core/base';
import { editDrawing, polygonNodes, type SceneObject, type Vec3 } from '@apple-tick/core/model';
import { useEffect, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { useSession } from '../../session/hooks.ts';
import {
  type At,
  insertNode,
  moveHandle,
  moveNode,
  nearestOnPaths,
  removeNode,
  toggleSmooth,
} from '../../session/things/paths.ts';
import { follow, type Posed } from '../../session/view/drag.ts';
import { column, onScreen, pointIn, type Screen, solve2, toScreen } from '../../session/view/view-math.ts';

/** Whether the object has points that can be taken hold of. */
export function hasPoints(o: SceneObject): o is SceneObject & { kind: 'path' | 'prism' | 'polygon' } {
  return o.kind === 'path' || o.kind === 'prism' || o.kind === 'polygon';
}

/**
 * The points of a path on the view: drag moves a point or a handle (Alt: this handle alone); double-click makes a
 * corner smooth and back, on the line it adds a point; Delete takes the chosen point out.
 */
export function PathPoints(props: { posed: Posed; screen: Screen; object: SceneObject; index: number }) {
  const { posed, screen, object, index } = props;
  const s = useSession();
  const [chosen, setChosen] = useState<At | null>(null);
  const paths = pathsOf(object);
  const world = posed.builder.world;
  const z = object.kind === 'prism' ? object.depth / 2 : 0;
  const seen = (p: readonly [number, number]) =>
    toScreen(screen, pointIn(world, index * 12, [p[0], p[1], z] as Vec3));
  const put = (name: string, to: readonly Subpath[]) =>
    s.edit(name, (e) => e.update('objects', object.id, (o) => editDrawing(o, (d) => withPaths(d, to))));
  usePointDeletion(chosen !== null, () => {
    const left = chosen && removeNode(paths, chosen);
    if (!left) return false;
    put(`Took a point out of ${object.name}`, left);
    setChosen(null);
    return true;
  });
  /** A drag that leads a point of the object's own plane. */
  const lead = (
    e: React.PointerEvent,
    from: readonly [number, number],
    move: (to: [number, number], ev: PointerEvent) => readonly Subpath[],
  ) => {
    e.stopPropagation();
    const [x, y] = [0, 1].map((k) => onScreen(screen, column(world, index * 12, k))) as [Vec3, Vec3];
    follow(s, `Shaped ${object.name}`, e.clientX, e.clientY, (dx, dy, ev) => {
      const d = solve2(x, y, dx, dy);
      if (d) put(`Shaped ${object.name}`, move([from[0] + d[0], from[1] + d[1]], ev));
    });
  };
  const line = outlineOf(paths, seen);
  const addPoint = (e: React.MouseEvent<SVGPathElement>) => {
    const box = e.currentTarget.ownerSVGElement?.getBoundingClientRect();
    const o = toScreen(screen, pointIn(world, index * 12, [0, 0, z]));
    const [x, y] = [0, 1].map((k) => onScreen(screen, column(world, index * 12, k))) as [Vec3, Vec3];
    const d = box && solve2(x, y, e.clientX - box.left - o[0], e.clientY - box.top - o[1]);
    const hit = d && nearestOnPaths(paths, d[0], d[1]);
    if (hit) put(`Added a point to ${object.name}`, insertNode(paths, hit.at, hit.t));
  };
  return (
    <g>
      <path d={line} fill="none" stroke="var(--brass)" strokeWidth="1.5" strokeDasharray="5 3" />
      {/* Taken hold of as broadly as a finger or a hasty hand needs, between its dashes too. */}
      <path
        d={line}
        fill="none"
        stroke="transparent"
        strokeWidth="9"
        className="pointer-events-auto"
        style={{ cursor: 'copy' }}
        data-handle="outline"
        onDoubleClick={addPoint}
      />
      {paths.flatMap((sub, path) =>
        sub.nodes.map((node, i) => {
          const at = { path, node: i };
          const p = seen(node.at);
          const isChosen = chosen?.path === path && chosen.node === i;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: points have no ids; their place is their name
            <g key={`${path} ${i}`}>
              {isChosen && (
                <Curls
                  node={node}
                  seen={seen}
                  onTake={(e, which, to) =>
                    lead(e, to, (t, ev) => moveHandle(paths, at, which, t, ev.altKey))
                  }
                />
              )}
              <rect
                data-handle={`point-${path}-${i}`}
                x={p[0] - 4.5}
                y={p[1] - 4.5}
                width="9"
                height="9"
                rx={node.in || node.out ? 4.5 : 1}
                fill={isChosen ? 'var(--brass)' : 'var(--card)'}
                stroke="var(--brass)"
                strokeWidth="2"
                className="pointer-events-auto cursor-move"
                onPointerDown={(e) => {
                  setChosen(at);
                  lead(e, node.at, (t) => moveNode(paths, at, t));
                }}
                onDoubleClick={() => put(`Shaped ${object.name}`, toggleSmooth(paths, at))}
              />
            </g>
          );
        }),
      )}
    </g>
  );
}

function segment(
  a: Subpath['nodes'][number],
  b: Subpath['nodes'][number],
  seen: (p: readonly [number, number]) => [number, number],
): string {
  const end = seen(b.at).join(' ');
  if (!a.out && !b.in) return `L${end}`;
  const c1 = seen([a.at[0] + (a.out?.[0] ?? 0), a.at[1] + (a.out?.[1] ?? 0)]).join(' ');
  const c2 = seen([b.at[0] + (b.in?.[0] ?? 0), b.at[1] + (b.in?.[1] ?? 0)]).join(' ');
  return `C${c1} ${c2} ${end}`;
}

function pathsOf(o: SceneObject): readonly Subpath[] {
  return o.kind === 'path' || o.kind === 'prism' ? o.subpaths : o.kind === 'polygon' ? polygonNodes(o) : [];
}

/** The object with other paths. A polygon whose points are shaped by hand is a path from then on. */
function withPaths(o: SceneObject, paths: readonly Subpath[]): SceneObject {
  const subpaths = paths as (SceneObject & { kind: 'path' })['subpaths'];
  if (o.kind === 'path' || o.kind === 'prism') return { ...o, subpaths };
  if (o.kind !== 'polygon') return o;
  const { points: _, size: __, sides: ___, star: ____, ...rest } = o;
  return { ...rest, kind: 'path', rule: 'nonzero', subpaths };
}

/** Where a chosen point bends its line to: a handle to each side that is bent. */
function Curls({
  node,
  seen,
  onTake,
}: {
  node: Subpath['nodes'][number];
  seen: (p: readonly [number, number]) => [number, number];
  onTake: (e: React.PointerEvent, which: 'in' | 'out', to: [number, number]) => void;
}) {
  const p = seen(node.at);
  return (['in', 'out'] as const).map((which) => {
    const h = node[which];
    if (!h) return null;
    const to: [number, number] = [node.at[0] + h[0], node.at[1] + h[1]];
    const q = seen(to);
    return (
      <g key={which}>
        <line x1={p[0]} y1={p[1]} x2={q[0]} y2={q[1]} stroke="var(--ink-2)" />
        <circle
          data-handle={`curve-${which}`}
          cx={q[0]}
          cy={q[1]}
          r="4.5"
          fill="var(--card)"
          stroke="var(--ink)"
          className="pointer-events-auto cursor-move"
          onPointerDown={(e) => onTake(e, which, to)}
        />
      </g>
    );
  });
}

/** The whole outline on the screen, as a path. */
function outlineOf(
  paths: readonly Subpath[],
  seen: (p: readonly [number, number]) => [number, number],
): string {
  return paths
    .map((sub) => {
      const n = sub.nodes.length;
      const parts = sub.nodes.map((node, i) => {
        const p = seen(node.at).join(' ');
        if (i === 0) return `M${p}`;
        return segment(sub.nodes[i - 1] as Subpath['nodes'][number], node, seen);
      });
      const first = sub.nodes[0];
      const last = sub.nodes[n - 1];
      if (sub.closed && first && last) parts.push(`${segment(last, first, seen)}Z`);
      return parts.join('');
    })
    .join('');
}

/** While a point is chosen, the key that deletes takes it out instead of the object; `take` says whether there was one. */
function usePointDeletion(isChosen: boolean, take: () => boolean): void {
  useEffect(() => {
    if (!isChosen) return;
    const onKey = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest('input, select, textarea');
      if (typing || localKey('points', e) !== 'delete' || !take()) return;
      e.preventDefault();
      e.stopPropagation();
    };
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  });
}

/** Clips on other objects of the same shape: what each part of one is in the other, by its path of names below the root. */
import type { Clip, Track } from './clip.ts';
import { keysTrack } from './keys.ts';
import type { SceneObject } from './scene-object.ts';

type ObjectOf = (id: string) => SceneObject | undefined;

/** The objects that a clip keys, each once, in the order of its tracks. */
export function partsOfClip(clip: Clip): string[] {
  return [...new Set(clip.tracks.map((t) => t.object))];
}

/** The names from below `root` down to `object`; null when it is not below it. Empty for the root itself. */
function pathBelow(objectOf: ObjectOf, root: string, object: string): string[] | null {
  const names: string[] = [];
  for (let o = objectOf(object); o; o = o.parent === null ? undefined : objectOf(o.parent)) {
    if (o.id === root) return names.reverse();
    names.push(o.name);
  }
  return null;
}

/**
 * What each part that a clip keys is called below `to`: the object at the same path of names, or null where there is none.
 * `all`: the objects of the piece.
 */
export function partsAt(
  all: Iterable<SceneObject>,
  clip: Clip,
  to: string,
): ReadonlyMap<string, string | null> {
  const byId = new Map<string, SceneObject>();
  const byName = new Map<string, string>();
  for (const o of all) {
    byId.set(o.id, o);
    if (!byName.has(`${o.parent}/${o.name}`)) byName.set(`${o.parent}/${o.name}`, o.id);
  }
  const out = new Map<string, string | null>();
  for (const part of partsOfClip(clip)) {
    const path = pathBelow((id) => byId.get(id), clip.root, part);
    let at: string | undefined = path ? to : undefined;
    for (const name of path ?? []) at = at === undefined ? undefined : byName.get(`${at}/${name}`);
    out.set(part, at ?? null);
  }
  return out;
}

/**
 * The clip for another root, each part's tracks on what stands for it; those of parts that have nothing there are left
 * out. Of two tracks that come to one property of one object the first stays. Ids are those of the clip still.
 */
export function clipOnto(clip: Clip, to: string, parts: ReadonlyMap<string, string | null>): Clip {
  const known = new Set<string>();
  const tracks: Track[] = [];
  for (const t of clip.tracks) {
    const object = parts.get(t.object);
    if (object === undefined || object === null) continue;
    const moved = { ...t, object };
    if (known.has(keysTrack(moved))) continue;
    known.add(keysTrack(moved));
    tracks.push(moved);
  }
  return { ...clip, root: to, tracks };
}

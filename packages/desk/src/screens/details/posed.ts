import { CH_LOOK, CHANNELS, lookName, propertyInfo, type SceneObject } from '@apple-tick/core/model';
import { poseClip, propertyValue } from '@apple-tick/core/run';
import { useOpen, useSession, useUi, useVersion } from '../../session/hooks.ts';

/** The object as it is posed where the playhead stands: what its fields show, and what of it the open clip keys. */
export function usePosed(object: SceneObject) {
  const s = useSession();
  const clip = useOpen()?.clip;
  const playhead = useUi((u) => u.playhead);
  useVersion();
  const { program } = s;
  const values = program.base.slice();
  poseClip(program, clip?.id ?? null, playhead, values);
  const at = program.objectIndex.get(object.id) ?? 0;
  const own = new Set(clip?.tracks.flatMap((t) => (t.object === object.id ? [t.property] : [])));
  return {
    isKeyed: (property: string) => own.has(property),
    number: (property: string) => values[at * CHANNELS + (propertyInfo(property)?.channel ?? 0)] as number,
    /** A keyed colour or text is shown as it is there; null while it is not keyed. */
    keyed: (property: string) => (own.has(property) ? propertyValue(values, at, property) : null),
    look: lookName(values[at * CHANNELS + CH_LOOK] as number),
  };
}
export type Posed = ReturnType<typeof usePosed>;

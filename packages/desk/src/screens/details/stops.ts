import { ownValue, type PropertyValue, type SceneObject } from '@apple-tick/core/model';
import { useOpen, useSession, useUi, useVersion } from '../../session/hooks.ts';
import { posedPart } from '../../session/things/properties.ts';
import { setProperty } from './PropertyFields.tsx';

type Field = 'color' | 'at';

/** The stops of a gradient as fields of an object: shown as they are posed, and keyed while moves are. */
export interface StopFields {
  value(index: number, field: Field): PropertyValue | null;
  isKeyed(index: number, field: Field): boolean;
  /** False: it is not keyed, and so the gradient itself is to be changed. */
  put(index: number, field: Field, value: PropertyValue): boolean;
}

/** `paint`: which of the object's paints has the gradient. */
export function useStops(object: SceneObject, paint: 'fill' | 'stroke'): StopFields {
  const s = useSession();
  const clip = useOpen()?.clip;
  useUi((u) => u.playhead);
  useVersion();
  const nameOf = (index: number, field: Field) => `${paint}.${index + 1}.${field}`;
  const isKeyed = (index: number, field: Field) =>
    clip?.tracks.some((t) => t.object === object.id && t.property === nameOf(index, field)) ?? false;
  const value = (index: number, field: Field) =>
    (isKeyed(index, field) ? posedPart(s, object.id, nameOf(index, field)) : null) ??
    ownValue(object, nameOf(index, field));
  return {
    isKeyed,
    value,
    put(index, field, to) {
      const was = value(index, field);
      if (was === null || !(s.keying || isKeyed(index, field))) return false;
      setProperty(s, object.id, nameOf(index, field), to, 'Coloured', was);
      return true;
    },
  };
}

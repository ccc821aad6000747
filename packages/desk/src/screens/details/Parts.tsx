import type { SceneObject } from '@apple-tick/core/model';
import type { ReactNode } from 'react';
import { useIdleVersion, useSession } from '../../session/hooks.ts';
import { drawingsFor } from '../../session/things/drawings.ts';
import { AddMenu } from '../../ui/AddMenu.tsx';

/** A menu of the parts whose drawing an object can have; nothing where there are none. */
export function Parts(props: {
  label: string;
  object: SceneObject;
  children: ReactNode;
  onPick: (part: SceneObject) => void;
}) {
  const s = useSession();
  useIdleVersion();
  const parts = drawingsFor(s, props.object);
  if (parts.length === 0) return null;
  return (
    <AddMenu
      label={props.label}
      className="btn"
      kinds={parts.map((o) => [o.id, o.name])}
      onPick={(id) => {
        const part = parts.find((o) => o.id === id);
        if (part) props.onPick(part);
      }}
    >
      {props.children}
    </AddMenu>
  );
}

import {
  editDrawing,
  FACES_OF,
  type FaceName,
  type FacePicture,
  type SceneObject,
} from '@apple-tick/core/model';
import { useSession, useTable } from '../../session/hooks.ts';
import { type Option, Pick, Row } from '../../ui/fields.tsx';
import { Section } from '../../ui/Section.tsx';

/** Pictures on the faces of a solid: one of those that the piece has for each face. */
export function FacesDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const assets = useTable('assets').filter((a) => a.kind === 'image');
  if (object.kind !== 'box' && object.kind !== 'cylinder' && object.kind !== 'prism') return null;
  const faces: readonly FaceName[] = FACES_OF[object.kind];
  const on: Partial<Record<FaceName, FacePicture | undefined>> = object.pictures ?? {};
  const used = faces.filter((f) => on[f]);
  const put = (face: FaceName, picture: FacePicture | undefined) =>
    s.edit(`Changed the faces of ${object.name}`, (e) =>
      e.update('objects', object.id, (o) =>
        editDrawing(o, (d) => {
          const { pictures, ...rest } = d as SceneObject & { pictures?: object };
          const next = Object.entries({ ...pictures, [face]: picture }).filter(([, p]) => p !== undefined);
          return (next.length === 0 ? rest : { ...d, pictures: Object.fromEntries(next) }) as SceneObject;
        }),
      ),
    );
  return (
    <Section title="Pictures on faces" note={used.join(', ') || 'none'} open={used.length > 0}>
      {assets.length === 0 ? (
        <p className="text-ink-2">
          The piece has no pictures yet. Drop one on the screen, then put it on a face here.
        </p>
      ) : (
        faces.map((face) => {
          const picture = on[face];
          return (
            <Row key={face} title={face.charAt(0).toUpperCase() + face.slice(1)}>
              <Pick
                label={`Picture on the ${face}`}
                value={picture?.asset ?? ''}
                options={[['', 'none'], ...assets.map((a): Option => [a.id, a.name])]}
                onChange={(v) =>
                  put(face, v === '' ? undefined : { asset: v, ...(picture?.pixel ? { pixel: true } : {}) })
                }
              />
              {picture && (
                <label className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={picture.pixel ?? false}
                    onChange={(e) => put(face, { ...picture, pixel: e.target.checked })}
                  />
                  squares
                </label>
              )}
            </Row>
          );
        })
      )}
    </Section>
  );
}

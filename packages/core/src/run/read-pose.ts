/** One number, colour or text of a run by name, as the command line and tests ask for it. */
import { ownValue, partOf, stopOf } from '../model/index.ts';
import { featuresOf } from './feature.ts';
import { findObject } from './input.ts';
import { propertyValue } from './pose-at.ts';
import { placeNamed } from './presence.ts';
import type { Run } from './run.ts';

/**
 * What tells it at any tick, or null where the text names nothing: `OBJECT.property` (`Chute/Flap.rotation.x`),
 * `INSTANCE.signal.ID`, `OBJECT.collider.ID`, `OBJECT.fill.1.color`, what features read, and the same of what is spawned
 * (`TEMPLATE#n/OBJECT.property`), which is null while that is not there.
 */
export function poseReader(run: Run, text: string): (() => unknown) | null {
  const spawned = /^([^/#.]+)#\d+/.exec(text);
  const template = run.program.spawns.templates.find((t) => t.id === spawned?.[1]);
  if (!spawned || !template) return readerOf(run, text);
  // One place stands for all of them: what can be read there can be read of any.
  const first = run.program.spawns.places[template.places[0] ?? -1]?.id ?? '';
  const rest = text.slice(spawned[0].length);
  if (!readerOf(run, first + rest)) return null;
  return () => {
    const place = run.program.spawns.places[placeNamed(run.program, run.state, spawned[0])];
    return place ? (readerOf(run, place.id + rest)?.() ?? null) : null;
  };
}

function readerOf(run: Run, text: string): (() => unknown) | null {
  for (const f of featuresOf(run.program).list) {
    const reader = f.read?.(run, text);
    if (reader) return reader;
  }
  const { piece, objectIndex, signalIndex, spawns, base } = run.program;
  for (let dot = text.indexOf('.'); dot >= 0; dot = text.indexOf('.', dot + 1)) {
    const object = findObject(piece, text.slice(0, dot));
    const property = text.slice(dot + 1);
    const index = object ? (objectIndex.get(object.id) ?? -1) : -1;
    if (!object || index < 0) continue;
    if (propertyValue(base, index, property) !== null)
      return () => propertyValue(run.state.values, index, property);
    const part = partOf(property);
    const id = part?.of === 'signal' ? `${object.id}/${part.what}` : '';
    if (signalIndex.has(id)) return () => run.signalValue(id);
    const written = spawns.parts.find((p) => p.part.id === `${object.id}/${property}`);
    if (stopOf(property) && (written || ownValue(object, property) !== null)) {
      const lies = objectIndex.get(written?.part.id ?? '') ?? -1;
      return () =>
        written ? propertyValue(run.state.values, lies, written.part.property) : ownValue(object, property);
    }
    if (part?.of === 'collider' && written) return () => (run.state.values[written.at] as number) >= 0.5;
    const zone = part?.of === 'collider' ? piece.colliders[part.what] : undefined;
    if (zone && object.colliders?.includes(zone.id)) return () => zone.on;
  }
  return null;
}

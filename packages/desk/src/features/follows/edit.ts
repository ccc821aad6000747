/** What follows: new ones that do something at once, and ranges that suit their source and their target. */
import type { Follow } from '@apple-tick/core/model';
import { firstSignal } from '../../session/doings/signals.ts';
import type { PieceStore } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { isNumeric, kindOfProperty, partsOf } from '../../session/things/parts.ts';
import { nameOf } from '../../session/words/words.ts';

export type Source = Follow['source'];
type Target = Follow['target'];
type Range = [number, number];

/** From where to where a source usually goes. */
function rangeOf(store: PieceStore, source: Source): Range {
  const { width, height } = store.head.frame;
  if ('signal' in source) {
    const s = store.get('signals', source.signal);
    return s?.type === 'number' ? [s.min ?? 0, s.max ?? 100] : [0, 1];
  }
  if ('pointer' in source) {
    if (source.object !== undefined) return [-200, 200];
    return source.pointer === 'x' ? [-width / 2, width / 2] : [-height / 2, height / 2];
  }
  if ('drag' in source)
    return [...(store.get('objects', source.drag)?.drag?.limits?.[source.axis] ?? [0, 100])] as Range;
  return [0, 300];
}

const isWords = (store: PieceStore, target: Target) =>
  'object' in target && !isNumeric(kindOfProperty(store, target.object, target.property));

/** What a target usually goes through, about where its base is. */
function targetRange(store: PieceStore, target: Target): Range {
  if ('clip' in target) return [0, store.get('clips', target.clip)?.duration ?? 1];
  if ('lane' in target) return [0, 100];
  const signal = partsOf(store, target.object).find((p) => p.name === target.property)?.signal;
  if (signal) return rangeOf(store, { signal: signal.id });
  const [kind, axis] = target.property.split('.');
  const base = store.get('objects', target.object)?.base;
  const k = 'xyz'.indexOf(axis ?? '');
  const now = (kind === 'position' || kind === 'rotation' ? base?.[kind][k] : 0) ?? 0;
  if (kind === 'rotation') return [now - 30, now + 30];
  if (kind === 'position') return [now - 40, now + 40];
  return kind === 'scale' || kind === 'opacity' ? [0, 1] : [-40, 40];
}

/** A follow of another source: from where that goes, to where it led. */
export function withSource(store: PieceStore, f: Follow, source: Source): Follow {
  const { from: _, to, ...rest } = f;
  if (isWords(store, f.target)) return { ...rest, source };
  return { ...rest, source, from: rangeOf(store, source), to: to ?? targetRange(store, f.target) };
}

export function withTarget(store: PieceStore, f: Follow, target: Target): Follow {
  const { from, to: _, ...rest } = f;
  if (isWords(store, target)) return { ...rest, target };
  return { ...rest, target, from: from ?? rangeOf(store, f.source), to: targetRange(store, target) };
}

function added(s: Session, target: Target, source: Source): Follow {
  const f: Follow = { id: s.newId('follows'), target, source, clamp: true, smooth: 0.1 };
  return withTarget(s.store, f, target);
}

/** Lets a property of the object that does not follow yet go after the pointer. */
export function addFollow(s: Session, object: string): void {
  const taken = new Set(
    s.store
      .all('follows')
      .flatMap((f) => ('object' in f.target && f.target.object === object ? [f.target.property] : [])),
  );
  const property =
    ['rotation.z', 'position.x', 'position.y', 'opacity'].find((p) => !taken.has(p)) ?? 'scale.x';
  s.edit(`${nameOf(s.store, object)} follows the pointer`, (e) =>
    e.add('follows', added(s, { object, property }, { pointer: 'x' })),
  );
}

/** Kinds of sources, as they are picked. */
export type SourceKind = 'pointer' | 'drag' | 'distance' | 'signal';

export function kindOf(source: Source): SourceKind {
  return (['pointer', 'drag', 'distance', 'signal'] as const).find((k) => k in source) ?? 'signal';
}

/** A source of this kind about the object; a number signal is made where there is none. */
export function sourceOf(s: Session, kind: SourceKind, object: string): Source {
  switch (kind) {
    case 'pointer':
      return { pointer: 'x' };
    case 'drag': {
      const along = s.store.get('objects', object)?.drag?.along[0];
      return { drag: object, axis: along === 'y' || along === 'z' ? along : 'x' };
    }
    case 'distance':
      return { distance: ['pointer', object] };
    case 'signal':
      return { signal: firstSignal(s, 'number', 'amount') };
  }
}

/** Lets the place in a state's clip follow, or, with null, time again. */
export function placeBy(
  s: Session,
  lane: string,
  clip: string,
  object: string,
  kind: SourceKind | null,
): void {
  const target = { lane, clip };
  const now = placeFollow(s.store, lane, clip);
  const name = nameOf(s.store, clip);
  s.step(kind ? `${name} goes by what it follows` : `${name} goes by time`, () => {
    const source = kind && sourceOf(s, kind, object);
    s.edit(name, (e) => {
      if (now) e.remove('follows', now.id);
      if (source) e.add('follows', { ...added(s, target, source), smooth: 0 });
    });
  });
}

/** What gives the place in a clip that states of a lane play. */
export function placeFollow(store: PieceStore, lane: string, clip: string): Follow | undefined {
  return store.all('follows').findLast(({ target: t }) => 'clip' in t && t.lane === lane && t.clip === clip);
}

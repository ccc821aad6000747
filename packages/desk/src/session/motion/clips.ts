/** Clips as things of their own: opened, named, duplicated. */
import { type Clip, onePlay, type State, stretchClip, uniqueName } from '@apple-tick/core/model';
import type { Session } from '../session.ts';

/** Opens a clip by itself, where it is not opened as the panel of a state. */
export function openClip(s: Session, clip: Clip): void {
  s.set({ openClip: clip.id, openState: null, playhead: 0, playing: false, inTimeline: true });
  if (s.chosen.length === 0) s.select({ kind: 'object', id: clip.root });
}

function namesBeside(s: Session, clip: Clip): Set<string> {
  return new Set(
    s.store.all('clips').flatMap((c) => (c.root === clip.root && c.id !== clip.id ? [c.name] : [])),
  );
}

/** Another name; one that a clip of the same root has gets a number. */
export function renameClip(s: Session, clip: Clip, name: string): void {
  if (name.trim() === '') return;
  const own = uniqueName(name.trim(), namesBeside(s, clip));
  s.edit(`Renamed ${clip.name}`, (e) => {
    e.update('clips', clip.id, (c) => ({ ...c, name: own }));
    // A state that is called like the clip that it plays goes on being so.
    const isCalled = (x: State) => x.name === clip.name && onePlay(x.play)?.clip === clip.id;
    for (const m of s.store.all('machines'))
      if (m.lanes.some((l) => l.states.some(isCalled)))
        e.update('machines', m.id, (x) => ({
          ...x,
          lanes: x.lanes.map((l) => {
            const taken = new Set(l.states.filter((y) => !isCalled(y)).map((y) => y.name));
            return {
              ...l,
              states: l.states.map((y) => (isCalled(y) ? { ...y, name: uniqueName(own, taken) } : y)),
            };
          }),
        }));
  });
}

/**
 * Another length, seconds, of a clip as it was: its keys keep their times, or stretch with it. The other of the two is then
 * offered. A cue cannot lie after the end: it comes along to it.
 */
export function setLength(s: Session, before: Clip, to: number, how: 'keep' | 'stretch'): void {
  const kept = { ...before, duration: to, cues: before.cues.map((q) => ({ ...q, t: Math.min(q.t, to) })) };
  s.edit('Changed the length', (e) =>
    e.update('clips', before.id, (c) => ({
      ...(how === 'keep' ? kept : stretchClip(before, to)),
      name: c.name,
    })),
  );
  s.set({ resized: { before, to, how } });
}

/** Another clip that is alike, under a name of its own. Returns its id. */
export function duplicateClip(s: Session, clip: Clip): string {
  const id = s.newId('clips');
  const name = uniqueName(clip.name, new Set([...namesBeside(s, clip), clip.name]));
  const cues = clip.cues.map((q) => ({ ...q, id: s.newId('cues') }));
  s.edit(`Duplicated ${clip.name}`, (e) => e.add('clips', { ...clip, id, name, cues }));
  return id;
}

/** Adds a clip that was made out of another for another object, under a name of its own there; returns its id. */
export function addClipOnto(s: Session, made: Clip): string {
  const id = s.newId('clips');
  const clip = { ...made, id, cues: made.cues.map((q) => ({ ...q, id: s.newId('cues') })) };
  const name = uniqueName(made.name, namesBeside(s, clip));
  s.edit(`Made ${name} for ${s.store.get('objects', made.root)?.name}`, (e) =>
    e.add('clips', { ...clip, name }),
  );
  return id;
}

/** Plays the open clip from where one looks, from its start when that is its end; or pauses. */
export function togglePlay(s: Session): void {
  const { playing, playhead } = s.state;
  const isAtEnd = playhead >= (s.open?.clip.duration ?? 0);
  s.set({ playing: !playing, playhead: !playing && isAtEnd ? 0 : playhead });
}

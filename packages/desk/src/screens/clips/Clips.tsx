import { type Clip, removeWithReferences } from '@apple-tick/core/model';
import { DropdownMenu } from 'radix-ui';
import { useMemo, useState } from 'react';
import { useIdleTable, useIdleVersion, useSession } from '../../session/hooks.ts';
import { duplicateClip, openClip, renameClip } from '../../session/motion/clips.ts';
import { addState } from '../../session/motion/machines.ts';
import type { Session } from '../../session/session.ts';
import { CLIP_TYPE } from '../../session/view/dragged.ts';
import { nameOf } from '../../session/words/words.ts';
import { TextField } from '../../ui/fields.tsx';
import { OntoDialog } from '../../ui/OntoDialog.tsx';
import { ClipMovie } from './ClipMovie.tsx';

const LOOPS = { once: 'once', loop: 'loops', 'there-and-back': 'there and back' };
/** All clips as moving pictures, by the object that they move. */
export function Clips() {
  const s = useSession();
  const clips = useIdleTable('clips');
  const version = useIdleVersion();
  const [search, setSearch] = useState('');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version stands for the contents of the store
  const program = useMemo(() => s.program, [s, version]);
  const wanted = search.trim().toLowerCase();
  const shown = clips.filter((c) => `${nameOf(s.store, c.root)} ${c.name}`.toLowerCase().includes(wanted));
  const groups = new Map<string, Clip[]>();
  for (const c of shown) groups.set(c.root, [...(groups.get(c.root) ?? []), c]);
  if (clips.length === 0)
    return (
      <p className="p-6">
        No clips yet. Choose an object and press <b>Animate</b>: what is moved then is keyed into its first
        clip.
      </p>
    );
  return (
    <div className="h-full overflow-auto px-3 py-2" role="group" aria-label="Clips">
      <div className="flex items-center gap-3 pb-2">
        <input
          type="search"
          aria-label="Search the clips"
          placeholder="Search the clips"
          className="field w-48"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <span className="text-ink-2">
          {wanted === ''
            ? 'Double-click opens a clip; dragged onto Lanes it becomes a state.'
            : `${shown.length} of ${clips.length} clips are shown.`}
        </span>
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        {[...groups].map(([root, list]) => (
          <section key={root} aria-label={nameOf(s.store, root)}>
            <h3 className="text-[13px] pb-1">{nameOf(s.store, root)}</h3>
            <div className="flex flex-wrap gap-2">
              {list.map((c) => (
                <Card key={c.id} clip={c} program={program} />
              ))}
            </div>
          </section>
        ))}
      </div>
    </div>
  );
}

function Card({ clip, program }: { clip: Clip; program: Session['program'] }) {
  const s = useSession();
  const open = () => openClip(s, clip);
  return (
    <div
      className="w-[148px] border border-line rounded-[9px] bg-card p-1.5 hover:border-ink-3"
      draggable={!s.state.readOnly}
      onDragStart={(e) => {
        e.dataTransfer.setData(CLIP_TYPE, clip.id);
        e.dataTransfer.effectAllowed = 'copy';
      }}
    >
      <button
        type="button"
        className="block w-full rounded-[6px]"
        style={{ background: '#e9e8d4' }}
        aria-label={`Open ${clip.name}`}
        onDoubleClick={open}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          open();
        }}
        onClick={() => s.select({ kind: 'object', id: clip.root })}
      >
        <ClipMovie clip={clip} program={program} width={132} height={72} />
      </button>
      <div className="flex items-center gap-1 pt-1">
        <TextField
          label={`Name of ${clip.name}`}
          className="bg-transparent font-semibold flex-1 min-w-0"
          value={clip.name}
          onChange={(n) => renameClip(s, clip, n)}
        />
        <ClipMenu clip={clip} />
      </div>
      <p className="num text-[11px] text-ink-2">
        {clip.duration} s · {LOOPS[clip.loop]}
      </p>
    </div>
  );
}

function ClipMenu({ clip }: { clip: Clip }) {
  const s = useSession();
  const machines = s.store.all('machines');
  const [onto, setOnto] = useState(false);
  return (
    <>
      {onto && <OntoDialog clip={clip} onClose={() => setOnto(false)} />}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="px-1" aria-label={`What to do with ${clip.name}`}>
          ▾
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu">
            <DropdownMenu.Item onSelect={() => openClip(s, clip)}>Open its timeline</DropdownMenu.Item>
            {machines.flatMap((m) =>
              m.lanes.map((l) => (
                <DropdownMenu.Item
                  key={l.id}
                  onSelect={() => {
                    addState(s, m.id, l, { clip: clip.id, speed: 1 });
                    s.set({ deck: 'lanes' });
                  }}
                >
                  Make it a state of {l.name === m.name ? m.name : `${m.name} · ${l.name}`}
                </DropdownMenu.Item>
              )),
            )}
            <DropdownMenu.Item onSelect={() => duplicateClip(s, clip)}>Duplicate</DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => setOnto(true)}>Make one for another object…</DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => s.edit(`Deleted ${clip.name}`, (e) => removeWithReferences(e, [clip.id]))}
            >
              Delete
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  );
}

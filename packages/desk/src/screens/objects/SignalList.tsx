import type { SignalType, Sound } from '@apple-tick/core/model';
import { Plus } from 'lucide-react';
import { addEffect } from '../../features/effects/edit.ts';
import { addMade } from '../../features/sounds/edit.ts';
import { usesOfTemplate } from '../../features/templates/edit.ts';
import { addMessage, addSignal, WISH } from '../../session/doings/signals.ts';
import { useIdleTable, useSession, useUi } from '../../session/hooks.ts';
import { AddMenu } from '../../ui/AddMenu.tsx';

const KINDS = [
  ['switch', 'Switch'],
  ['pulse', 'Pulse'],
  ['choice', 'Choice'],
  ['number', 'Number'],
  ['text', 'Text'],
  ['message', 'Message'],
] as const;
const SHOWN = [
  ['sound', 'Sound'],
  ['burst', 'Burst'],
  ['flash', 'Flash'],
  ['shake', 'Shake'],
] as const;

/** What the outside may set and hear: the piece's signals and messages; and its sounds, effects and templates. */
export function SignalList() {
  const s = useSession();
  const signals = useIdleTable('signals');
  const messages = useIdleTable('messages');
  const sounds = useIdleTable('sounds');
  const effects = useIdleTable('effects');
  const templates = useIdleTable('templates');
  useIdleTable('objects');
  const selected = useUi((u) => u.selected);
  const add = (kind: string) => {
    if (kind === 'message') s.select({ kind, id: addMessage(s, 'ready') });
    else if (kind === 'burst' || kind === 'flash' || kind === 'shake')
      s.select({ kind: 'effect', id: addEffect(s, kind) });
    else if (kind === 'sound') s.select({ kind, id: addMade(s, 'bell') });
    else s.select({ kind: 'signal', id: addSignal(s, kind as SignalType, WISH[kind as SignalType]) });
  };
  const row = (
    kind: 'signal' | 'message' | 'sound' | 'effect' | 'template',
    id: string,
    name: string,
    word: string,
  ) => {
    const chosen = selected?.kind === kind && selected.id === id;
    return (
      <li key={id}>
        <button
          type="button"
          aria-pressed={chosen}
          className={`flex items-center w-full gap-2 h-[25px] pl-2.5 pr-3 border-l-[3px] text-left ${chosen ? 'bg-chosen border-brass' : 'border-transparent'}`}
          onClick={() => s.select({ kind, id })}
        >
          <span className="truncate flex-1">{name}</span>
          <span className={`text-[11px] ${kind === 'message' ? 'text-plum' : 'text-ink-2'}`}>{word}</span>
        </button>
      </li>
    );
  };
  const length = (x: Sound) => {
    const asset = s.store.get('assets', x.asset ?? '');
    return asset?.kind === 'sound'
      ? `${asset.seconds.toFixed(1)} s`
      : x.synth === x.name
        ? ''
        : (x.synth ?? '');
  };
  return (
    <section
      aria-label="Signals, messages, sounds, effects and templates"
      className="border-t border-line flex-none max-h-[40%] flex flex-col"
    >
      <div className="flex items-center px-3 pt-2 pb-1 flex-none">
        <h2 className="text-[14px] flex-1">Signals</h2>
        <AddMenu label="Add a signal" className="p-0.5" kinds={KINDS} onPick={add}>
          <Plus size={14} />
        </AddMenu>
      </div>
      <div className="overflow-auto min-h-0 pb-2">
        {signals.length + messages.length === 0 && (
          <p className="px-3 text-ink-2">What the outside may set: none yet.</p>
        )}
        <ul>
          {signals.map((x) => row('signal', x.id, x.name, x.type))}
          {messages.map((m) => row('message', m.id, m.name, 'message'))}
        </ul>
        <div className="flex items-center px-3 pt-2.5 pb-1">
          <h2 className="text-[14px] flex-1">Sounds, effects</h2>
          <AddMenu label="Add a sound or effect" className="p-0.5" kinds={SHOWN} onPick={add}>
            <Plus size={14} />
          </AddMenu>
        </div>
        <ul>
          {sounds.map((x) => row('sound', x.id, x.name, length(x)))}
          {effects.map((x) => row('effect', x.id, x.name, x.kind))}
        </ul>
        {templates.length > 0 && (
          <>
            <h2 className="text-[14px] px-3 pt-2.5 pb-1">Templates</h2>
            <ul>
              {templates.map((x) =>
                row('template', x.id, x.name, `${usesOfTemplate(s.store, x.id).length} ×`),
              )}
            </ul>
          </>
        )}
      </div>
    </section>
  );
}

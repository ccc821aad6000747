import { Command } from 'cmdk';
import { useState } from 'react';
import { type CommandInfo, PLACES, type Place } from '../commands/command.ts';
import { LOCAL_KEYS } from '../commands/local-keys.ts';
import { COMMANDS, canRun } from '../commands/registry.ts';
import { useSession } from '../session/hooks.ts';
import { DialogBox } from '../ui/DialogBox.tsx';
import { isFound } from '../ui/find.ts';

const PLACE_NAMES = Object.keys(PLACES) as Place[];

/** The sheet of shortcuts, or the search of commands: both list what can be done, by where it belongs. */
export function Commands(props: { which: 'keys' | 'search' | null; onClose: () => void }) {
  const { which, onClose } = props;
  return (
    <DialogBox
      open={which !== null}
      title={which === 'keys' ? 'Shortcuts' : 'Commands'}
      className="top-16 w-[480px]"
      onClose={onClose}
    >
      {which === 'keys' ? <KeySheet onClose={onClose} /> : <Search onClose={onClose} />}
    </DialogBox>
  );
}

/** Commands in which what is typed stands, or whose other words begin with it; those whose words begin with it first. */
function found(text: string): CommandInfo[] {
  const wanted = text.trim().toLowerCase();
  const byPlace = PLACE_NAMES.flatMap((place) => COMMANDS.filter((c) => c.place === place));
  if (wanted === '') return byPlace;
  const begins = (c: CommandInfo) => ` ${c.name.toLowerCase()}`.includes(` ${wanted}`);
  return byPlace
    .filter((c) => c.name.toLowerCase().includes(wanted) || isFound(wanted, c.find ?? ''))
    .sort((a, b) => Number(begins(b)) - Number(begins(a)));
}

function Search({ onClose }: { onClose: () => void }) {
  const s = useSession();
  const [text, setText] = useState('');
  const list = found(text);
  const item = (c: CommandInfo) => (
    <Command.Item
      key={c.id}
      value={c.id}
      disabled={!canRun(s, c)}
      onSelect={() => {
        onClose();
        c.run(s);
      }}
      className="flex justify-between gap-3 px-2 py-1 rounded cursor-pointer data-[selected=true]:bg-chosen data-[disabled=true]:text-ink-3"
    >
      <Words c={c} />
    </Command.Item>
  );
  return (
    <Command label="Search commands" shouldFilter={false} loop>
      <Command.Input
        className="field w-full mb-2"
        aria-label="Search commands"
        value={text}
        onValueChange={setText}
      />
      <Command.List label="Commands" className="max-h-[60vh] overflow-auto">
        {list.length === 0 && (
          <p role="status" className="text-ink-2 px-2 py-3">
            Nothing found for “{text}”.
          </p>
        )}
        {text.trim() === ''
          ? PLACE_NAMES.map((place) => (
              <Command.Group key={place} heading={<Heading>{PLACES[place]}</Heading>}>
                {list.filter((c) => c.place === place).map(item)}
              </Command.Group>
            ))
          : list.map(item)}
      </Command.List>
    </Command>
  );
}

/** Keys with what they do: first those that are heard everywhere, then those of one place. */
function KeySheet({ onClose }: { onClose: () => void }) {
  const s = useSession();
  return (
    <div className="max-h-[64vh] overflow-auto">
      {PLACE_NAMES.map((place) => {
        const list = COMMANDS.filter((c) => c.place === place && c.keys.length > 0);
        return (
          list.length > 0 && (
            <section key={place} aria-label={PLACES[place]}>
              <Heading>{PLACES[place]}</Heading>
              {list.map((c) => (
                <button
                  type="button"
                  key={c.id}
                  aria-disabled={!canRun(s, c)}
                  className={`flex justify-between gap-3 w-full px-2 py-1 rounded text-left hover:bg-chosen ${canRun(s, c) ? '' : 'text-ink-3'}`}
                  onClick={() => {
                    if (!canRun(s, c)) return;
                    onClose();
                    c.run(s);
                  }}
                >
                  <Words c={c} />
                </button>
              ))}
            </section>
          )
        );
      })}
      {Object.values(LOCAL_KEYS).map(({ title, keys }) => (
        <section key={title} aria-label={title}>
          <Heading>{title}</Heading>
          {keys.map((k) => (
            <p key={k.id} className="flex justify-between gap-3 px-2 py-1">
              <span>{k.name}</span>
              <Keys keys={k.keys} />
            </p>
          ))}
        </section>
      ))}
    </div>
  );
}

function Words({ c }: { c: CommandInfo }) {
  const s = useSession();
  return (
    <>
      <span>
        {c.name}
        {!canRun(s, c) && c.needs && <span className="text-[11.5px]"> · {c.needs}</span>}
      </span>
      <Keys keys={c.keys} />
    </>
  );
}

function Heading({ children }: { children: string }) {
  return <p className="font-serif font-semibold px-2 pt-2 pb-0.5 text-ink">{children}</p>;
}

const SIGNS: Readonly<Record<string, string>> = {
  ...{ Mod: 'Ctrl/⌘', ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓', ' ': 'Space' },
};

function Keys({ keys }: { keys: readonly string[] }) {
  // A plus between signs parts them; one that stands alone is the key.
  const written = keys.map((k) =>
    k === '+'
      ? k
      : k
          .split('+')
          .map((x) => SIGNS[x] ?? x)
          .join('+'),
  );
  return <span className="num text-ink-2 whitespace-nowrap">{written.join(', ')}</span>;
}

import { type CueSheet, type PlannedCue, removeWithReferences, uniqueName } from '@apple-tick/core/model';
import { DropdownMenu } from 'radix-ui';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { usesOf } from '../../session/words/uses.ts';
import { Pick, SecondsField, TextField } from '../../ui/fields.tsx';
import { Ticket } from '../../ui/Ticket.tsx';
import { nearOf } from '../zones/edit.ts';
import { addSheetCue, editSheet, mayBeScene, sheetOfThing, startWhen, trySheet } from './edit.ts';

/** What holds for a whole sheet: its name, what starts it, what happens when it is asked for again, and at its end. */
export function SheetHead(props: {
  sheet: CueSheet;
  plan: readonly PlannedCue[];
  /** Seconds from which it is tried. */
  at: number;
  zoom: number;
  onZoom: (zoom: number) => void;
}) {
  const { sheet, plan, at, zoom, onZoom } = props;
  const s = useSession();
  const sel = useUi((u) => u.selected);
  const cue = plan.find((p) => sel?.kind === 'sheetCue' && p.cue.id === sel.id);
  const end = Math.max(
    0,
    ...plan.map((p) => (Number.isFinite(p.start + p.length) ? p.start + p.length : p.start)),
  );
  const waits = plan.some((p) => p.waits || !Number.isFinite(p.length));
  const edit = (name: string, part: Partial<CueSheet>) =>
    editSheet(s, name, sheet.id, (x) => ({ ...x, ...part }));
  return (
    <div className="bg-paper border-r border-line p-3 overflow-auto flex flex-col gap-1.5 min-h-0">
      <div className="flex items-center gap-1">
        <TextField
          label="Name of the cue sheet"
          className="font-serif font-semibold text-[14px] bg-transparent flex-1 min-w-0"
          value={sheet.name}
          onChange={(n) => {
            if (n.trim() === '') return;
            const taken = new Set(s.store.all('cueSheets').flatMap((x) => (x.id === sheet.id ? [] : x.name)));
            edit(`Renamed ${sheet.name}`, { name: uniqueName(n.trim(), taken) });
          }}
        />
        <SheetMenu sheet={sheet} />
      </div>
      <Starts sheet={sheet} />
      <AtItsEnd sheet={sheet} />
      <p className="text-ink-2">
        {waits ? `at least ${end.toFixed(1)} s, with waits` : `${end.toFixed(1)} s long`}
      </p>
      <Foot sheet={sheet} cue={cue} at={at} zoom={zoom} onZoom={onZoom} />
    </div>
  );
}

/** What can be done with a sheet: what starts it, another one, and its end. */
function SheetMenu({ sheet }: { sheet: CueSheet }) {
  const s = useSession();
  const object = useUi((u) => u.object);
  const chosen = s.store.get('objects', object ?? '') ?? s.store.all('objects')[0];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn" aria-label={`Menu of ${sheet.name}`}>
        ▾
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu">
          {chosen && (
            <>
              <DropdownMenu.Item onSelect={() => startWhen(s, sheet, chosen.id, { event: 'pointer.click' })}>
                Start it when {chosen.name} is clicked
              </DropdownMenu.Item>
              <DropdownMenu.Item onSelect={() => startWhen(s, sheet, chosen.id, { event: 'piece.start' })}>
                Start it with the piece
              </DropdownMenu.Item>
              <DropdownMenu.Item
                onSelect={() =>
                  s.step(`${chosen.name} starts ${sheet.name}`, () =>
                    startWhen(s, sheet, chosen.id, {
                      event: 'near.enter',
                      collider: nearOf(s, chosen.id),
                    }),
                  )
                }
              >
                Start it when something comes near {chosen.name}
              </DropdownMenu.Item>
            </>
          )}
          {chosen && mayBeScene(s, chosen.id) && (
            <DropdownMenu.Item onSelect={() => sheetOfThing(s, chosen.id)}>
              Another, of what {chosen.name} does
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item
            onSelect={() => s.edit(`Deleted ${sheet.name}`, (e) => removeWithReferences(e, [sheet.id]))}
          >
            Delete the cue sheet
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** What starts the sheet, each a way to where that is said. */
function Starts({ sheet }: { sheet: CueSheet }) {
  const s = useSession();
  useTable('reactions');
  useTable('machines');
  const starts = usesOf(s.store, sheet.id).filter((u) => u.sets);
  return (
    <div>
      <p className="text-ink-2">starts {starts.length === 0 ? 'by nothing yet' : 'when'}</p>
      {starts.map((u, i) => (
        <Ticket
          // biome-ignore lint/suspicious/noArrayIndexKey: one thing may start it twice
          key={i}
          words={u.when}
          label={`Starts when ${u.when}`}
          rect={{ w: 146, h: 22 }}
          chosen={false}
          isSet
          small
          onSelect={() => s.select(u.select)}
        />
      ))}
    </div>
  );
}

/** What happens when it is asked for while it goes on, and when it is over. */
function AtItsEnd({ sheet }: { sheet: CueSheet }) {
  const s = useSession();
  const edit = (name: string, part: Partial<CueSheet>) =>
    editSheet(s, name, sheet.id, (x) => ({ ...x, ...part }));
  return (
    <>
      <p className="sentence text-ink-2">
        asked again:{' '}
        <Pick
          label="When it is asked for again"
          value={sheet.again}
          options={[
            ['restart', 'restart'],
            ['ignore', 'ignore'],
            ['queue', 'after it'],
          ]}
          onChange={(again) => edit(`Changed ${sheet.name}`, { again: again as CueSheet['again'] })}
        />
      </p>
      <p className="sentence text-ink-2 flex items-center gap-1">
        then{' '}
        <Pick
          label="What happens at its end"
          value={sheet.end === 'stop' ? 'stop' : 'loop'}
          options={[
            ['stop', 'stops'],
            ['loop', 'again after'],
          ]}
          onChange={(v) => edit(`Changed ${sheet.name}`, { end: v === 'stop' ? 'stop' : { loop: 1 } })}
        />
        {sheet.end !== 'stop' && (
          <span className="flex w-14">
            <SecondsField
              label="Pause before it begins again"
              unit="s"
              value={sheet.end.loop}
              onChange={(n) => edit(`Changed ${sheet.name}`, { end: { loop: Math.max(0.1, n) } })}
            />
          </span>
        )}
      </p>
    </>
  );
}

/** A cue more, a try from here, and the zoom. */
function Foot(props: {
  sheet: CueSheet;
  cue: PlannedCue | undefined;
  at: number;
  zoom: number;
  onZoom: (zoom: number) => void;
}) {
  const { sheet, cue, at, zoom, onZoom } = props;
  const s = useSession();
  const from = cue && Number.isFinite(cue.start) ? cue.start : at;
  return (
    <div className="flex flex-wrap gap-1.5 mt-auto pt-1">
      <button
        type="button"
        className="btn"
        onClick={() => {
          const after = cue ? { cue: cue.cue.id, after: true } : { cue: null, after: false };
          addSheetCue(s, sheet, after, cue ? 0 : at);
        }}
      >
        + cue
      </button>
      <button type="button" className="btn" onClick={() => trySheet(s, sheet.id, from)}>
        Try from {from.toFixed(1)} s
      </button>
      <button
        type="button"
        className="btn"
        aria-label="Smaller"
        onClick={() => onZoom(Math.max(1, zoom / 1.5))}
      >
        −
      </button>
      <button type="button" className="btn" onClick={() => onZoom(1)}>
        fit
      </button>
      <button
        type="button"
        className="btn"
        aria-label="Larger"
        onClick={() => onZoom(Math.min(20, zoom * 1.5))}
      >
        +
      </button>
    </div>
  );
}

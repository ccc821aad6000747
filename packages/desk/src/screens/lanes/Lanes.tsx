import type { Lane, Machine, SceneObject, TemplateHead } from '@apple-tick/core/model';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useRef } from 'react';
import { openTemplate, timesWords, usesOfTemplate } from '../../features/templates/edit.ts';
import { useIdleTable, useRun, useSession, useUi } from '../../session/hooks.ts';
import { capital } from '../../session/model-help.ts';
import { addMachine, addState, showMachine } from '../../session/motion/machines.ts';
import { beginWith } from '../../session/recipes/begin-with.ts';
import { RECIPES } from '../../session/recipes/recipes.ts';
import { NO_MACHINE } from '../../session/session.ts';
import { CLIP_TYPE } from '../../session/view/dragged.ts';
import { RecipeButton, RecipeList } from '../../ui/RecipeList.tsx';
import { useHeight } from '../../ui/use-width.ts';
import { activeIn } from './active.ts';
import { LaneRow } from './LaneRow.tsx';

/** Of a machine that is not worked on, and of a lane of the one that is, px. */
const LINE = 30;
const CHIPS = 40;

type Line =
  | { readonly kind: 'machine'; readonly machine: Machine }
  | { readonly kind: 'template'; readonly template: TemplateHead }
  /** What is chosen has no machine: how it gets one. */
  | { readonly kind: 'none'; readonly object: SceneObject }
  | { readonly kind: 'lane' | 'tall'; readonly machine: Machine; readonly lane: Lane };

/** All machines of the piece as a stack of lines; of the one that is worked on each lane, the chosen one tall. */
export const Lanes = memo(function Lanes() {
  const s = useSession();
  const machines = useIdleTable('machines');
  useIdleTable('templates');
  useIdleTable('objects');
  // Those whose machines run in what is worked in.
  const templates = s.store
    .all('templates')
    .filter((t) => s.store.count('machines', t.id) > 0 && t.id !== s.store.scope);
  const id = useUi((u) => u.machine);
  const object = useUi((u) => u.object);
  const laneId = useUi((u) => u.lane);
  const box = useRef<HTMLDivElement>(null);
  const room = useHeight(box, 280);
  const machine = id === NO_MACHINE ? undefined : (machines.find((m) => m.id === id) ?? machines[0]);
  const bare = machine || !object ? undefined : s.store.get('objects', object);
  const tall = machine?.lanes.find((l) => l.id === laneId) ?? machine?.lanes[0];
  const lines = (bare ? [{ kind: 'none', object: bare } as Line] : [])
    .concat(
      machines.flatMap((m): Line[] =>
        m === machine
          ? m.lanes.map((lane): Line => ({ kind: lane === tall ? 'tall' : 'lane', machine: m, lane }))
          : [{ kind: 'machine', machine: m }],
      ),
    )
    .concat(templates.map((template) => ({ kind: 'template', template })));
  // The tall one leaves room for a line beside it, so that one sees that there are others.
  const height = Math.max(150, lines.length > 1 ? room - LINE : room);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (isTall(lines[i]) ? height : lines[i]?.kind === 'lane' ? CHIPS : LINE),
    getItemKey: (i) => keyOf(lines[i] as Line),
    overscan: 4,
  });
  const at = lines.findIndex(isTall);
  const tallId = tall?.id ?? bare?.id;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tall lane, or another height, is measured and scrolled to
  useEffect(() => {
    rows.measure();
    // With what comes after it, or, of the last one, with what comes before.
    if (at >= 0) rows.scrollToIndex(at, { align: at === lines.length - 1 ? 'end' : 'start' });
  }, [tallId, at, height, lines.length]);
  return (
    <div
      ref={box}
      className="h-full overflow-auto"
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(CLIP_TYPE)) return;
        e.preventDefault();
        e.stopPropagation();
      }}
      onDrop={(e) => {
        const clip = e.dataTransfer.getData(CLIP_TYPE);
        if (!tall || !machine || !s.store.has('clips', clip)) return;
        e.preventDefault();
        e.stopPropagation();
        addState(s, machine.id, tall, { clip, speed: 1 });
      }}
    >
      {lines.length === 0 && <NoMachine object={undefined} />}
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, key, start }) => {
          const line = lines[index] as Line;
          return (
            <div key={key} className="absolute left-0 w-full" style={{ top: start }}>
              {line.kind === 'none' ? (
                <div style={{ height }}>
                  <NoMachine object={line.object} />
                </div>
              ) : line.kind === 'machine' ? (
                <MachineLine machine={line.machine} />
              ) : line.kind === 'template' ? (
                <TemplateLine template={line.template} />
              ) : line.kind === 'tall' ? (
                <LaneRow machine={line.machine} lane={line.lane} height={height} />
              ) : (
                <LaneChips machine={line.machine} lane={line.lane} />
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
});

const isTall = (l: Line | undefined) => l?.kind === 'tall' || l?.kind === 'none';

const keyOf = (l: Line) =>
  l.kind === 'none'
    ? l.object.id
    : l.kind === 'machine'
      ? l.machine.id
      : l.kind === 'template'
        ? l.template.id
        : l.lane.id;

/** What is chosen has no machine: how it gets one. */
function NoMachine({ object }: { object: SceneObject | undefined }) {
  const s = useSession();
  if (!object && s.store.ids('objects').length === 0) return <Beginnings />;
  if (!object) return <p className="p-6">Select the object that is to behave, then give it a machine.</p>;
  return (
    <div className="h-full overflow-auto px-6 py-4">
      <p className="flex items-center gap-3 flex-wrap mb-2">
        A machine says which states a thing has and what leads from one to another.
        <button type="button" className="btn btn-ink" onClick={() => addMachine(s, object.id)}>
          Add a machine to {object.name}
        </button>
        <span className="text-ink-2">or begin with a recipe:</span>
      </p>
      <section
        aria-label={`Recipes for ${object.name}`}
        className="grid gap-x-4 grid-cols-[repeat(auto-fill,minmax(330px,1fr))]"
      >
        <RecipeList object={object} />
      </section>
    </div>
  );
}

/** In a piece with nothing in it: things that already do something, to be had at a click and changed. */
function Beginnings() {
  const s = useSession();
  return (
    <div className="h-full overflow-auto px-6 py-4">
      <p className="mb-2">
        Or begin with a thing that does something: it is drawn and wired here, and yours to change.
      </p>
      <section
        aria-label="Beginnings"
        className="grid gap-x-4 grid-cols-[repeat(auto-fill,minmax(270px,1fr))]"
      >
        {RECIPES.filter((r) => r.begins).map((recipe) => (
          <RecipeButton
            key={recipe.id}
            recipe={recipe}
            says={capital(recipe.says('it'))}
            onPick={() => beginWith(s, recipe)}
          />
        ))}
      </section>
    </div>
  );
}

/** The machines of a template, which run in each of its places: opened with it. */
function TemplateLine({ template }: { template: TemplateHead }) {
  const s = useSession();
  const uses = usesOfTemplate(s.store, template.id);
  const machines = s.store.within('machines', template.id);
  const first = uses.find((o) => s.store.homeOf(o.id) === s.store.scope);
  return (
    <button
      type="button"
      className="flex items-center gap-3 w-full px-3 border-b border-line bg-paper text-left hover:bg-chosen"
      style={{ height: LINE }}
      aria-label={`Machines of the template ${template.name}`}
      onClick={() => openTemplate(s, first?.id ?? template.id)}
    >
      <span className="font-serif font-semibold text-[13px] w-[140px] truncate flex-none">
        {template.name}
      </span>
      <span className="text-ink-2 truncate">
        template: {machines.length === 1 ? 'its machine runs' : 'its machines run'} {timesWords(uses.length)}
      </span>
    </button>
  );
}

/** A machine that is not worked on: its name, and of each lane the state that it is in, or begins in. */
function MachineLine({ machine }: { machine: Machine }) {
  const s = useSession();
  // As text, so that nothing is drawn anew while no lane goes on.
  const active = useRun((run) => machine.lanes.map((l) => activeIn(s, run, l)).join(','));
  const now = active?.split(',').map(Number);
  return (
    <button
      type="button"
      className="flex items-center gap-3 w-full px-3 border-b border-line bg-paper text-left hover:bg-chosen"
      style={{ height: LINE }}
      aria-label={`Machine ${machine.name}`}
      onClick={() => showMachine(s, machine.id)}
    >
      <span className="font-serif font-semibold text-[13px] w-[140px] truncate flex-none">
        {machine.name}
      </span>
      {machine.lanes.map((l, i) => {
        const at = now?.[i] ?? -1;
        const state = l.states[at] ?? l.states.find((x) => x.id === l.initial);
        return (
          <span key={l.id} className="truncate min-w-0">
            {machine.lanes.length > 1 && <span className="text-ink-2">{l.name}: </span>}
            <span className={at >= 0 ? 'text-leaf font-semibold' : 'text-ink-2'}>
              {state?.name ?? 'drawn by odds'}
            </span>
            <span className="text-ink-2">
              {' '}
              · {l.states.length === 1 ? '1 state' : `${l.states.length} states`}
            </span>
          </span>
        );
      })}
    </button>
  );
}

/** A lane of the same machine that is not worked on: its states as a line of chips, the active one lit. */
function LaneChips({ machine, lane }: { machine: Machine; lane: Lane }) {
  const s = useSession();
  const active = useRun((run) => activeIn(s, run, lane)) ?? -1;
  return (
    <div className="flex items-center gap-2 px-3 border-b border-line bg-paper" style={{ height: CHIPS }}>
      <button
        type="button"
        className="font-serif font-semibold text-[14px] w-[140px] text-left truncate flex-none"
        onClick={() => s.set({ lane: lane.id })}
      >
        {lane.name}
      </button>
      <div className="flex gap-1.5 overflow-x-auto">
        {lane.states.map((x, i) => (
          <button
            key={x.id}
            type="button"
            className={`btn ${i === active ? '!border-leaf text-leaf font-semibold' : ''}`}
            onClick={() => s.select({ kind: 'state', machine: machine.id, lane: lane.id, id: x.id })}
          >
            {x.name}
          </button>
        ))}
      </div>
    </div>
  );
}

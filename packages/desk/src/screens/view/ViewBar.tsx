import {
  Crop,
  Crosshair,
  Eye,
  History,
  type LucideIcon,
  Maximize2,
  Move,
  Radar,
  RotateCw,
  Scaling,
  Spline,
} from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { memo } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { useIdleTable, useIsOpen, useSession, useUi, useUiParts } from '../../session/hooks.ts';
import { DRAW_KEYS, type DrawnKind, KIND_MENU, KIND_WORDS } from '../../session/model-help.ts';
import type { Tool } from '../../session/ui-state.ts';
import { AddMenu } from '../../ui/AddMenu.tsx';
import { ShapePicture } from '../../ui/ShapePicture.tsx';
import { AnimateMenu } from './AnimateMenu.tsx';
import { hasPoints } from './PathPoints.tsx';

const TOOLS: readonly [Tool, string, LucideIcon][] = [
  ['pivot', 'Pivot', Crosshair],
  ['turn', 'Turn', RotateCw],
  ['place', 'Place', Move],
  ['size', 'Size', Scaling],
  ['scale', 'Scale', Maximize2],
];
const POINTS: (typeof TOOLS)[number] = ['points', 'Points', Spline];
/** What is drawn most is taken at a press, where there is room. */
const SHAPES: readonly DrawnKind[] = ['rect', 'ellipse', 'text', 'box', 'cylinder'];
/** The kinds to add, and drawing by hand. */
const DRAW = [...KIND_MENU, ['pen', 'Path by points…']] as const;

export const ViewBar = memo(function ViewBar() {
  const running = useUi((u) => u.running);
  return (
    <div className="@container/view flex-none">
      <div className="flex items-center gap-[2px] px-2 pt-1.5 pb-1 @max-[499px]/view:flex-wrap">
        {running ? (
          <span className="btn !cursor-default h-[32px] leading-[26px]">The frame is live: click in it</span>
        ) : (
          <Tools />
        )}
        <div className="flex items-center gap-[2px] ml-auto">
          <ShownToo />
          <Dial />
          <Angles />
          <ZoomMenu />
        </div>
      </div>
    </div>
  );
});

/** What a hand does in the view, and what it draws. */
function Tools() {
  const s = useSession();
  const ui = useUiParts('object', 'shape', 'tool');
  const chosen = useIdleTable('objects').find((o) => o.id === ui.object);
  const withPoints = chosen !== undefined && hasPoints(chosen);
  const drawing = ui.tool === 'shape' || ui.tool === 'pen';
  return (
    <>
      <AnimateMenu />
      {[...TOOLS, ...(withPoints ? [POINTS] : [])].map(([id, name, Icon]) => (
        <Named key={id} name={name} Icon={Icon} on={ui.tool === id} onClick={() => s.set({ tool: id })} />
      ))}
      <span className="flex gap-[2px] @max-[699px]/view:hidden">
        {SHAPES.map((kind) => (
          <button
            key={kind}
            type="button"
            className="btn !px-[2px] h-[32px]"
            aria-label={`Draw: ${KIND_WORDS[kind]}`}
            title={`Draw: ${KIND_WORDS[kind]} (${DRAW_KEYS[kind]?.toUpperCase()})`}
            aria-pressed={ui.tool === 'shape' && ui.shape === kind}
            onClick={() => runCommand(s, `draw.${kind}`)}
          >
            <ShapePicture kind={kind} size={20} />
          </button>
        ))}
      </span>
      <AddMenu
        label="Draw ▾"
        className={`btn h-[32px] !px-[6px] ${drawing ? 'btn-ink' : ''}`}
        kinds={DRAW}
        onPick={(k) => {
          if (k === 'pen') runCommand(s, 'draw.points');
          else if (k === 'group') runCommand(s, 'add.group');
          else runCommand(s, `draw.${k}`);
        }}
      >
        Draw ▾
      </AddMenu>
    </>
  );
}

/** What is shown besides the piece, or left out of it. */
function ShownToo() {
  const s = useSession();
  const ui = useUiParts('ghosts', 'masks', 'zones', 'object', 'only', 'running');
  const open = useIsOpen() && !ui.running;
  const anyMask = useIdleTable('objects').some((o) => o.mask);
  const anyZone = useIdleTable('colliders').length > 0;
  return (
    <>
      <Named
        name="Only this"
        Icon={Eye}
        on={ui.only !== null}
        disabled={ui.only === null && ui.object === null}
        onClick={() => runCommand(s, 'only')}
      />
      {open && (
        <Named
          name="Ghosts"
          says="earlier and later poses of what is chosen, and its path"
          Icon={History}
          on={ui.ghosts}
          onClick={() => s.set({ ghosts: !ui.ghosts })}
        />
      )}
      {open && ui.ghosts && <GhostMenu />}
      {anyMask && (
        <Named name="Masks" Icon={Crop} on={ui.masks} onClick={() => s.set({ masks: !ui.masks })} />
      )}
      {anyZone && (
        <Named
          name="Zones"
          says="where things are noticed"
          Icon={Radar}
          on={ui.zones}
          onClick={() => s.set({ zones: !ui.zones })}
        />
      )}
    </>
  );
}

function Angles() {
  const s = useSession();
  const ui = useUiParts('azimuth', 'elevation');
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className="btn num !px-[5px] h-[32px]"
        aria-label="View angles"
        title={`${Math.round(ui.azimuth)}° round, ${Math.round(ui.elevation)}° up`}
      >
        <span className="@max-[859px]/view:hidden">
          {Math.round(ui.azimuth)}°/{Math.round(ui.elevation)}°{' '}
        </span>
        ▾
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu">
          {(['front', 'quarter', 'top'] as const).map((v) => (
            <DropdownMenu.Item key={v} onSelect={() => runCommand(s, `view.${v}`)}>
              {{ front: 'Front', quarter: 'Three-quarter', top: 'Top' }[v]}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** How large the frame is shown, and in what space. */
function ZoomMenu() {
  const s = useSession();
  const ui = useUiParts('space', 'zoom');
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn num !px-[5px] h-[32px]">
        {Math.round(ui.zoom * 100)} %
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu">
          {[0.5, 1, 2, 4].map((z) => (
            <DropdownMenu.Item key={z} onSelect={() => s.set({ zoom: z })}>
              {z * 100} %
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="h-px bg-line my-1" />
          {(
            [
              ['own', 'The frame as it is made'],
              ['wide', 'Tried in a wide space'],
              ['tall', 'Tried in a tall space'],
            ] as const
          ).map(([space, words]) => (
            <DropdownMenu.Item key={space} onSelect={() => s.set({ space })}>
              {words}
              {ui.space === space && <span aria-hidden="true">✓</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A tool, or what is shown besides the piece: its picture over its name, without that where there is no room. */
function Named(props: {
  name: string;
  says?: string;
  Icon: LucideIcon;
  on: boolean;
  disabled?: boolean;
  onClick: () => void;
}) {
  const { name, says, Icon } = props;
  return (
    <button
      type="button"
      className="btn !px-[4px] !py-0 h-[32px] flex-none flex flex-col items-center justify-center"
      aria-label={name}
      title={says ? `${name}: ${says}` : name}
      aria-pressed={props.on}
      disabled={props.disabled}
      onClick={props.onClick}
    >
      <Icon size={14} aria-hidden="true" />
      <span className="text-[10px] leading-[11px] @max-[699px]/view:hidden">{name}</span>
    </button>
  );
}

/** The view angle: drag the dial; front, three-quarter and top are in the menu beside it. */
function Dial() {
  const s = useSession();
  const ui = useUiParts('azimuth', 'elevation');
  const needle = {
    x: 13 + 8 * Math.sin((ui.azimuth * Math.PI) / 180),
    y: 13 - 8 * Math.cos((ui.azimuth * Math.PI) / 180),
  };
  const turn = (dx: number, dy: number) => {
    s.set({
      azimuth: Math.max(-180, Math.min(180, s.state.azimuth + dx)),
      elevation: Math.max(-90, Math.min(90, s.state.elevation + dy)),
    });
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="View angle"
      aria-valuenow={Math.round(ui.azimuth)}
      aria-valuemin={-180}
      aria-valuemax={180}
      aria-valuetext={`${Math.round(ui.azimuth)} degrees round, ${Math.round(ui.elevation)} up`}
      className="touch-none cursor-grab flex-none pointer-coarse:@max-[560px]/view:hidden"
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => e.buttons === 1 && turn(e.movementX, e.movementY)}
      onKeyDown={(e) => {
        const d = { ArrowLeft: [-5, 0], ArrowRight: [5, 0], ArrowUp: [0, 5], ArrowDown: [0, -5] }[e.key];
        if (!d) return;
        e.preventDefault();
        turn(d[0] as number, d[1] as number);
      }}
    >
      <svg width="26" height="26" aria-hidden="true">
        <circle cx="13" cy="13" r="11" fill="var(--card)" stroke="var(--line)" />
        {/* Marks: front, three-quarter, and top in the middle. */}
        {[
          [13, 3],
          [13 + 10 * Math.sin(0.61), 13 - 10 * Math.cos(0.61)],
          [13, 13],
        ].map(([x, y]) => (
          <circle key={`${x} ${y}`} cx={x} cy={y} r="1.3" fill="var(--ink-3)" />
        ))}
        <line
          x1="13"
          y1="13"
          x2={needle.x}
          y2={needle.y}
          stroke="var(--ink)"
          strokeWidth="2"
          strokeLinecap="round"
        />
      </svg>
    </div>
  );
}

/** How many ghosts, and how far apart. */
function GhostMenu() {
  const s = useSession();
  return (
    <AddMenu
      label="Number and spacing of the ghosts"
      className="btn num -ml-[3px] !px-[3px] h-[32px] pointer-coarse:@max-[560px]/view:hidden"
      kinds={[
        ...[1, 2, 3, 5].map((n) => [`n${n}`, `${n} to each side`] as const),
        ...[1, 2, 3, 6, 12].map(
          (n) => [`s${n}`, n === 1 ? 'each frame number' : `every ${n} frame numbers`] as const,
        ),
      ]}
      onPick={(k) =>
        s.set(k.startsWith('n') ? { ghostCount: Number(k.slice(1)) } : { ghostStep: Number(k.slice(1)) })
      }
    >
      ▾
    </AddMenu>
  );
}

import { type Burst, type Effect, type Flash, type Shake, uniqueName } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { runCommand } from '../../commands/registry.ts';
import { Timing } from '../../sentences/Timing.tsx';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { ColorField } from '../../ui/ColorField.tsx';
import { Heading, NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { Uses } from '../../ui/Uses.tsx';
import { BURSTS, changeEffect } from './edit.ts';

/** An effect: what it is like, while it is shown again and again on the view; and who sets it off. */
export function EffectDetails({ effect }: { effect: Effect }) {
  const s = useSession();
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the effect"
        name={effect.name}
        kind={effect.kind}
        onRename={(n) => {
          const taken = new Set(s.store.all('effects').flatMap((x) => (x.id === effect.id ? [] : x.name)));
          changeEffect(s, effect, { name: uniqueName(n, taken) }, `Renamed ${effect.name}`);
        }}
      />
      {effect.kind === 'burst' && <BurstParts effect={effect} />}
      {effect.kind === 'flash' && <FlashParts effect={effect} />}
      {effect.kind === 'shake' && <ShakeParts effect={effect} />}
      <OnClick effect={effect} />
      <Uses id={effect.id} verb="Set off" heard="Named by" />
      <div>
        <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
          Delete the {effect.kind}
        </button>
      </div>
    </div>
  );
}

/** The shortest way to see it in a run: a click on the object chosen last sets it off. */
function OnClick({ effect }: { effect: Effect }) {
  const s = useSession();
  const chosen = useUi((u) => u.object);
  const object = s.store.get('objects', chosen ?? '');
  if (!object) return null;
  return (
    <button
      type="button"
      className="btn"
      onClick={() =>
        s.edit(`${object.name} sets off ${effect.name}`, (e) =>
          e.add('reactions', {
            ...{ id: s.newId('reactions'), object: object.id, on: { event: 'pointer.click' }, when: [] },
            ...{ after: 0, cooldown: 0, limit: 'always' },
            actions: [{ do: effect.kind, effect: effect.id, object: object.id }],
          }),
        )
      }
    >
      Set it off when {object.name} is clicked
    </button>
  );
}

function Num(props: {
  label: string;
  axis?: string;
  unit?: string;
  value: number;
  least?: number;
  most?: number;
  step?: number;
  onChange: (n: number) => void;
}) {
  return <NumberField short {...props} />;
}

/** From the least to the most of something. */
function Span(props: {
  title: string;
  label: string;
  unit: string;
  value: readonly [number, number];
  least?: number;
  step?: number;
  onChange: (v: [number, number]) => void;
}) {
  const { value, onChange, title, label, unit, ...more } = props;
  return (
    <Row title={title}>
      <Num
        {...more}
        label={`${label} from`}
        axis="from"
        value={value[0]}
        onChange={(n) => onChange([n, Math.max(n, value[1])])}
      />
      <Num
        {...more}
        label={`${label} to`}
        axis="to"
        value={value[1]}
        onChange={(n) => onChange([Math.min(n, value[0]), n])}
      />
      <span className="w-7 text-ink-2 flex-none">{unit}</span>
    </Row>
  );
}

function BurstParts({ effect }: { effect: Burst }) {
  const s = useSession();
  const change = (to: Partial<Burst>) => changeEffect(s, effect, to);
  const { gravity } = effect;
  return (
    <>
      <div className="flex gap-1 flex-wrap items-center">
        <span className="text-ink-2">like</span>
        {Object.entries(BURSTS).map(([name, looks]) => (
          <button
            key={name}
            type="button"
            className="btn"
            onClick={() => changeEffect(s, effect, structuredClone(looks), `${effect.name} became ${name}`)}
          >
            {name}
          </button>
        ))}
      </div>
      <Row title="How many">
        <Num
          label="Particles"
          value={effect.count}
          least={1}
          most={500}
          onChange={(n) => change({ count: Math.round(n) })}
        />
      </Row>
      <Span
        title="Lasts"
        label="Seconds"
        unit="s"
        step={0.1}
        value={effect.seconds}
        least={0.02}
        onChange={(v) => change({ seconds: [Math.min(60, v[0]), Math.min(60, v[1])] })}
      />
      <Row title="Flies">
        <Num
          label="Direction, degrees"
          axis="way"
          value={effect.direction}
          onChange={(n) => change({ direction: n })}
        />
        <Num
          label="Spread, degrees"
          axis="spread"
          value={effect.spread}
          least={0}
          most={360}
          onChange={(n) => change({ spread: n })}
        />
        <span className="w-7 text-ink-2 flex-none">°</span>
      </Row>
      <Span
        title="Speed"
        label="Speed"
        unit="px/s"
        value={effect.speed}
        least={0}
        onChange={(v) => change({ speed: v })}
      />
      <Row title="Falls">
        {(['x', 'y', 'z'] as const).map((axis, k) => (
          <Num
            key={axis}
            label={`Gravity ${axis}`}
            axis={axis}
            step={10}
            value={gravity[k] as number}
            onChange={(n) => change({ gravity: gravity.with(k, n) as Burst['gravity'] })}
          />
        ))}
      </Row>
      <Row title="Slows">
        <Num
          label="Drag"
          step={0.1}
          value={effect.drag}
          least={0}
          most={100}
          onChange={(n) => change({ drag: n })}
        />
        <Num
          label="Depth"
          axis="deep"
          step={0.1}
          value={effect.depth}
          least={0}
          most={10}
          onChange={(n) => change({ depth: n })}
        />
      </Row>
      <BurstLook effect={effect} />
    </>
  );
}

/** How its particles look: how large, turned, drawn and faded. */
function BurstLook({ effect }: { effect: Burst }) {
  const s = useSession();
  const objects = useTable('objects');
  const change = (to: Partial<Burst>) => changeEffect(s, effect, to);
  return (
    <>
      <Span
        title="Size"
        label="Size"
        unit="px"
        value={effect.size}
        least={0}
        onChange={(v) => change({ size: v })}
      />
      <Span
        title="Spins"
        label="Spin"
        unit="°/s"
        step={10}
        value={effect.spin}
        onChange={(v) => change({ spin: v })}
      />
      <Row title="Drawn as">
        <Pick
          label="What a particle is drawn as"
          value={effect.drawing}
          options={[
            ['dot', 'dots'],
            ['square', 'squares'],
            { group: 'A thing of the piece', options: objects.map((o): Option => [o.id, o.name]) },
          ]}
          onChange={(drawing) => change({ drawing })}
        />
      </Row>
      {(effect.drawing === 'dot' || effect.drawing === 'square') && <Fills effect={effect} />}
      <Row title="Fades">
        <Num
          label="Part of its life in which it fades, per cent"
          value={Math.round(effect.fade * 100)}
          least={0}
          most={100}
          onChange={(n) => change({ fade: n / 100 })}
        />
        <span className="text-ink-2 flex-none">% of its life, at the end</span>
      </Row>
    </>
  );
}

function Fills({ effect }: { effect: Burst }) {
  const s = useSession();
  const put = (fills: string[]) => changeEffect(s, effect, { fills });
  return (
    <Row title="Colours">
      <div className="flex flex-wrap gap-1 items-center">
        {effect.fills.map((fill, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two may be the same colour
          <span key={i} className="flex items-center">
            <ColorField
              label={`Colour ${i + 1}`}
              step={`Changed ${effect.name}`}
              value={fill}
              onChange={(c) => put(effect.fills.with(i, c))}
            />
            {effect.fills.length > 1 && (
              <button
                type="button"
                aria-label={`Take colour ${i + 1} away`}
                onClick={() => put(effect.fills.toSpliced(i, 1))}
              >
                <X size={12} />
              </button>
            )}
          </span>
        ))}
        {effect.fills.length < 20 && (
          <button
            type="button"
            aria-label="Add a colour"
            onClick={() => put([...effect.fills, effect.fills.at(-1) ?? '#b23529'])}
          >
            <Plus size={14} />
          </button>
        )}
      </div>
    </Row>
  );
}

function FlashParts({ effect }: { effect: Flash }) {
  const s = useSession();
  const change = (to: Partial<Flash>) => changeEffect(s, effect, to);
  return (
    <>
      <Row title="Colour">
        <ColorField
          label="Colour of the flash"
          step={`Changed ${effect.name}`}
          value={effect.fill}
          onChange={(fill) => change({ fill })}
        />
        <Num
          label="Opacity, per cent"
          axis="%"
          value={Math.round(effect.opacity * 100)}
          least={0}
          most={100}
          onChange={(n) => change({ opacity: n / 100 })}
        />
      </Row>
      <Row title="Goes in">
        <Timing
          labels={['Seconds of the flash', 'Easing of the flash']}
          seconds={effect.seconds}
          easing={effect.easing}
          onChange={change}
        />
      </Row>
      <p className="text-ink-2">Of those that begin within one second only three are shown.</p>
    </>
  );
}

function ShakeParts({ effect }: { effect: Shake }) {
  const s = useSession();
  const change = (to: Partial<Shake>) => changeEffect(s, effect, to);
  const [x, y] = effect.amount;
  return (
    <>
      <Row title="Trembles">
        <Num label="To the sides, px" axis="x" value={x} onChange={(n) => change({ amount: [n, y] })} />
        <Num label="Up and down, px" axis="y" value={y} onChange={(n) => change({ amount: [x, n] })} />
        <Num
          label="Turns, degrees"
          unit="°"
          step={0.5}
          value={effect.turn}
          onChange={(n) => change({ turn: n })}
        />
      </Row>
      <Row title="For">
        <Num
          label="Seconds of the shake"
          unit="s"
          step={0.1}
          value={effect.seconds}
          least={0}
          most={3600}
          onChange={(n) => change({ seconds: n })}
        />
        <Num
          label="Times a second"
          axis="×"
          value={effect.frequency}
          least={0}
          most={60}
          onChange={(n) => change({ frequency: n })}
        />
        <span className="w-14 text-ink-2 flex-none">a second</span>
      </Row>
    </>
  );
}

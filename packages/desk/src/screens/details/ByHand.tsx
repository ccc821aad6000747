import { PROPERTIES, type PropertyInfo } from '@apple-tick/core/model';
import { propertyValue } from '@apple-tick/core/run';
import { useRun, useSession } from '../../session/hooks.ts';
import { NumberField, TextField } from '../../ui/fields.tsx';

const PLACE = PROPERTIES.filter((p) => p.name.startsWith('position.'));

/** While running: an object shown, hidden or moved by hand, and made to speak. What is done so can become a cue sheet. */
export function ByHand({ object }: { object: string }) {
  const s = useSession();
  const id = s.inRun(object);
  const shown = useRun((run) => {
    const at = run.program.objectIndex.get(id);
    return at !== undefined && propertyValue(run.state.values, at, 'shown') === true;
  });
  if (shown === undefined) return null;
  const put = (property: string, value: number | boolean) =>
    s.player?.input({ put: { object: id, property, value } });
  return (
    <section aria-label="By hand" className="border border-line rounded-[7px] p-2">
      <h3 className="text-[13px] pb-1">By hand, in this run</h3>
      <div className="flex gap-1.5 items-center">
        <button type="button" className="btn flex-none" onClick={() => put('shown', !shown)}>
          {shown ? 'Hide' : 'Show'}
        </button>
        {PLACE.map((p) => (
          <Axis key={p.name} id={id} property={p} onChange={(n) => put(p.name, n)} />
        ))}
      </div>
      <div className="flex gap-1.5 items-center pt-1.5">
        <span className="flex-none">Says</span>
        <TextField
          label="Say by hand"
          value=""
          most={5000}
          onChange={(text) => s.player?.input({ say: { object: id, text } })}
        />
      </div>
    </section>
  );
}

function Axis(props: { id: string; property: PropertyInfo; onChange: (n: number) => void }) {
  const { id, property } = props;
  const value = useRun((run) => {
    const at = run.program.objectIndex.get(id);
    return at === undefined
      ? 0
      : Math.round(Number(propertyValue(run.state.values, at, property.name)) * 10) / 10;
  });
  const axis = property.name.slice(-1);
  return (
    <NumberField
      short
      axis={axis}
      label={`Move by hand, ${axis}`}
      value={value ?? 0}
      onChange={props.onChange}
    />
  );
}

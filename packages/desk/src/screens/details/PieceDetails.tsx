import type { Fill, PieceHead } from '@apple-tick/core/model';
import { useHead, useSession } from '../../session/hooks.ts';
import { Heading, NumberField, Pick, Row } from '../../ui/fields.tsx';
import { FillFields } from './FillFields.tsx';

/** What is shown while nothing is selected: the piece's frame, its ground, its one light, its frame numbers. */
export function PieceDetails() {
  const s = useSession();
  const head = useHead();
  const { frame, light, view } = head;
  const change = (name: string, part: Partial<PieceHead>) =>
    s.edit(name, (e) => e.head((h) => ({ ...h, ...part })));
  const size = (k: 'width' | 'height', to: number) =>
    change('Sized the frame', { frame: { ...frame, [k]: to } });
  const ground = (background: Fill) =>
    background !== 'none' && change('Changed the ground', { frame: { ...frame, background } });
  const [w, h] = [frame.width / 2, frame.height / 2];
  return (
    <div className="p-3.5 space-y-2">
      <Heading label="" name={head.name} kind="piece" />
      <p className="text-ink-2">Select an object, a state or a transition to see what it is and does.</p>
      <hr className="border-line" />
      <Row title="Frame">
        {(['width', 'height'] as const).map((k) => (
          <NumberField
            key={k}
            axis={k.charAt(0)}
            label={`Frame ${k}`}
            value={frame[k]}
            least={16}
            most={8192}
            onChange={(n) => size(k, Math.round(n))}
          />
        ))}
      </Row>
      <FillFields
        label="Ground"
        step="Changed the ground"
        fill={frame.background}
        kinds={['color', 'linear', 'radial']}
        box={[-w, -h, w, h]}
        onColor={ground}
        onFill={ground}
      />
      <Light light={light} change={change} />
      <Row title="View °">
        <span className="num flex-1 whitespace-nowrap">
          {view.azimuth}° / {view.elevation}°
        </span>
        <button
          type="button"
          className="btn"
          onClick={() =>
            change('Changed the view of the piece', {
              view: { azimuth: s.state.azimuth, elevation: s.state.elevation },
            })
          }
        >
          Take this one
        </button>
      </Row>
      <Row title="Fits">
        <Pick
          label="How the frame fits its space"
          value={frame.fit}
          options={[
            ['contain', 'all of it, with bars'],
            ['cover', 'no bars, cut at the edges'],
            ['widen', 'no bars, more is seen'],
          ]}
          onChange={(fit) =>
            change('Changed how the frame fits', { frame: { ...frame, fit: fit as typeof frame.fit } })
          }
        />
      </Row>
      <Row title="Time">
        <NumberField
          label="Frame numbers a second"
          value={head.fps}
          least={1}
          most={240}
          onChange={(fps) => change('Changed the frame numbers', { fps })}
        />
        <span className="text-ink-2 whitespace-nowrap">frame numbers a second</span>
      </Row>
    </div>
  );
}

/** Where the light comes from, and whether solids throw shadows. */
function Light({
  light,
  change,
}: {
  light: PieceHead['light'];
  change: (name: string, part: Partial<PieceHead>) => void;
}) {
  return (
    <>
      <Row title="Light °">
        {(['azimuth', 'elevation'] as const).map((k) => (
          <NumberField
            key={k}
            axis={k === 'azimuth' ? 'round' : 'up'}
            label={`Light ${k}`}
            value={light[k]}
            step={5}
            least={k === 'azimuth' ? -360 : -90}
            most={k === 'azimuth' ? 360 : 90}
            onChange={(n) => change('Moved the light', { light: { ...light, [k]: n } })}
          />
        ))}
      </Row>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={light.contact ?? true}
          onChange={(e) =>
            change(e.target.checked ? 'Soft shadows where solids stand' : 'No shadows where solids stand', {
              light: { ...light, contact: e.target.checked },
            })
          }
        />
        soft shadows where solids stand
      </label>
    </>
  );
}

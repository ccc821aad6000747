import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { useHappened, useSession, useTick } from '../../session/hooks.ts';

/** Seconds that are shown. */
const WINDOW = 10;
const LINES = ['0', '5 3', '2 3'];
const INKS = ['var(--leaf)', 'var(--sky)', 'var(--brass)', 'var(--plum)', 'var(--ink-2)'];

/** Number signals over the last seconds of the run, as steps: a value stands until it is changed. */
export default function SignalChart() {
  const s = useSession();
  useHappened();
  // Five times a second is enough for a chart, and leaves the frame its time.
  const now = Math.floor(useTick() / 12) * 0.2;
  const numbers = s.store.all('signals').filter((x) => x.type === 'number');
  const from = Math.max(0, now - WINDOW);
  const changes = s.log.records.filter((r) => r.kind === 'signal' && typeof r.to === 'number');
  // Every other whole second.
  const seconds = Array.from({ length: WINDOW / 2 + 1 }, (_, i) => 2 * (Math.ceil(from / 2) + i));
  const of = (id: string): { t: number; v: number }[] => {
    const def = s.store.get('signals', id);
    const own = changes.filter((r) => r.signal === s.inRun(id));
    const before = own.findLast((r) => r.t <= from)?.to;
    const first = before ?? (def?.type === 'number' ? def.initial : 0);
    const within = own.filter((r) => r.t > from && r.t <= now).map((r) => ({ t: r.t, v: Number(r.to) }));
    const last = within.at(-1)?.v ?? Number(first);
    return [{ t: from, v: Number(first) }, ...within, { t: Math.max(now, from + 0.01), v: last }];
  };
  return (
    <div className="mb-2">
      <div
        className="h-[110px] -ml-2"
        role="img"
        aria-label={`Chart of ${numbers.map((x) => x.name).join(', ')}`}
      >
        <ResponsiveContainer>
          <LineChart margin={{ top: 6, right: 4, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="t"
              type="number"
              domain={[from, from + WINDOW]}
              ticks={seconds}
              tickFormatter={(t: number) => `${Math.round(t)} s`}
              tick={{ fill: 'var(--ink-2)', fontSize: 10.5 }}
              stroke="var(--line)"
              allowDataOverflow
            />
            <YAxis width={34} tick={{ fill: 'var(--ink-2)', fontSize: 10.5 }} stroke="var(--line)" />
            <Tooltip
              isAnimationActive={false}
              labelFormatter={(t) => `${Number(t).toFixed(2)} s`}
              contentStyle={{ background: 'var(--card)', border: '1px solid var(--line)', borderRadius: 7 }}
            />
            {numbers.map((x, i) => (
              <Line
                key={x.id}
                name={x.name}
                data={of(x.id)}
                dataKey="v"
                type="stepAfter"
                stroke={INKS[i % INKS.length] ?? 'var(--ink)'}
                strokeDasharray={LINES[Math.floor(i / INKS.length) % LINES.length] ?? '0'}
                strokeWidth={1.8}
                dot={false}
                isAnimationActive={false}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </div>
      {numbers.length > 1 && (
        <ul className="flex flex-wrap gap-x-3 text-[11px] text-ink-2">
          {numbers.map((x, i) => (
            <li key={x.id} className="flex items-center gap-1">
              <span className="w-3 h-[3px] rounded" style={{ background: INKS[i % INKS.length] }} />
              {x.name}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

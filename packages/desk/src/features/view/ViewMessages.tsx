import { useSession, useUi } from '../../session/hooks.ts';
import type { Screen } from '../../session/view-math.ts';

/** Over the view: what moves change, what a live thing invites to, and what there is to say. */
export function ViewMessages({ screen, width, height }: { screen: Screen; width: number; height: number }) {
  const s = useSession();
  const ui = useUi((u) => u);
  const keyedInto = ui.openClip ? s.store.get('clips', ui.openClip)?.name : undefined;
  return (
    <>
      {ui.keying && (
        <div
          className="absolute pointer-events-none border-[5px] border-double border-brass rounded"
          style={{
            left: screen.x - width / 2 - 6,
            top: screen.y - height / 2 - 6,
            width: width + 12,
            height: height + 12,
          }}
        />
      )}
      {!ui.running && (
        <div className="absolute bottom-1 left-1/2 -translate-x-1/2 bg-card rounded-md px-3 py-0.5 font-semibold text-ink-2 pointer-events-none whitespace-nowrap">
          {ui.keying ? (
            <span className="text-brass">Moves are keyed into {keyedInto}</span>
          ) : (
            'Moves change the base'
          )}
        </div>
      )}
      {ui.running && ui.hint !== '' && (
        <div
          role="status"
          className="absolute bottom-2 left-1/2 -translate-x-1/2 bg-card border border-line rounded-md px-3 py-1"
        >
          {ui.hint}
        </div>
      )}
      {ui.notice !== '' && (
        <div
          role="status"
          className="absolute top-2 left-1/2 -translate-x-1/2 bg-card border border-line rounded-md px-3 py-1 max-w-[90%]"
        >
          {ui.notice}{' '}
          <button type="button" className="underline" onClick={() => s.set({ notice: '' })}>
            Good
          </button>
        </div>
      )}
    </>
  );
}

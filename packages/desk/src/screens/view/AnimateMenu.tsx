import { Activity } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useSession, useUi } from '../../session/hooks.ts';
import { animate, animateAnew, motionsOf, openMotion } from '../../session/motion/animate.ts';

/** From the chosen thing to its motion. Where there are motions already it asks which one. */
export function AnimateMenu() {
  const s = useSession();
  const asks = useUi((u) => u.asksMotion);
  const chosen = useUi((u) => u.object);
  const object = chosen === null ? undefined : s.store.get('objects', chosen);
  const motions = asks && object ? motionsOf(s, object.id) : [];
  return (
    <DropdownMenu.Root
      open={asks && object !== undefined}
      onOpenChange={(open) => s.set({ asksMotion: open })}
    >
      {/* The trigger decides itself whether there is anything to ask. */}
      <DropdownMenu.Trigger asChild onPointerDown={(e) => e.preventDefault()}>
        <button
          type="button"
          className="btn btn-brass h-[32px] !px-[7px] flex items-center gap-1"
          aria-label="Animate"
          disabled={!object}
          title={object ? 'Key moves of what is chosen (A)' : 'Choose an object first'}
          onClick={() => animate(s)}
        >
          <Activity size={14} className="@min-[500px]/view:hidden" aria-hidden="true" />
          <span className="@max-[499px]/view:hidden">Animate</span>
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="start" aria-label="Which motion">
          {motions.map((m) => (
            <DropdownMenu.Item key={m.clip.id} onSelect={() => openMotion(s, m)}>
              <span>{m.clip.name}</span>
              <span className="text-ink-3">
                {m.machine.name} · {m.clip.duration} s
              </span>
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Item onSelect={() => object && animateAnew(s, object)}>
            A new motion
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

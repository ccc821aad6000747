import { Dialog } from 'radix-ui';
import type { ReactNode, RefObject } from 'react';

/** A dialog over the page, with its title; what lies in it may close it by `Dialog.Close`. */
export function DialogBox(props: {
  /** Absent: it is open for as long as it is there. */
  open?: boolean;
  title: string;
  /** Where it lies and how large it is. */
  className: string;
  /** What has the focus when it opens, where that is not the first thing in it. */
  first?: RefObject<HTMLElement | null>;
  onClose: () => void;
  children: ReactNode;
}) {
  const { open = true, first } = props;
  return (
    <Dialog.Root open={open} onOpenChange={(to) => !to && props.onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/30 z-40" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={(e) => {
            if (!first) return;
            e.preventDefault();
            first.current?.focus();
          }}
          className={`fixed z-50 left-1/2 -translate-x-1/2 max-w-[94vw] bg-card border border-line rounded-[9px] p-5 ${props.className}`}
        >
          <Dialog.Title className="text-[17px] font-serif mb-2">{props.title}</Dialog.Title>
          {props.children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

import { Dialog as Base, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import type { ReactNode } from 'react';

/** A sheet laid over the desk; Escape and a click outside take it away. */
export function Dialog({
  title,
  open,
  onClose,
  children,
  wide = false,
}: {
  title: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <Base open={open} onClose={onClose} aria-label={title} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-board-deep/75" />
      <div className="fixed inset-0 flex items-start justify-center overflow-y-auto p-4 pt-[12vh]">
        <DialogPanel className={`w-full border border-hair bg-sheet shadow-xl ${wide ? 'max-w-5xl' : 'max-w-md'}`}>
          <DialogTitle className="written border-b border-rule px-5 py-3 text-[18px] font-semibold">
            {title}
          </DialogTitle>
          <div className="px-5 py-4">{children}</div>
        </DialogPanel>
      </div>
    </Base>
  );
}

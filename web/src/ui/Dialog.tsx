import { Dialog as Base, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { useEffect, useRef, type ReactNode } from 'react';

const fields = 'input:not([type=file]), textarea, select, button, a[href]';

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
  const panel = useRef<HTMLDivElement>(null);
  const last = useRef<HTMLElement>(null);
  // A menu it was opened from gives the hand back to its button as it closes, and what has the hand may be taken away as more of
  // the sheet comes; the hand belongs in here.
  useEffect(() => {
    if (!open) return;
    const take = () => {
      const within = panel.current;
      if (!within || within.contains(document.activeElement)) return;
      const before = last.current?.isConnected ? last.current : null;
      (before ?? within.querySelector<HTMLElement>(fields) ?? within).focus();
    };
    const lost = () => setTimeout(() => document.activeElement === document.body && take());
    const within = panel.current;
    within?.addEventListener('focusout', lost);
    document.addEventListener('focusin', take);
    const opened = setTimeout(take, 150);
    const settled = setTimeout(() => document.removeEventListener('focusin', take), 600);
    return () => {
      within?.removeEventListener('focusout', lost);
      document.removeEventListener('focusin', take);
      clearTimeout(opened);
      clearTimeout(settled);
    };
  }, [open]);
  return (
    <Base open={open} onClose={onClose} aria-label={title} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-board-deep/75" />
      <div className="fixed inset-0 flex items-start justify-center overflow-y-auto p-4 pt-[12vh]">
        <DialogPanel
          ref={panel}
          tabIndex={-1}
          onFocusCapture={(event) => {
            last.current = event.target;
          }}
          className={`w-full border border-hair bg-sheet shadow-xl outline-none ${wide ? 'max-w-5xl' : 'max-w-md'}`}
        >
          <DialogTitle className="written border-b border-rule px-5 py-3 text-[18px] font-semibold">
            {title}
          </DialogTitle>
          <div className="px-5 py-4">{children}</div>
        </DialogPanel>
      </div>
    </Base>
  );
}

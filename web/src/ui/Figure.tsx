import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import type { ReactNode } from 'react';

/** A computed number that opens to what it is made of. */
export function Figure({
  shown,
  of,
  className = '',
  children,
}: {
  shown: string;
  /** What it is a figure of, for those who hear it. */
  of: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Popover className="inline">
      <PopoverButton
        aria-label={`${of}: ${shown}. What it is made of`}
        className={`figures decoration-dotted underline-offset-[3px] hover:text-blue hover:underline ${className}`}
      >
        {shown}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom start', gap: 6 }}
        className="z-40 w-72 border border-hair bg-sheet px-4 py-3 text-[12.5px] leading-normal font-normal text-second shadow-lg"
      >
        {children}
      </PopoverPanel>
    </Popover>
  );
}

import { useDraggable } from '@dnd-kit/core';
import { useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import type { Carried } from './carryingDays';

/** The id of the words that say how a thing is carried by key; the plan's drag context is called so. */
export const howToCarry = 'how-to-carry';

const carriedIn = new WeakMap<Element, Carried>();

/** Makes an element one that is carried, by the pointer or, after Space, by the arrow keys. */
export const carry = (carried: Carried) => ({
  ref: (node: HTMLElement | null) => {
    if (node) carriedIn.set(node, carried);
  },
  draggable: false as const,
  'data-carry': '',
  'aria-describedby': howToCarry,
});

/**
 * Picks up what is touched in it. One draggable serves all that can be carried: a full quarter holds more than a thousand, and each
 * of so many would be drawn anew whenever one is picked up or let go.
 */
export function Grasp({ children }: { children: ReactNode }) {
  const [carried, setCarried] = useState<Carried>();
  const { setNodeRef, listeners, active } = useDraggable({ id: 'grasped', data: carried });
  const grasp = (event: PointerEvent | KeyboardEvent) => {
    const node = (event.target as Element).closest<HTMLElement>('[data-carry]');
    const touched = node && carriedIn.get(node);
    if (!touched || active) return;
    setNodeRef(node);
    flushSync(() => setCarried(touched));
    listeners?.[event.type === 'keydown' ? 'onKeyDown' : 'onPointerDown']?.(event);
  };
  return (
    <div
      className="contents"
      onPointerDown={grasp}
      onKeyDown={(event) => {
        if (event.code === 'Space') grasp(event);
      }}
    >
      {children}
    </div>
  );
}

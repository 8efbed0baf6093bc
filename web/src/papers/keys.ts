import { useEffect } from 'react';
import { keyOf, pressed, type ActName } from './ownKeys';

/** Whether someone is typing, so that single letters are letters. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      // A box that is ticked takes no letters.
      (['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) &&
        !(target instanceof HTMLInputElement && target.type === 'checkbox')) ||
      target.closest('[role=dialog],[role=menu],[role=listbox]') !== null ||
      // Nothing behind a sheet that lies over all is done by a letter.
      document.querySelector('[role=dialog][aria-modal=true]') !== null)
  );
}

type Listener = (event: KeyboardEvent) => void;

/**
 * Runs what a key does on this screen, unless someone is typing.
 * @param named What can be given another key.
 * @param fixed By the key itself, without Ctrl or Alt: what a list or an offer is gone through by.
 */
export function useKeys(
  named: Partial<Record<ActName, Listener>>,
  { fixed = {}, active = true }: { fixed?: Record<string, Listener>; active?: boolean } = {},
): void {
  useEffect(() => {
    if (!active) return;
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || isTyping(event.target)) return;
      const keys = pressed(event);
      const name = (Object.keys(named) as ActName[]).find((act) => keyOf(act) === keys);
      const act =
        (name && named[name]) ?? (event.ctrlKey || event.metaKey || event.altKey ? undefined : fixed[event.key]);
      if (!act) return;
      // A button that has the focus is pressed by Space, here as everywhere.
      if (event.key === ' ' && event.target instanceof Element && event.target.closest('button, a, summary, input'))
        return;
      event.preventDefault();
      // The page itself has the focus, and gets it back from a dialog; else a field that had it long ago would take the next key.
      if (document.activeElement === document.body) document.getElementById('screen')?.focus({ preventScroll: true });
      act(event);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
}

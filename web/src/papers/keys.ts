import { useEffect } from 'react';

/** Whether someone is typing, so that single letters are letters. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
      target.closest('[role=dialog],[role=menu],[role=listbox]') !== null)
  );
}

/** Runs an action for a single key on this screen, unless someone is typing or a modifier is held. */
export function useKeys(actions: Record<string, (event: KeyboardEvent) => void>, active = true): void {
  useEffect(() => {
    if (!active) return;
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const act = actions[event.key];
      if (!act) return;
      // A button that has the focus is pressed by Space, here as everywhere.
      if (event.key === ' ' && event.target instanceof Element && event.target.closest('button, a, summary')) return;
      event.preventDefault();
      // The page itself has the focus, and gets it back from a dialog; else a field that had it long ago would take the next key.
      if (document.activeElement === document.body) document.getElementById('screen')?.focus({ preventScroll: true });
      act(event);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
}

import { useEffect, useState } from 'react';
import { thisTab } from './client';
import { queryClient } from './queries';

export type Changed = { command: number; what: string; areas: string[]; by?: string | null };

/** Tables that a save of a draft touches, when it is nothing but writing. */
const writing = new Set(['draft', 'section', 'link', 'sitting', 'piece_version', 'version_unit']);

const listeners = new Set<(changed: Changed) => void>();
const lines = new Set<(open: boolean) => void>();
let open = false;

/** Listens to what changes in the papers, by this tab or anything else. */
export function onChanged(listener: (changed: Changed) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Told when the line to the server opens or breaks. */
export function onLine(listener: (open: boolean) => void): () => void {
  lines.add(listener);
  return () => lines.delete(listener);
}

/** Whether the server can be heard. */
export function useLine(): boolean {
  const [isOpen, setOpen] = useState(open);
  useEffect(() => onLine(setOpen), []);
  return isOpen;
}

function setLine(next: boolean) {
  if (next === open) return;
  open = next;
  lines.forEach((listener) => listener(next));
}

/** Opens the line and keeps it open; what is shown is asked for again after a change or a break. */
export function listen(): void {
  const events = new EventSource('/api/events');
  let asked = false;
  const refresh = () => {
    if (asked) return;
    asked = true;
    setTimeout(() => {
      asked = false;
      // The draft in the editor is newer than the server's; it looks after itself.
      void queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'draft' });
    }, 30);
  };
  let broken = false;
  events.addEventListener('beat', () => {
    if (broken) refresh();
    broken = false;
    setLine(true);
  });
  events.addEventListener('changed', (event) => {
    const changed = JSON.parse((event as MessageEvent<string>).data) as Changed;
    // What this tab has just written it knows; everything is asked for again only when something else happened.
    if (changed.by !== thisTab || !changed.areas.every((area) => writing.has(area))) refresh();
    listeners.forEach((listener) => listener(changed));
  });
  events.onerror = () => {
    broken = true;
    setLine(false);
    // A browser gives up on some errors; a new line is opened then.
    if (events.readyState === EventSource.CLOSED) {
      events.close();
      setTimeout(listen, 2_000);
    }
  };
}

import { useSyncExternalStore } from 'react';

/** How far something that was typed has come: in the field only, on its way, held in this browser, in two versions, on the server. */
export type SaveState = 'saved' | 'typing' | 'saving' | 'kept' | 'clash';

/** The worst first. */
const order: SaveState[] = ['clash', 'kept', 'saving', 'typing', 'saved'];

const states = new Map<string, SaveState>();
const watchers = new Set<() => void>();
let said: { state: SaveState; at: string } = { state: 'saved', at: '' };

/** Tells how far one text has come. All of them are summed up at one place, in the masthead. */
export function keeping(place: string, state: SaveState): void {
  // What was never typed need not be kept.
  if (state === 'saved' && !states.delete(place)) return;
  if (state !== 'saved') states.set(place, state);
  const worst = order.find((one) => [...states.values()].includes(one)) ?? 'saved';
  const isNew = worst !== said.state || state === 'saved';
  if (!isNew) return;
  const now = new Date();
  const at =
    state === 'saved'
      ? `${String(now.getHours()).padStart(2, '0')}:${String(now.getMinutes()).padStart(2, '0')}`
      : said.at;
  if (worst === said.state && at === said.at) return;
  said = { state: worst, at };
  watchers.forEach((watch) => watch());
}

/** How far everything that was typed in this tab has come. */
export const useKeeping = () =>
  useSyncExternalStore(
    (watch) => {
      watchers.add(watch);
      return () => watchers.delete(watch);
    },
    () => said,
  );

import { useSyncExternalStore } from 'react';

const narrow = matchMedia('(max-width: 767px)');

/** Whether the page is as narrow as a phone, for words that have to be shorter there. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (watch) => {
      narrow.addEventListener('change', watch);
      return () => narrow.removeEventListener('change', watch);
    },
    () => narrow.matches,
  );
}

/** On the phone a row of links is broader than the page: brings one of them in sight. Elsewhere not even measured, which takes time. */
export function inSight(link: Element | null | undefined): void {
  if (narrow.matches) link?.scrollIntoView({ block: 'nearest', inline: 'center' });
}

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

import { useDeferredValue, type ReactNode } from 'react';

/** Drawn behind what stands beside it, so that the first picture does not wait for it. */
export function Later({ instead, children }: { instead?: ReactNode; children: ReactNode }) {
  return useDeferredValue(true, false) ? children : instead;
}

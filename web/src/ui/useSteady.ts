import { useEffect, useState } from 'react';

/** The newest of some acts behind names that stay. */
function steadied<T extends object>(first: T): { steady: T; renew: (acts: T) => void } {
  let newest = first;
  const names = Object.keys(first) as (keyof T)[];
  const called =
    (name: keyof T) =>
    (...given: unknown[]) =>
      (newest[name] as (...all: unknown[]) => unknown)(...given);
  return {
    steady: Object.fromEntries(names.map((name) => [name, called(name)])) as T,
    renew: (acts) => {
      newest = acts;
    },
  };
}

/**
 * Acts that stay one object while each does the newest: what they are given to is drawn again only when something else changed.
 * The names are those of the first render.
 */
export function useSteady<T extends object>(acts: T): T {
  const [{ steady, renew }] = useState(() => steadied(acts));
  useEffect(() => renew(acts));
  return steady;
}

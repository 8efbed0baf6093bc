import { useCallback, useState } from 'react';

/** A choice of the one who sits at this browser, kept there. */
export function useChoice<T extends string>(name: string, usual: T): readonly [T, (choice: T) => void] {
  const place = `nachlass.choice.${name}`;
  const [choice, setChoice] = useState(() => (localStorage.getItem(place) as T | null) ?? usual);
  const choose = useCallback(
    (next: T) => {
      localStorage.setItem(place, next);
      setChoice(next);
    },
    [place],
  );
  return [choice, choose];
}

import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';

const pause = 250;

/**
 * A text that is typed and kept in the address, so that it can be gone back to and sent on. The address follows a moment behind the hand: a
 * field that waited for it would lose letters.
 */
export function useAddressText(name: string): [string, (text: string) => void] {
  const [params, setParams] = useSearchParams();
  const there = params.get(name) ?? '';
  const [typed, setTyped] = useState(there);
  const [seen, setSeen] = useState(there);
  const [written, setWritten] = useState(there);
  if (there !== seen) {
    setSeen(there);
    // Not what this field wrote: a link, or the way back.
    if (there !== written) {
      setTyped(there);
      setWritten(there);
    }
  }
  useEffect(() => {
    if (typed === written) return;
    const later = setTimeout(() => {
      setWritten(typed);
      setParams(
        (before) => {
          const next = new URLSearchParams(before);
          if (typed) next.set(name, typed);
          else next.delete(name);
          return next;
        },
        { replace: true },
      );
    }, pause);
    return () => clearTimeout(later);
  }, [typed, written, name, setParams]);
  return [typed, setTyped];
}

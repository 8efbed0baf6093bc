import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';

/** A value as it was a moment ago, so that not every letter is asked about. */
export function useSettled<T>(value: T, delay = 120): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), delay);
    return () => clearTimeout(timer);
  }, [value, delay]);
  return settled;
}

/** How the server reads a query as it is typed; `isCurrent` while that is about the very text in the field. */
export function useUnderstood(typed: string, caret: number, active = true) {
  const text = useSettled(typed);
  const at = useSettled(caret);
  const understood = useQuery({
    queryKey: keys.understood(text, at),
    queryFn: () => ask(api.GET('/api/query', { params: { query: { text, caret: at } } })),
    enabled: active && text !== '',
    placeholderData: (previous) => previous,
  });
  return {
    ...(text === '' ? undefined : understood.data),
    isCurrent: text === typed && !understood.isPlaceholderData && (text === '' || understood.data !== undefined),
  };
}

/** Whether more than words was typed, so that it is worth saying how it was read. */
export const isMoreThanWords = (typed: string) => /[:<>=()"“”#]|\b(or|not|and)\b/i.test(typed);

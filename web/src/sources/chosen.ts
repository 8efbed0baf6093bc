import { useMemo, useRef, useState } from 'react';
import { idOf } from './entries';
import { api, done, type LibraryEntry, type SeveralChange } from '../api/client';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';

/** An entry as one number: a slip's own, a source's below zero. */
export type Chosen = {
  /** What is chosen of the list as it stands, in its order. */
  entries: readonly LibraryEntry[];
  slips: number[];
  has: (entry: LibraryEntry) => boolean;
  toggle: (row: number) => void;
  /** All from where choosing began to here. */
  range: (row: number) => void;
  /** Choosing begins here, unless this is chosen already. */
  begin: (row: number) => void;
  all: (entries: readonly LibraryEntry[]) => void;
  none: () => void;
};

/** Entries chosen to be changed together. They are known by what they are, so that another order leaves them chosen. */
export function useChosen(listed: readonly LibraryEntry[]): Chosen {
  const [ids, setIds] = useState<ReadonlySet<number>>(new Set());
  const from = useRef(0);
  // One that is gathered under several headings is still one.
  const entries = useMemo(() => {
    if (ids.size === 0) return [];
    const here = new Map(listed.filter((entry) => ids.has(idOf(entry))).map((entry) => [idOf(entry), entry]));
    return [...here.values()];
  }, [listed, ids]);
  const has = (entry: LibraryEntry) => ids.has(idOf(entry));
  return {
    entries,
    slips: entries.flatMap((entry) => (entry.slip ? [entry.slip.number] : [])),
    has,
    toggle: (row) => {
      const next = new Set(ids);
      const id = idOf(listed[row]!);
      if (!next.delete(id)) next.add(id);
      from.current = row;
      setIds(next);
    },
    range: (row) => {
      const [low, high] = [Math.min(from.current, row), Math.max(from.current, row)];
      setIds(new Set([...ids, ...listed.slice(low, high + 1).map(idOf)]));
    },
    begin: (row) => {
      if (listed[row] && !has(listed[row])) from.current = row;
    },
    all: (whole) => setIds(new Set(whole.map(idOf))),
    none: () => setIds(new Set()),
  };
}

/** One change to several slips, taken back as one. */
export async function changeSeveral(slips: number[], fields: Partial<SeveralChange>): Promise<void> {
  if (!slips.length) return;
  await carryOut(
    done(api.POST('/api/slips/several', { body: { ...fields, slips } as SeveralChange })),
    slips.length > 1 ? `Changed ${slips.length} slips.` : undefined,
  ).catch(() => undefined);
  await queryClient.invalidateQueries({ queryKey: ['library'] });
}

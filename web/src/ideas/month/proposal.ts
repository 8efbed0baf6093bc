import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, ask } from '../../api/client';
import type { components } from '../../api/schema';
import { keys } from '../../api/queries';

type Schemas = components['schemas'];
export type Asked = Schemas['MonthAsked'];
export type MonthIdea = Schemas['MonthIdea'];
type Place = Schemas['MonthPlace'];
export type Taken = Schemas['MonthTaken'];

/** A date as it stands on the page: as it was proposed, or changed since. */
export type Row = Place & { id: string; text: string; at: number; isLeft: boolean };

const rowOf = (place: Place): Row => ({
  ...place,
  id: `${place.date} ${place.outlet} ${place.format}`,
  text: place.ideas[0]?.text ?? place.name,
  at: 0,
  isLeft: false,
});

const store = 'nachlass.month';

/** What was changed is held in this browser until it is taken or proposed anew; a reload loses nothing. */
export function useProposal(asked: Asked) {
  const place = JSON.stringify(asked);
  const [held, setHeld] = useState(readHeld);
  // What another tab changed or took is so here too; taken twice, each date would have two pieces.
  useEffect(() => {
    const follow = (event: StorageEvent) => event.key === store && setHeld(readHeld());
    window.addEventListener('storage', follow);
    return () => window.removeEventListener('storage', follow);
  }, []);
  const proposal = useQuery({
    queryKey: keys.monthProposed(asked),
    queryFn: () => ask(api.POST('/api/plan/proposal', { body: asked })),
    staleTime: Infinity,
  });
  const mine = held?.place === place ? held.rows : null;
  const rows = mine ?? proposal.data?.places.map(rowOf) ?? [];
  const change = (next: readonly Row[] | null, of = place) => {
    const holding = next && { place: of, rows: next };
    if (holding) localStorage.setItem(store, JSON.stringify(holding));
    else localStorage.removeItem(store);
    setHeld(holding);
  };
  const put = (id: string, to: Partial<Row>) => change(rows.map((row) => (row.id === id ? { ...row, ...to } : row)));
  return { proposal, rows, place, isChanged: mine !== null, change, put };
}

type Held = { place: string; rows: readonly Row[] };

function readHeld(): Held | null {
  try {
    return JSON.parse(localStorage.getItem(store) ?? 'null') as Held | null;
  } catch {
    return null;
  }
}

/** What stands on two dates, exchanged; each keeps its day, hour, outlet and format. */
export function exchanged(rows: readonly Row[], one: number, other: number): readonly Row[] {
  const [a, b] = [rows[one], rows[other]];
  if (!a || !b) return rows;
  const stands = ({ topic, name, text, ideas, at, because, isLeft }: Row) => ({
    topic,
    name,
    text,
    ideas,
    at,
    because,
    isLeft,
  });
  return rows.map((row, at) => (at === one ? { ...a, ...stands(b) } : at === other ? { ...b, ...stands(a) } : row));
}

/** A row as it is taken: what is still as the idea says keeps where it came from. */
export function takenOf(row: Row): Taken {
  const idea = row.ideas[row.at];
  return {
    date: row.date,
    outlet: row.outlet,
    format: row.format,
    text: row.text.trim(),
    hour: row.hour,
    topic: row.topic?.number,
    name: row.name,
    shape: idea?.slip ? null : (idea?.shape ?? null),
    kind: idea?.kind ?? 'term',
    because: row.because.join(' '),
    from: idea?.from ?? null,
    slip: idea?.slip ?? undefined,
  };
}

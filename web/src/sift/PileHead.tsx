import { useSearchParams } from 'react-router';
import { Link } from 'react-router';
import type { PileOrder } from '../api/client';
import { useViews } from '../api/queries';
import { ActionMenu } from '../ui/ActionMenu';
import { nearDay } from '../ui/dates';

export type PileAsked = {
  order?: PileOrder;
  view?: number;
  topic?: number;
  piece?: number;
  on?: number;
  from?: string;
  lookUp?: boolean;
};

/** Which pile the address asks for. */
export function usePile(): PileAsked {
  const [params] = useSearchParams();
  const number = (name: string) => Number(params.get(name)) || undefined;
  return {
    order: (params.get('order') as PileOrder | null) ?? undefined,
    view: number('view'),
    topic: number('topic'),
    piece: number('piece'),
    on: number('on'),
    from: params.get('from') ?? undefined,
    lookUp: params.has('lookUp') || undefined,
  };
}

const orders: [PileOrder, string][] = [
  ['origin', 'by where it came from'],
  ['newest', 'newest first'],
  ['oldest', 'oldest first'],
  ['topic', 'by topic'],
  ['worth', 'worthiest first'],
];

/** What the pile is, with choosing another and its order. */
export function PileHead({ pile, name, before }: { pile: PileAsked; name: string | null; before: string | null }) {
  const [params, setParams] = useSearchParams();
  const views = useViews().data ?? [];
  const again = pile.topic !== undefined || pile.piece !== undefined;
  const set = (changed: Record<string, string>) => {
    const next = new URLSearchParams(params);
    for (const [key, value] of Object.entries(changed))
      if (value) next.set(key, value);
      else next.delete(key);
    setParams(next);
  };
  return (
    <div className="mb-3 max-md:mb-1">
      <ActionMenu
        label="Which pile"
        className="written block max-w-full truncate text-left text-[15.5px] font-semibold hover:text-blue"
        actions={[
          {
            key: 'all',
            label: 'All that waits',
            onChoose: () => set({ view: '', topic: '', piece: '', from: '', on: '', lookUp: '' }),
          },
          {
            key: 'look-up',
            label: 'To look up',
            note: 'a reading hour',
            onChoose: () => set({ view: '', topic: '', piece: '', from: '', on: '', lookUp: 'true' }),
          },
          ...views.map((view) => ({
            key: String(view.number),
            label: view.name,
            note: 'what waits in it',
            onChoose: () => set({ view: String(view.number), topic: '', piece: '', from: '', on: '', lookUp: '' }),
          })),
        ]}
      >
        {again ? 'Again: ' : pile.on ? 'Waits on ' : ''}
        {name ?? 'All that waits'} <span className="text-[12px] text-second">▾</span>
      </ActionMenu>
      {again && (
        <p className="text-[12px] text-second">
          {before ? `what is new since ${nearDay(before.slice(0, 10))}` : 'not gone through before'} ·{' '}
          <Link className="link" to={pile.topic ? `/topics/${pile.topic}` : `/bench/${pile.piece}`}>
            open
          </Link>
        </p>
      )}
      <select
        aria-label="Order of the pile"
        value={pile.order ?? 'origin'}
        onChange={(event) => set({ order: event.target.value === 'origin' ? '' : event.target.value })}
        className="mt-0.5 w-full bg-transparent text-[12.5px] text-second"
      >
        {orders.map(([key, said]) => (
          <option key={key} value={key}>
            {said}
          </option>
        ))}
      </select>
    </div>
  );
}

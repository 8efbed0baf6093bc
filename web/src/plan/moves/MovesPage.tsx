import { useEffect, useState, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import { api, done, type Move } from '../../api/client';
import { queryClient, useMoves } from '../../api/queries';
import { AddMove, MoveLine, placeMove } from '../../capture/Moves';
import { carryOut, say } from '../../papers/notices';
import { useKeys } from '../../papers/keys';
import { isKey, keyOf, keysShown } from '../../papers/ownKeys';
import { Failed, Loading } from '../../ui/States';
import { longDay, nearDay, plusDays, today } from '../../ui/dates';
import { useChoice } from '../../ui/useChoice';
import { PlanNav } from '../PlanNav';
import { mondayOf } from '../planning';
import { GuidePart } from './GuidePart';

type Part = { key: string; name: string; to?: string; moves: Move[]; isLate?: boolean; isFolded?: boolean };

/** All open moves: overdue first, then by day or by piece; what has no date is a list of its own. */
export default function MovesPage() {
  const moves = useMoves();
  const [by, setBy] = useChoice<'day' | 'piece'>('moves.by', 'day');
  useEffect(() => {
    document.title = 'Moves · Nachlass';
  }, []);
  useKeys({}, { fixed: { ArrowDown: () => walk(1), ArrowUp: () => walk(-1) } });
  if (moves.error) return <Failed error={moves.error} onRetry={() => void moves.refetch()} />;
  if (!moves.data) return <Loading what="Looking for moves" />;
  const parts = by === 'day' ? byDay(moves.data) : byPiece(moves.data);
  const late = moves.data.filter((move) => move.due && move.due < today());

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1160px] px-9 py-6 max-md:px-4">
        <header className="mb-4">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h1 className="written text-[25px] leading-tight font-semibold">Moves</h1>
            <span className="figures text-[12.5px] text-second">
              {moves.data.length === 1 ? '1 open' : `${moves.data.length} open`}
              {late.length > 0 && ` · ${late.length} overdue`}
            </span>
            <PlanNav />
          </div>
          <div className="mt-1.5 flex flex-wrap items-center gap-x-4 text-[12.5px] text-second">
            <span role="group" aria-label="Shown" className="inline-flex gap-3">
              {(['day', 'piece'] as const).map((one) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={one === by}
                  className={one === by ? 'font-semibold text-ink' : 'hover:text-blue'}
                  onClick={() => setBy(one)}
                >
                  by {one}
                </button>
              ))}
            </span>
            <span className="max-md:hidden">
              ↑ ↓ from move to move; {keysShown(keyOf('plan.today'))} today, {keysShown(keyOf('plan.tomorrow'))}{' '}
              tomorrow, {keysShown(keyOf('plan.week'))} in a week, {keysShown(keyOf('plan.done'))} done
            </span>
          </div>
        </header>
        <div className="flex gap-12 max-lg:block">
          <div className="min-w-0 flex-1">
            <AddMove />
            {moves.data.length === 0 && (
              <p className="mt-4 text-second">
                No open moves. A move is one concrete next action; write one above, with a date or without.
              </p>
            )}
            {parts.map((part) => (
              <MovePart key={part.key} part={part} />
            ))}
          </div>
          <aside className="w-[300px] shrink-0 max-lg:mt-8 max-lg:w-auto">
            <GuidePart />
          </aside>
        </div>
      </div>
    </div>
  );
}

function MovePart({ part }: { part: Part }) {
  const [open, setOpen] = useState(!part.isFolded);
  return (
    <section aria-label={part.name} className="mt-5">
      <h2 className={`flex items-baseline gap-3 border-b border-hair pb-1 ${part.isLate ? 'text-red' : ''}`}>
        <span className="label">
          {part.isFolded ? (
            <button
              type="button"
              aria-expanded={open}
              className="min-h-6 hover:text-blue"
              onClick={() => setOpen(!open)}
            >
              {open ? '▾' : '▸'} {part.name} · {part.moves.length}
            </button>
          ) : part.to ? (
            <Link to={part.to} className="hover:text-blue">
              {part.name}
            </Link>
          ) : (
            part.name
          )}
        </span>
        {part.isLate && (
          <button
            type="button"
            className="link ml-auto text-[12.5px] font-normal"
            onClick={() => void allToToday(part.moves)}
          >
            all to today
          </button>
        )}
      </h2>
      {open && (
        <ul>
          {part.moves.map((move, at) => (
            <li
              key={move.number}
              tabIndex={0}
              data-move={move.number}
              aria-label={`${move.text}, ${move.due ? nearDay(move.due) : 'no date'}`}
              onKeyDown={(event) => void byKey(event, move)}
              className="outline-offset-2"
            >
              <MoveLine
                move={move}
                onStep={part.moves.length > 1 ? (step) => void placeMove(part.moves, at, step) : undefined}
              />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What has begun, day by day; what is overdue first, what begins later folded. */
function byDay(moves: readonly Move[]): Part[] {
  const now = today();
  const later = moves.filter((move) => move.start && move.start > now);
  const begun = moves.filter((move) => !later.includes(move));
  const on = (from: string, to: string) => begun.filter((move) => move.due && from <= move.due && move.due <= to);
  const sunday = plusDays(mondayOf(now), 6);
  const next = plusDays(sunday, 7);
  const days = [...new Set(on(plusDays(now, 2), sunday).map((move) => move.due!))].sort();
  return [
    { key: 'late', name: 'Overdue', moves: begun.filter((move) => move.due && move.due < now), isLate: true },
    { key: 'today', name: 'Today', moves: on(now, now) },
    { key: 'tomorrow', name: 'Tomorrow', moves: on(plusDays(now, 1), plusDays(now, 1)) },
    ...days.map((day) => ({ key: day, name: longDay(day), moves: on(day, day) })),
    {
      key: 'next',
      name: 'Next week',
      moves: on(plusDays(sunday, 1) > plusDays(now, 2) ? plusDays(sunday, 1) : plusDays(now, 2), next),
    },
    { key: 'after', name: 'After that', moves: on(plusDays(next, 1), '9999-12-31') },
    { key: 'none', name: 'Without a date', moves: begun.filter((move) => !move.due) },
    { key: 'later', name: 'Not begun yet', moves: later, isFolded: true },
  ].filter((part) => part.moves.length > 0);
}

/** Overdue first, then piece by piece, then what belongs to none. */
function byPiece(moves: readonly Move[]): Part[] {
  const now = today();
  const late = moves.filter((move) => move.due && move.due < now);
  const rest = moves.filter((move) => !late.includes(move));
  const pieces = [
    ...new Map(rest.filter((move) => move.piece !== null).map((move) => [move.piece!, move.pieceTitle ?? ''])),
  ];
  return [
    { key: 'late', name: 'Overdue', moves: late, isLate: true },
    ...pieces.map(([piece, title]) => ({
      key: `p${piece}`,
      name: `P ${piece} ${title}`,
      to: `/bench/${piece}`,
      moves: rest.filter((move) => move.piece === piece),
    })),
    { key: 'none', name: 'Of no piece', moves: rest.filter((move) => move.piece === null) },
  ].filter((part) => part.moves.length > 0);
}

const rows = () => [...document.querySelectorAll<HTMLElement>('li[data-move]')];

/** Up and down from move to move, from the one that is chosen or something in it; from nowhere to the first or the last. */
function walk(by: 1 | -1) {
  const all = rows();
  const at = all.findIndex((row) => row.contains(document.activeElement));
  (at < 0 ? all.at(by > 0 ? 0 : -1) : all[at + by])?.focus();
}

const edit = (move: Move, body: { due?: string; done?: boolean }) =>
  done(
    api.PATCH('/api/moves/{number}', {
      params: { path: { number: String(move.number) } },
      body: { version: move.version, ...body },
    }),
  );

async function byKey(event: KeyboardEvent, move: Move) {
  if (event.target !== event.currentTarget) return;
  const set = (body: { due?: string; done?: boolean }, words: string) => {
    event.preventDefault();
    event.stopPropagation();
    const all = rows();
    const at = all.indexOf(event.currentTarget as HTMLElement);
    const next = (all[at + 1] ?? all[at - 1])?.dataset.move;
    void carryOut(edit(move, body), words)
      .then(() => queryClient.invalidateQueries())
      // Whoever goes through them by key goes on with the next.
      .then(() => document.querySelector<HTMLElement>(`li[data-move="${next ?? ''}"]`)?.focus())
      .catch(() => undefined);
  };
  if (isKey(event, 'plan.today')) set({ due: today() }, 'Set for today.');
  else if (isKey(event, 'plan.tomorrow')) set({ due: plusDays(today(), 1) }, 'Set for tomorrow.');
  else if (isKey(event, 'plan.week')) set({ due: plusDays(today(), 7) }, 'Set for in a week.');
  else if (isKey(event, 'plan.done')) set({ done: true }, 'Done.');
}

async function allToToday(moves: readonly Move[]) {
  const commands: number[] = [];
  try {
    for (const move of moves) commands.push((await edit(move, { due: today() })).command);
  } finally {
    if (commands.length > 0)
      say(commands.length === 1 ? 'Set for today.' : `${commands.length} set for today.`, commands);
    await queryClient.invalidateQueries();
  }
}

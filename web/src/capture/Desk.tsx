import { TopicField } from '../ui/TopicField';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient, useMoves, usePieces } from '../api/queries';
import { UsableDialog } from '../bench/Usable';
import { useKeys } from '../papers/keys';
import { carryOut } from '../papers/notices';
import { LeadsTo, dayNumber } from '../sources/Connections';
import { Failed, Loading } from '../ui/States';
import { ViewsOnDesk } from './ViewsOnDesk';
import { TextField } from '../ui/TextField';
import { longDay, nearDay, today, weekday } from '../ui/dates';
import { MonthStrip } from './MonthStrip';
import { PinnedOnDesk } from '../plan/Pinned';
import { MatrixOnDesk } from '../topics/MatrixOnDesk';
import { GuideOnDesk } from '../plan/moves/GuidePart';
import { MoveLine, placeMove } from './Moves';
import { DaysBefore } from './DaysBefore';
import { GoToDay } from './GoToDay';
import { useChoice } from '../ui/useChoice';
import { Sheet } from './Sheet';

/** A day: what was caught, what was written, what is to be done. */
export function Desk() {
  const { day } = useParams();
  const navigate = useNavigate();
  const desk = useQuery({
    queryKey: keys.desk(day),
    queryFn: () => ask(api.GET('/api/desk', { params: { query: { day } } })),
    placeholderData: (previous) => previous,
  });
  const shown = desk.data;
  const to = (iso: string | null | undefined) => iso && void navigate(iso === shown?.today ? '/desk' : `/desk/${iso}`);
  useKeys({ 'desk.before': () => to(shown?.earlier), 'desk.after': () => to(shown?.later) });

  if (desk.error) return <Failed error={desk.error} onRetry={() => void desk.refetch()} />;
  if (!shown) return <Loading what="Opening the desk" />;
  const isToday = shown.day === shown.today;
  const nothing = isToday && !shown.earlier && !shown.slips.length && !shown.moves.length && !shown.sheet.text;

  return (
    <div className="flex h-full max-md:block max-md:overflow-y-auto">
      <div className="relative flex-1 overflow-y-auto max-md:overflow-visible">
        <div className="relative min-h-full px-[92px] pt-7 pb-10 max-lg:pr-8 max-md:pr-4 max-md:pl-[60px]">
          <span aria-hidden className="absolute inset-y-0 left-[76px] w-px bg-line max-md:left-[48px]" />
          <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h1 className="written text-[34px] leading-tight font-semibold tracking-[-0.01em] max-md:text-[26px]">
              {longDay(shown.day)}
            </h1>
            <nav aria-label="Days" className="flex items-baseline gap-3 text-[12.5px] text-second">
              {shown.earlier && (
                <button
                  type="button"
                  className="hover:text-blue"
                  title={`Back to ${longDay(shown.earlier)}`}
                  onClick={() => to(shown.earlier)}
                >
                  ‹{' '}
                  {nearDay(shown.earlier) === 'yesterday'
                    ? 'yesterday'
                    : `${weekday(shown.earlier)} ${shown.earlier.slice(8).replace(/^0/, '')}`}
                </button>
              )}
              {shown.later && (
                <button
                  type="button"
                  className="hover:text-blue"
                  aria-label={`On to ${longDay(shown.later)}`}
                  onClick={() => to(shown.later)}
                >
                  {shown.later === shown.today
                    ? 'today'
                    : `${weekday(shown.later)} ${shown.later.slice(8).replace(/^0/, '')}`}{' '}
                  ›
                </button>
              )}
              <GoToDay />
            </nav>
          </header>
          <PurposeLine />
          <MonthStrip day={shown.day} today={shown.today} />

          {nothing && (
            <p className="written mt-5 max-w-prose text-[15.5px] leading-relaxed text-second">
              This is today’s sheet, and it is empty. Write the first thing that comes to mind into the strip below,
              disliked or not; press <b className="font-semibold text-ink">c</b> anywhere to get there. It waits in Sift
              until you decide about it.
            </p>
          )}

          <Sheet desk={shown} />
          <LeadsTo kind="day" number={dayNumber(shown.day)} />
          <UsableOfDay
            day={shown.day}
            isWritten={shown.sheet.text !== '' || shown.blocks.some((block) => block.text !== '')}
          />
          <DaysBefore key={shown.day} day={shown.day} />
        </div>
      </div>
      <aside className="w-[400px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-[300px] max-md:w-auto max-md:border-t max-md:border-l-0 max-md:px-4">
        <PinnedOnDesk />
        <GuideOnDesk />
        <NextMoves />
        <ViewsOnDesk />
        <MatrixOnDesk />
        <Occasions />
        <InHand />
      </aside>
    </div>
  );
}

/** A paragraph of the sheet can be marked as usable by itself, as in any text. */
function UsableOfDay({ day, isWritten }: { day: string; isWritten: boolean }) {
  const [isOpen, setIsOpen] = useState(false);
  if (!isWritten) return null;
  return (
    <p className="mt-5">
      <button type="button" className="link text-[12px]" onClick={() => setIsOpen(true)}>
        Usable parts…
      </button>
      {isOpen && <UsableDialog kind="day" number={dayNumber(day)} onClose={() => setIsOpen(false)} />}
    </p>
  );
}

function PurposeLine() {
  const purpose = useQuery({ queryKey: keys.purpose, queryFn: () => ask(api.GET('/api/purpose')) }).data;
  // What is saved is based on what is there; until that is known there is only its room.
  if (!purpose) return <div className="mt-1 h-[29px]" />;
  return (
    <TextField
      label="Purpose"
      shown={false}
      value={purpose.text}
      placeholder="What is all this writing for? One line."
      className="written mt-1 max-w-[46rem] py-0.5 text-[16px] text-second italic"
      onSave={(text) => done(api.PUT('/api/purpose', { body: { text, version: purpose.version } }))}
    />
  );
}

function NextMoves() {
  const moves = useMoves();
  // One for each piece, and all that belong to none.
  const seen = new Set<number>();
  const next = (moves.data ?? []).filter((move) => {
    if (move.piece === null) return true;
    if (seen.has(move.piece)) return false;
    seen.add(move.piece);
    return true;
  });
  const [folded, setFolded] = useChoice<'yes' | 'no'>('moves.folded', 'no');
  const dated = next.filter((move) => move.due);
  const undated = next.filter((move) => !move.due);
  const shown = [...dated, ...undated].slice(0, 8);
  return (
    <section aria-label="Next moves" className="mb-7">
      <header className="flex items-baseline justify-between border-b border-hair pb-1.5">
        <h2 className="label">
          <button
            type="button"
            aria-expanded={folded === 'no'}
            className="hover:text-blue"
            onClick={() => setFolded(folded === 'no' ? 'yes' : 'no')}
          >
            {folded === 'no' ? '▾' : '▸'} Next moves{folded === 'yes' && ` · ${next.length}`}
          </button>
        </h2>
        <span className="text-[12px] text-second">
          one per piece ·{' '}
          <Link to="/plan/moves" className="link">
            all
          </Link>
        </span>
      </header>
      {folded === 'no' && moves.data && next.length === 0 && (
        <p className="py-3 text-second">
          No open moves. Write one on the sheet, or type “- [ ]” before a line in the strip.
        </p>
      )}
      {folded === 'no' &&
        shown.map((move) => {
          // Dates come first; among those of one date the order is the writer's.
          const beside = shown.filter((other) => other.due === move.due);
          const place = beside.indexOf(move);
          return (
            <MoveLine
              key={move.number}
              move={move}
              stacked
              onStep={beside.length > 1 ? (by) => void placeMove(beside, place, by) : undefined}
            />
          );
        })}
    </section>
  );
}

/** What comes within two months, for topics to be timed to. */
function Occasions() {
  const coming = useQuery({ queryKey: keys.occasions, queryFn: () => ask(api.GET('/api/occasions/own')) }).data ?? [];
  if (coming.length === 0) return null;
  return (
    <section aria-label="Occasions" className="mb-7">
      <h2 className="label border-b border-hair pb-1.5">Occasions</h2>
      {coming.slice(0, 5).map(({ occasion, from, to }) => (
        <div key={occasion.number} className="group border-b border-rule py-2">
          <p className="flex items-baseline gap-3">
            <span className="written min-w-0 flex-1 text-[15px] leading-snug">{occasion.name}</span>
            <button
              type="button"
              aria-label={`Take the occasion ${occasion.name} away`}
              className="text-[12px] text-second opacity-0 group-hover:opacity-100 hover:text-red focus:opacity-100"
              onClick={() =>
                void carryOut(
                  done(
                    api.DELETE('/api/occasions/{number}', { params: { path: { number: String(occasion.number) } } }),
                  ),
                  'Occasion taken away.',
                ).then(
                  () => queryClient.invalidateQueries({ queryKey: keys.occasions }),
                  () => undefined,
                )
              }
            >
              take away
            </button>
            <span className="narrow figures shrink-0 text-[12.5px] text-second">
              {from <= today() ? `until ${nearDay(to)}` : nearDay(from)}
            </span>
          </p>
          <TopicField
            quiet
            label={`Topics of ${occasion.name}`}
            topics={occasion.topics}
            onChange={(topics) =>
              void carryOut(
                done(
                  api.PUT('/api/occasions/{number}/topics', {
                    params: { path: { number: String(occasion.number) } },
                    body: { topics },
                  }),
                ),
                topics.length
                  ? `${occasion.name} is on ${topics.join(', ')}.`
                  : `${occasion.name} is on no topic of its own.`,
              ).then(
                () => queryClient.invalidateQueries(),
                () => undefined,
              )
            }
          />
        </div>
      ))}
    </section>
  );
}

function InHand() {
  const pieces = usePieces();
  const inHand = (pieces.data ?? []).filter((piece) => !piece.outOn).slice(0, 8);
  return (
    <section aria-label="Pieces in hand">
      <header className="flex items-baseline justify-between border-b border-hair pb-1.5">
        <h2 className="label">Pieces in hand</h2>
        <Link to="/bench" className="link text-[12px]">
          all
        </Link>
      </header>
      {pieces.data && inHand.length === 0 && (
        <p className="py-3 text-second">Nothing is on the bench. Start a piece from a slip in Sift.</p>
      )}
      {inHand.map((piece) => {
        const late = piece.due && piece.due < today();
        return (
          <Link
            key={piece.number}
            to={`/bench/${piece.number}`}
            className="block border-b border-rule py-2.5 hover:text-blue"
          >
            <span className="flex items-baseline justify-between gap-3">
              <span className="written line-clamp-2 text-[15.5px] leading-snug">{piece.title}</span>
              {piece.due && (
                <span className={`narrow shrink-0 text-[12.5px] font-semibold ${late ? 'text-red' : 'text-second'}`}>
                  {nearDay(piece.due)}
                </span>
              )}
            </span>
            <span className="mt-1 flex items-center gap-2.5">
              <span className="h-[5px] w-24 bg-hair/60">
                <span
                  className="block h-full bg-second"
                  style={{ width: `${piece.aim ? Math.min(100, (100 * piece.words) / piece.aim) : 0}%` }}
                />
              </span>
              <span className="narrow figures text-[12px] text-second">
                {piece.stage} · {piece.words} of {piece.aim} words
              </span>
            </span>
          </Link>
        );
      })}
    </section>
  );
}

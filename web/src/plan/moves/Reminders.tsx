import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, done, type Move } from '../../api/client';
import { queryClient, useMoves } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { plusDays, today } from '../../ui/dates';
import { remindSaid } from './MoveWhen';

/** Moves whose time for a reminder has come, on every screen until they are done, put off or seen. */
export function Reminders() {
  const moves = useMoves().data ?? [];
  const [now, setNow] = useState(() => new Date().toISOString());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date().toISOString()), 20_000);
    return () => clearInterval(timer);
  }, []);
  const due = moves.filter((move) => move.remindAt !== null && new Date(move.remindAt).toISOString() <= now);
  if (due.length === 0) return null;
  return (
    <section
      aria-label="Reminders"
      className="fixed right-4 bottom-[64px] z-30 max-h-[50vh] w-[340px] max-w-[calc(100%-2rem)] overflow-y-auto border border-ink bg-sheet px-4 py-2 shadow-lg"
    >
      <div role="status" className="sr-only">
        {due.length === 1 ? `Reminder: ${due[0]!.text}` : `${due.length} reminders`}
      </div>
      {due.map((move) => (
        <Reminder key={move.number} move={move} />
      ))}
    </section>
  );
}

function Reminder({ move }: { move: Move }) {
  const act = (body: { done?: boolean; remindAt?: string | null }, words: string) =>
    void carryOut(
      done(
        api.PATCH('/api/moves/{number}', {
          params: { path: { number: String(move.number) } },
          body: { version: move.version, ...body },
        }),
      ),
      words,
    )
      .finally(() => queryClient.invalidateQueries())
      .catch(() => undefined);
  const button = 'link min-h-6';
  return (
    <div className="border-b border-rule py-2 last:border-b-0">
      <p className="label text-second">Reminder · {remindSaid(move.remindAt!)}</p>
      <p className="written text-[15.5px] leading-snug">{move.text}</p>
      {move.piece !== null && (
        <Link
          to={`/bench/${move.piece}`}
          className="block min-h-6 truncate text-[12px] leading-6 text-second hover:text-blue"
        >
          {move.pieceTitle}
        </Link>
      )}
      <p className="flex flex-wrap gap-x-4 text-[12.5px]">
        <button type="button" className={button} onClick={() => act({ done: true, remindAt: null }, 'Done.')}>
          done
        </button>
        <button
          type="button"
          className={button}
          onClick={() => act({ remindAt: new Date(Date.now() + 3_600_000).toISOString() }, 'Again in an hour.')}
        >
          in an hour
        </button>
        <button
          type="button"
          className={button}
          onClick={() =>
            act({ remindAt: new Date(`${plusDays(today(), 1)}T09:00:00`).toISOString() }, 'Again tomorrow at nine.')
          }
        >
          tomorrow at nine
        </button>
        <button type="button" className={button} onClick={() => act({ remindAt: null }, 'Seen.')}>
          seen
        </button>
      </p>
    </div>
  );
}

import { api, done } from '../api/client';
import { queryClient } from '../api/queries';
import type { Beginning } from '../bench/StartPiece';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { longDay, shortDay } from '../ui/dates';
import { hours, type PlanEntry, type Undated } from './planning';

/** What can be done with an open date: fill it, begin something for it, or let it be. */
export function OpenDate({
  entry,
  undated,
  onClose,
  onStart,
}: {
  entry: PlanEntry | undefined;
  undated: readonly Undated[];
  onClose: () => void;
  onStart: (from: Beginning) => void;
}) {
  return (
    <Dialog title={entry ? `${entry.title}, ${longDay(entry.day)}` : ''} open={entry !== undefined} onClose={onClose}>
      {entry && <Choices entry={entry} undated={undated} onClose={onClose} onStart={onStart} />}
    </Dialog>
  );
}

function Choices({
  entry,
  undated,
  onClose,
  onStart,
}: {
  entry: PlanEntry;
  undated: readonly Undated[];
  onClose: () => void;
  onStart: (from: Beginning) => void;
}) {
  const fitting = undated.filter((piece) => piece.format === entry.format);
  const run = async (act: Promise<unknown>) => {
    try {
      await act;
      onClose();
      await queryClient.invalidateQueries();
    } catch {
      // It was said; the dialog stays.
    }
  };
  const fill = (piece: Undated) =>
    carryOut(
      done(
        api.PUT('/api/plan/pieces/{number}', {
          params: { path: { number: String(piece.number) } },
          body: { on: entry.day, outlet: entry.outlet ?? undefined },
        }),
      ),
      `P ${piece.number} on ${shortDay(entry.day)}.`,
    );
  const skip = () =>
    carryOut(
      done(
        api.POST('/api/outlets/{number}/cadences/{format}/other-dates', {
          params: { path: { number: String(entry.outlet), format: entry.format! } },
          body: { date: entry.day, to: null },
        }),
      ),
      `No ${entry.title.toLowerCase()} on ${shortDay(entry.day)}.`,
    );
  return (
    <div>
      {entry.insteadOf && (
        <p className="mb-3 text-second">It stands in for {longDay(entry.insteadOf)}, on which nothing went out.</p>
      )}
      {fitting.length > 0 && (
        <ul aria-label="Pieces without a day" className="mb-4 border-t border-rule">
          {fitting.map((piece) => (
            <li key={piece.number} className="flex items-baseline gap-3 border-b border-rule py-1.5">
              <span className="narrow figures w-9 shrink-0 text-[12px] font-semibold">P {piece.number}</span>
              <span className="written min-w-0 flex-1 text-[15px]">{piece.title}</span>
              <span className="figures shrink-0 text-[12px] text-second">{hours(piece.hours)} h</span>
              <Button onClick={() => void run(fill(piece))}>Put it here</Button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap gap-2">
        <Button
          look="main"
          onClick={() =>
            onStart({ format: entry.format ?? undefined, due: entry.day, outlet: entry.outlet ?? undefined })
          }
        >
          Begin a piece for it
        </Button>
        {entry.insteadOf === null && <Button onClick={() => void run(skip())}>Let it fall out</Button>}
      </div>
    </div>
  );
}

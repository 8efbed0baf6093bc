import { useQuery } from '@tanstack/react-query';
import { DateField } from '../ui/DateField';
import { useState } from 'react';
import { api, ask, type Alike, type Decision } from '../api/client';
import { keys, usePieces } from '../api/queries';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { firstOfMonth, longDay, plusDays, shortDay, today } from '../ui/dates';
import { useHeld } from '../ui/useField';

/** Until when a slip is held: a near date or any, an occasion, or until there are enough sources. */
export function HoldDialog({
  open,
  onClose,
  onHold,
}: {
  open: boolean;
  onClose: () => void;
  onHold: (hold: Decision, said: string) => void;
}) {
  const [date, setDate] = useState(plusDays(today(), 7));
  const [sources, setSources] = useState(3);
  const [lookUp, setLookUp] = useHeld('hold.lookUp');
  const occasions =
    useQuery({
      queryKey: keys.occasions,
      queryFn: () => ask(api.GET('/api/occasions/own', { params: { query: { days: 366 } } })),
      enabled: open,
    }).data ?? [];
  const offers: [string, string][] = [
    ['Tomorrow', plusDays(today(), 1)],
    ['In a week', plusDays(today(), 7)],
    ['Next month', firstOfMonth(today(), 1)],
    ['In three months', firstOfMonth(today(), 3)],
  ];
  // At the end of a month the next one begins before a week is over.
  offers.sort(([, one], [, other]) => one.localeCompare(other));
  const wrong = date <= today() ? 'A slip is held until a day after today.' : '';
  const until = (day: string) => onHold({ decision: 'hold', until: day }, `Held until ${shortDay(day)}.`);
  const row = 'flex w-full justify-between gap-4 border-b border-rule py-2 text-left hover:bg-wash focus:bg-wash';
  return (
    <Dialog title="Hold until" open={open} onClose={onClose}>
      {offers.map(([name, day]) => (
        <button key={name} type="button" autoFocus={name === 'In a week'} onClick={() => until(day)} className={row}>
          <span className="font-semibold">{name}</span>
          <span className="text-second">{longDay(day)}</span>
        </button>
      ))}
      <form
        className="mt-4 flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!wrong) until(date);
        }}
      >
        <div className="flex-1">
          <span className="label block text-second">Another date</span>
          <DateField label="Another date" needed value={date} onChange={(day) => day && setDate(day)} />
        </div>
        <Button type="submit" look="main" disabled={!date}>
          Hold
        </Button>
      </form>
      {wrong && (
        <p role="alert" className="mt-2 text-red">
          {wrong}
        </p>
      )}
      {occasions.length > 0 && (
        <section className="mt-5" aria-label="Until an occasion">
          <h3 className="label text-second">Until an occasion</h3>
          <div className="max-h-40 overflow-y-auto">
            {occasions.map(({ occasion, from }) => (
              <button
                key={occasion.number}
                type="button"
                className={row}
                onClick={() => onHold({ decision: 'hold', occasion: occasion.number }, `Held until ${occasion.name}.`)}
              >
                <span className="written">{occasion.name}</span>
                <span className="whitespace-nowrap text-second">
                  {from > today() ? shortDay(from) : 'on now; when it comes again'}
                </span>
              </button>
            ))}
          </div>
        </section>
      )}
      <form
        className="mt-5 flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          onHold(
            { decision: 'hold', sources },
            `Held until ${sources === 1 ? 'a source speaks' : `${sources} sources speak`} to it.`,
          );
        }}
      >
        <label className="flex-1">
          <span className="label block text-second">Until there is enough</span>
          <input
            type="number"
            min={1}
            max={20}
            value={sources}
            aria-label="Sources that have to speak to it"
            onChange={(event) => setSources(Number(event.target.value))}
            className="w-14 border-b border-ink bg-transparent py-1"
          />{' '}
          sources that speak to it
        </label>
        <Button type="submit" disabled={!(sources >= 1 && sources <= 20)}>
          Hold
        </Button>
      </form>
      <form
        className="mt-5 flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          onHold(
            { decision: 'hold', lookUp },
            lookUp.trim() ? `Held to look up: ${lookUp.trim()}.` : 'Held to look something up.',
          );
          setLookUp('');
        }}
      >
        <label className="flex-1">
          <span className="label block text-second">To look something up first</span>
          <input
            value={lookUp}
            maxLength={500}
            onChange={(event) => setLookUp(event.target.value)}
            placeholder="What, and where it may stand"
            className="w-full border-b border-ink bg-transparent py-1"
          />
        </label>
        <Button type="submit">Hold</Button>
      </form>
    </Dialog>
  );
}

/** Into which slip: the nearest ones, or any number. */
export function MergeDialog({
  open,
  slip,
  near,
  onClose,
  onMerge,
}: {
  open: boolean;
  slip: number;
  near: readonly Alike[];
  onClose: () => void;
  onMerge: (into: number) => void;
}) {
  const [typed, setTyped] = useState('');
  const slips = near.filter((alike) => alike.thing.kind === 'slip');
  const into = Number(typed.replace(/^\s*slip\s*/i, ''));
  const wrong =
    typed && (!Number.isInteger(into) || into < 1)
      ? 'Write the number of a slip.'
      : into === slip
        ? 'That is this slip itself.'
        : '';
  return (
    <Dialog title="Merge into" open={open} onClose={onClose}>
      {slips.map((alike, at) => (
        <button
          key={alike.thing.number}
          type="button"
          autoFocus={at === 0}
          onClick={() => onMerge(alike.thing.number)}
          className="flex w-full items-baseline gap-3 border-b border-rule py-2 text-left hover:bg-wash focus:bg-wash"
        >
          <span className="narrow figures w-8 text-faint">{alike.thing.number}</span>
          <span className="written line-clamp-2 flex-1 text-[15px]">{alike.title}</span>
          <span className="figures text-second">{Math.round(alike.likeness * 100)}%</span>
        </button>
      ))}
      <form
        className="mt-4 flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (into > 0 && !wrong) onMerge(into);
        }}
      >
        <label className="flex-1">
          <span className="label block text-second">Number of a slip</span>
          <input
            autoFocus={slips.length === 0}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            inputMode="numeric"
            className="w-full border-b border-ink bg-transparent py-1"
          />
        </label>
        <Button type="submit" look="main" disabled={!typed || wrong !== ''}>
          Merge
        </Button>
      </form>
      {wrong && (
        <p role="alert" className="mt-2 text-red">
          {wrong}
        </p>
      )}
      <p className="mt-3 text-second">
        Its text goes to the end of that slip, its topics and pieces follow, and it is dropped.
      </p>
    </Dialog>
  );
}

/** Into which piece in hand. */
export function IntoPieceDialog({
  open,
  fits,
  onClose,
  onPut,
}: {
  open: boolean;
  fits: readonly Alike[];
  onClose: () => void;
  onPut: (piece: number, title: string) => void;
}) {
  const pieces = (usePieces().data ?? []).filter((piece) => !piece.outOn);
  const fitting = new Map(fits.map((fit) => [fit.thing.number, fit.likeness]));
  const ordered = [...pieces].sort((a, b) => (fitting.get(b.number) ?? 0) - (fitting.get(a.number) ?? 0));
  return (
    <Dialog title="Put into a piece" open={open} onClose={onClose}>
      {ordered.length === 0 && <p>No piece is in hand. Start one from this slip with S.</p>}
      <div className="max-h-[50vh] overflow-y-auto">
        {ordered.map((piece, at) => (
          <button
            key={piece.number}
            type="button"
            autoFocus={at === 0}
            onClick={() => onPut(piece.number, piece.title)}
            className="flex w-full items-baseline gap-3 border-b border-rule py-2 text-left hover:bg-wash focus:bg-wash"
          >
            <span className="narrow figures w-9 shrink-0 text-faint">P {piece.number}</span>
            <span className="written line-clamp-2 flex-1 text-[15px]">{piece.title}</span>
            <span className="text-[12px] text-second">
              {fitting.has(piece.number)
                ? `${piece.stage} · ${Math.round(fitting.get(piece.number)! * 100)}%`
                : piece.stage}
            </span>
          </button>
        ))}
      </div>
    </Dialog>
  );
}

/** A claim is said in one line; what speaks for it and against it comes with time. */
export function RefineDialog({ onClose, onRefine }: { onClose: () => void; onRefine: (title: string) => void }) {
  const [title, setTitle] = useHeld('claim.new');
  return (
    <Dialog title="Refine into a claim" open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onRefine(title);
          setTitle('');
        }}
      >
        <input
          autoFocus
          aria-label="The claim in one line"
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          placeholder="What does it say, in one line?"
          className="written w-full border-b border-ink bg-transparent py-1 text-[17px] outline-none focus:border-blue"
        />
        <p className="mt-3 text-second">It gathers what speaks for it and against it, and shows how ready it is.</p>
        <div className="mt-4 flex justify-end gap-3">
          <Button look="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" look="main">
            Refine it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

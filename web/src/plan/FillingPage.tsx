import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { api, ask, done } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient, useFormats } from '../api/queries';
import { hoursSaid } from '../choosing/terms';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { Empty, Failed, Loading } from '../ui/States';
import { longDay, plusDays } from '../ui/dates';
import { firstShown, mondayOf, spans, useOutlets } from './planning';

type Place = components['schemas']['FillingPlace'];

const keyOf = (place: Place) => `${place.date} ${place.outlet} ${place.format}`;
const thingOf = (thing: { slip: number | null; piece: number | null }) =>
  thing.piece !== null ? `/bench/${thing.piece}` : `/bench/begin?open=${encodeURIComponent(`slip ${thing.slip}`)}`;

/** A proposal for all open dates, each with why, to be taken whole or place by place. */
export default function FillingPage() {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const from = firstShown(params.get('from'));
  const to = params.get('to') ?? plusDays(mondayOf(from), 7 * spans.month - 1);
  const [spacing, setSpacing] = useState(10);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [isTaking, setTaking] = useState(false);
  const outlets = useOutlets();
  const formats = useFormats().data ?? [];
  const body = { from, to, spacing };
  const proposal = useQuery({
    queryKey: keys.filling(body),
    queryFn: () => ask(api.POST('/api/plan/filling', { body })),
    // What was looked at stays while one decides; it is asked for again when something changes.
    staleTime: 0,
  });
  useEffect(() => {
    document.title = 'Fill the open dates · Nachlass';
  }, []);
  const back = `/plan${params.get('from') ? `?from=${from}` : ''}`;
  if (proposal.error) return <Failed error={proposal.error} onRetry={() => void proposal.refetch()} />;
  if (!proposal.data) return <Loading what="Filling the open dates" />;
  const { places, open, leftOut, value, bound } = proposal.data;
  const chosen = places.filter((place) => !left.has(keyOf(place)));
  const named = (key: string) => formats.find((f) => f.key === key)?.name.toLowerCase() ?? key;
  const outletOf = (number: number) => outlets.find((outlet) => outlet.number === number);
  const rows = [
    ...places.map((place) => ({ ...place, at: place.date, isOpen: false as const })),
    ...open.map((date) => ({ ...date, at: date.date, isOpen: true as const })),
  ].sort((a, b) => a.at.localeCompare(b.at) || a.outlet - b.outlet);

  const take = async () => {
    setTaking(true);
    try {
      await carryOut(
        done(
          api.POST('/api/plan/filling/taken', {
            body: {
              places: chosen.map((place) => ({
                date: place.date,
                outlet: place.outlet,
                format: place.format,
                slip: place.slip ?? undefined,
                piece: place.piece ?? undefined,
              })),
            },
          }),
        ),
        (filled) => (filled.length === 1 ? `P ${filled[0]} has its date.` : `${filled.length} open dates are filled.`),
      );
      await queryClient.invalidateQueries();
      void navigate(back);
    } catch {
      setTaking(false);
    }
  };

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1080px] px-9 py-6 max-md:px-4">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-3">
          <h1 className="written text-[27px] leading-tight font-semibold">Fill the open dates</h1>
          <span className="text-[12.5px] text-second">
            {longDay(from)} to {longDay(to)}
          </span>
          <Link to={back} className="link ml-auto text-[13px]">
            back to the weeks
          </Link>
        </header>
        {rows.length === 0 ? (
          <Empty title="No date is open">
            In these weeks every date of a cadence has its piece, or no outlet has a cadence yet:{' '}
            <Link to="/plan/outlets" className="link">
              outlets and hours
            </Link>
            .
          </Empty>
        ) : (
          <>
            <ul aria-label="Proposal" className="border-t border-ink">
              {rows.map((row) => {
                const outlet = outletOf(row.outlet);
                const key = `${row.date} ${row.outlet} ${row.format}`;
                return (
                  <li
                    key={key}
                    className="flex items-baseline gap-4 border-b border-rule py-2.5 max-md:flex-wrap max-md:gap-y-1"
                  >
                    <span className="figures w-40 shrink-0">{longDay(row.date)}</span>
                    <span className="flex w-36 shrink-0 items-baseline gap-2 text-[12.5px] text-second">
                      <span
                        aria-hidden
                        className="h-2.5 w-2.5 shrink-0"
                        style={{ background: `var(--${outlet?.colour ?? 'hair'})` }}
                      />
                      <span>
                        {named(row.format)}
                        <span className="block text-[11.5px]">{outlet?.name}</span>
                      </span>
                    </span>
                    {row.isOpen ? (
                      <span className="min-w-0 flex-1 text-second max-md:basis-full">
                        stays open: <span className="italic">{row.why}</span>
                      </span>
                    ) : (
                      <>
                        <label className="flex min-w-0 flex-1 cursor-pointer items-baseline gap-3 max-md:basis-full">
                          <input
                            type="checkbox"
                            checked={!left.has(key)}
                            onChange={(event) => {
                              const next = new Set(left);
                              if (event.target.checked) next.delete(key);
                              else next.add(key);
                              setLeft(next);
                            }}
                            className="h-4 w-4 shrink-0 translate-y-0.5 accent-(--blue)"
                          />
                          <span className={`min-w-0 ${left.has(key) ? 'opacity-60' : ''}`}>
                            <span className="written line-clamp-2 block text-[16px] leading-[22px]">{row.title}</span>
                            <span className="block text-[12.5px] text-second">{row.because.join(' · ')}</span>
                          </span>
                        </label>
                        <span className="figures shrink-0 text-right text-[12.5px] whitespace-nowrap text-second">
                          {row.piece !== null ? `P ${row.piece}` : `slip ${row.slip}`}
                          <span className="block">{hoursSaid(row.hours)}</span>
                        </span>
                        <Link
                          to={thingOf(row)}
                          aria-label={`Open ${row.title}`}
                          className="link shrink-0 text-[12.5px]"
                        >
                          open
                        </Link>
                      </>
                    )}
                  </li>
                );
              })}
            </ul>
            <div className="mt-4 flex flex-wrap items-baseline gap-x-6 gap-y-2">
              <Button look="main" disabled={chosen.length === 0 || isTaking} onClick={() => void take()}>
                {chosen.length === places.length
                  ? places.length === 1
                    ? 'Take it'
                    : `Take all ${places.length}`
                  : chosen.length === 1
                    ? 'Take the one'
                    : `Take the ${chosen.length}`}
              </Button>
              <label className="text-[12.5px] text-second">
                at least{' '}
                <select
                  aria-label="Days between two things on one topic"
                  value={spacing}
                  onChange={(event) => setSpacing(Number(event.target.value))}
                  className="border-b border-hair bg-transparent"
                >
                  {[0, 3, 5, 7, 10, 14, 21, 28].map((days) => (
                    <option key={days} value={days}>
                      {days}
                    </option>
                  ))}
                </select>{' '}
                days between two things on one topic
              </label>
              <span
                className="figures ml-auto text-[12.5px] text-second"
                title="Worth, timeliness and mix of all places together; nothing could add up to more than the second number."
              >
                {Math.round(value)} of at most {Math.round(bound)}
              </span>
            </div>
            {leftOut.length > 0 && (
              <section aria-label="Left out" className="mt-9">
                <h2 className="label mb-1 border-b border-ink pb-1">Left out</h2>
                <ul>
                  {leftOut.map((one) => (
                    <li
                      key={one.piece ?? `s${one.slip}`}
                      className="flex items-baseline gap-4 border-b border-rule py-1.5 max-md:flex-wrap max-md:gap-y-0"
                    >
                      <span className="narrow figures w-16 shrink-0 text-[12px] text-second">
                        {one.piece !== null ? `P ${one.piece}` : `slip ${one.slip}`}
                      </span>
                      <Link to={thingOf(one)} className="written min-w-0 flex-1 truncate text-[14.5px] hover:text-blue">
                        {one.title}
                      </Link>
                      <span className="shrink-0 text-[12.5px] text-second max-md:w-full">{one.why}</span>
                      <span className="figures w-8 shrink-0 text-right text-[12.5px] text-second">
                        {Math.round(one.worth)}
                      </span>
                    </li>
                  ))}
                </ul>
              </section>
            )}
          </>
        )}
      </div>
    </div>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask, done } from '../../api/client';
import type { components } from '../../api/schema';
import { keys, queryClient, useFormats } from '../../api/queries';
import { carryOut, takeBack } from '../../papers/notices';
import { useKeys } from '../../papers/keys';
import { Button } from '../../ui/Button';
import { Empty, Failed, Loading } from '../../ui/States';
import { TopicWords } from '../../ui/TopicWord';
import { plusDays, shortDay, weekday } from '../../ui/dates';
import { MixPart } from '../MixPart';
import { firstShown, hours, mondayOf, useOutlets } from '../planning';

type Sitting = components['schemas']['PlanSitting'];
type Candidate = components['schemas']['PlanCandidate'];
type Place = components['schemas']['OpenPlace'];
/** One decision of this sitting; what was taken or never is to be has its command. */
type Decided = {
  key: string;
  what: 'taken' | 'later' | 'never';
  title: string;
  /** Where it was taken for. */
  for?: Place;
  command?: number;
  /** When what it was decided on had been asked for. */
  seen: number;
};

const keyOf = (candidate: Candidate) => `${candidate.kind} ${candidate.number}`;
/** Whether a decision still holds: it may be undone elsewhere, or what was taken put on another day. */
const holds = (one: Decided, sitting: Sitting) =>
  one.what === 'never'
    ? !sitting.candidates.some((candidate) => keyOf(candidate) === one.key)
    : !one.for ||
      !sitting.open.some(
        (at) => at.date === one.for!.date && at.outlet === one.for!.outlet && at.format === one.for!.format,
      );

const linkOf = (candidate: Candidate) =>
  candidate.kind === 'piece'
    ? `/bench/${candidate.number}`
    : candidate.kind === 'occasion'
      ? '/plan/occasions'
      : `/library/slip/${candidate.number}`;
const kindSaid: Record<Candidate['kind'], string> = {
  piece: 'in work',
  idea: 'an idea',
  ask: 'readers ask',
  occasion: 'an occasion',
};

/** Choosing what goes out in a period: the open dates on one side, what could fill them one at a time on the other. */
export default function SittingPage() {
  const [params, setParams] = useSearchParams();
  const from = firstShown(params.get('from'));
  const to = params.get('to') ?? plusDays(mondayOf(from), 34);
  const sitting = useQuery({
    queryKey: keys.planSitting(from, to),
    queryFn: () => ask(api.GET('/api/plan/sitting', { params: { query: { from, to } } })),
  });
  const place = `nachlass.sitting.${from}.${to}`;
  // A sitting can stop anywhere, and goes on there in this browser.
  const [kept, setKept] = useState<readonly Decided[]>(
    () => JSON.parse(sessionStorage.getItem(place) ?? '[]') as Decided[],
  );
  // What was decided on the very answer that is shown can't be seen in it yet.
  const decided = kept.filter((one) => !sitting.data || one.seen === sitting.dataUpdatedAt || holds(one, sitting.data));
  const [isOver, setOver] = useState(false);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    document.title = 'What goes out · Nachlass';
  }, []);
  const setDecided = (next: readonly Decided[]) => {
    sessionStorage.setItem(place, JSON.stringify(next));
    setKept(next);
  };
  const gone = new Set(decided.map((one) => one.key));
  const waiting = sitting.data?.candidates.filter((one) => !gone.has(keyOf(one))) ?? [];
  const current = waiting[0];
  const ends = isOver || (sitting.data !== undefined && (!current || sitting.data.open.length === 0));

  const settle = async (what: Decided['what'], made?: Promise<{ command: number }>, at?: Place) => {
    if (!current || busy) return;
    setBusy(true);
    try {
      const command = made ? (await made).command : undefined;
      setDecided([
        ...decided,
        { key: keyOf(current), what, title: current.title, for: at, command, seen: sitting.dataUpdatedAt },
      ]);
      await queryClient.invalidateQueries();
    } catch {
      // It was said, and the candidate stays.
    } finally {
      setBusy(false);
    }
  };
  const run = async <T,>(asked: ReturnType<typeof done<T>>, words: string) => {
    const answered = await asked;
    await carryOut(Promise.resolve(answered), words);
    return answered;
  };
  const take = (at: Place) => {
    if (!current) return;
    const words = `${current.title.length > 40 ? `${current.title.slice(0, 38)}…` : current.title}: ${at.formatName.toLowerCase()} on ${shortDay(at.date)}.`;
    void settle(
      'taken',
      current.kind === 'occasion'
        ? run(
            done(
              api.POST('/api/pieces', {
                body: {
                  title: current.title,
                  format: at.format,
                  due: at.date,
                  outlet: at.outlet,
                  topics: current.topics.map((topic) => topic.name),
                },
              }),
            ),
            words,
          )
        : run(
            done(
              api.POST('/api/plan/filling/taken', {
                body: {
                  places: [
                    {
                      date: at.date,
                      outlet: at.outlet,
                      format: at.format,
                      ...(current.kind === 'piece' ? { piece: current.number } : { slip: current.number }),
                    },
                  ],
                },
              }),
            ),
            words,
          ),
      at,
    );
  };
  const later = () => void settle('later');
  const never = () => {
    if (!current || current.kind === 'occasion') return later();
    void settle(
      'never',
      run(
        done(
          api.PUT('/api/plan/never/{kind}/{number}', {
            params: { path: { kind: current.kind === 'piece' ? 'piece' : 'slip', number: current.number } },
            body: { never: true },
          }),
        ),
        'It is not offered for a date any more.',
      ),
    );
  };
  const back = async () => {
    const last = decided.at(-1);
    if (!last || busy) return;
    setBusy(true);
    if (!last.command || (await takeBack(last.command))) setDecided(decided.slice(0, -1));
    await queryClient.invalidateQueries();
    setOver(false);
    setBusy(false);
  };
  const fitting = current ? placesFor(current, sitting.data?.open ?? []) : [];
  useKeys(
    {},
    {
      fixed: {
        n: later,
        v: never,
        z: () => void back(),
        ...Object.fromEntries(fitting.slice(0, 9).map((at, i) => [String(i + 1), () => take(at)])),
      },
      active: !ends,
    },
  );
  useKeys({}, { fixed: { z: () => void back() }, active: ends });

  if (sitting.error) return <Failed error={sitting.error} onRetry={() => void sitting.refetch()} />;
  if (!sitting.data) return <Loading what="Laying out what could go out" />;
  const shown = sitting.data;
  const head = (
    <header className="mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1 className="written text-[25px] leading-tight font-semibold">
        {shortDay(shown.from)} – {shortDay(shown.to)}
      </h1>
      <span className="figures text-[12.5px] text-second">
        {shown.open.length === 1 ? '1 date is open' : `${shown.open.length} dates are open`} ·{' '}
        {waiting.length === 1 ? '1 candidate' : `${waiting.length} candidates`}
      </span>
      <span className="ml-auto inline-flex items-baseline gap-4 text-[13px]">
        <button
          type="button"
          className="link min-h-6"
          onClick={() => setParams({ from: plusDays(shown.to, 1), to: plusDays(shown.to, 35) })}
        >
          the weeks after
        </button>
        <Link to={`/plan?from=${shown.from}`} className="link">
          the weeks
        </Link>
      </span>
    </header>
  );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1160px] px-9 py-6 max-md:px-4">
        {head}
        {shown.open.length === 0 && decided.length === 0 ? (
          <Empty title="No date is open">
            In these weeks every date has its piece, or no outlet has a cadence. Say how often something goes out under{' '}
            <Link to="/plan/outlets" className="link">
              Outlets and hours
            </Link>
            .
          </Empty>
        ) : (
          <div className="flex gap-10 max-lg:block">
            <OpenDates sitting={shown} decided={decided} current={ends ? undefined : current} />
            <div className="min-w-0 flex-1">
              {ends ? (
                <Ended
                  sitting={shown}
                  decided={decided}
                  onMore={current && isOver ? () => setOver(false) : undefined}
                />
              ) : (
                current && (
                  <One
                    key={keyOf(current)}
                    candidate={current}
                    places={fitting}
                    busy={busy}
                    onTake={take}
                    onLater={later}
                    onNever={never}
                  />
                )
              )}
              <p className="mt-5 flex gap-5 text-[12.5px]">
                {decided.length > 0 && (
                  <button type="button" className="link min-h-6" onClick={() => void back()}>
                    Take back the last of {decided.length}
                  </button>
                )}
                {!ends && (
                  <button type="button" className="link min-h-6" onClick={() => setOver(true)}>
                    That is enough: what it makes
                  </button>
                )}
              </p>
            </div>
          </div>
        )}
      </div>
    </div>
  );
}

/** Open dates that a candidate could fill; for an occasion those before it first. */
function placesFor(candidate: Candidate, open: readonly Place[]): Place[] {
  const fitting = open.filter((at) => candidate.formats.length === 0 || candidate.formats.includes(at.format));
  const { on } = candidate;
  if (!on) return fitting;
  return [...fitting].sort(
    (a, b) =>
      Number(a.date > on) - Number(b.date > on) ||
      (a.date > on ? a.date.localeCompare(b.date) : b.date.localeCompare(a.date)),
  );
}

function OpenDates({
  sitting,
  decided,
  current,
}: {
  sitting: Sitting;
  decided: readonly Decided[];
  current: Candidate | undefined;
}) {
  const outlets = useOutlets();
  const fits = new Set(current ? placesFor(current, sitting.open) : []);
  const taken = decided.filter((one) => one.what === 'taken');
  const days = [
    ...sitting.open.map((at) => ({ date: at.date, at, title: undefined })),
    ...taken.map((one) => ({ date: one.for!.date, at: undefined, title: one.title })),
  ].sort((a, b) => a.date.localeCompare(b.date));
  return (
    <aside aria-label="Dates" className="w-[300px] shrink-0 max-lg:mb-6 max-lg:w-auto">
      <ul>
        {days.map(({ date, at, title }, i) => (
          <li key={`${date}.${i}`} className="flex items-baseline gap-3 border-b border-rule py-1.5">
            <span className="figures w-[76px] shrink-0 text-[12.5px]">
              {weekday(date)} {shortDay(date)}
            </span>
            {title !== undefined ? (
              <span className="written min-w-0 flex-1 truncate text-[14px]">{title}</span>
            ) : (
              <span
                className={`flex min-w-0 flex-1 items-baseline gap-2 text-[13px] ${!current || fits.has(at!) ? '' : 'text-faint'}`}
              >
                <span
                  aria-hidden
                  className="h-3 w-[3px] shrink-0 self-center"
                  style={{ background: `var(--${outlets.find((one) => one.number === at!.outlet)?.colour ?? 'hair'})` }}
                />
                open: {at!.formatName.toLowerCase()}
              </span>
            )}
          </li>
        ))}
      </ul>
    </aside>
  );
}

function One({
  candidate,
  places,
  busy,
  onTake,
  onLater,
  onNever,
}: {
  candidate: Candidate;
  places: readonly Place[];
  busy: boolean;
  onTake: (at: Place) => void;
  onLater: () => void;
  onNever: () => void;
}) {
  const formats = useFormats().data ?? [];
  const near = useQuery({
    queryKey: keys.near(candidate.kind, candidate.number),
    queryFn: () =>
      ask(
        api.GET('/api/plan/sitting/{kind}/{number}/near', {
          params: { path: { kind: candidate.kind, number: candidate.number } },
        }),
      ),
  }).data;
  return (
    <article aria-label="Candidate">
      <p className="flex items-baseline gap-3 text-[12.5px] text-second">
        <span className="label">{kindSaid[candidate.kind]}</span>
        {candidate.worth !== null && <span className="figures">worth {Math.round(candidate.worth)}</span>}
        {candidate.hours !== null && <span className="figures">{hours(candidate.hours)} h</span>}
        {candidate.formats.length > 0 && (
          <span>
            {candidate.formats
              .map((key) => formats.find((one) => one.key === key)?.name.toLowerCase() ?? key)
              .join(', ')}
          </span>
        )}
      </p>
      <h2 className="written mt-1 text-[24px] leading-snug font-semibold">
        <Link to={linkOf(candidate)} className="hover:text-blue">
          {candidate.title}
        </Link>
      </h2>
      <p className="mt-1 flex flex-wrap gap-x-3 text-[13px] text-second">
        <TopicWords topics={candidate.topics} />
        <span>{candidate.why.slice(0, 3).join('; ')}</span>
      </p>
      {near && near.length > 0 && (
        <section aria-label="Near to it" className="mt-4 border-l-[3px] border-red bg-quiet px-4 py-2.5">
          {near.map((one) => (
            <div key={one.piece} className="py-1">
              <p className="text-[13px]">
                Near to{' '}
                <Link to={`/bench/${one.piece}`} className="link">
                  P {one.piece} {one.title}
                </Link>
                , {one.isOut ? 'out on' : 'planned for'} {shortDay(one.on)}
                <span className="figures text-second"> · {Math.round(100 * one.likeness)}% alike</span>
              </p>
              {one.passage && <p className="written mt-0.5 text-[14px] text-second italic">{one.passage}</p>}
            </div>
          ))}
        </section>
      )}
      <section aria-label="Dates for it" className="mt-5">
        <h3 className="label border-b border-hair pb-1 text-second">Take it for</h3>
        {places.length === 0 && (
          <p className="py-2 text-second">No open date takes what it would become; leave it for now.</p>
        )}
        <ul>
          {places.slice(0, 9).map((at, i) => (
            <li key={`${at.date} ${at.outlet} ${at.format}`} className="border-b border-rule">
              <button
                type="button"
                disabled={busy}
                onClick={() => onTake(at)}
                className="flex w-full items-baseline gap-4 py-1.5 text-left hover:bg-wash focus:bg-wash"
              >
                <kbd className="figures w-5 shrink-0 border border-hair text-center text-[11px]">{i + 1}</kbd>
                <span className="figures w-[110px] shrink-0 font-semibold">
                  {weekday(at.date)} {shortDay(at.date)}
                </span>
                <span className="min-w-0 flex-1">
                  {at.formatName} on {at.outletName}
                </span>
              </button>
            </li>
          ))}
        </ul>
      </section>
      <div className="mt-4 flex gap-3">
        <Button disabled={busy} onClick={onLater}>
          Not now <kbd className="ml-1.5 text-[11px] text-second">N</kbd>
        </Button>
        {candidate.kind !== 'occasion' && (
          <Button disabled={busy} onClick={onNever}>
            Never <kbd className="ml-1.5 text-[11px] text-second">V</kbd>
          </Button>
        )}
      </div>
    </article>
  );
}

/** What the sitting makes: its plan, the load of its weeks, and the mix. */
function Ended({ sitting, decided, onMore }: { sitting: Sitting; decided: readonly Decided[]; onMore?: () => void }) {
  const taken = decided.filter((one) => one.what === 'taken').sort((a, b) => a.for!.date.localeCompare(b.for!.date));
  return (
    <section aria-label="What it makes">
      <h2 className="written text-[21px] font-semibold">
        {taken.length === 0
          ? 'Nothing was taken'
          : taken.length === 1
            ? 'One date is filled'
            : `${taken.length} dates are filled`}
        {sitting.open.length > 0 &&
          `, ${sitting.open.length === 1 ? 'one stays open' : `${sitting.open.length} stay open`}`}
      </h2>
      <ul className="mt-2">
        {taken.map((one) => (
          <li key={one.key} className="flex gap-4 border-b border-rule py-1.5">
            <span className="figures w-[92px] shrink-0">
              {weekday(one.for!.date)} {shortDay(one.for!.date)}
            </span>
            <span className="written">{one.title}</span>
          </li>
        ))}
      </ul>
      <table className="figures mt-5 w-full max-w-md text-[13px]">
        <caption className="label pb-1 text-left text-second">Load</caption>
        <thead className="sr-only">
          <tr>
            <th>Week</th>
            <th>Hours of work</th>
            <th>Hours there are</th>
          </tr>
        </thead>
        <tbody>
          {sitting.weeks.map((week) => (
            <tr
              key={week.monday}
              className={`border-t border-rule ${week.over > 0.05 ? 'font-semibold text-red' : ''}`}
            >
              <td className="py-1">
                week {week.week}, {shortDay(week.monday)}
              </td>
              <td className="text-right">{hours(week.load)} h</td>
              <td className="pl-2 text-second">of {hours(week.hours)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="max-w-md">
        <MixPart from={sitting.from} to={sitting.to} />
      </div>
      <p className="mt-5 flex gap-5 text-[13px]">
        <Link to={`/plan?from=${sitting.from}`} className="link">
          See it in the weeks
        </Link>
        {sitting.open.length > 0 && (
          <Link to={`/plan/filling?from=${sitting.from}&to=${sitting.to}`} className="link">
            Fill what stays open
          </Link>
        )}
        {onMore && (
          <button type="button" className="link" onClick={onMore}>
            Go on choosing
          </button>
        )}
      </p>
    </section>
  );
}

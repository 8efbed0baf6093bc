import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, done } from '../../api/client';
import { queryClient, useFormats } from '../../api/queries';
import { carryOut, say } from '../../papers/notices';
import { mondayOf, useOutlets } from '../../plan/planning';
import { hoursSaid } from '../../choosing/terms';
import { Button } from '../../ui/Button';
import { Empty, Failed, Loading } from '../../ui/States';
import { longDay, plusDays } from '../../ui/dates';
import { useAsked } from '../order/order';
import { Forms } from './Forms';
import { MonthRow } from './MonthRow';
import { exchanged, takenOf, useProposal, type Row } from './proposal';

/** What an idea is at most, in characters; the server holds to it too. */
const longestText = 1000;

/** A month proposed from an order of topics: everything in it can be changed before it is taken, as one step. */
export default function MonthPage() {
  const { topics, words, from: begin, weeks, change: setAsked, params } = useAsked();
  const navigate = useNavigate();
  const number = (name: string, usual: number) => Number(params.get(name) ?? usual) || 0;
  const spacing = Math.min(60, number('spacing', 10));
  const perWeek = Math.min(5, number('perWeek', 0)) || null;
  const withinHours = params.has('withinHours');
  const seed = Math.max(1, number('seed', 1));
  const promoting = params.getAll('promotes');
  const promoteMore = params.has('promoteMore');
  const [isTaking, setTaking] = useState(false);
  const outlets = useOutlets();
  const formats = useFormats().data ?? [];
  const asked = {
    topics: [...topics],
    words: [...words],
    from: begin,
    weeks,
    spacing,
    perWeek,
    withinHours,
    seed,
    promoting,
    promoteMore,
  };
  const { proposal, rows, place, isChanged, change, put } = useProposal(asked);
  useEffect(() => {
    document.title = 'A month proposed · Nachlass';
  }, []);
  const back = `/topics?${new URLSearchParams([...[...params].filter(([name]) => ['topic', 'word', 'from', 'weeks'].includes(name)), ['as', 'order']])}`;
  if (proposal.error) return <Failed error={proposal.error} onRetry={() => void proposal.refetch()} />;
  if (!proposal.data) return <Loading what="Drawing the weeks up" />;
  const { from, to, open, order, without, forms, hoursFree } = proposal.data;
  const kept = rows.filter((row) => !row.isLeft);
  const named = (key: string) => formats.find((format) => format.key === key)?.name ?? key;
  const work = kept.reduce((sum, row) => sum + row.hours, 0);
  const wrong = kept.some((row) => !row.text.trim())
    ? 'A date has no words: write some, or leave it out.'
    : kept
        .filter((row) => row.text.trim().length > longestText)
        .map(
          (row) =>
            `What goes out on ${longDay(row.date)} is longer than ${longestText.toLocaleString('en')} characters.`,
        )[0];

  const take = async () => {
    setTaking(true);
    try {
      await carryOut(done(api.POST('/api/plan/proposal/taken', { body: { places: kept.map(takenOf) } })), (pieces) =>
        pieces.length === 1 ? `P ${pieces[0]} has its date.` : `${pieces.length} dates are in the plan.`,
      );
      change(null);
      await queryClient.invalidateQueries();
      void navigate(`/plan?from=${mondayOf(from)}`);
    } catch {
      setTaking(false);
    }
  };
  const anew = () => {
    const before = rows;
    change(null);
    setAsked({ seed: seed + 1 });
    if (isChanged)
      say('Proposed anew; what was changed is gone.', () => {
        setAsked({ seed });
        change(before, place);
      });
  };

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1080px] px-9 py-6 max-md:px-4">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-3">
          <h1 className="written text-[27px] leading-tight font-semibold">
            {weeks === 4 ? 'A month' : weeks === 1 ? 'A week' : `${weeks} weeks`} proposed
          </h1>
          <span className="text-[12.5px] text-second">
            {longDay(from)} to {longDay(to)}
          </span>
          <Link to={back} className="link ml-auto text-[13px] max-md:ml-0">
            the order of topics
          </Link>
        </header>
        <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 border-y border-ink py-2.5 text-[13px]">
          <Choice
            label="Dates a week"
            value={perWeek ?? 0}
            of={[
              [0, 'as the cadences say'],
              [1, 'one date a week'],
              [2, 'two dates a week'],
              [3, 'three dates a week'],
              [5, 'five dates a week'],
            ]}
            onChange={(next) => setAsked({ perWeek: next || null })}
          />
          <span>
            <Choice
              label="Days between two dates on one topic"
              value={spacing}
              of={[0, 3, 5, 7, 10, 14, 21, 28].map((days) => [days, `${days}`])}
              onChange={(next) => setAsked({ spacing: next })}
            />{' '}
            <span className="text-second">days at least between two on one topic</span>
          </span>
          <label className="flex min-h-6 items-baseline gap-2">
            <input
              type="checkbox"
              checked={withinHours}
              onChange={(event) => setAsked({ withinHours: event.target.checked ? 'yes' : null })}
              className="h-4 w-4 translate-y-0.5 accent-(--blue)"
            />
            only within the hours there are
          </label>
          <button type="button" className="link ml-auto min-h-6 max-md:ml-0" onClick={anew}>
            other ideas
          </button>
        </div>
        {rows.length + open.length === 0 ? (
          <Empty title="No date is open">
            In these weeks every date of a cadence has its piece, or no outlet has a cadence yet. Choose how many dates
            a week above, or set{' '}
            <Link to="/plan/outlets" className="link">
              outlets and hours
            </Link>
            .
          </Empty>
        ) : (
          <>
            {weeksOf(rows, open).map((week) => (
              <section key={week.monday} aria-label={`Week of ${longDay(week.monday)}`} className="mt-5">
                <h2 className="label border-b border-ink pb-1 text-second">Week of {longDay(week.monday)}</h2>
                <ul>
                  {week.dates.map((date) =>
                    'id' in date ? (
                      <MonthRow
                        key={date.id}
                        row={date}
                        outlets={outlets}
                        forms={forms}
                        order={order}
                        isFirst={rows[0] === date}
                        isLast={rows[rows.length - 1] === date}
                        onChange={(to) => put(date.id, to)}
                        onExchange={(by) => {
                          const at = rows.indexOf(date);
                          change(exchanged(rows, at, at + by));
                        }}
                      />
                    ) : (
                      <li
                        key={`${date.date} ${date.outlet} ${date.format}`}
                        className="grid grid-cols-[24px_172px_minmax(0,1fr)] items-baseline gap-x-4 border-b border-rule py-2.5 text-[13px] text-second max-md:grid-cols-[24px_minmax(0,1fr)]"
                      >
                        <span aria-hidden />
                        <span>
                          {longDay(date.date)}
                          <span className="block text-[12.5px]">{named(date.format)}</span>
                        </span>
                        <span className="max-md:col-start-2">
                          stays open: <span className="italic">{date.why}</span>
                        </span>
                      </li>
                    ),
                  )}
                </ul>
              </section>
            ))}
            <div className="mt-5 flex flex-wrap items-baseline gap-x-6 gap-y-2">
              <Button
                look="main"
                disabled={kept.length === 0 || isTaking || !!wrong || (proposal.isFetching && !isChanged)}
                onClick={() => void take()}
              >
                {kept.length === 1
                  ? 'Take it'
                  : kept.length === rows.length
                    ? `Take all ${rows.length}`
                    : `Take the ${kept.length}`}{' '}
                into the plan
              </Button>
              <span className="text-[12.5px] text-second">
                Each becomes a piece with its day, begun from its slip; all of it is one step of undo.{' '}
                <span className={work > hoursFree ? 'text-red' : ''}>
                  {hoursSaid(work)} of work, {hoursSaid(hoursFree)} free until then.
                </span>
              </span>
              {isChanged && (
                <button
                  type="button"
                  className="link ml-auto min-h-6 text-[12.5px] max-md:ml-0"
                  onClick={() => {
                    const before = rows;
                    change(null);
                    say('As it was proposed.', () => change(before));
                  }}
                >
                  as it was proposed
                </button>
              )}
            </div>
            {wrong && (
              <p role="alert" className="mt-2 text-[13px] text-red">
                {wrong}
              </p>
            )}
            {without.length > 0 && (
              <p className="mt-4 text-[13px] text-second">
                On no date: {without.slice(0, 12).join(', ')}
                {without.length > 12 && ` and ${without.length - 12} more`}. What stands before them adds more.
              </p>
            )}
          </>
        )}
        <Forms
          forms={forms}
          rows={kept}
          promoting={promoting}
          onPromoting={(promotes) => setAsked({ promotes })}
          promoteMore={promoteMore}
          onPromoteMore={(more) => setAsked({ promoteMore: more ? 'yes' : null })}
        />
      </div>
    </div>
  );
}

function Choice({
  label,
  value,
  of,
  onChange,
}: {
  label: string;
  value: number;
  of: readonly (readonly [number, string])[];
  onChange: (value: number) => void;
}) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(Number(event.target.value))}
      className="min-h-6 border-b border-hair bg-transparent font-semibold text-ink"
    >
      {of.map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** Dates under the Mondays of their weeks. */
function weeksOf<Open extends { date: string }>(rows: readonly Row[], open: readonly Open[]) {
  const dates = [...rows, ...open].sort((a, b) => a.date.localeCompare(b.date));
  const mondays = [...new Set(dates.map((one) => mondayOf(one.date)))];
  return mondays.map((monday) => ({
    monday,
    dates: dates.filter((one) => one.date >= monday && one.date < plusDays(monday, 7)),
  }));
}

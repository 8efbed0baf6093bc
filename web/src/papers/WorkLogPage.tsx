import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { api, ask } from '../api/client';
import type { components } from '../api/schema';
import { keys } from '../api/queries';
import { addressOf } from '../sources/Connections';
import { Button } from '../ui/Button';
import { DateField } from '../ui/DateField';
import { longDay, plusDays, shortDay, today } from '../ui/dates';
import { Failed, Loading } from '../ui/States';
import { complain, say } from './notices';

type Line = components['schemas']['WorkLine'];
type Day = components['schemas']['WorkDay'];

/** What was done, day by day: caught, decided, written, moved, sent. */
export default function WorkLogPage() {
  const [params, setParams] = useSearchParams();
  const to = params.get('to') ?? today();
  const from = params.get('from') ?? plusDays(to, -6);
  const log = useQuery({
    queryKey: keys.workLog(from, to),
    queryFn: () => ask(api.GET('/api/work-log', { params: { query: { from, to } } })),
    retry: false,
  });
  const show = (first: string, last: string) => setParams({ from: first, to: last });
  const long = Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000) + 1;
  const days = (log.data?.days ?? []).filter((day) => !day.isEmpty);
  const sum = (pick: (day: Day) => number) => days.reduce((all, day) => all + pick(day), 0);
  return (
    <div className="h-full overflow-y-auto px-9 py-6 max-md:px-4">
      <div className="mx-auto max-w-[760px]">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
          <h1 className="written text-[27px] leading-tight font-semibold">What was done</h1>
          <span className="flex items-baseline gap-2 text-[13px]">
            <button
              type="button"
              aria-label="The days before"
              className="min-w-[24px] px-1 hover:text-blue"
              onClick={() => show(plusDays(from, -long), plusDays(to, -long))}
            >
              ‹
            </button>
            <DateField label="From" needed value={from} onChange={(day) => day && show(day, to < day ? day : to)} />
            to
            <DateField label="To" needed value={to} onChange={(day) => day && show(from > day ? day : from, day)} />
            <button
              type="button"
              aria-label="The days after"
              className="min-w-[24px] px-1 hover:text-blue"
              onClick={() => show(plusDays(from, long), plusDays(to, long))}
            >
              ›
            </button>
          </span>
          <Button
            className="ml-auto"
            disabled={!log.data}
            onClick={() =>
              void navigator.clipboard.writeText(log.data!.text ?? '').then(
                () => say('Copied as text.'),
                () => complain('The browser does not let it be copied.'),
              )
            }
          >
            Copy as text
          </Button>
        </header>
        {log.error ? (
          <Failed error={log.error} onRetry={() => void log.refetch()} />
        ) : !log.data ? (
          <Loading what="Putting the days together" />
        ) : days.length === 0 ? (
          <p className="written mt-6 text-[16px] text-second">
            Nothing was done from {shortDay(from)} to {shortDay(to)} that stands in the papers.
          </p>
        ) : (
          <>
            <dl className="mt-5 flex flex-wrap gap-x-9 gap-y-2" aria-label="In all">
              {(
                [
                  ['caught', sum((day) => day.caught.length)],
                  ['decided', sum((day) => day.decided.length)],
                  ['words written', sum((day) => day.words)],
                  ['moved', sum((day) => day.moved.length)],
                  ['sent', sum((day) => day.sent.length)],
                ] as const
              ).map(([name, count]) => (
                <div key={name} className="flex flex-col-reverse">
                  <dt className="text-[12.5px] text-second">{name}</dt>
                  <dd className="written figures text-[24px] leading-none font-semibold">
                    {count.toLocaleString('en')}
                  </dd>
                </div>
              ))}
            </dl>
            {days.map((day) => (
              <OneDay key={day.day} day={day} />
            ))}
          </>
        )}
      </div>
    </div>
  );
}

function OneDay({ day }: { day: Day }) {
  return (
    <article aria-label={longDay(day.day)} className="mt-7">
      <h2 className="border-b border-hair pb-1">
        <Link to={`/desk/${day.day}`} className="written text-[18px] font-semibold hover:text-blue">
          {longDay(day.day)}
        </Link>
      </h2>
      <Part name="caught" lines={day.caught} />
      <Part name="decided" lines={day.decided} />
      {day.written.length > 0 && (
        <Row name="written" count={`${signed(day.words)} words`}>
          {day.written.map((written) => (
            <p key={written.title} className="flex items-baseline gap-3">
              <Link to={addressOf(written.thing)} className="written min-w-0 flex-1 truncate hover:text-blue">
                {written.title}
              </Link>
              <span className="figures text-second">{signed(written.words)}</span>
            </p>
          ))}
        </Row>
      )}
      <Part name="moved" lines={day.moved} />
      <Part name="sent" lines={day.sent} />
    </article>
  );
}

const signed = (words: number) =>
  words > 0 ? `+${words.toLocaleString('en')}` : words.toLocaleString('en').replace('-', '−');

function Part({ name, lines }: { name: string; lines: readonly Line[] }) {
  if (lines.length === 0) return null;
  return (
    <Row name={name} count={String(lines.length)}>
      {lines.map((line, at) => (
        <p key={at} className="flex items-baseline gap-2">
          {line.what && <span className="shrink-0 text-second">{line.what}</span>}
          {line.thing && line.title ? (
            <Link to={addressOf(line.thing)} className="written min-w-0 flex-1 truncate hover:text-blue">
              {line.title}
            </Link>
          ) : (
            <span className="written min-w-0 flex-1 truncate">{line.title}</span>
          )}
        </p>
      ))}
    </Row>
  );
}

function Row({ name, count, children }: { name: string; count: string; children: React.ReactNode }) {
  return (
    <section
      aria-label={name}
      className="grid grid-cols-[8.5rem_1fr] gap-x-4 border-b border-rule py-1.5 max-md:grid-cols-1"
    >
      <h3 className="text-[13px]">
        {name} <span className="figures text-second">{count}</span>
      </h3>
      <div className="min-w-0 text-[14px] leading-[25px]">{children}</div>
    </section>
  );
}

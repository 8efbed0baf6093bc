import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { DateField } from '../ui/DateField';
import { Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { CalendarPart } from './CalendarPart';
import { hours as said } from './planning';

const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** Hours as they are typed: 2, 2.5, 2,5, 2:30, 2h, half. */
function readHours(text: string): number {
  const typed = text
    .trim()
    .toLowerCase()
    .replace(/\s*(h|hours?)$/, '');
  const clock = /^(\d{1,2}):([0-5]\d)$/.exec(typed);
  const count =
    typed === '' || typed === 'none'
      ? 0
      : clock
        ? Number(clock[1]) + Number(clock[2]) / 60
        : Number(typed.replace(',', '.'));
  if (Number.isFinite(count) && count >= 0 && count <= 24) return Math.round(count * 100) / 100;
  throw new Error(`“${text}” is no number of hours of a day; write 2, 2.5 or 2:30.`);
}

/** The hours there are on each weekday, and the days without any. */
export function HoursPart() {
  const hours = useQuery({ queryKey: keys.hours, queryFn: () => ask(api.GET('/api/plan/hours')) });
  const [adding, setAdding] = useState(false);
  const [from, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string | null>(null);
  const [name, setName] = useState('');
  const [error, setError] = useState('');
  if (hours.error) return <Failed error={hours.error} onRetry={() => void hours.refetch()} />;
  if (!hours.data) return <Loading />;
  const { byWeekday, areSaid, away } = hours.data;
  const set = async (next: readonly number[] | null) => {
    await carryOut(
      done(api.PUT('/api/plan/hours', { body: { byWeekday: next ? [...next] : null } })),
      'Hours set.',
      true,
    );
    await queryClient.invalidateQueries();
  };
  const add = async () => {
    if (!from) {
      setError('Say from which day on.');
      return;
    }
    try {
      await carryOut(
        done(api.POST('/api/plan/away', { body: { from, to: to ?? from, name } })),
        `Away: ${name}.`,
        true,
      );
      await queryClient.invalidateQueries();
      setAdding(false);
      setFrom(null);
      setTo(null);
      setName('');
      setError('');
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <>
      <h2 className="label border-b border-hair pb-1.5">Hours of the week</h2>
      <p className="mt-2 text-[12.5px] text-second">
        {areSaid
          ? 'Dates are worked back through these hours.'
          : 'Two hours on each working day are taken until you say otherwise.'}
      </p>
      <div className="mt-2">
        {weekdays.map((day, at) => (
          <div key={day} className="flex items-baseline gap-3 border-b border-rule py-1">
            <span className="w-28">{day}</span>
            <span className="w-16">
              <TextField
                label={`Hours on ${day}`}
                place={`hours.${at}`}
                shown={false}
                value={byWeekday[at] === 0 ? '' : said(byWeekday[at]!)}
                placeholder="none"
                onSave={async (text) => {
                  const count = readHours(text);
                  await set(byWeekday.map((one, i) => (i === at ? count : one)));
                }}
                className="figures"
              />
            </span>
          </div>
        ))}
        <p className="figures mt-2 text-[12.5px] text-second">
          {said(byWeekday.reduce((all, one) => all + one, 0))} hours a week
        </p>
      </div>
      <h2 className="label mt-7 border-b border-hair pb-1.5">Days away</h2>
      {away.length === 0 && <p className="mt-2 text-[12.5px] text-second">No work is put on days away.</p>}
      <ul>
        {away.map((one) => {
          const path = { number: String(one.number) };
          const edit = async (body: { from?: string; to?: string; name?: string }) => {
            const next = { from: one.from, to: one.to, name: one.name, ...body };
            if (next.to < next.from) next.to = next.from;
            await carryOut(
              done(api.PUT('/api/plan/away/{number}', { params: { path }, body: next })),
              'Time away changed.',
              true,
            );
            await queryClient.invalidateQueries();
          };
          const act = (made: Promise<unknown>) => void made.catch(() => undefined);
          return (
            <li key={one.number} className="border-b border-rule py-1.5">
              <TextField
                label={`What the time away from ${one.from} is`}
                place={`away.${one.number}`}
                shown={false}
                value={one.name}
                onSave={(text) => edit({ name: text })}
                className="font-semibold"
              />
              <span className="flex flex-wrap items-baseline gap-x-2 text-[12.5px] text-second">
                <DateField
                  label={`${one.name} from`}
                  needed
                  value={one.from}
                  onChange={(day) => day && act(edit({ from: day }))}
                />
                to
                <DateField
                  label={`${one.name} to`}
                  needed
                  value={one.to}
                  onChange={(day) => day && act(edit({ to: day }))}
                />
                <button
                  type="button"
                  className="link ml-auto"
                  onClick={() =>
                    act(
                      carryOut(
                        done(api.DELETE('/api/plan/away/{number}', { params: { path } })),
                        `Not away: ${one.name}.`,
                      ).then(() => queryClient.invalidateQueries()),
                    )
                  }
                >
                  take out
                </button>
              </span>
            </li>
          );
        })}
      </ul>
      {adding ? (
        <form
          className="mt-3 space-y-2"
          onSubmit={(event) => {
            event.preventDefault();
            void add();
          }}
        >
          <input
            autoFocus
            aria-label="What the time away is"
            value={name}
            placeholder="Holidays, a fair, a course …"
            onChange={(event) => setName(event.target.value)}
            className="w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue"
          />
          <span className="flex flex-wrap items-baseline gap-x-2 text-[12.5px] text-second">
            <DateField label="Away from" empty="from" value={from} onChange={setFrom} />
            to
            <DateField label="Away to" empty="the same day" value={to} onChange={setTo} />
          </span>
          {error && (
            <p role="alert" className="text-red">
              {error}
            </p>
          )}
          <span className="flex gap-2">
            <Button type="submit" look="main">
              Keep it
            </Button>
            <Button onClick={() => setAdding(false)}>Leave it</Button>
          </span>
        </form>
      ) : (
        <button type="button" className="link mt-2 text-[12.5px]" onClick={() => setAdding(true)}>
          a time away
        </button>
      )}
      <CalendarPart />
    </>
  );
}

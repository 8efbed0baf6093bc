import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type DayMarks } from '../api/client';
import { keys } from '../api/queries';
import { firstOfMonth, longDay } from '../ui/dates';

const month = (iso: string) =>
  new Date(`${iso}T12:00:00`).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' });

/** A month in a row: which days have writing, ideas and releases. A click walks there. */
export function MonthStrip({ day, today }: { day: string; today: string }) {
  const [away, setAway] = useState(0);
  const first = firstOfMonth(day, away);
  const shown = useQuery({
    queryKey: keys.month(first),
    queryFn: () => ask(api.GET('/api/desk/month', { params: { query: { month: first } } })),
    placeholderData: (previous) => previous,
  }).data;
  if (!shown) return <div className="mt-3 h-[38px]" />;
  const { rhythm } = shown;
  return (
    <nav aria-label="Days of the month" className="mt-3">
      <div className="flex flex-wrap items-baseline gap-x-3 text-[12px] text-second">
        <button
          type="button"
          aria-label="The month before"
          className="hover:text-blue"
          onClick={() => setAway(away - 1)}
        >
          ‹
        </button>
        <span className="narrow min-w-[7.5rem] text-center font-semibold">{month(shown.first)}</span>
        <button
          type="button"
          aria-label="The month after"
          className="hover:text-blue"
          onClick={() => setAway(away + 1)}
        >
          ›
        </button>
        <span
          className="figures ml-auto max-md:order-3 max-md:ml-0 max-md:basis-full"
          title="Days off are neither counted nor missed; ideas over the last 30 days"
        >
          <b className="text-ink">{rhythm.daysInARow}</b> {rhythm.daysInARow === 1 ? 'day' : 'days'} in a row ·{' '}
          <b className="text-ink">{rhythm.ideasADay}</b> ideas a day
        </span>
        <Link to="/desk/done" className="link max-md:ml-auto">
          what was done
        </Link>
        <Link to="/desk/plan" className="link">
          plan of the sheet
        </Link>
      </div>
      <ol className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(24px,1fr))] xl:-mr-12">
        {shown.days.map((marks) => {
          const number = Number(marks.day.slice(8));
          const here = marks.day === day;
          const said = [
            marks.wrote ? 'written on' : '',
            marks.ideas ? `${marks.ideas} ${marks.ideas === 1 ? 'idea' : 'ideas'}` : '',
            marks.out ? `${marks.out} out` : '',
            ...marks.due.map((piece) => `due: ${piece.title}`),
            ...marks.occasions,
          ].filter(Boolean);
          return (
            <li key={marks.day} className="min-w-0 flex-1">
              <Link
                to={marks.day === today ? '/desk' : `/desk/${marks.day}`}
                onClick={() => setAway(0)}
                aria-current={here ? 'date' : undefined}
                aria-label={`${longDay(marks.day)}${said.length ? `: ${said.join(', ')}` : ''}`}
                title={said.join(', ') || 'nothing yet'}
                className={`relative flex h-[24px] flex-col items-center justify-start text-[11px] leading-[16px] hover:bg-wash ${here ? 'bg-wash font-bold text-blue' : marks.day === today ? 'font-bold' : 'text-second'}`}
              >
                <span className="narrow figures">{number}</span>
                <span aria-hidden className="flex h-[5px] items-end gap-[2px]">
                  {marks.wrote && <span className="h-[2px] w-[9px] bg-ink" />}
                  {marks.ideas > 0 && <span className="h-[4px] w-[4px] bg-blue" />}
                  {marks.out > 0 && <span className="h-[4px] w-[4px] bg-done" />}
                  {marks.due.length > 0 && <span className="h-[5px] w-[5px] border border-red" />}
                  {marks.occasions.length > 0 && <span className="h-[4px] w-[4px] rounded-full bg-second" />}
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
      <OnTheDay marks={shown.days.find((marks) => marks.day === day)} />
    </nav>
  );
}

/** What is to go out on the day of the sheet, and what else is on it. */
function OnTheDay({ marks }: { marks: DayMarks | undefined }) {
  if (!marks || marks.due.length + marks.occasions.length === 0) return null;
  return (
    <p className="mt-2 flex flex-wrap gap-x-4 text-[13px]">
      {marks.due.map((piece) => (
        <span key={piece.number}>
          <span className="font-semibold text-red">due</span>{' '}
          <Link to={`/bench/${piece.number}`} className="link">
            {piece.title}
          </Link>
        </span>
      ))}
      {marks.occasions.map((name) => (
        <span key={name} className="text-second">
          {name}
        </span>
      ))}
    </p>
  );
}

import { useDroppable } from '@dnd-kit/core';
import { memo, useMemo, type ReactNode } from 'react';
import { dateShown, plusDays, shortDay } from '../ui/dates';
import { EntryCard } from './EntryCard';
import { dayId } from './carryingDays';
import {
  hours,
  keyOf,
  type Outlet,
  type PlanEntry,
  type PlanShown,
  type PlanTried,
  type PlanWeek,
  type Showable,
  type Span,
} from './planning';

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

type Look = {
  span: Span;
  outlets: ReadonlyMap<number, Outlet>;
  hidden: ReadonlySet<Showable>;
  act: (entry: PlanEntry) => void;
};

/** Weeks as rows, each with how full it is. */
export function Weeks({
  plan,
  entries,
  tried,
  look,
}: {
  plan: PlanShown;
  entries: readonly PlanEntry[];
  /** What it would do to drop here what is carried. */
  tried: PlanTried | undefined;
  look: Look;
}) {
  const byDay = useMemo(() => {
    const all = new Map<string, PlanEntry[]>();
    for (const entry of entries) {
      // What lasts several days stands on each of them that is shown.
      const first = entry.day < plan.from ? plan.from : entry.day;
      const last = entry.last > plan.to ? plan.to : entry.last;
      for (let day = first; day <= last; day = plusDays(day, 1)) {
        const there = all.get(day);
        if (there) there.push(entry);
        else all.set(day, [entry]);
      }
    }
    return all;
  }, [entries, plan.from, plan.to]);
  return (
    <div role="table" aria-label="Weeks" className="figures min-w-[760px]">
      <div
        role="row"
        className="sticky top-0 z-10 grid grid-cols-[104px_repeat(7,minmax(0,1fr))] border-b border-ink bg-sheet"
      >
        <span role="columnheader" className="sr-only">
          Week
        </span>
        {weekdays.map((name, at) => (
          <span
            key={name}
            role="columnheader"
            className="label pb-1.5 pl-1.5 text-second"
            style={{ gridColumn: at + 2 }}
          >
            {name}
          </span>
        ))}
      </div>
      {plan.weeks.map((week) => (
        <WeekRow
          key={week.monday}
          week={week}
          byDay={byDay}
          today={plan.today}
          after={tried?.weeks.find((one) => one.monday === week.monday)?.after}
          look={look}
        />
      ))}
    </div>
  );
}

const heights: Record<Span, string> = { month: 'min-h-[94px]', quarter: 'min-h-[52px]', year: 'min-h-[30px]' };

const WeekRow = memo(function WeekRow({
  week,
  byDay,
  today,
  after,
  look,
}: {
  week: PlanWeek;
  byDay: ReadonlyMap<string, PlanEntry[]>;
  today: string;
  /** Its hours after what is being tried. */
  after: number | undefined;
  look: Look;
}) {
  return (
    <div
      role="row"
      className={`grid grid-cols-[104px_repeat(7,minmax(0,1fr))] border-b border-hair ${heights[look.span]}`}
    >
      <WeekLoad week={week} after={after} span={look.span} />
      {weekdays.map((_, at) => {
        const day = plusDays(week.monday, at);
        return (
          <Day
            key={day}
            day={day}
            entries={byDay.get(day) ?? none}
            isToday={day === today}
            isPast={day < today}
            at={at}
            look={look}
          />
        );
      })}
    </div>
  );
});

const none: PlanEntry[] = [];

/** How full a week is, as a bar against its hours and in words. */
function WeekLoad({ week, after, span }: { week: PlanWeek; after: number | undefined; span: Span }) {
  const load = after ?? week.load;
  const over = Math.max(0, load - week.hours);
  const isOver = over > 0.05;
  const most = Math.max(week.hours, load, 1) / (isOver ? 1 : 0.75);
  const said = week.isPast
    ? ''
    : week.load === 0 && after === undefined
      ? week.hours === 0
        ? 'no hours'
        : `empty, ${hours(week.hours)} h`
      : `${hours(load)} of ${hours(week.hours)} h`;
  const by = week.by.map(
    (one) =>
      `P ${one.piece} ${one.title}: ${hours(one.hours)} h${one.missing > 0 ? `, ${hours(one.missing)} too many` : ''}`,
  );
  return (
    <div
      role="rowheader"
      className={`pr-4 ${span === 'year' ? 'flex items-baseline gap-1.5 py-1' : 'py-2'}`}
      title={by.join('\n') || undefined}
    >
      <span className={`written font-semibold ${span === 'year' ? 'text-[13px]' : 'text-[17px]'}`}>
        <span className="sr-only">Week </span>
        {week.week}
      </span>{' '}
      <span className="ml-0.5 text-[12px] whitespace-nowrap text-second">
        {shortDay(week.monday).replace(/ \d{4}$/, '')}
      </span>
      {!week.isPast && span !== 'year' && (
        <span aria-hidden className="relative mt-1 block h-[7px] w-[88px] bg-rule">
          <span
            className={`absolute inset-y-0 left-0 ${isOver ? 'bg-red' : 'bg-second'}`}
            style={{ width: `${Math.min(100, (100 * load) / most)}%` }}
          />
          {week.hours > 0 && (
            <span className="absolute -inset-y-[2px] w-px bg-ink" style={{ left: `${(100 * week.hours) / most}%` }} />
          )}
        </span>
      )}
      {said && span !== 'year' && (
        <span className={`mt-1 block text-[12px] leading-tight ${isOver ? 'font-semibold text-red' : 'text-second'}`}>
          {after !== undefined && <span className="text-faint line-through">{hours(week.load)}</span>} {said}
          {isOver && span === 'month' && (
            <span className="block font-normal">
              over by {hours(over)}
              {week.by.some((one) => one.missing > 0) &&
                `: P\u00a0${week.by
                  .filter((one) => one.missing > 0)
                  .map((one) => one.piece)
                  .join(', P\u00a0')}`}
            </span>
          )}
        </span>
      )}
      {span === 'year' && !week.isPast && load > 0.05 && (
        <span className={`ml-auto text-[11px] whitespace-nowrap ${isOver ? 'font-semibold text-red' : 'text-second'}`}>
          {hours(load)} h
        </span>
      )}
    </div>
  );
}

const Day = memo(function Day({
  day,
  entries,
  isToday,
  isPast,
  at,
  look,
}: {
  day: string;
  entries: readonly PlanEntry[];
  isToday: boolean;
  isPast: boolean;
  at: number;
  look: Look;
}) {
  const isAway = entries.some((entry) => entry.kind === 'away');
  const number = Number(day.slice(8));
  return (
    <Into
      day={day}
      look={look.span === 'year' ? 'flex flex-wrap content-start gap-[3px] py-1' : 'pb-1.5'}
      ground={isAway ? 'away' : at > 4 ? 'bg-quiet' : ''}
    >
      {isToday && <span aria-hidden className="absolute inset-x-0 -top-px h-[3px] bg-blue" />}
      {(look.span !== 'year' || number === 1) && (
        <span
          className={`block pt-1 pl-0.5 text-[12px] leading-5 ${isToday ? 'font-semibold text-blue' : isPast ? 'text-faint' : 'text-second'} ${look.span === 'year' ? 'w-full leading-3' : ''}`}
        >
          {number === 1 ? shortDay(day) : number}
        </span>
      )}
      {entries.map((entry) => (
        <EntryCard key={keyOf(entry)} entry={entry} isFirst={entry.day === day || at === 0} look={look} />
      ))}
    </Into>
  );
});

/** A day that things are dropped on; what stands on it is not drawn anew for each that passes over it. */
function Into({ day, look, ground, children }: { day: string; look: string; ground: string; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: dayId(day) });
  return (
    <div
      ref={setNodeRef}
      role="cell"
      aria-label={dateShown(day)}
      data-day={day}
      className={`relative border-l border-rule px-1 ${look} ${isOver ? 'bg-wash outline-2 -outline-offset-2 outline-blue' : ground}`}
    >
      {children}
    </div>
  );
}

export type { Look };

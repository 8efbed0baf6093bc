import { Link } from 'react-router';
import { longDay, plusDays } from '../ui/dates';
import { hours, keyOf, type Outlet, type PlanEntry, type PlanShown } from './planning';

/** Day after day, from today on: the plan where there is no room for weeks. */
export function Agenda({
  plan,
  entries,
  outlets,
  onOpen,
}: {
  plan: PlanShown;
  entries: readonly PlanEntry[];
  outlets: ReadonlyMap<number, Outlet>;
  onOpen: (entry: PlanEntry) => void;
}) {
  const first = plan.today > plan.from && plan.today <= plan.to ? plan.today : plan.from;
  const ahead = entries.filter((entry) => entry.last >= first);
  const days = [...new Set(ahead.map((entry) => (entry.day < first ? first : entry.day)))].sort();
  if (days.length === 0) return <p className="text-second">Nothing stands on these days.</p>;
  return (
    <ol aria-label="Agenda">
      {days.map((day, at) => {
        const week = plan.weeks.find((one) => one.monday <= day && day <= plusDays(one.monday, 6));
        const isFirstOfWeek = week && (at === 0 || days[at - 1]! < week.monday);
        return (
          <li key={day}>
            {isFirstOfWeek && !week.isPast && (
              <p className={`figures mt-5 text-[12px] ${week.over > 0.05 ? 'font-semibold text-red' : 'text-second'}`}>
                Week {week.week}: {hours(week.load)} of {hours(week.hours)} h
                {week.over > 0.05 && `, over by ${hours(week.over)}`}
              </p>
            )}
            <h2 className={`label mt-3 border-b border-hair pb-1 ${day === plan.today ? 'text-blue' : ''}`}>
              {day === plan.today ? `Today, ${longDay(day)}` : longDay(day)}
            </h2>
            <ul>
              {ahead
                .filter((entry) => (entry.day < first ? first : entry.day) === day)
                .map((entry) => (
                  <li key={keyOf(entry)} className="border-b border-rule">
                    <Line
                      entry={entry}
                      outlet={entry.outlet === null ? undefined : outlets.get(entry.outlet)}
                      onOpen={onOpen}
                    />
                  </li>
                ))}
            </ul>
          </li>
        );
      })}
    </ol>
  );
}

function Line({
  entry,
  outlet,
  onOpen,
}: {
  entry: PlanEntry;
  outlet: Outlet | undefined;
  onOpen: (entry: PlanEntry) => void;
}) {
  const bar = (
    <span
      aria-hidden
      className="w-[4px] shrink-0 self-stretch"
      style={{
        background:
          entry.kind === 'occasion' || entry.kind === 'away'
            ? 'var(--manila-edge)'
            : outlet
              ? `var(--${outlet.colour})`
              : 'var(--hair)',
      }}
    />
  );
  const note = {
    due: `goes out · ${entry.stage}${entry.missing === null ? '' : ` · lacks ${hours(entry.missing)} h`}`,
    out: 'went out',
    stage: `${entry.stage} done`,
    open: entry.insteadOf ? 'open, again' : 'open',
    missed: 'missed',
    move: 'move',
    occasion: 'occasion',
    away: 'away',
  }[entry.kind];
  const words = (
    <>
      {bar}
      <span className="min-w-0 flex-1 py-2">
        <span
          className={`block ${entry.kind === 'due' || entry.kind === 'out' ? 'written text-[16px]' : 'text-[14px]'}`}
        >
          {entry.title}
        </span>
        <span className={`figures block text-[12px] ${entry.missing === null ? 'text-second' : 'text-red'}`}>
          {note}
        </span>
      </span>
    </>
  );
  if (entry.kind === 'open')
    return (
      <button type="button" className="flex w-full gap-3 text-left" onClick={() => onOpen(entry)}>
        {words}
      </button>
    );
  if (entry.piece !== null)
    return (
      <Link to={`/bench/${entry.piece}`} className="flex gap-3">
        {words}
      </Link>
    );
  return <div className="flex gap-3">{words}</div>;
}

import { useQuery } from '@tanstack/react-query';
import { DateField } from '../ui/DateField';
import { Link } from 'react-router';
import { api, ask, done } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient, useFormats } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Failed, Loading } from '../ui/States';
import { longDay, today } from '../ui/dates';

type Ahead = components['schemas']['CadenceAhead'];

const weekdays = [
  ['MO', 'Monday'],
  ['TU', 'Tuesday'],
  ['WE', 'Wednesday'],
  ['TH', 'Thursday'],
  ['FR', 'Friday'],
  ['SA', 'Saturday'],
  ['SU', 'Sunday'],
] as const;
const rhythms = [
  ['', 'no cadence'],
  ['FREQ=WEEKLY', 'every week'],
  ['FREQ=WEEKLY;INTERVAL=2', 'every two weeks'],
  ['FREQ=WEEKLY;INTERVAL=4', 'every four weeks'],
  ['FREQ=MONTHLY', 'every month'],
] as const;

/** The parts of a rule that this page can say. */
function parts(rule: string): { rhythm: string; weekday: string } {
  const weekday = /BYDAY=\d?([A-Z]{2})/.exec(rule)?.[1] ?? 'FR';
  return { rhythm: rule.replace(/;?BYDAY=[^;]*/, '').replace(/;INTERVAL=1$/, ''), weekday };
}

const isDaily = (rhythm: string) => rhythm.startsWith('FREQ=DAILY');

const ruleOf = (rhythm: string, weekday: string) =>
  rhythm === '' || isDaily(rhythm)
    ? rhythm
    : rhythm === 'FREQ=MONTHLY'
      ? `${rhythm};BYDAY=1${weekday}`
      : `${rhythm};BYDAY=${weekday}`;

/** When each format goes out, and which of those dates no piece fills yet. */
export function Plan() {
  const formats = useFormats().data;
  const list = useQuery({ queryKey: keys.cadences, queryFn: () => ask(api.GET('/api/cadences')) });
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!formats || !list.data) return <Loading />;
  const dates = list.data.flatMap((ahead) => ahead.dates.map((date) => ({ ...date, format: ahead.cadence.format })));
  dates.sort((a, b) => a.date.localeCompare(b.date));
  const named = (key: string) => formats.find((format) => format.key === key)?.name ?? key;

  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <h1 className="written text-[27px] leading-tight font-semibold">Dates ahead</h1>
        {dates.length === 0 ? (
          <p className="mt-2 max-w-[38rem] text-[14px] leading-relaxed text-second">
            Say how often each format goes out, and the dates it gives stand here: filled by the piece that is due on
            them, or open. The weeks themselves, and how full they are, are not built yet.
          </p>
        ) : (
          <section aria-label="Dates ahead" className="mt-4 max-w-[720px] border-t border-ink">
            {dates.map((date) => (
              <div key={date.format + date.date} className="flex items-baseline gap-5 border-b border-rule py-2.5">
                <span className="figures w-52 shrink-0 max-md:w-36">{longDay(date.date)}</span>
                <span className="w-24 shrink-0 text-second">{named(date.format)}</span>
                {date.piece !== null ? (
                  <Link to={`/bench/${date.piece}`} className="written min-w-0 flex-1 text-[15.5px] hover:text-blue">
                    {date.title}
                  </Link>
                ) : (
                  <span className="flex-1 font-semibold text-blue">open</span>
                )}
              </div>
            ))}
          </section>
        )}
      </div>
      <aside
        aria-label="Cadences"
        className="w-[400px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        <h2 className="label border-b border-hair pb-1.5">Cadences</h2>
        {formats
          .filter((format) => !format.isPutAway || list.data.some((a) => a.cadence.format === format.key))
          .map((format) => (
            <CadenceLine
              key={format.key}
              format={format.key}
              name={format.name}
              ahead={list.data.find((ahead) => ahead.cadence.format === format.key)}
            />
          ))}
        <p className="mt-3 text-[12.5px] text-second">
          A day sheet can say the next open date with{' '}
          <span className="whitespace-nowrap">{'{{ next_open_date }}'}</span>.
        </p>
      </aside>
    </div>
  );
}

function CadenceLine({ format, name, ahead }: { format: string; name: string; ahead: Ahead | undefined }) {
  const { rhythm, weekday } = parts(ahead?.cadence.rule ?? '');
  // Counted in days, as papers may have it, it is the same rhythm as one in weeks, without a weekday of its own.
  const days = /^FREQ=DAILY;INTERVAL=(\d+)$/.exec(rhythm)?.[1];
  const listed = rhythms.some(([value]) => value === rhythm);
  const known = listed || days !== undefined;
  const set = (rule: string, from: string) =>
    void carryOut(
      done(api.PUT('/api/cadences/{format}', { params: { path: { format } }, body: { rule, from } })),
      rule ? `Cadence of ${name} set.` : `${name} has no cadence now.`,
    ).then(
      () => queryClient.invalidateQueries(),
      () => undefined,
    );
  const from = ahead?.cadence.from ?? today();
  return (
    <div className="border-b border-rule py-2.5">
      <div className="flex items-baseline gap-3">
        <span className="w-28 shrink-0 font-semibold">{name}</span>
        <select
          aria-label={`How often ${name} goes out`}
          value={ahead ? rhythm : ''}
          onChange={(event) => set(ruleOf(event.target.value, weekday), from)}
          className="min-w-0 flex-1 bg-transparent"
        >
          {!listed && <option value={rhythm}>{days ? `every ${days} days` : ahead!.cadence.rule}</option>}
          {rhythms.map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </div>
      {ahead && known && (
        <div className="mt-1 flex items-baseline gap-3 text-[12.5px] text-second">
          <span className="w-28 shrink-0">
            {isDaily(rhythm) ? '' : rhythm === 'FREQ=MONTHLY' ? 'on the first' : 'on'}
          </span>
          {!isDaily(rhythm) && (
            <select
              aria-label={`Weekday of ${name}`}
              value={weekday}
              onChange={(event) => set(ruleOf(rhythm, event.target.value), from)}
              className="bg-transparent"
            >
              {weekdays.map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
          )}
          <span className="ml-auto whitespace-nowrap">
            from{' '}
            <DateField
              label={`${name} counts from`}
              needed
              value={from}
              onChange={(day) => day && set(ahead.cadence.rule, day)}
            />
          </span>
        </div>
      )}
    </div>
  );
}

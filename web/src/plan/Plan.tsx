import { useQuery } from '@tanstack/react-query';
import { DateField } from '../ui/DateField';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, Problem } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient, useFormats } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { longDay, nearDay, today } from '../ui/dates';
import { useSettled } from '../text/understood';

type Ahead = components['schemas']['CadenceAhead'];

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
            Say how often each format goes out (“every second Thursday”, “weekdays except in August”), and the dates it
            gives stand here: filled by the piece that is due on them, or open. The weeks themselves, and how full they
            are, are not built yet.
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
  const [isRaw, setRaw] = useState(false);
  const from = ahead?.cadence.from ?? today();
  const rule = ahead?.cadence.rule ?? '';
  const said = ahead?.words ?? rule;
  const set = async (words: string, day: string) => {
    const made = await carryOut(
      done(api.PUT('/api/cadences/{format}', { params: { path: { format } }, body: { rule: words, from: day } })),
      words.trim() ? `Cadence of ${name} set.` : `${name} has no cadence now.`,
      true,
    );
    await queryClient.invalidateQueries();
    return made;
  };
  return (
    <div className="border-b border-rule py-2.5">
      <div className="flex items-baseline gap-3">
        <span className="w-28 shrink-0 font-semibold">{name}</span>
        <div className="min-w-0 flex-1">
          <TextField
            label={`How often ${name} goes out`}
            place={`cadence.${format}`}
            shown={false}
            value={isRaw ? rule : said}
            placeholder="no cadence"
            onSave={(words) => set(words, from)}
            below={(typed) => <NextDates words={typed} from={from} />}
            className="written text-[14.5px]"
          />
        </div>
      </div>
      {ahead && (
        <div className="mt-1 flex flex-wrap items-baseline gap-x-3 pl-31 text-[12.5px] text-second">
          {ahead.words && (
            <button type="button" aria-pressed={isRaw} className="link min-h-6" onClick={() => setRaw(!isRaw)}>
              {isRaw ? 'in words' : 'as a rule'}
            </button>
          )}
          <span className="ml-auto whitespace-nowrap">
            from{' '}
            <DateField
              label={`${name} counts from`}
              needed
              value={from}
              onChange={(day) => day && void set(rule, day).catch(() => undefined)}
            />
          </span>
        </div>
      )}
    </div>
  );
}

/** The next dozen dates of a cadence that is being written. */
function NextDates({ words, from }: { words: string; from: string }) {
  const settled = useSettled(words.trim());
  const preview = useQuery({
    queryKey: [...keys.cadences, 'preview', settled, from],
    queryFn: () => ask(api.POST('/api/cadences/preview', { body: { rule: settled, from } })),
    enabled: settled !== '',
    retry: false,
    placeholderData: (before) => before,
  });
  if (settled === '') return <p className="mt-1 text-[12.5px] text-second">No cadence: nothing goes out by itself.</p>;
  // Half a sentence is no fault; what can't be read at its end is said when it is left.
  if (preview.error)
    return (
      <p className="mt-1 text-[12.5px] text-second">
        {preview.error instanceof Problem && preview.error.status === 400
          ? 'Not a cadence yet.'
          : preview.error.message}
      </p>
    );
  if (!preview.data) return null;
  return (
    <ol aria-label="Next dates" className="figures mt-1 grid grid-cols-2 gap-x-4 text-[12.5px] text-second">
      {preview.data.dates.map((date) => (
        <li key={date} className="whitespace-nowrap">
          {nearDay(date)}
        </li>
      ))}
    </ol>
  );
}

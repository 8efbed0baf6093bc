import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done, Problem } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { useSettled } from '../text/understood';
import { DateField } from '../ui/DateField';
import { TextField } from '../ui/TextField';
import { nearDay, plusDays, today } from '../ui/dates';
import type { Outlet } from './planning';

type Ahead = components['schemas']['CadenceAhead'];
type Written = components['schemas']['CadenceWritten'];

/** How often a format goes out on an outlet, in words; from when, until when, and what happens when a date is missed. */
export function CadenceLine({
  outlet,
  format,
  name,
  ahead,
}: {
  outlet: Outlet;
  format: string;
  name: string;
  ahead: Ahead | undefined;
}) {
  const [isRaw, setRaw] = useState(false);
  const cadence = ahead?.cadence;
  const rule = cadence?.rule ?? '';
  const said = ahead?.words ?? rule;
  const from = cadence?.from ?? today();
  const place = `cadence.${outlet.number}.${format}`;
  const set = async (change: Partial<Written>, words?: string) => {
    const body: Written = {
      said: rule,
      from,
      until: cadence?.until ?? null,
      fallback: ahead?.fallback ?? '',
      pauses: null,
      others: null,
      ...change,
    };
    const path = { number: String(outlet.number), format };
    await carryOut(
      done(api.PUT('/api/outlets/{number}/cadences/{format}', { params: { path }, body })),
      words ?? `Cadence of ${name} set.`,
      true,
    );
    await queryClient.invalidateQueries();
  };
  const act = (made: Promise<unknown>) => void made.catch(() => undefined);
  return (
    <div className="border-b border-rule py-2">
      <div className="flex items-baseline gap-3">
        <span className="w-32 shrink-0 font-semibold">{name}</span>
        <div className="min-w-0 flex-1">
          <TextField
            label={`How often ${name} goes out`}
            place={place}
            shown={false}
            value={isRaw ? rule : said}
            placeholder="no cadence"
            onSave={(words) => set({ said: words }, words.trim() ? undefined : `${name} has no cadence now.`)}
            below={(typed) => <NextDates words={typed} from={from} cadence={cadence} />}
            className="written text-[14.5px]"
          />
        </div>
      </div>
      {ahead && cadence && (
        <div className="mt-1 space-y-1 pl-35 text-[12.5px] text-second max-md:pl-0">
          <div className="flex flex-wrap items-baseline gap-x-4">
            <span className="inline-flex items-baseline gap-1.5 whitespace-nowrap">
              missed, again
              <span className="w-32">
                <TextField
                  label={`When a missed ${name} comes again`}
                  place={`${place}.fallback`}
                  shown={false}
                  value={ahead.fallback}
                  placeholder="never"
                  onSave={(fallback) =>
                    set({ fallback }, fallback.trim() ? 'Missed dates come again.' : 'Missed dates are gone.')
                  }
                />
              </span>
            </span>
            <span className="whitespace-nowrap">
              from{' '}
              <DateField
                label={`${name} counts from`}
                needed
                value={from}
                onChange={(day) => day && act(set({ from: day }))}
              />
            </span>
            <span className="whitespace-nowrap">
              until{' '}
              <DateField
                label={`${name} ends`}
                empty="no end"
                value={cadence.until}
                onChange={(until) => act(set({ until }, until ? 'It ends then.' : 'It goes on.'))}
              />
            </span>
            {ahead.words && (
              <button type="button" aria-pressed={isRaw} className="link" onClick={() => setRaw(!isRaw)}>
                {isRaw ? 'in words' : 'as a rule'}
              </button>
            )}
          </div>
          {cadence.pauses.map((pause, at) => {
            const to = (changed: typeof pause | null) =>
              act(
                set(
                  {
                    pauses: changed
                      ? cadence.pauses.map((one, i) => (i === at ? changed : one))
                      : cadence.pauses.filter((_, i) => i !== at),
                  },
                  changed ? 'Pause set.' : 'No pause there.',
                ),
              );
            return (
              <div key={at} className="flex flex-wrap items-baseline gap-x-2">
                pauses from
                <DateField
                  label={`Pause ${at + 1} of ${name} from`}
                  needed
                  value={pause.from}
                  onChange={(day) => day && to({ from: day, to: day > pause.to ? day : pause.to })}
                />
                to
                <DateField
                  label={`Pause ${at + 1} of ${name} to`}
                  needed
                  value={pause.to}
                  onChange={(day) => day && to({ from: day < pause.from ? day : pause.from, to: day })}
                />
                <button type="button" className="link" onClick={() => to(null)}>
                  no pause
                </button>
              </div>
            );
          })}
          {cadence.others.map((other) => (
            <div key={other.date} className="flex flex-wrap items-baseline gap-x-2">
              {other.to ? `${nearDay(other.to)} instead of ${nearDay(other.date)}` : `none on ${nearDay(other.date)}`}
              <button
                type="button"
                className="link"
                onClick={() =>
                  act(set({ others: cadence.others.filter((one) => one.date !== other.date) }, 'As its rule has it.'))
                }
              >
                as its rule has it
              </button>
            </div>
          ))}
          <div className="flex flex-wrap items-baseline gap-x-4">
            <button
              type="button"
              className="link"
              onClick={() =>
                act(
                  set(
                    { pauses: [...cadence.pauses, { from: today(), to: plusDays(today(), 13) }] },
                    'It pauses for two weeks.',
                  ),
                )
              }
            >
              a pause
            </button>
            <span>
              next:{' '}
              {ahead.dates
                .slice(0, 4)
                .map((date) => `${nearDay(date.date)}${date.piece === null ? '' : ` (P ${date.piece})`}`)
                .join(', ') || 'none within two years'}
            </span>
          </div>
        </div>
      )}
    </div>
  );
}

/** The next dozen dates of a cadence that is being written. */
function NextDates({ words, from, cadence }: { words: string; from: string; cadence: Ahead['cadence'] | undefined }) {
  const settled = useSettled(words.trim());
  const body: Written = {
    said: settled,
    from,
    until: cadence?.until ?? null,
    fallback: null,
    pauses: cadence?.pauses ?? null,
    others: cadence?.others ?? null,
  };
  const preview = useQuery({
    queryKey: [...keys.cadences, 'preview', body],
    queryFn: () => ask(api.POST('/api/cadences/preview', { body })),
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
    <ol
      aria-label="Next dates"
      className="figures mt-1 grid grid-cols-4 gap-x-4 text-[12.5px] text-second max-md:grid-cols-2"
    >
      {preview.data.dates.map((date) => (
        <li key={date} className="whitespace-nowrap">
          {nearDay(date)}
        </li>
      ))}
    </ol>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done, Problem } from '../../api/client';
import type { components } from '../../api/schema';
import { keys, queryClient, useFormats } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { TextField } from '../../ui/TextField';
import { shortDay } from '../../ui/dates';

type Shown = components['schemas']['GoalShown'];
type Of = Shown['goal']['of'];

const units: Record<Of, string> = { released: 'pieces out', words: 'words written', readers: 'readers' };
const refresh = () => queryClient.invalidateQueries();

/** Figures with a date, and how they stand, said plainly. */
export function Goals() {
  const goals = useQuery({ queryKey: keys.goals, queryFn: () => ask(api.GET('/api/goals')) }).data;
  const [adding, setAdding] = useState(false);
  if (!goals) return null;
  return (
    <section aria-label="Goals" className="mb-6 max-w-3xl">
      <header className="flex items-baseline justify-between border-b border-ink pb-1">
        <h2 className="written text-[17px] font-semibold">Goals</h2>
        {!adding && <Button onClick={() => setAdding(true)}>A goal</Button>}
      </header>
      {adding && <NewGoal onClose={() => setAdding(false)} />}
      {goals.length === 0 && !adding && (
        <p className="py-3 text-second">
          None yet. A goal is a figure with a date: so many pieces out, words or readers by a day.
        </p>
      )}
      {goals.map((shown) => (
        <GoalLine key={shown.goal.number} shown={shown} />
      ))}
    </section>
  );
}

function GoalLine({ shown: { goal, progress } }: { shown: Shown }) {
  const formats = useFormats().data ?? [];
  const share = Math.min(1, progress.reached / goal.target);
  const path = { path: { number: String(goal.number) } };
  return (
    <article className="border-b border-rule py-3">
      <p className="flex items-baseline gap-4">
        <span className="written min-w-0 flex-1 text-[16px]">{progress.says}</span>
        <span className="figures shrink-0 text-[12.5px] text-second">
          {goal.format && `${formats.find((one) => one.key === goal.format)?.name.toLowerCase() ?? goal.format} · `}
          {shortDay(goal.from)} – {shortDay(goal.by)}
        </span>
        <button
          type="button"
          className="link min-h-6 shrink-0 text-[12.5px]"
          onClick={() =>
            void carryOut(done(api.DELETE('/api/goals/{number}', { params: path })), 'Goal taken away.').then(
              refresh,
              () => undefined,
            )
          }
        >
          take away
        </button>
      </p>
      <div aria-hidden className="relative mt-1.5 h-[7px] bg-quiet">
        <div className={`h-full ${share >= 1 ? 'bg-done' : 'bg-ink'}`} style={{ width: `${100 * share}%` }} />
        <span
          className="absolute -top-[3px] h-[13px] w-px bg-blue"
          style={{ left: `${100 * progress.timeGone}%` }}
          title="how much of its time is gone"
        />
      </div>
      {goal.of === 'readers' && (
        <p className="mt-1.5 flex items-baseline gap-2 text-[12.5px] text-second">
          readers now
          <span className="w-24">
            <TextField
              label="Readers now"
              place={`goal.${goal.number}.readers`}
              shown={false}
              value={String(goal.readers)}
              onSave={async (text) => {
                await carryOut(
                  done(api.PATCH('/api/goals/{number}', { params: path, body: { readers: whole(text, 'readers') } })),
                  'Readers counted.',
                  true,
                );
                await refresh();
              }}
            />
          </span>
        </p>
      )}
    </article>
  );
}

function whole(text: string, what: string): number {
  const count = Number(text.replace(/[\s,.]/g, ''));
  if (text.trim() === '' || !Number.isInteger(count)) throw new Error(`“${text}” is no number of ${what}.`);
  return count;
}

function NewGoal({ onClose }: { onClose: () => void }) {
  const formats = useFormats().data ?? [];
  const [of, setOf] = useState<Of>('released');
  const [target, setTarget] = useState('');
  const [format, setFormat] = useState('');
  const [from, setFrom] = useState<string | null>(null);
  const [by, setBy] = useState<string | null>(null);
  const [readers, setReaders] = useState('');
  const [wrong, setWrong] = useState('');
  const set = async () => {
    try {
      if (!by) throw new Error('Say by which day.');
      await carryOut(
        done(
          api.POST('/api/goals', {
            body: {
              of,
              target: whole(target, units[of]),
              from: from ?? undefined,
              by,
              format: format || undefined,
              readers: of === 'readers' ? whole(readers, 'readers') : undefined,
            },
          }),
        ),
        'The goal is set.',
        true,
      );
      await refresh();
      onClose();
    } catch (error) {
      setWrong(error instanceof Problem || error instanceof Error ? error.message : String(error));
    }
  };
  const field = 'border-b border-hair bg-transparent py-1 outline-none focus:border-blue';
  return (
    <form
      className="flex flex-wrap items-baseline gap-x-3 gap-y-2 border-b border-hair bg-quiet px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        void set();
      }}
    >
      <input
        autoFocus
        aria-label="How many"
        inputMode="numeric"
        placeholder="26"
        value={target}
        onChange={(event) => {
          setTarget(event.target.value);
          setWrong('');
        }}
        className={`figures w-20 text-right ${field}`}
      />
      <select aria-label="Of what" value={of} onChange={(event) => setOf(event.target.value as Of)} className={field}>
        {(Object.keys(units) as Of[]).map((one) => (
          <option key={one} value={one}>
            {units[one]}
          </option>
        ))}
      </select>
      {of === 'released' && (
        <select
          aria-label="Of which format"
          value={format}
          onChange={(event) => setFormat(event.target.value)}
          className={field}
        >
          <option value="">of any format</option>
          {formats.map((one) => (
            <option key={one.key} value={one.key}>
              ({one.name})
            </option>
          ))}
        </select>
      )}
      {of === 'readers' && (
        <label className="inline-flex items-baseline gap-2">
          now
          <input
            aria-label="Readers there are now"
            inputMode="numeric"
            value={readers}
            onChange={(event) => setReaders(event.target.value)}
            className={`figures w-20 text-right ${field}`}
          />
        </label>
      )}
      from
      <DateField label="Counted from" empty="today" value={from} onChange={setFrom} />
      by
      <DateField label="By" empty="which day" value={by} onChange={setBy} />
      <span className="ml-auto inline-flex gap-2">
        <Button look="main" type="submit">
          Set it
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </span>
      {wrong && (
        <p role="alert" className="w-full text-[12.5px] text-red">
          {wrong}
        </p>
      )}
    </form>
  );
}

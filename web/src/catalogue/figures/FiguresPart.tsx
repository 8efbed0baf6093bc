import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import { carryOut, say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { TextField } from '../../ui/TextField';
import { shortDay, today } from '../../ui/dates';
import { useHeld } from '../../ui/useField';
import type { Release } from '../catalogue';
import type { ReleaseEdit } from '../ReleasePage';
import { shown, type FigureLine } from './figures';

/** What became of a release: what its outlet tells, what was counted here, and what its writer typed. */
export function FiguresPart({
  release,
  onEdit,
}: {
  release: Release;
  onEdit: (edit: ReleaseEdit, said?: string) => Promise<void>;
}) {
  const path = { number: String(release.number) };
  const figures = useQuery({
    queryKey: keys.releaseFigures(release.number),
    queryFn: () => ask(api.GET('/api/releases/{number}/figures', { params: { path } })),
  }).data;
  const [asking, setAsking] = useState(false);
  const askOutlet = async () => {
    setAsking(true);
    try {
      const { problem } = await ask(api.POST('/api/releases/{number}/figures/ask', { params: { path } }));
      say(problem || 'Its outlet told what it knows.');
    } catch (error) {
      say((error as Error).message);
    } finally {
      setAsking(false);
      await queryClient.invalidateQueries();
    }
  };
  const type = (name: string, total: number | null, day: string, said: string) =>
    carryOut(
      done(api.PUT('/api/releases/{number}/figures', { params: { path }, body: { name, total, day } })),
      said,
      true,
    ).then(() => queryClient.invalidateQueries());
  if (!figures) return null;
  return (
    <section aria-label="Figures" className="mt-6">
      <h2 className="label flex items-baseline border-b border-hair pb-1.5">
        Figures
        <button
          type="button"
          disabled={asking}
          className="link ml-auto min-h-6 text-[12.5px] font-semibold tracking-normal normal-case disabled:opacity-50"
          onClick={() => void askOutlet()}
        >
          {asking ? 'asking …' : 'ask its outlet'}
        </button>
      </h2>
      {figures.lines.length === 0 && (
        <p className="mt-2 text-[13px] text-second">
          Nothing is known of it yet. Outlets that tell figures are asked each day.
        </p>
      )}
      <ul>
        {figures.lines.map((line) => (
          <Line
            key={line.name}
            line={line}
            outOn={release.outOn}
            onRemove={(day) => void type(line.name, null, day, 'Took it away.').catch(() => undefined)}
          />
        ))}
      </ul>
      <TypeFigure release={release} names={figures.lines.map((line) => line.name)} onType={type} />
      <div className="mt-3">
        <TextField
          label="What was tried with it"
          place={`release.${release.number}.tried`}
          value={release.tried}
          placeholder="in a few words, the same each time it is tried"
          onSave={(tried) => onEdit({ tried })}
        />
        {!release.tried && figures.tried.length > 0 && (
          <p className="mt-1 flex flex-wrap gap-x-4 text-[12.5px]">
            {figures.tried.slice(0, 4).map((one) => (
              <button
                key={one}
                type="button"
                className="link min-h-6 text-left"
                onClick={() => void onEdit({ tried: one }, 'Noted.').catch(() => undefined)}
              >
                {one}
              </button>
            ))}
          </p>
        )}
      </div>
      <p className="mt-2 text-[12.5px]">
        <Link to="/catalogue/figures" className="link">
          Compare it with others
        </Link>
      </p>
    </section>
  );
}

const from = { hand: 'typed', outlet: 'told by its outlet', here: 'counted here' } as const;

function Line({ line, outOn, onRemove }: { line: FigureLine; outOn: string; onRemove: (day: string) => void }) {
  const last = line.told.at(-1)!;
  return (
    <li className="border-b border-rule py-2">
      <details>
        <summary className="flex min-h-6 cursor-pointer items-center gap-3 hover:text-blue">
          <span className="figures w-16 text-right text-[20px] leading-none font-semibold">{shown(line.latest)}</span>
          <span className="min-w-0 flex-1 text-[13.5px]">{line.name}</span>
          {line.told.length > 1 && <Curve line={line} outOn={outOn} />}
        </summary>
        <table className="figures mt-1.5 ml-[4.75rem] text-[12.5px]">
          <caption className="sr-only">{line.name} up to each day</caption>
          <tbody>
            {line.told.toReversed().map((one) => (
              <tr key={`${one.day}${one.by}`}>
                <th scope="row" className="pr-4 text-left font-normal text-second">
                  {shortDay(one.day)}
                </th>
                <td className="pr-4 text-right">{shown(one.total)}</td>
                <td className="text-second">
                  {from[one.by]}
                  {one.by === 'hand' && (
                    <button type="button" className="link ml-3 min-h-6" onClick={() => onRemove(one.day)}>
                      take away
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
      <p className="figures ml-[4.75rem] text-[12px] text-second">
        {line.week === null
          ? `up to ${shortDay(last.day)}`
          : `${shown(line.week ?? 0)} after a week${line.usual === null ? '' : `, usually ${shown(line.usual ?? 0)} there`}`}
      </p>
    </li>
  );
}

/** How it grew, from the day it went out. */
function Curve({ line, outOn }: { line: FigureLine; outOn: string }) {
  const start = Date.parse(outOn);
  const points = line.told.map((one) => [(Date.parse(one.day) - start) / 86_400_000, one.total] as const);
  const width = Math.max(1, points.at(-1)![0]);
  const height = Math.max(1, line.latest);
  const at = [[0, 0] as const, ...points].map(([x, y]) => `${(88 * x) / width},${22 - (20 * y) / height}`).join(' ');
  return (
    <svg width="88" height="24" viewBox="0 0 88 24" aria-hidden className="shrink-0 overflow-visible">
      <line x1="0" x2="88" y1="23" y2="23" stroke="var(--hair)" />
      <polyline points={at} fill="none" stroke="var(--ink)" strokeWidth="1.5" strokeLinejoin="round" />
    </svg>
  );
}

function TypeFigure({
  release,
  names,
  onType,
}: {
  release: Release;
  names: readonly string[];
  onType: (name: string, total: number | null, day: string, said: string) => Promise<unknown>;
}) {
  const [name, setName] = useHeld(`release.${release.number}.figure.name`);
  const [total, setTotal] = useHeld(`release.${release.number}.figure.total`);
  const [day, setDay] = useState<string>(today());
  const [wrong, setWrong] = useState('');
  const add = async () => {
    const number = Number(total.replace(/[\s,.’']/g, ''));
    if (!/^[\d\s,.’']+$/.test(total.trim()) || !Number.isSafeInteger(number)) {
      setWrong(`“${total}” is no whole number.`);
      return;
    }
    try {
      await onType(name, number, day, `Noted ${name.trim()}.`);
      setTotal('');
      setName('');
      setWrong('');
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  const field = 'min-w-0 border-b border-hair bg-transparent py-0.5 text-[13.5px] outline-none focus:border-blue';
  return (
    <form
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div className="flex items-baseline gap-3">
        <input
          aria-label="What was counted"
          list={`figures-${release.number}`}
          value={name}
          placeholder="views, replies …"
          maxLength={40}
          className={`flex-1 ${field}`}
          onChange={(event) => setName(event.target.value)}
        />
        <datalist id={`figures-${release.number}`}>
          {[...new Set([...names, 'views', 'reads', 'replies'])].map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
        <input
          aria-label="How many in all"
          inputMode="numeric"
          value={total}
          placeholder="in all"
          className={`figures w-16 text-right ${field}`}
          onChange={(event) => setTotal(event.target.value)}
        />
      </div>
      <div className="mt-1.5 flex items-baseline gap-3">
        <span className="flex-1 text-[12.5px] text-second">
          up to the end of{' '}
          <DateField label="Up to which day" needed value={day} onChange={(chosen) => chosen && setDay(chosen)} />
        </span>
        <Button type="submit" disabled={!name.trim() || !total.trim()}>
          Note
        </Button>
      </div>
      {wrong && (
        <p role="alert" className="mt-1 text-[12.5px] text-red">
          {wrong}
        </p>
      )}
    </form>
  );
}

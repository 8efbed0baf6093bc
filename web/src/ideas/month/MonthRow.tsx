import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask } from '../../api/client';
import type { components } from '../../api/schema';
import { complain } from '../../papers/notices';
import type { Outlet } from '../../plan/planning';
import { GrowingText } from '../../capture/GrowingText';
import { DateField } from '../../ui/DateField';
import { weekday } from '../../ui/dates';
import type { Row } from './proposal';

type Ordered = components['schemas']['TopicOrdered'];
type Form = components['schemas']['FormShare'];

/** One of several, chosen where it stands. */
function InPlace({
  label,
  value,
  of,
  colour = 'hair',
  onChange,
}: {
  label: string;
  value: string;
  of: readonly (readonly [string, string])[];
  /** Name of the colour it is known by, where it has one. */
  colour?: string;
  onChange: (value: string) => void;
}) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      style={{ borderColor: `var(--${colour})` }}
      className="narrow min-h-6 max-w-48 border-b-2 bg-transparent text-[12.5px] text-ink"
    >
      {of.map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
      {of.every(([key]) => key !== value) && <option value={value}>{value}</option>}
    </select>
  );
}

/** A date that can be changed in place: its day and hour, its topic, form and outlet, its words; or left out. */
export function MonthRow({
  row,
  outlets,
  forms,
  order,
  isFirst,
  isLast,
  onChange,
  onExchange,
}: {
  row: Row;
  outlets: readonly Outlet[];
  forms: readonly Form[];
  order: readonly Ordered[];
  isFirst: boolean;
  isLast: boolean;
  onChange: (to: Partial<Row>) => void;
  onExchange: (by: 1 | -1) => void;
}) {
  const [isOpen, setOpen] = useState(false);
  const idea = row.ideas[row.at];
  const named = `${row.date}, ${forms.find((form) => form.format === row.format)?.name ?? row.format}`;
  const next = () => {
    const at = (row.at + 1) % Math.max(1, row.ideas.length);
    onChange({ at, text: row.ideas[at]?.text ?? row.text });
  };
  const turnTo = async (name: string) => {
    const topic = order.find((one) => one.name === name);
    if (!topic) return;
    try {
      const ideas = await ask(
        api.POST('/api/plan/proposal/ideas', {
          body: { topic: topic.topic?.number, name: topic.name, seed: 1 + order.indexOf(topic) + row.at },
        }),
      );
      onChange({
        topic: topic.topic,
        name: topic.name,
        ideas,
        at: 0,
        text: ideas[0]?.text ?? topic.name,
        because: [topic.because],
      });
    } catch (error) {
      complain(error);
    }
  };
  return (
    <li
      className={`grid grid-cols-[24px_172px_minmax(0,1fr)_auto] items-start gap-x-4 border-b border-rule py-2.5 max-md:grid-cols-[24px_minmax(0,1fr)] ${row.isLeft ? 'opacity-60' : ''}`}
    >
      <input
        type="checkbox"
        aria-label={`Take ${named}`}
        checked={!row.isLeft}
        onChange={(event) => onChange({ isLeft: !event.target.checked })}
        className="mt-1 h-4 w-4 accent-(--blue)"
      />
      <div className="text-[13px]">
        <DateField label={`Day of ${named}`} value={row.date} needed onChange={(date) => date && onChange({ date })} />
        <span className="mt-1 flex items-baseline gap-2 text-second">
          <span>{weekday(row.date)} at</span>
          <select
            aria-label={`Hour of ${named}`}
            value={row.hour}
            title={row.hourBecause}
            onChange={(event) => onChange({ hour: Number(event.target.value), hourBecause: 'You chose the hour.' })}
            className="figures min-h-6 border-b border-hair bg-transparent text-ink"
          >
            {Array.from({ length: 24 }, (_, hour) => (
              <option key={hour} value={hour}>
                {`${hour}:00`}
              </option>
            ))}
          </select>
        </span>
      </div>
      <div className="min-w-0 max-md:col-start-2 max-md:mt-2">
        <GrowingText
          label={`What goes out on ${named}`}
          value={row.text}
          least={26}
          onChange={(text) => onChange({ text })}
        />
        <p className="mt-0.5 flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-second">
          <InPlace
            label={`Topic of ${named}`}
            value={row.name}
            of={order.map(({ name }) => [name, name])}
            colour={row.topic?.colour}
            onChange={(name) => void turnTo(name)}
          />
          <InPlace
            label={`Form of ${named}`}
            value={row.format}
            of={forms.map((form) => [form.format, form.name])}
            onChange={(format) =>
              onChange({ format, hours: forms.find((form) => form.format === format)?.hours ?? row.hours })
            }
          />
          <InPlace
            label={`Outlet of ${named}`}
            value={String(row.outlet)}
            of={outlets.map((outlet) => [String(outlet.number), outlet.name])}
            colour={outlets.find((outlet) => outlet.number === row.outlet)?.colour}
            onChange={(outlet) =>
              onChange({ outlet: Number(outlet), hourBecause: 'You chose the outlet; the hour is as it was before.' })
            }
          />
          {idea && <span className="narrow">{idea.shape}</span>}
          <button type="button" className="link min-h-6" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
            why
          </button>
          {row.ideas.length > 1 && (
            <button type="button" className="link min-h-6" onClick={next}>
              another ({row.at + 1} of {row.ideas.length})
            </button>
          )}
        </p>
        {isOpen && (
          <div className="mt-1 text-[13px]">
            {row.because.map((reason) => (
              <p key={reason}>{reason}</p>
            ))}
            {idea && (
              <p>
                {idea.because}{' '}
                {idea.slip !== null && (
                  <Link to={`/library/slip/${idea.slip}`} className="link">
                    slip {idea.slip}
                  </Link>
                )}
              </p>
            )}
            <p className="text-second">{row.hourBecause}</p>
          </div>
        )}
      </div>
      <span className="flex gap-1 pt-0.5 max-md:col-start-2">
        <button
          type="button"
          aria-label={`Exchange with the date before ${named}`}
          title="Exchange with the date before"
          disabled={isFirst}
          onClick={() => onExchange(-1)}
          className="min-h-7 min-w-7 text-second hover:text-blue disabled:opacity-30"
        >
          ↑
        </button>
        <button
          type="button"
          aria-label={`Exchange with the date after ${named}`}
          title="Exchange with the date after"
          disabled={isLast}
          onClick={() => onExchange(1)}
          className="min-h-7 min-w-7 text-second hover:text-blue disabled:opacity-30"
        >
          ↓
        </button>
      </span>
    </li>
  );
}

import { isKey } from '../papers/ownKeys';
import { FillInText } from './FillInText';
import { DateField } from '../ui/DateField';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { components } from '../api/schema';
import { shortDay } from '../ui/dates';
import { GrowingText } from './GrowingText';

export type PlanBlock = components['schemas']['PlanBlock'];
type Weekday = components['schemas']['DayOfWeek'];

export const kindNames: Record<PlanBlock['kind'], string> = {
  lines: 'Ruled lines',
  question: 'A question',
  writing: 'Free writing',
  text: 'A text with fill-ins',
  again: 'The same as last time',
  moves: 'Moves for today',
  aims: 'Longer aims',
  piece: 'The piece in hand',
  caught: 'Caught through the day',
};

export const weekdays: Weekday[] = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];

const texts: Partial<Record<PlanBlock['kind'], string>> = {
  question: 'the question',
  text: 'the text; what changes from day to day is put in from the list',
  again: 'what it begins with the first time',
  aims: 'the aims; they can be changed on any sheet',
};

/** One block of the plan, changed where it stands. */
export function PlanRow({
  block,
  onChange,
  onRemove,
  onMove,
}: {
  block: PlanBlock;
  onChange: (block: PlanBlock) => void;
  onRemove: () => void;
  onMove: (by: number) => void;
}) {
  const { setNodeRef, transform, transition, isDragging, attributes, listeners } = useSortable({ id: block.number });
  const { weekdays: chosen, daysOfMonth, dates } = block.days;
  const days = (change: Partial<PlanBlock['days']>) => onChange({ ...block, days: { ...block.days, ...change } });
  const toggled = <T,>(list: readonly T[], one: T) =>
    list.includes(one) ? list.filter((x) => x !== one) : [...list, one];
  const name = block.heading || kindNames[block.kind];
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      aria-label={`Block ${name}`}
      className={`mb-2 flex border border-hair bg-sheet ${isDragging ? 'relative z-10 shadow-lg' : ''}`}
      onKeyDown={(event) => {
        const by = isKey(event, 'desk.up') ? -1 : isKey(event, 'desk.down') ? 1 : undefined;
        if (!by) return;
        event.preventDefault();
        onMove(by);
      }}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Move ${name}`}
        title="Drag, or Alt and an arrow key"
        className="w-[34px] shrink-0 cursor-grab touch-none border-r border-line text-[15px] text-faint hover:text-blue"
      >
        ≡
      </button>
      <div className="min-w-0 flex-1 px-3.5 py-2">
        <div className="flex items-baseline gap-3">
          <input
            aria-label={`Heading of ${name}`}
            value={block.heading}
            maxLength={120}
            placeholder="no heading"
            onChange={(event) => onChange({ ...block, heading: event.target.value })}
            className="written min-w-0 flex-1 border-b border-transparent bg-transparent text-[15.5px] font-semibold outline-none hover:border-hair focus:border-blue"
          />
          <span className={`shrink-0 text-[12px] text-second ${block.heading ? 'max-md:hidden' : ''}`}>
            {block.heading === kindNames[block.kind] ? '' : kindNames[block.kind].toLowerCase()}
          </span>
          {(block.kind === 'lines' || block.kind === 'writing') && (
            <label className="shrink-0 text-[12px] text-second">
              <input
                type="number"
                min={1}
                max={block.kind === 'lines' ? 20 : 180}
                value={block.size ?? ''}
                onChange={(event) =>
                  onChange({ ...block, size: event.target.value === '' ? null : Number(event.target.value) })
                }
                className="figures w-11 border-b border-hair bg-transparent text-right text-ink outline-none focus:border-blue"
              />{' '}
              {block.kind === 'lines' ? 'lines' : 'minutes'}
            </label>
          )}
          <button
            type="button"
            aria-label={`Take ${name} away`}
            className="px-1 text-second hover:text-red"
            onClick={onRemove}
          >
            ×
          </button>
        </div>
        {texts[block.kind] && (
          <div className="mt-1">
            {block.kind === 'text' ? (
              <FillInText
                label={`Text of ${name}`}
                value={block.text}
                placeholder={texts.text!}
                onChange={(text) => onChange({ ...block, text })}
              />
            ) : (
              <GrowingText
                label={`Text of ${name}`}
                value={block.text}
                least={26}
                placeholder={texts[block.kind]}
                onChange={(text) => onChange({ ...block, text })}
              />
            )}
          </div>
        )}
        <div
          role="group"
          aria-label={`Days of ${name}`}
          className="mt-1 flex flex-wrap items-center gap-x-1 gap-y-1 text-[12px]"
        >
          <button
            type="button"
            aria-pressed={chosen.length + daysOfMonth.length + dates.length === 0}
            onClick={() => days({ weekdays: [], daysOfMonth: [], dates: [] })}
            className={pick(chosen.length + daysOfMonth.length + dates.length === 0)}
          >
            every day
          </button>
          {weekdays.map((weekday) => (
            <button
              key={weekday}
              type="button"
              aria-pressed={chosen.includes(weekday)}
              aria-label={`${weekday.slice(0, 2)}: ${weekday}`}
              onClick={() => days({ weekdays: toggled(chosen, weekday) })}
              className={pick(chosen.includes(weekday))}
            >
              {weekday.slice(0, 2)}
            </button>
          ))}
          {daysOfMonth.map((day) => (
            <button
              key={day}
              type="button"
              title="Take this day away"
              onClick={() => days({ daysOfMonth: toggled(daysOfMonth, day) })}
              className={pick(true)}
            >
              {day === 31 ? 'the last' : `the ${day}.`}
            </button>
          ))}
          {dates.map((date) => (
            <button
              key={date}
              type="button"
              title="Take this date away"
              onClick={() => days({ dates: toggled(dates, date) })}
              className={pick(true)}
            >
              {shortDay(date)}
            </button>
          ))}
          <select
            aria-label={`A day of the month for ${name}`}
            value=""
            onChange={(event) =>
              event.target.value && days({ daysOfMonth: toggled(daysOfMonth, Number(event.target.value)) })
            }
            className="bg-transparent text-second"
          >
            <option value="">of the month…</option>
            {Array.from({ length: 31 }, (_, at) => (
              <option key={at} value={at + 1}>
                {at === 30 ? 'the last day' : `the ${at + 1}.`}
              </option>
            ))}
          </select>
          <DateField
            key={dates.join()}
            label={`A date for ${name}`}
            empty="a date…"
            value={null}
            onChange={(day) => day && days({ dates: toggled(dates, day) })}
          />
        </div>
      </div>
    </li>
  );
}

const pick = (on: boolean) =>
  `rounded-key border px-1.5 ${on ? 'border-blue font-semibold text-blue' : 'border-transparent text-second hover:border-hair'}`;

import { memo } from 'react';
import { useSearchParams } from 'react-router';
import { useFormats, useSeries, useTopics } from '../api/queries';
import { ActionMenu } from '../ui/ActionMenu';
import { plusDays, shortDay } from '../ui/dates';
import { useNarrow } from '../ui/useNarrow';
import { PlanNav } from './PlanNav';
import {
  firstShown,
  hours,
  mondayOf,
  showable,
  spans,
  useOutlets,
  type PlanEntry,
  type PlanShown,
  type Showable,
  type Sight,
  type Span,
} from './planning';

/** What is shown of the plan, and what of it strikes one first. */
export const PlanHead = memo(function PlanHead({
  plan: shown,
  entries,
  sight,
  span,
  onSpan: setSpan,
  onHide: setHiddenKept,
}: {
  plan: PlanShown;
  entries: readonly PlanEntry[];
  sight: Sight;
  span: Span;
  onSpan: (span: Span) => void;
  onHide: (hidden: string) => void;
}) {
  const [params, setParams] = useSearchParams();
  const isNarrow = useNarrow();
  const outlets = useOutlets();
  const formats = useFormats().data ?? [];
  const topics = useTopics().data ?? [];
  const series = (useSeries().data ?? []).map((one) => one.series);
  const from = firstShown(params.get('from'));
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next, { replace: name !== 'from' });
  };
  const go = (weeks: number) => set('from', plusDays(mondayOf(from), 7 * weeks));

  const filters = [
    ['format', formats.find((f) => f.key === sight.format)?.name],
    ['topic', topics.find((t) => t.number === sight.topic)?.name],
    ['series', series.find((s) => s.number === sight.series)?.name],
    ['person', sight.person || undefined],
  ] as const;

  return (
    <header className="mb-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="written text-[25px] leading-tight font-semibold">
          {shortDay(shown.from)} – {shortDay(shown.to)}
        </h1>
        <span className="figures text-[12.5px] text-second">{summaryOf(shown, entries)}</span>
        <PlanNav />
      </div>
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1 text-[12.5px] text-second">
        <span className="inline-flex items-center gap-1">
          <button
            type="button"
            aria-label="Earlier"
            className="px-1.5 hover:text-blue"
            onClick={() => go(-Math.round(spans[span] / 2))}
          >
            ←
          </button>
          <button type="button" className="link" onClick={() => set('from', '')}>
            today
          </button>
          <button
            type="button"
            aria-label="Later"
            className="px-1.5 hover:text-blue"
            onClick={() => go(Math.round(spans[span] / 2))}
          >
            →
          </button>
        </span>
        {!isNarrow && (
          <span role="group" aria-label="How much at once" className="inline-flex gap-3">
            {(Object.keys(spans) as Span[]).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={one === span}
                className={one === span ? 'font-semibold text-ink' : 'hover:text-blue'}
                onClick={() => setSpan(one)}
              >
                {one}
              </button>
            ))}
          </span>
        )}
        {outlets.some((outlet) => !outlet.isPutAway) && (
          <span role="group" aria-label="Outlets shown" className="inline-flex flex-wrap gap-x-3">
            {outlets
              .filter((outlet) => !outlet.isPutAway)
              .map((outlet) => {
                const isOn = !sight.without.has(outlet.number);
                const next = new Set(sight.without);
                if (isOn) next.add(outlet.number);
                else next.delete(outlet.number);
                return (
                  <button
                    key={outlet.number}
                    type="button"
                    aria-pressed={isOn}
                    title={isOn ? `Hide ${outlet.name}` : `Show ${outlet.name}`}
                    onClick={() => set('without', [...next].join(','))}
                    className={`inline-flex items-center gap-1.5 ${isOn ? 'text-ink' : 'text-faint line-through'}`}
                  >
                    <span
                      aria-hidden
                      className="h-2.5 w-2.5"
                      style={{ background: isOn ? `var(--${outlet.colour})` : 'var(--hair)' }}
                    />
                    {outlet.name}
                  </button>
                );
              })}
          </span>
        )}
        <span className="ml-auto inline-flex items-baseline gap-4">
          {filters.map(([name, value]) =>
            value ? (
              <button key={name} type="button" className="link" title="Show all again" onClick={() => set(name, '')}>
                {value} ✕
              </button>
            ) : null,
          )}
          <ActionMenu
            label="Only some"
            actions={[
              ...formats
                .filter((f) => shown.entries.some((entry) => entry.format === f.key))
                .map((f) => ({
                  key: `f ${f.key}`,
                  label: f.name,
                  note: 'format',
                  onChoose: () => set('format', f.key),
                })),
              ...topics
                .filter((t) => shown.entries.some((entry) => entry.topics.some((mark) => mark.number === t.number)))
                .map((t) => ({
                  key: `t ${t.number}`,
                  label: t.name,
                  note: 'topic',
                  onChoose: () => set('topic', String(t.number)),
                })),
              ...series.map((s) => ({
                key: `s ${s.number}`,
                label: s.name,
                note: 'series',
                onChoose: () => set('series', String(s.number)),
              })),
              ...[...new Set(shown.entries.flatMap((entry) => entry.people))].sort().map((person) => ({
                key: `w ${person}`,
                label: person,
                note: 'person',
                onChoose: () => set('person', person),
              })),
            ]}
          >
            only ▾
          </ActionMenu>
          <ActionMenu
            label="What is shown"
            actions={(Object.keys(showable) as Showable[]).map((part) => ({
              key: part,
              label: showable[part],
              note: sight.hidden.has(part) ? 'hidden' : '✓',
              onChoose: () => {
                const next = new Set(sight.hidden);
                if (next.has(part)) next.delete(part);
                else next.add(part);
                setHiddenKept([...next].join(' '));
              },
            }))}
          >
            shows ▾
          </ActionMenu>
        </span>
      </div>
    </header>
  );
});

/** What strikes one first: what is open, what is too full, what is empty. */
function summaryOf(plan: PlanShown, entries: readonly PlanEntry[]): string {
  const open = entries.filter((entry) => entry.kind === 'open').length;
  const ahead = plan.weeks.filter((week) => !week.isPast);
  const over = ahead.filter((week) => week.over > 0.05);
  const empty = ahead.filter((week) => week.load === 0 && week.hours > 0);
  const some = (weeks: readonly { week: number }[]) =>
    weeks.length === 1
      ? `week ${weeks[0]!.week}`
      : weeks.length <= 3
        ? `weeks ${weeks.map((week) => week.week).join(', ')}`
        : `${weeks.length} weeks`;
  return [
    open > 0 && (open === 1 ? '1 open date' : `${open} open dates`),
    over.length === 1 && `${some(over)} is over by ${hours(over[0]!.over)} h`,
    over.length > 1 && `${some(over)} are too full`,
    empty.length > 0 && `${some(empty)} ${empty.length === 1 ? 'is' : 'are'} empty`,
  ]
    .filter(Boolean)
    .join(' · ');
}

import { useState } from 'react';
import { useFormats, useTopics } from '../api/queries';
import { useOutlets } from '../plan/planning';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { DateField } from '../ui/DateField';
import { plusDays, today } from '../ui/dates';
import type { Wanted } from './asking';
import { hostOf, useService } from './service/service';

const counts = [10, 20, 100];
const mostTopics = 24;

type Days = { from: string; to: string };

const periods: [string, () => Days | undefined][] = [
  ['any time', () => undefined],
  ['the next four weeks', () => ({ from: today(), to: plusDays(today(), 27) })],
  ['the next quarter', () => ({ from: today(), to: plusDays(today(), 91) })],
];

/** What ideas are wanted: how many, on what, as what, for whom, for when, and who makes them. */
export function AskForm({
  topics: chosen,
  format: wantedFormat,
  onTopics,
  onAsk,
  busy,
}: {
  topics: readonly number[];
  /** Key of the format that is asked for first; empty for any. */
  format: string;
  onTopics: (topics: readonly number[]) => void;
  onAsk: (wanted: Wanted) => void;
  busy: boolean;
}) {
  const [count, setCount] = useState(20);
  const [format, setFormat] = useState(wantedFormat);
  const [audience, setAudience] = useState('');
  const [period, setPeriod] = useState(periods[0]![0]);
  const [days, setDays] = useState<Days>();
  const [outlet, setOutlet] = useState<number>();
  const [seed, setSeed] = useState('');
  const [byService, setByService] = useState(false);
  const [notes, setNotes] = useState(true);
  const service = useService().data?.service;
  const asksService = byService && service?.isOn === true;
  const outlets = useOutlets().filter((one) => !one.isPutAway);
  const formats = (useFormats().data ?? []).filter((one) => !one.isPutAway);
  const all = useTopics().data ?? [];
  const offered = all
    .filter((topic) => topic.kept + topic.sources > 0 || chosen.includes(topic.number))
    .sort((a, b) => b.kept + b.sources - a.kept - a.sources)
    .slice(0, mostTopics)
    .sort((a, b) => a.name.localeCompare(b.name));
  const toggle = (topic: number) =>
    onTopics(chosen.includes(topic) ? chosen.filter((one) => one !== topic) : [...chosen, topic]);
  return (
    <form
      aria-label="Ask for ideas"
      className="border-y border-ink py-3"
      onSubmit={(event) => {
        event.preventDefault();
        onAsk({
          topics: [...chosen],
          count,
          format: format || null,
          audience: audience.trim() || null,
          seed: seed === '' ? null : Number(seed),
          from: days?.from ?? null,
          to: days?.to ?? null,
          ...(asksService ? { by: 'service' as const, notes, ...(outlet === undefined ? {} : { outlet }) } : {}),
        });
      }}
    >
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2 text-[13.5px]">
        <span>
          Ask for{' '}
          <ActionMenu
            label="How many ideas"
            className="font-semibold text-blue"
            actions={counts.map((one) => ({ key: String(one), label: `${one} ideas`, onChoose: () => setCount(one) }))}
          >
            {count} ideas ▾
          </ActionMenu>
        </span>
        <span>
          for{' '}
          <ActionMenu
            label="For which format"
            className="font-semibold text-blue"
            actions={[
              { key: '', label: 'any format', onChoose: () => setFormat('') },
              ...formats.map((one) => ({ key: one.key, label: one.name, onChoose: () => setFormat(one.key) })),
            ]}
          >
            {formats.find((one) => one.key === format)?.name ?? 'any format'} ▾
          </ActionMenu>
        </span>
        <label className="flex items-baseline gap-2">
          told to
          <input
            value={audience}
            onChange={(event) => setAudience(event.target.value)}
            placeholder="whoever reads"
            className="written w-44 border-b border-hair bg-transparent pb-0.5 text-[14.5px] outline-none placeholder:italic focus:border-blue"
          />
        </label>
        <span className={period === 'these days' ? 'flex flex-wrap items-baseline gap-x-2' : ''}>
          for{' '}
          <ActionMenu
            label="For when"
            className="font-semibold text-blue"
            actions={[
              ...periods.map(([name, of]) => ({
                key: name,
                label: name,
                onChoose: () => {
                  setPeriod(name);
                  setDays(of());
                },
              })),
              {
                key: 'days',
                label: 'from a day to a day …',
                onChoose: () => {
                  setPeriod('these days');
                  setDays((before) => before ?? { from: today(), to: plusDays(today(), 27) });
                },
              },
            ]}
          >
            {period} ▾
          </ActionMenu>
          {period === 'these days' && days && (
            <>
              <DateField
                label="The first day"
                needed
                value={days.from}
                onChange={(day) => day && setDays({ ...days, from: day })}
              />
              <span className="text-second">to</span>
              <DateField
                label="The last day"
                needed
                value={days.to}
                onChange={(day) => day && setDays({ ...days, to: day })}
              />
            </>
          )}
        </span>
        <label className="flex items-baseline gap-2" title="The same papers and seed give the same ideas">
          seed
          <input
            value={seed}
            inputMode="numeric"
            onChange={(event) => setSeed(event.target.value.replace(/\D/g, '').slice(0, 9))}
            placeholder="the next"
            className="figures w-16 border-b border-hair bg-transparent pb-0.5 outline-none placeholder:italic focus:border-blue"
          />
        </label>
        <Button type="submit" look="main" disabled={busy} className="ml-auto max-md:ml-0">
          Ask
        </Button>
      </div>
      {service?.isOn && (
        <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[13.5px]">
          <span>
            made by{' '}
            <ActionMenu
              label="Who makes them"
              className="font-semibold text-blue"
              actions={[
                { key: 'papers', label: 'your own papers', onChoose: () => setByService(false) },
                {
                  key: 'service',
                  label: `the service at ${hostOf(service.address)}`,
                  onChoose: () => setByService(true),
                },
              ]}
            >
              {asksService ? `the service at ${hostOf(service.address)}` : 'your own papers'} ▾
            </ActionMenu>
          </span>
          {asksService && (
            <>
              <span>
                to go out{' '}
                <ActionMenu
                  label="Where they are to go out"
                  className="font-semibold text-blue"
                  actions={[
                    { key: '', label: 'anywhere', onChoose: () => setOutlet(undefined) },
                    ...outlets.map((one) => ({
                      key: String(one.number),
                      label: `in ${one.name}`,
                      onChoose: () => setOutlet(one.number),
                    })),
                  ]}
                >
                  {outlet === undefined ? 'anywhere' : `in ${outlets.find((one) => one.number === outlet)?.name ?? ''}`}{' '}
                  ▾
                </ActionMenu>
              </span>
              <label className="flex min-h-6 items-baseline gap-2">
                <input
                  type="checkbox"
                  checked={notes}
                  onChange={(event) => setNotes(event.target.checked)}
                  className="translate-y-0.5 accent-(--blue)"
                />
                tell it of my notes
              </label>
            </>
          )}
        </div>
      )}
      <div
        role="group"
        aria-label="Topics"
        className="mt-2.5 flex flex-wrap items-center gap-x-3 gap-y-0.5 text-[13px]"
      >
        <span className="text-second">on</span>
        <button
          type="button"
          aria-pressed={chosen.length === 0}
          onClick={() => onTopics([])}
          className={`min-h-7 ${chosen.length === 0 ? 'font-semibold text-ink' : 'text-second hover:text-ink'}`}
        >
          all topics
        </button>
        {offered.map((topic) => (
          <button
            key={topic.number}
            type="button"
            aria-pressed={chosen.includes(topic.number)}
            onClick={() => toggle(topic.number)}
            className="group min-h-7"
          >
            <span
              className={`narrow border-b-2 pb-px ${chosen.includes(topic.number) ? 'font-semibold text-ink' : 'text-second group-hover:text-ink'}`}
              style={{ borderColor: chosen.includes(topic.number) ? `var(--${topic.colour})` : 'transparent' }}
            >
              {topic.name}
            </span>
          </button>
        ))}
      </div>
    </form>
  );
}

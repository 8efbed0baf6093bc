import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { Bar, BarChart, CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { useSearchParams } from 'react-router';
import { api, ask } from '../../api/client';
import type { components } from '../../api/schema';
import { keys } from '../../api/queries';
import { Empty, Failed, Loading } from '../../ui/States';
import { plusDays, shortDay, today } from '../../ui/dates';
import { useChoice } from '../../ui/useChoice';
import { PlanNav } from '../PlanNav';
import { Goals } from './Goals';

type Figures = components['schemas']['FiguresShown'];
type Kind = components['schemas']['KindFigures'];
type Middle = components['schemas']['Middle'];
type Point = components['schemas']['PacePoint'];

const spans = { quarter: 91, year: 365, 'all ten years': 3_650 } as const;
type Span = keyof typeof spans;

const days = (count: number) =>
  count < 1 && count > 0 ? 'less than a day' : `${Math.round(count)} ${Math.round(count) === 1 ? 'day' : 'days'}`;

/** A middle value, with how many it is of when they are few. */
const middle = (one: Middle) => (one.median === null ? '–' : days(one.median));
const few = (one: Middle) => (one.isSmall && one.of > 0 ? `of only ${one.of}` : one.of > 0 ? `of ${one.of}` : '');

/** How it goes: pace, time in each stage, punctuality; charts with their tables. */
export default function FiguresPage() {
  const [params, setParams] = useSearchParams();
  const span = (params.get('over') ?? 'year') as Span;
  const to = today();
  const from = plusDays(to, -(spans[span] ?? 365));
  const figures = useQuery({
    queryKey: keys.figures({ from, to }),
    queryFn: () => ask(api.GET('/api/figures', { params: { query: { from, to } } })),
  });
  useEffect(() => {
    document.title = 'Figures · Nachlass';
  }, []);
  if (figures.error) return <Failed error={figures.error} onRetry={() => void figures.refetch()} />;
  if (!figures.data) return <Loading what="Counting" />;
  const shown = figures.data;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1160px] px-9 py-6 max-md:px-4">
        <header className="mb-5">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h1 className="written text-[25px] leading-tight font-semibold">How it goes</h1>
            <span className="figures text-[12.5px] text-second">
              {shortDay(shown.from)} – {shortDay(shown.to)}
            </span>
            <PlanNav />
          </div>
          <div className="mt-1.5 flex flex-wrap gap-x-4 text-[12.5px] text-second">
            <span role="group" aria-label="Over" className="inline-flex gap-3">
              {(Object.keys(spans) as Span[]).map((one) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={one === span}
                  className={one === span ? 'font-semibold text-ink' : 'hover:text-blue'}
                  onClick={() => setParams(one === 'year' ? {} : { over: one }, { replace: true })}
                >
                  {one}
                </button>
              ))}
            </span>
            <a href={`/api/figures.csv?from=${from}&to=${to}`} download="figures.csv" className="link ml-auto">
              all of it as a table (CSV)
            </a>
          </div>
        </header>
        {shown.all.released === 0 && shown.caught === 0 && shown.daysWritten === 0 ? (
          <Empty title="There is nothing to count yet">
            What goes out, how long it stood where, whether it kept its day and how much was written stand here as soon
            as there is any of it.
          </Empty>
        ) : (
          <>
            <AtAGlance figures={shown} />
            <Pace figures={shown} />
            <ByKind kinds={shown.formats} name="By format" of="Format" />
            <Stages kinds={shown.formats} />
            <ByKind kinds={shown.outlets} name="By outlet" of="Outlet" />
          </>
        )}
        <Goals />
      </div>
    </div>
  );
}

function AtAGlance({ figures }: { figures: Figures }) {
  const { all } = figures;
  const dated = all.punctuality.onTime + all.punctuality.late;
  const lines: [string, string, string][] = [
    [String(all.released), 'went out', all.released < 5 ? 'a small number; what is made of it says little' : ''],
    [middle(all.lead), 'from the beginning to going out', few(all.lead)],
    [
      dated === 0 ? '–' : `${all.punctuality.onTime} of ${dated}`,
      'on time',
      all.punctuality.late > 0
        ? `the others ${middle(all.punctuality.lateBy)} late ${few(all.punctuality.lateBy) && `(${few(all.punctuality.lateBy)})`}`
        : '',
    ],
    [
      figures.wordsADay.median === null ? '–' : Math.round(figures.wordsADay.median).toLocaleString('en'),
      'words on a day of writing',
      figures.daysWritten > 0 ? `${figures.daysWritten} days${figures.wordsADay.isSmall ? ', few' : ''}` : '',
    ],
    [
      figures.caught === 0 ? '–' : `${Math.round((100 * figures.gotOut) / figures.caught)}%`,
      'of what was caught is out',
      `${figures.gotOut} of ${figures.caught} slips`,
    ],
  ];
  return (
    <dl className="figures mb-8 grid grid-cols-5 gap-x-8 gap-y-4 border-y border-hair py-4 max-lg:grid-cols-3 max-md:grid-cols-2">
      {lines.map(([value, name, more]) => (
        <div key={name}>
          <dd className="written text-[24px] leading-none font-semibold">{value}</dd>
          <dt className="mt-1.5 text-[12.5px] leading-tight">{name}</dt>
          {more && <dd className="text-[11.5px] text-second">{more}</dd>}
        </div>
      ))}
    </dl>
  );
}

const counted = {
  released: 'went out',
  begun: 'begun',
  words: 'words written',
  caught: 'slips caught',
} as const;
type Counted = keyof typeof counted;

function Pace({ figures }: { figures: Figures }) {
  const [by, setBy] = useChoice<'month' | 'week'>('figures.by', 'month');
  const [of, setOf] = useChoice<Counted>('figures.of', 'released');
  const points = by === 'month' ? figures.months : figures.weeks;
  const label = (from: string) =>
    new Date(`${from}T12:00:00`).toLocaleDateString(
      'en-GB',
      by === 'month' ? { month: 'short', year: '2-digit' } : { day: 'numeric', month: 'short' },
    );
  const drawn = points.map((point) => ({ ...point, name: label(point.from) }));
  const choice = (isOn: boolean) => (isOn ? 'font-semibold text-ink' : 'hover:text-blue');
  return (
    <Charted
      name={`Pace: ${counted[of]} by ${by}`}
      controls={
        <>
          {(Object.keys(counted) as Counted[]).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === of}
              className={choice(one === of)}
              onClick={() => setOf(one)}
            >
              {counted[one]}
            </button>
          ))}
          <span className="mx-1 text-hair">|</span>
          {(['month', 'week'] as const).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === by}
              className={choice(one === by)}
              onClick={() => setBy(one)}
            >
              by {one}
            </button>
          ))}
        </>
      }
      columns={[by === 'month' ? 'Month' : 'Week from', ...Object.values(counted)]}
      rows={points.map((point: Point) => [
        label(point.from),
        ...(Object.keys(counted) as Counted[]).map((one) => point[one].toLocaleString('en')),
      ])}
    >
      {points.length > 40 ? (
        <LineChart data={drawn} accessibilityLayer={false}>
          <CartesianGrid vertical={false} stroke="var(--rule)" />
          <XAxis {...axis} dataKey="name" minTickGap={24} />
          <YAxis {...counts} />
          <Tooltip contentStyle={tooltip} cursor={{ stroke: 'var(--hair)' }} />
          <Line
            dataKey={of}
            name={counted[of]}
            stroke="var(--ink)"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
        </LineChart>
      ) : (
        <BarChart data={drawn} accessibilityLayer={false}>
          <CartesianGrid vertical={false} stroke="var(--rule)" />
          <XAxis {...axis} dataKey="name" minTickGap={12} />
          <YAxis {...counts} />
          <Tooltip contentStyle={tooltip} cursor={{ fill: 'var(--wash)' }} />
          <Bar dataKey={of} name={counted[of]} fill="var(--ink)" maxBarSize={26} isAnimationActive={false} />
        </BarChart>
      )}
    </Charted>
  );
}

const axis = { tickLine: false, stroke: 'var(--second)', fontSize: 11 } as const;
const counts = { ...axis, allowDecimals: false, axisLine: false, width: 44 } as const;

const tooltip = {
  background: 'var(--sheet)',
  border: '1px solid var(--hair)',
  borderRadius: 0,
  fontSize: 12,
  color: 'var(--ink)',
};

/** A chart with the table behind it, for whoever does not see it or wants the numbers. */
function Charted({
  name,
  controls,
  columns,
  rows,
  children,
}: {
  name: string;
  controls?: ReactNode;
  columns: readonly string[];
  rows: readonly (readonly string[])[];
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label={name} className="mb-9">
      <header className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-ink pb-1">
        <h2 className="written text-[17px] font-semibold">{name}</h2>
        {controls && (
          <span
            role="group"
            aria-label="What is shown"
            className="ml-auto inline-flex flex-wrap gap-x-3 text-[12.5px] text-second"
          >
            {controls}
          </span>
        )}
      </header>
      <div className="h-[210px]" aria-hidden>
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 900, height: 210 }}>
          {children as React.ReactElement}
        </ResponsiveContainer>
      </div>
      <button
        type="button"
        aria-expanded={open}
        className="link mt-1 min-h-6 text-[12.5px]"
        onClick={() => setOpen(!open)}
      >
        {open ? '▾' : '▸'} the table behind it
      </button>
      <div className={open ? 'max-h-80 overflow-auto' : 'sr-only'} tabIndex={open ? 0 : -1}>
        <table className="figures mt-1 text-[12.5px]">
          <caption className="sr-only">{name}</caption>
          <thead>
            <tr>
              {columns.map((column) => (
                <th
                  key={column}
                  scope="col"
                  className="border-b border-hair px-3 py-1 text-left font-semibold first:pl-0"
                >
                  {column}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row[0]}>
                {row.map((cell, at) =>
                  at === 0 ? (
                    <th key={at} scope="row" className="border-b border-rule py-0.5 pr-3 text-left font-normal">
                      {cell}
                    </th>
                  ) : (
                    <td key={at} className="border-b border-rule px-3 py-0.5 text-right">
                      {cell}
                    </td>
                  ),
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function ByKind({ kinds, name, of }: { kinds: readonly Kind[]; name: string; of: string }) {
  if (kinds.length === 0) return null;
  const cell = 'border-b border-rule py-1.5 pr-4 align-baseline';
  return (
    <section aria-label={name} className="mb-9 overflow-x-auto">
      <table className="figures w-full text-[13px]">
        <caption className="written pb-1 text-left text-[17px] font-semibold">{name}</caption>
        <thead>
          <tr className="label border-y border-ink text-left text-second">
            <th className="w-[24%] py-1.5 pr-4">{of}</th>
            <th className="pr-4">Out</th>
            <th className="pr-4">From beginning to out</th>
            <th className="pr-4">On time</th>
            <th>Late by</th>
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind) => (
            <tr key={kind.key}>
              <th scope="row" className={`${cell} written text-left text-[15px] font-normal`}>
                {kind.name}
              </th>
              <td className={cell}>{kind.released}</td>
              <td className={cell}>
                {middle(kind.lead)}{' '}
                <span className="text-[11.5px] text-second">{kind.lead.isSmall && few(kind.lead)}</span>
              </td>
              <td className={cell}>
                {kind.punctuality.onTime + kind.punctuality.late === 0
                  ? 'no day was set'
                  : `${kind.punctuality.onTime} of ${kind.punctuality.onTime + kind.punctuality.late}`}
              </td>
              <td className={cell}>
                {kind.punctuality.late === 0 ? '–' : middle(kind.punctuality.lateBy)}{' '}
                <span className="text-[11.5px] text-second">
                  {kind.punctuality.lateBy.isSmall && few(kind.punctuality.lateBy)}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Stages({ kinds }: { kinds: readonly Kind[] }) {
  const [key, setKey] = useState('');
  const some = kinds.filter((kind) => kind.stages.some((stage) => stage.days.median !== null));
  const kind = some.find((one) => one.key === key) ?? some[0];
  if (!kind) return null;
  return (
    <Charted
      name={`Days at each stage: ${kind.name.toLowerCase()}`}
      controls={some.map((one) => (
        <button
          key={one.key}
          type="button"
          aria-pressed={one === kind}
          className={one === kind ? 'font-semibold text-ink' : 'hover:text-blue'}
          onClick={() => setKey(one.key)}
        >
          {one.name.toLowerCase()}
        </button>
      ))}
      columns={['Stage', 'Days (median)', 'Pieces']}
      rows={kind.stages.map((stage) => [
        stage.stage,
        stage.days.median === null ? '–' : stage.days.median.toFixed(1),
        `${stage.days.of}${stage.days.isSmall && stage.days.of > 0 ? ', few' : ''}`,
      ])}
    >
      <BarChart
        layout="vertical"
        data={kind.stages.map((stage) => ({ name: stage.stage, days: stage.days.median ?? 0 }))}
        accessibilityLayer={false}
      >
        <CartesianGrid horizontal={false} stroke="var(--rule)" />
        <XAxis {...axis} type="number" unit=" d" />
        <YAxis {...axis} type="category" dataKey="name" axisLine={false} width={76} />
        <Tooltip contentStyle={tooltip} cursor={{ fill: 'var(--wash)' }} />
        <Bar dataKey="days" name="days" fill="var(--ink)" maxBarSize={18} isAnimationActive={false} />
      </BarChart>
    </Charted>
  );
}

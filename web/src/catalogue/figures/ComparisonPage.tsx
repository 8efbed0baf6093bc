import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';
import { useOutlets } from '../../plan/planning';
import { Empty, Failed, Loading } from '../../ui/States';
import { shortDay } from '../../ui/dates';
import { CatalogueHead } from '../CatalogueHead';
import { several, useCatalogue } from '../catalogue';
import { shown, type ComparedBy, type Comparison, type Group, type MeasuredAs } from './figures';

const bys: Record<ComparedBy, string> = {
  format: 'format',
  outlet: 'outlet',
  topic: 'topic',
  weekday: 'day of the week',
  title: 'kind of title',
  length: 'length',
  tried: 'what was tried',
};
const measures: Record<MeasuredAs, string> = {
  middle: 'of the middle release',
  ofViews: 'on a hundred views',
  any: 'releases that had any',
};
const ages = [1, 7, 30, 90] as const;
const ageSaid = (days: number) => (days === 1 ? 'a day' : days === 7 ? 'a week' : `${days} days`);

/** What each choice is called for those who do not see the line they stand in. */
const called: Record<string, string> = {
  figure: 'Compare',
  as: 'Measured as',
  after: 'after how long',
  by: 'by what',
  outlet: 'on which outlet',
};

/** Groups of releases held against each other, with how sure that is. */
export default function ComparisonPage() {
  const [params, setParams] = useSearchParams();
  const outlets = useOutlets();
  const newest = useCatalogue().data?.rows[0];
  const asked = {
    figure: params.get('figure') ?? 'views',
    as: (params.get('as') ?? 'middle') as MeasuredAs,
    by: (params.get('by') ?? 'format') as ComparedBy,
    after: Number(params.get('after')) || 7,
    outlet: params.get('outlet') ?? undefined,
  };
  const comparison = useQuery({
    queryKey: keys.comparison(asked),
    queryFn: () => ask(api.GET('/api/catalogue/comparison', { params: { query: asked } })),
    placeholderData: keepPreviousData,
  });
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next, { replace: true });
  };
  if (comparison.error) return <Failed error={comparison.error} onRetry={() => void comparison.refetch()} />;
  if (!comparison.data) return <Loading what="Comparing" />;
  const data = comparison.data;
  const choose = (label: string, name: string, value: string, options: readonly (readonly [string, string])[]) => (
    <label className="inline-flex items-baseline gap-2 text-[12.5px] text-second">
      {label}
      <select
        aria-label={called[name]}
        value={value}
        className="max-w-56 min-w-0 border-b border-hair bg-sheet py-0.5 text-[13.5px] text-ink outline-none focus:border-blue"
        onChange={(event) => set(name, event.target.value)}
      >
        {options.map(([key, said]) => (
          <option key={key} value={key}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
  const names = data.names.map((one) => [one.name, one.name] as const);
  return (
    <div className="h-full overflow-y-auto px-9 py-6 max-md:px-4">
      <CatalogueHead title="What became of it" newest={newest && Number(newest.outOn.slice(0, 4))} />
      {data.names.length === 0 ? (
        <Empty title="No figures yet">
          Outlets that tell them are asked each day; pages of your own and letters count for themselves. What you know
          otherwise is typed beside its release.
        </Empty>
      ) : (
        <div className="max-w-[62rem]">
          <div className="mb-5 flex flex-wrap items-baseline gap-x-6 gap-y-2 border-b border-ink pb-3">
            {choose(
              'Compare',
              'figure',
              data.figure,
              names.some(([key]) => key === data.figure) ? names : [...names, [data.figure, data.figure]],
            )}
            {choose('', 'as', data.as, Object.entries(measures))}
            {choose(
              'after',
              'after',
              String(data.after),
              [...new Set([...ages, data.after])].map((days) => [String(days), ageSaid(days)]),
            )}
            {choose('by', 'by', data.by, Object.entries(bys))}
            {choose('on', 'outlet', data.outlet ? String(data.outlet) : '', [
              ['', 'all outlets'],
              ...outlets.map((one) => [String(one.number), one.name] as const),
            ])}
          </div>
          <p className="figures mb-4 text-[12.5px] text-second">
            {several(data.compared, 'release')} compared
            {data.young > 0 && `; ${data.young} went out less than ${ageSaid(data.after)} ago`}
            {data.untold > 0 && `; of ${data.untold} it is not known`}
          </p>
          {data.groups.length === 0 ? (
            <p className="text-second">There is no release of which this is known.</p>
          ) : (
            <Groups data={data} />
          )}
          <p className="mt-6 max-w-[44rem] text-[12.5px] leading-relaxed text-second">
            The bar is where the true value lies, 95 times in 100
            {data.as === 'any'
              ? ', by Wilson’s score interval'
              : ', by drawing these releases again 2,000 times (bootstrap)'}
            . A group is called more or less than the others only where their difference can’t be chance; with several
            groups each has to be surer. Fewer than five releases say nothing, and what differs may do so for another
            reason: look at one outlet at a time.
          </p>
        </div>
      )}
    </div>
  );
}

const verdicts = {
  tooFew: 'too few to say',
  same: 'can’t be told from the others',
  more: 'more than the others',
  less: 'less than the others',
} as const;

function Groups({ data }: { data: Comparison }) {
  const unit = data.as === 'any' ? '%' : '';
  const most = Math.max(...data.groups.map((group) => Math.max(group.likely?.high ?? 0, group.value ?? 0)), 0.0001);
  const titles = new Map(data.releases.map((one) => [one.release, one]));
  return (
    <ul aria-label="Groups">
      {data.groups.map((group) => (
        <li key={group.name} className="border-b border-rule py-2.5">
          <div className="grid grid-cols-[13rem_4.5rem_1fr_13rem] items-center gap-x-5 max-lg:grid-cols-[1fr_4.5rem] max-lg:gap-y-1">
            <div className="min-w-0">
              <p className="written text-[16px] leading-snug break-words">{group.name}</p>
              <p className="figures text-[12px] text-second">{several(group.of, 'release')}</p>
            </div>
            <p className="figures text-right text-[20px] leading-none font-semibold">
              {group.value == null ? '–' : shown(group.value)}
              {group.value != null && unit}
            </p>
            <Bar group={group} most={most} unit={unit} />
            <p
              className={`text-[12.5px] max-lg:col-span-2 ${group.verdict === 'more' ? 'font-semibold text-done' : group.verdict === 'less' ? 'font-semibold text-red' : 'text-second'}`}
            >
              {verdicts[group.verdict]}
            </p>
          </div>
          <details className="mt-0.5 text-[12.5px]">
            <summary className="inline-flex min-h-6 cursor-pointer items-center text-second hover:text-blue">
              which they are
            </summary>
            <ul className="mt-1 mb-1 max-w-[36rem]">
              {group.releases
                .map((number) => titles.get(number)!)
                .toSorted((a, b) => b.value - a.value)
                .map((one) => (
                  <li key={one.release} className="figures flex items-baseline gap-4 py-0.5">
                    <span className="w-14 text-right font-semibold">{shown(one.value)}</span>
                    <Link to={`/catalogue/${one.release}`} className="min-w-0 flex-1 hover:text-blue">
                      {one.title}
                    </Link>
                    <span className="text-second">{shortDay(one.outOn)}</span>
                  </li>
                ))}
            </ul>
          </details>
        </li>
      ))}
    </ul>
  );
}

function Bar({ group, most, unit }: { group: Group; most: number; unit: string }) {
  const at = (value: number) => `${(100 * value) / most}%`;
  const { likely, value } = group;
  return (
    <div className="min-w-0 max-lg:col-span-2">
      <div className="relative h-4" aria-hidden>
        <span className="absolute inset-x-0 top-1/2 border-t border-rule" />
        {likely && (
          <span
            className="absolute top-[3px] h-[10px] bg-wash outline outline-1 outline-hair"
            style={{ left: at(likely.low), width: at(Math.max(likely.high - likely.low, most / 200)) }}
          />
        )}
        {value != null && (
          <span className="absolute top-0 h-4 w-[3px] -translate-x-1/2 bg-ink" style={{ left: at(value) }} />
        )}
      </div>
      <p className="figures text-[12px] text-second">
        {likely ? `${shown(likely.low)}${unit} to ${shown(likely.high)}${unit}` : 'no interval from so few'}
      </p>
    </div>
  );
}

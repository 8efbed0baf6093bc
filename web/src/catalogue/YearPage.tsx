import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { Failed, Loading } from '../ui/States';
import { longDay, shortDay } from '../ui/dates';
import { CatalogueHead } from './CatalogueHead';
import { useCatalogue, type YearReviewed } from './catalogue';

const monthName = (month: number) => new Date(2026, month, 15).toLocaleDateString('en-GB', { month: 'short' });

/** A year, from what went out in it. */
export default function YearPage() {
  const year = Number(useParams().year);
  const catalogue = useCatalogue();
  const review = useQuery({
    queryKey: keys.year(year),
    queryFn: () => ask(api.GET('/api/catalogue/years/{year}', { params: { path: { year } } })),
  });
  const years = [
    ...new Set(catalogue.data?.rows.flatMap((row) => row.releases.map((r) => Number(r.outOn.slice(0, 4))))),
  ];
  if (review.error) return <Failed error={review.error} onRetry={() => void review.refetch()} />;
  if (!review.data) return <Loading what="Going through the year" />;
  const it = review.data;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1060px] px-9 py-6 max-md:px-4">
        <CatalogueHead title={`${year} in review`} newest={year}>
          <div className="mt-1.5 flex flex-wrap items-baseline gap-x-4 text-[12.5px] text-second">
            {years
              .sort((a, b) => b - a)
              .map((one) => (
                <Link
                  key={one}
                  to={`/catalogue/years/${one}`}
                  aria-current={one === year ? 'page' : undefined}
                  className={one === year ? 'font-semibold text-ink' : 'hover:text-blue'}
                >
                  {one}
                </Link>
              ))}
            <a href={`/api/catalogue/years/${year}.md`} download={`${year} in review.md`} className="link ml-auto">
              as a file (Markdown)
            </a>
          </div>
        </CatalogueHead>
        <dl className="figures mb-7 grid grid-cols-4 gap-x-8 gap-y-4 border-y border-hair py-4 max-md:grid-cols-2">
          <Said
            value={it.releases}
            name={it.releases === 1 ? 'release' : 'releases'}
            before={it.releasesBefore}
            year={year}
          />
          <Said value={it.words} name="words that went out" before={it.wordsBefore} year={year} />
          <div>
            <dd className="written text-[24px] leading-none font-semibold">{it.pieces}</dd>
            <dt className="mt-1.5 text-[12.5px] leading-tight">{it.pieces === 1 ? 'piece' : 'pieces'}</dt>
          </div>
          {it.quiet && (
            <div>
              <dd className="written text-[24px] leading-none font-semibold">{it.quiet.days}</dd>
              <dt className="mt-1.5 text-[12.5px] leading-tight">days at most without a release</dt>
              <dd className="text-[11.5px] text-second">from {shortDay(it.quiet.from)}</dd>
            </div>
          )}
        </dl>
        <Months year={it} />
        <div className="grid grid-cols-3 gap-x-10 max-lg:grid-cols-2 max-md:grid-cols-1">
          <Counts name="By outlet" counts={it.outlets} year={year} />
          <Counts name="By format" counts={it.formats} year={year} />
          <Counts name="By topic" counts={it.topics} year={year} />
        </div>
        {it.newTopics.length > 0 && (
          <p className="mb-7 text-[13.5px]">
            <span className="text-second">Written about for the first time: </span>
            {it.newTopics.join(', ')}.
          </p>
        )}
        <section aria-label="To remember it by" className="mb-6">
          <h2 className="label border-b border-ink pb-1.5">To remember it by</h2>
          <ul>
            {it.marks.map((mark) => (
              <li key={mark.why} className="flex items-baseline gap-4 border-b border-rule py-1.5 max-md:flex-wrap">
                <span className="w-32 shrink-0 text-[12.5px] text-second">{mark.why}</span>
                <Link to={`/catalogue/${mark.release}`} className="written min-w-0 flex-1 text-[16px] hover:text-blue">
                  {mark.title}
                </Link>
                <span className="figures shrink-0 text-[12.5px] text-second">
                  {mark.figure && `${mark.figure} · `}
                  {longDay(mark.outOn)}
                </span>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </div>
  );
}

function Said({ value, name, before, year }: { value: number; name: string; before: number; year: number }) {
  return (
    <div>
      <dd className="written text-[24px] leading-none font-semibold">{value.toLocaleString('en')}</dd>
      <dt className="mt-1.5 text-[12.5px] leading-tight">{name}</dt>
      {before > 0 && (
        <dd className="text-[11.5px] text-second">
          {before.toLocaleString('en')} in {year - 1}
        </dd>
      )}
    </div>
  );
}

/** Releases by month, as bars that say their number. */
function Months({ year }: { year: YearReviewed }) {
  const most = Math.max(1, ...year.months);
  return (
    <section aria-label="By month" className="mb-8">
      <h2 className="label border-b border-ink pb-1.5">By month</h2>
      <ol className="figures mt-4 flex h-[104px] items-end gap-3 max-md:gap-1">
        {year.months.map((count, month) => (
          <li key={month} className="flex h-full flex-1 flex-col items-center justify-end text-[12px]">
            <span className={count === 0 ? 'text-second' : ''}>
              {count}
              <span className="sr-only"> {count === 1 ? 'release' : 'releases'} in </span>
            </span>
            <span aria-hidden className="mt-1 w-full bg-done" style={{ height: `${(60 * count) / most}px` }} />
            <span className="mt-1 text-second">{monthName(month)}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Counts({ name, counts, year }: { name: string; counts: YearReviewed['outlets']; year: number }) {
  if (counts.length === 0) return null;
  return (
    <section aria-label={name} className="mb-7">
      <table className="figures w-full text-[13px]">
        <thead>
          <tr className="border-b border-ink">
            <th className="label py-1.5 text-left">{name}</th>
            <th className="label w-14 py-1.5 text-right">{year}</th>
            <th className="label w-14 py-1.5 text-right text-second">{year - 1}</th>
          </tr>
        </thead>
        <tbody>
          {counts.map((count) => (
            <tr key={count.name} className="border-b border-rule">
              <td className="py-1">{count.name}</td>
              <td className="py-1 text-right">{count.releases}</td>
              <td className="py-1 text-right text-second">{count.before || '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

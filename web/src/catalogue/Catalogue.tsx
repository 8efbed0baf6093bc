import { Link, useSearchParams } from 'react-router';
import { Empty, Failed, Loading } from '../ui/States';
import { TopicWords } from '../ui/TopicWord';
import { useChoice } from '../ui/useChoice';
import { shortDay } from '../ui/dates';
import { BringPast } from './BringPast';
import { CatalogueHead } from './CatalogueHead';
import { Mention } from './Mention';
import { Sign, ThereMark } from './ThereMark';
import { ToClose } from './closing/ToClose';
import { WhatReadersAsk } from './asks/WhatReadersAsk';
import { OnItsWay } from './queue/OnItsWay';
import { NotThereYet } from './NotThereYet';
import { useAddressText } from './useAddressText';
import { CatalogueViews } from './CatalogueViews';
import { fits, groupsOf, kinds, several, useCatalogue, type CatalogueBy, type Outlet, type Row } from './catalogue';

/** Everything that went out, the latest first: what, where, and where not yet. */
export function Catalogue() {
  const catalogue = useCatalogue();
  const [params, setParams] = useSearchParams();
  const [looked, setLooked] = useAddressText('with');
  if (catalogue.error) return <Failed error={catalogue.error} onRetry={() => void catalogue.refetch()} />;
  if (!catalogue.data) return <Loading what="Opening the catalogue" />;
  const { rows, outlets, releases } = catalogue.data;
  if (rows.length === 0)
    return (
      <Empty title="Nothing has gone out yet">
        What comes to its last stage stands here with its text as it was sent, when and where it went out, and the
        outlets it could go to next. <BringPast label="Bring in what went out before" />
      </Empty>
    );
  const seen = looked ? rows.filter((row) => fits(row, looked, outlets)) : rows;
  const by = (bys.some(([key]) => key === params.get('by')) ? params.get('by') : 'year') as CatalogueBy;
  const groups = grouped(seen, (row) => groupsOf(row, by, outlets));
  if (by !== 'year') groups.sort(([a], [b]) => Number(last(a)) - Number(last(b)) || a.localeCompare(b));
  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <CatalogueHead title="What went out" newest={Number(rows[0]!.outOn.slice(0, 4))} />
        <Mention />
        <div className="mb-1 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[12.5px] text-second">
          <span className="figures">
            {looked
              ? `${seen.length} of ${several(rows.length, 'piece')}`
              : `${several(rows.length, 'piece')}, ${several(releases, 'release')}`}
          </span>
          <input
            aria-label="Only those with"
            value={looked}
            placeholder="only those with: a topic, an outlet, a word of the title"
            onChange={(event) => setLooked(event.target.value)}
            className="min-w-48 flex-1 border-b border-hair bg-transparent py-0.5 outline-none placeholder:italic focus:border-blue"
          />
          <label className="inline-flex items-baseline gap-1.5">
            by
            <select
              value={by}
              onChange={(event) => {
                const next = new URLSearchParams(params);
                if (event.target.value === 'year') next.delete('by');
                else next.set('by', event.target.value);
                setParams(next, { replace: true });
              }}
              className="border-b border-hair bg-sheet py-0.5 text-ink outline-none focus:border-blue"
            >
              {bys.map(([key, name]) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          <a href="/api/releases.csv" download="catalogue.csv" className="link">
            as a table (CSV)
          </a>
          <BringPast />
        </div>
        <CatalogueViews looked={looked} by={by} />
        {seen.length === 0 ? (
          <p className="mt-6 text-second">Nothing that went out has all of these words in what is shown of it.</p>
        ) : (
          <table className="figures w-full border-collapse text-[13px]">
            <thead>
              <tr className="border-b border-ink text-second">
                <th className="label w-12 py-2 text-left">No.</th>
                <th className="label py-2 text-left">Piece</th>
                <th className="label py-2 text-left max-md:hidden">Topics</th>
                <th className="label py-2 pl-3 text-left">Out</th>
                {outlets.map((outlet) => (
                  <th key={outlet.number} className="label w-11 px-1 py-2 text-center max-md:hidden">
                    <abbr title={outlet.name} className="no-underline">
                      {outlet.mark}
                    </abbr>
                  </th>
                ))}
                <th className="label py-2 pl-3 text-right max-md:hidden">Words</th>
                <th className="label py-2 pl-3 text-right max-md:hidden">Views</th>
              </tr>
            </thead>
            {groups.map(([name, own], nth) => (
              <Group
                key={name}
                name={name}
                isFirst={nth === 0 || by !== 'year'}
                rows={own}
                outlets={outlets}
                isSearched={looked !== ''}
              />
            ))}
          </table>
        )}
        <Legend />
      </div>
      <aside
        aria-label="Not there yet"
        className="w-[374px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        <OnItsWay />
        <WhatReadersAsk />
        <ToClose />
        <NotThereYet rows={rows} outlets={outlets} />
      </aside>
    </div>
  );
}

const bys: readonly (readonly [CatalogueBy, string])[] = [
  ['year', 'year'],
  ['series', 'series'],
  ['outlet', 'outlet'],
  ['format', 'format'],
  ['topic', 'topic'],
  ['kind', 'kind'],
];

/** Those that are in none of the groups stand at the end. */
const last = (name: string) => ['in no series', 'on no topic', 'outlet not said', 'the usual run'].includes(name);

function grouped(rows: readonly Row[], by: (row: Row) => string[]): [string, Row[]][] {
  const groups = new Map<string, Row[]>();
  for (const row of rows) for (const name of by(row)) groups.set(name, [...(groups.get(name) ?? []), row]);
  return [...groups];
}

/** A year or a series, which can be folded; what is looked for is always open. */
function Group({
  name,
  rows,
  outlets,
  isFirst,
  isSearched,
}: {
  name: string;
  /** Whether it stands open until it is folded: the latest year does, those before it do not. */
  isFirst: boolean;
  rows: readonly Row[];
  outlets: readonly Outlet[];
  isSearched: boolean;
}) {
  const [fold, setFold] = useChoice<'open' | 'folded'>(`catalogue.fold.${name}`, isFirst ? 'open' : 'folded');
  const isOpen = fold === 'open' || isSearched;
  return (
    <tbody>
      <tr>
        <th colSpan={6 + outlets.length} scope="colgroup" className="pt-4 pb-1 text-left font-normal">
          <button
            type="button"
            aria-expanded={isOpen}
            disabled={isSearched}
            className="label inline-flex min-h-6 items-center gap-2 hover:text-blue disabled:hover:text-ink"
            onClick={() => setFold(isOpen ? 'folded' : 'open')}
          >
            {name} · {several(rows.length, 'piece')}
            {!isSearched && <span aria-hidden>{isOpen ? '▾' : '▸'}</span>}
          </button>
        </th>
      </tr>
      {isOpen &&
        rows.map((row) => (
          <tr key={row.piece} className="border-b border-rule align-baseline hover:bg-quiet">
            <td className="narrow py-1.5 text-[12px] whitespace-nowrap text-second">R {row.number}</td>
            <td className="py-1.5 pr-4">
              <Link to={`/catalogue/${row.number}`} className="written text-[16px] leading-snug hover:text-blue">
                {row.title}
              </Link>
              <ReadThere row={row} />
              {[...new Set(row.releases.map((release) => kinds[release.kind]).filter(Boolean))].map((kind) => (
                <span key={kind} className="ml-3 text-[12px] font-semibold whitespace-nowrap text-second">
                  {kind}
                </span>
              ))}
              {row.summary && <p className="max-w-[34rem] text-[12.5px] leading-snug text-second">{row.summary}</p>}
            </td>
            <td className="py-1.5 max-md:hidden">
              <TopicWords topics={row.topics.slice(0, 3)} linked />
            </td>
            <td className="py-1.5 pl-3 whitespace-nowrap text-second">{shortDay(row.outOn)}</td>
            {row.there.map((there, at) => (
              <td key={there.outlet} className="px-1 text-center max-md:hidden">
                <ThereMark row={row} there={there} outlet={outlets[at]!} />
              </td>
            ))}
            <td className="py-1.5 pl-3 text-right max-md:hidden">{row.words.toLocaleString('en')}</td>
            <td className="py-1.5 pl-3 text-right max-md:hidden">
              {row.views === null ? <span className="text-second">–</span> : row.views.toLocaleString('en')}
            </td>
          </tr>
        ))}
    </tbody>
  );
}

function Legend() {
  const said = [
    ['out', 'out'],
    ['could', 'could go there too'],
    ['inAnotherForm', 'in another form'],
    ['never', 'not meant for it'],
  ] as const;
  return (
    <p className="mt-5 flex flex-wrap gap-x-6 gap-y-1 text-[12.5px] text-second max-md:hidden">
      {said.map(([state, words]) => (
        <span key={state} className="inline-flex items-center gap-1.5">
          <Sign state={state} />
          {words}
        </span>
      ))}
    </p>
  );
}

/** Where it can be read: at the latest of its addresses. */
function ReadThere({ row }: { row: Row }) {
  const address = row.releases.find((release) => release.address)?.address;
  return (
    address && (
      <a
        href={address}
        target="_blank"
        rel="noreferrer"
        className="link ml-3 text-[12.5px] whitespace-nowrap max-md:ml-0"
      >
        read it there
      </a>
    )
  );
}

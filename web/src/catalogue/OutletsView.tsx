import { Link, useParams } from 'react-router';
import { Failed, Loading } from '../ui/States';
import { shortDay } from '../ui/dates';
import { CatalogueHead } from './CatalogueHead';
import { Sign, ThereMark } from './ThereMark';
import { several, useCatalogue } from './catalogue';

/** One outlet at a time: what has not gone there yet, and what has. */
export default function OutletsView() {
  const catalogue = useCatalogue();
  const chosen = Number(useParams().number) || 0;
  if (catalogue.error) return <Failed error={catalogue.error} onRetry={() => void catalogue.refetch()} />;
  if (!catalogue.data) return <Loading what="Opening the catalogue" />;
  const { rows, outlets } = catalogue.data;
  const at = Math.max(
    0,
    outlets.findIndex((outlet) => outlet.number === chosen),
  );
  const outlet = outlets[at];
  const parts = [
    ['could', 'Could go there as it is'],
    ['inAnotherForm', 'In another form'],
    ['out', 'Went out there'],
    ['never', 'Not meant for it'],
  ] as const;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1060px] px-9 py-6 max-md:px-4">
        <CatalogueHead title="By outlet" newest={rows[0] && Number(rows[0].outOn.slice(0, 4))} />
        {!outlet ? (
          <p className="text-second">
            There are no outlets yet.{' '}
            <Link to="/plan/outlets" className="link">
              Say where pieces go out
            </Link>
            .
          </p>
        ) : (
          <>
            <nav aria-label="Outlets" className="mb-5 flex flex-wrap gap-x-5 border-b border-ink pb-2 text-[13.5px]">
              {outlets.map((one) => (
                <Link
                  key={one.number}
                  to={`/catalogue/outlets/${one.number}`}
                  aria-current={one === outlet ? 'page' : undefined}
                  className={`inline-flex min-h-6 items-center gap-1.5 ${one === outlet ? 'font-semibold text-ink' : 'text-second hover:text-blue'}`}
                >
                  <span aria-hidden className="h-2.5 w-2.5" style={{ background: `var(--${one.colour})` }} />
                  {one.name}
                </Link>
              ))}
            </nav>
            {parts.map(([state, words]) => {
              const own = rows.filter((row) => row.there[at]!.state === state);
              if (own.length === 0) return null;
              return (
                <section key={state} aria-label={words} className="mb-7">
                  <h2 className="label flex items-center gap-2 border-b border-hair pb-1.5">
                    <Sign state={state} />
                    {words}
                    <span className="ml-auto font-normal tracking-normal text-second normal-case">
                      {several(own.length, 'piece')}
                    </span>
                  </h2>
                  <ul>
                    {own.map((row) => (
                      <li key={row.piece} className="flex items-baseline gap-4 border-b border-rule py-1.5">
                        <span className="narrow figures w-12 shrink-0 text-[12px] text-second">R {row.number}</span>
                        <span className="min-w-0 flex-1">
                          <Link to={`/catalogue/${row.number}`} className="written text-[16px] hover:text-blue">
                            {row.title}
                          </Link>
                          {row.there[at]!.over > 0 && (
                            <span className="figures ml-3 text-[12.5px] text-red">
                              {row.there[at]!.over.toLocaleString('en')} {outlet.limit?.in} over
                            </span>
                          )}
                        </span>
                        <span className="shrink-0 text-[12.5px] text-second max-md:hidden">{row.formatName}</span>
                        <span className="figures w-24 shrink-0 text-right text-[12.5px] text-second">
                          {shortDay(row.outOn)}
                        </span>
                        <span className="w-6 shrink-0 text-center">
                          <ThereMark row={row} there={row.there[at]!} outlet={outlet} />
                        </span>
                      </li>
                    ))}
                  </ul>
                </section>
              );
            })}
          </>
        )}
      </div>
    </div>
  );
}

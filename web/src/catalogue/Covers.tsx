import { Link } from 'react-router';
import { Failed, Loading } from '../ui/States';
import { shortDay } from '../ui/dates';
import { CatalogueHead } from './CatalogueHead';
import { coverOf, several, useCatalogue } from './catalogue';

/** What went out as a sheet of covers; what has none shows its title. */
export default function Covers() {
  const catalogue = useCatalogue();
  if (catalogue.error) return <Failed error={catalogue.error} onRetry={() => void catalogue.refetch()} />;
  if (!catalogue.data) return <Loading what="Opening the catalogue" />;
  const { rows } = catalogue.data;
  const without = rows.filter((row) => coverOf(row) === undefined).length;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1240px] px-9 py-6 max-md:px-4">
        <CatalogueHead title="Covers" newest={rows[0] && Number(rows[0].outOn.slice(0, 4))}>
          <p className="mt-1 text-[12.5px] text-second">
            {rows.length === 0
              ? 'The covers of what goes out will lie here beside each other.'
              : without > 0
                ? `${several(rows.length, 'piece')}; ${without === rows.length ? 'none has a picture yet' : `${without} without a picture show their title`}. A cover is chosen before writing, under Cover idea, or goes out with the piece.`
                : several(rows.length, 'piece')}
          </p>
        </CatalogueHead>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(176px,1fr))] gap-x-5 gap-y-7">
          {rows.map((row) => (
            <li key={row.piece}>
              <Link to={`/catalogue/${row.number}`} className="group block">
                <span className="flex aspect-[4/3] overflow-hidden border border-hair bg-quiet group-hover:border-blue">
                  {coverOf(row) !== undefined ? (
                    <img src={coverOf(row)} alt="" loading="lazy" className="h-full w-full object-cover" />
                  ) : (
                    <span className="flex h-full w-full flex-col justify-between p-3">
                      <span className="written line-clamp-4 text-[17px] leading-tight break-words text-ink group-hover:text-blue">
                        {row.title}
                      </span>
                      <span className="narrow text-[12px] text-second">{row.formatName}</span>
                    </span>
                  )}
                </span>
                {coverOf(row) !== undefined && (
                  <span className="written mt-1.5 line-clamp-2 block text-[14.5px] leading-snug group-hover:text-blue">
                    {row.title}
                  </span>
                )}
                <span className="figures mt-1 block text-[12px] text-second">
                  R {row.number} · {shortDay(row.outOn)}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

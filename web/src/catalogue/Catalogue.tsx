import { useEffect } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Piece } from '../api/client';
import { useFormats, usePieces } from '../api/queries';
import { useOutlets } from '../plan/planning';
import { Empty, Failed, Loading } from '../ui/States';
import { TopicWords } from '../ui/TopicWord';
import { shortDay } from '../ui/dates';

/** Everything that went out, the latest first. */
export function Catalogue() {
  const pieces = usePieces();
  const outlets = useOutlets();
  const formats = useFormats().data ?? [];
  const [params, setParams] = useSearchParams();
  useEffect(() => {
    document.title = 'Catalogue · Nachlass';
  }, []);
  if (pieces.error) return <Failed error={pieces.error} onRetry={() => void pieces.refetch()} />;
  if (!pieces.data) return <Loading what="Opening the catalogue" />;
  const out = pieces.data
    .filter((piece) => piece.outOn !== null)
    .sort((a, b) => b.outOn!.localeCompare(a.outOn!) || b.number - a.number);
  if (out.length === 0)
    return (
      <Empty title="Nothing has gone out yet">
        What comes to its last stage stands here, with when and where it went out. The text as it was sent, and what
        readers said of it, will stand beside it.
      </Empty>
    );
  const only = Number(params.get('outlet')) || 0;
  const seen = only ? out.filter((piece) => piece.outlet === only) : out;
  const months = [...new Set(seen.map((piece) => piece.outOn!.slice(0, 7)))];
  const used = outlets.filter((outlet) => out.some((piece) => piece.outlet === outlet.number));
  const formatOf = (piece: Piece) => formats.find((format) => format.key === piece.format)?.name ?? piece.format;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1060px] px-9 py-6 max-md:px-4">
        <header className="mb-4">
          <div className="flex flex-wrap items-baseline gap-x-4">
            <h1 className="written text-[25px] leading-tight font-semibold">What went out</h1>
            <span className="figures text-[12.5px] text-second">
              {seen.length === 1 ? '1 piece' : `${seen.length} pieces`} since{' '}
              {shortDay(seen.at(-1)?.outOn ?? out[0]!.outOn!)}
            </span>
          </div>
          {used.length > 1 && (
            <div role="group" aria-label="Only on" className="mt-1.5 flex flex-wrap gap-x-4 text-[12.5px] text-second">
              {used.map((outlet) => (
                <button
                  key={outlet.number}
                  type="button"
                  aria-pressed={outlet.number === only}
                  className={`inline-flex min-h-6 items-center gap-1.5 ${outlet.number === only ? 'font-semibold text-ink' : 'hover:text-blue'}`}
                  onClick={() =>
                    setParams(outlet.number === only ? {} : { outlet: String(outlet.number) }, { replace: true })
                  }
                >
                  <span aria-hidden className="h-2.5 w-2.5" style={{ background: `var(--${outlet.colour})` }} />
                  {outlet.name}
                </button>
              ))}
            </div>
          )}
        </header>
        {months.map((month) => (
          <section key={month} aria-label={monthSaid(month)} className="mb-5 flex gap-x-8 max-md:block">
            <h2 className="label w-[118px] shrink-0 border-t border-hair pt-2.5 text-second">{monthSaid(month)}</h2>
            <ul className="min-w-0 flex-1">
              {seen
                .filter((piece) => piece.outOn!.startsWith(month))
                .map((piece) => (
                  <li
                    key={piece.number}
                    className="flex items-baseline gap-4 border-t border-hair py-1.5 max-md:flex-wrap"
                  >
                    <span className="figures w-[98px] shrink-0 text-[12.5px] whitespace-nowrap text-second">
                      <span className="inline-block w-14">{dayMonth(piece.outOn!)}</span>
                      <span className="narrow text-[12px] font-semibold">P {piece.number}</span>
                    </span>
                    <span className="min-w-0 flex-1">
                      <Link to={`/bench/${piece.number}`} className="written text-[16px] hover:text-blue">
                        {piece.title}
                      </Link>
                      <span className="ml-3 text-[12.5px]">
                        <TopicWords topics={piece.topics} />
                      </span>
                    </span>
                    {piece.outAddress && (
                      <a
                        href={piece.outAddress}
                        target="_blank"
                        rel="noreferrer"
                        className="link shrink-0 text-[12.5px]"
                      >
                        read it there
                      </a>
                    )}
                    <span className="shrink-0 text-[12.5px] text-second max-md:-mt-1 max-md:w-full max-md:pl-[114px]">
                      {outlets.find((outlet) => outlet.number === piece.outlet)?.name ?? formatOf(piece)} ·{' '}
                      <span className="figures">{piece.words.toLocaleString('en')} words</span>
                    </span>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
    </div>
  );
}

const dayMonth = (iso: string) =>
  new Date(`${iso}T12:00:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });

const monthSaid = (month: string) =>
  new Date(`${month}-15T12:00:00`).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' });

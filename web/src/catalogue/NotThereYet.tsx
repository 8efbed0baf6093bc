import { Link } from 'react-router';
import { Sign } from './ThereMark';
import { type Outlet, type Row } from './catalogue';

const shownEach = 3;

/** For each outlet, the latest pieces that could go there and have not. */
export function NotThereYet({ rows, outlets }: { rows: readonly Row[]; outlets: readonly Outlet[] }) {
  const lists = outlets
    .map((outlet, at) => ({
      outlet,
      could: [
        ...rows.filter((row) => row.there[at]!.state === 'could'),
        ...rows.filter((row) => row.there[at]!.state === 'inAnotherForm'),
      ].map((row) => ({ row, state: row.there[at]!.state })),
    }))
    .filter(({ outlet }) => !outlet.isPutAway);
  const waiting = lists.filter(({ could }) => could.length > 0);
  return (
    <>
      <h2 className="label flex items-baseline border-b border-ink pb-2">Here but not yet there</h2>
      {waiting.length === 0 && (
        <p className="mt-3 text-[13px] leading-relaxed text-second">
          {outlets.length === 0
            ? 'Say under Plan where your pieces go out, and what has not gone there yet stands here.'
            : 'Everything that went out is at all of your outlets, or not meant for them.'}
        </p>
      )}
      {waiting.map(({ outlet, could }) => (
        <section key={outlet.number} aria-label={outlet.name} className="border-b border-hair py-3">
          <h3 className="flex items-baseline gap-2 text-[12.5px] text-second">
            <span aria-hidden className="h-2.5 w-2.5" style={{ background: `var(--${outlet.colour})` }} />
            <span className="font-semibold text-ink">{outlet.name}</span>
            <Link to={`/catalogue/outlets/${outlet.number}`} className="link ml-auto">
              {could.length > shownEach ? `all ${could.length}` : 'see them'}
            </Link>
          </h3>
          <ul className="mt-1">
            {could.slice(0, shownEach).map(({ row, state }) => (
              <li key={row.piece} className="flex items-baseline gap-2 py-0.5">
                <Sign state={state} />
                <Link to={`/catalogue/${row.number}`} className="written text-[15.5px] leading-snug hover:text-blue">
                  {row.title}
                </Link>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

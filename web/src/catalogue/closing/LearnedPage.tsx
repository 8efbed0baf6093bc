import { Link } from 'react-router';
import { addressOf } from '../../sources/Connections';
import { Empty, Failed, Loading } from '../../ui/States';
import { shortDay } from '../../ui/dates';
import { CatalogueHead } from '../CatalogueHead';
import { several } from '../catalogue';
import { useAddressText } from '../useAddressText';
import { useClosings, type ClosingLine } from './closing';

/** What was learned from all that went out, and what is still to be closed. */
export default function LearnedPage() {
  const closings = useClosings();
  const [looked, setLooked] = useAddressText('with');
  if (closings.error) return <Failed error={closings.error} onRetry={() => void closings.refetch()} />;
  if (!closings.data) return <Loading what="Opening what was learned" />;
  const newest = closings.data[0] && Number(closings.data[0].outOn.slice(0, 4));
  const words = looked.toLowerCase().split(/\s+/);
  const fits = (one: ClosingLine) => {
    const shown = `${one.title}\n${one.formatName}\n${one.learned}\n${one.otherwise}\n${one.outOn}`.toLowerCase();
    return words.every((word) => shown.includes(word));
  };
  const open = closings.data.filter((one) => one.isDue && fits(one));
  const left = closings.data.filter((one) => !one.closedAt && !one.isDue && fits(one));
  const closed = closings.data.filter((one) => one.closedAt && fits(one));
  return (
    <div className="h-full overflow-y-auto px-9 py-6 max-md:px-4">
      <CatalogueHead title="What was learned" newest={newest} />
      {closings.data.length === 0 ? (
        <Empty title="Nothing has gone out yet">
          A piece that went out is closed with two lines: what is known now, and what would be done otherwise. They
          stand here.
        </Empty>
      ) : (
        <>
          <p className="mb-5 flex flex-wrap items-baseline gap-x-5 text-[12.5px] text-second">
            <span className="figures">
              {several(closed.length, 'piece')} closed, {open.length} to close
            </span>
            <input
              aria-label="Only those with"
              value={looked}
              placeholder="only those with: a word of what was learned, or of the title"
              onChange={(event) => setLooked(event.target.value)}
              className="min-w-48 flex-1 border-b border-hair bg-transparent py-0.5 outline-none placeholder:italic focus:border-blue"
            />
          </p>
          {open.length > 0 && (
            <section aria-label="To close" className="mb-8">
              <h2 className="label border-b border-ink pb-2">To close</h2>
              <Open lines={open} />
            </section>
          )}
          {closed.length > 0 && (
            <section aria-label="Closed">
              <h2 className="label border-b border-ink pb-2">Closed</h2>
              <ul>
                {closed.map((one) => (
                  <li
                    key={one.piece}
                    className="grid grid-cols-[15rem_1fr_1fr] gap-x-7 border-b border-rule py-3 max-lg:grid-cols-1 max-lg:gap-y-1.5"
                  >
                    <div className="min-w-0">
                      <Link
                        to={`/catalogue/close/${one.piece}`}
                        className="written text-[16px] leading-snug font-semibold break-words hover:text-blue"
                      >
                        {one.title}
                      </Link>
                      <p className="text-[12.5px] text-second">
                        {one.formatName}, out {shortDay(one.outOn)}
                        {one.kept > 0 && ` · ${several(one.kept, 'passage')} kept`}
                      </p>
                    </div>
                    <Line name="Learned" text={one.learned} slip={one.slip} />
                    <Line name="Otherwise next time" text={one.otherwise} />
                  </li>
                ))}
              </ul>
            </section>
          )}
          {left.length > 0 && (
            <details className="mt-8">
              <summary className="label inline-flex min-h-6 cursor-pointer items-center hover:text-blue">
                {several(left.length, 'piece')} that went out longer ago, without a word on it
                <span aria-hidden className="ml-2">
                  ▸
                </span>
              </summary>
              <Open lines={left} />
            </details>
          )}
          {closed.length + open.length + left.length === 0 && (
            <p className="text-second">None has all of these words in it.</p>
          )}
        </>
      )}
    </div>
  );
}

/** Pieces that can be closed. */
function Open({ lines }: { lines: readonly ClosingLine[] }) {
  return (
    <ul>
      {lines.map((one) => (
        <li key={one.piece} className="flex flex-wrap items-baseline gap-x-4 gap-y-0.5 border-b border-rule py-1.5">
          <Link
            to={`/catalogue/close/${one.piece}`}
            className="written min-w-0 flex-1 text-[16px] leading-snug break-words hover:text-blue"
          >
            {one.title}
          </Link>
          <span className="text-[12.5px] text-second">
            {one.formatName}, out {shortDay(one.outOn)}
            {one.learned || one.otherwise || one.kept > 0 ? ', begun' : ''}
          </span>
        </li>
      ))}
    </ul>
  );
}

function Line({ name, text, slip }: { name: string; text: string; slip?: number | null }) {
  return (
    <div className="min-w-0">
      <p className="text-[12px] text-second">
        {name}
        {slip && (
          <>
            {' '}
            <Link to={addressOf({ kind: 'slip', number: slip })} className="link">
              slip {slip}
            </Link>
          </>
        )}
      </p>
      <p className={`written text-[15px] leading-snug ${text ? '' : 'text-second'}`}>{text || 'nothing said'}</p>
    </div>
  );
}

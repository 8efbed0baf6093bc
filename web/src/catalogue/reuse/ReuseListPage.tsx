import { Link } from 'react-router';
import { Empty, Failed, Loading } from '../../ui/States';
import { shortDay } from '../../ui/dates';
import { CatalogueHead } from '../CatalogueHead';
import { several } from '../catalogue';
import { useReuseList, type ReuseLine } from './reuse';

/** What went out and is used again in other forms. */
export default function ReuseListPage() {
  const list = useReuseList();
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!list.data) return <Loading what="Looking for what can be used again" />;
  const due = list.data.filter((one) => one.isDue);
  const later = list.data.filter((one) => !one.isDue && !one.doneAt);
  const finished = list.data.filter((one) => one.doneAt);
  const newest = list.data[0] && Number(list.data[0].outOn.slice(0, 4));
  return (
    <div className="h-full overflow-y-auto px-9 py-6 max-md:px-4">
      <CatalogueHead title="Used again" newest={newest} />
      {list.data.length === 0 ? (
        <Empty title="Nothing to use again yet">
          What goes out in a format that is used again stands here for sixty days: choose its passages, make short ones
          of them, clips or cuts. Which formats those are is said on the Bench, under formats.
        </Empty>
      ) : (
        <div className="max-w-[60rem]">
          <Part name="To use again" lines={due} />
          {due.length === 0 && (
            <p className="mb-6 text-second">Of what went out lately, everything wanted has been made.</p>
          )}
          <Part name="Done" lines={finished} />
          {later.length > 0 && (
            <details>
              <summary className="label inline-flex min-h-6 cursor-pointer items-center hover:text-blue">
                {several(later.length, 'piece')} from longer ago
                <span aria-hidden className="ml-2">
                  ▸
                </span>
              </summary>
              <Lines lines={later} />
            </details>
          )}
        </div>
      )}
    </div>
  );
}

function Part({ name, lines }: { name: string; lines: readonly ReuseLine[] }) {
  if (lines.length === 0) return null;
  return (
    <section aria-label={name} className="mb-8">
      <h2 className="label border-b border-ink pb-2">{name}</h2>
      <Lines lines={lines} />
    </section>
  );
}

function Lines({ lines }: { lines: readonly ReuseLine[] }) {
  return (
    <ul>
      {lines.map((one) => (
        <li key={one.piece} className="flex flex-wrap items-baseline gap-x-5 gap-y-0.5 border-b border-rule py-2">
          <Link
            to={`/catalogue/again/${one.piece}`}
            className="written min-w-0 flex-1 text-[16px] leading-snug break-words hover:text-blue max-md:basis-full"
          >
            {one.title}
          </Link>
          <span className="text-[12.5px] text-second">
            {one.formatName}, out {shortDay(one.outOn)}
          </span>
          <span className="figures w-64 text-right text-[12.5px] max-md:w-auto max-md:text-left">
            {[
              one.marked > 0 && `${several(one.marked, 'passage')} chosen`,
              one.cuts > 0 && several(one.cuts, 'cut'),
              one.made > 0 && `${several(one.made, 'piece')} made`,
            ]
              .filter(Boolean)
              .join(' · ') || <span className="text-second">nothing yet</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}

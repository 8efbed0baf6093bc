import { useQuery } from '@tanstack/react-query';
import { addressOfEntry, idOf, numberOf, titleOf } from '../sources/entries';
import { Link } from 'react-router';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { askedBy, writeAsked } from '../sources/asked';

/** The views the writer wants in sight every day, each with the first of what it finds. */
export function ViewsOnDesk() {
  const views = useQuery({ queryKey: keys.viewsOnDesk, queryFn: () => ask(api.GET('/api/views/desk')) }).data ?? [];
  return views.map(({ view, total, first }) => (
    <section key={view.number} aria-label={view.name} className="mb-7">
      <header className="flex items-baseline justify-between gap-3 border-b border-hair pb-1.5">
        <h2 className="label min-w-0 truncate">{view.name}</h2>
        <Link to={`/library?${writeAsked(askedBy(view))}`} className="link text-[12px] whitespace-nowrap">
          {total > first.length ? `all ${total}` : 'open'}
        </Link>
      </header>
      {total === 0 && <p className="py-2 text-second">Nothing at the moment.</p>}
      {first.map((entry) => (
        <Link
          key={idOf(entry)}
          to={addressOfEntry(entry)}
          className="flex items-baseline gap-3 border-b border-rule py-2 hover:text-blue"
        >
          <span className="narrow figures w-7 shrink-0 text-[12px] text-faint">{numberOf(entry)}</span>
          <span className="written line-clamp-2 min-w-0 flex-1 text-[14.5px] leading-snug">{titleOf(entry)}</span>
        </Link>
      ))}
    </section>
  ));
}

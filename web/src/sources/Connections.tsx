import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type HistoryLine, type LinkLine, type Reference } from '../api/client';
import { keys } from '../api/queries';
import type { components } from '../api/schema';
import { takeBack } from '../papers/notices';
import { clock, longDay, shortDay } from '../ui/dates';

const base = { slip: '/library/slip/', source: '/library/source/', piece: '/bench/', topic: '/topics/', day: '/desk/' };

/** The address of a thing's own page, or of a section on it. */
export function addressOf(thing: Reference, part = ''): string {
  if (thing.kind !== 'day') return base[thing.kind] + thing.number + (part && `?section=${encodeURIComponent(part)}`);
  return base.day + new Date(millennium + (thing.number - millenniumDay) * 86_400_000).toISOString().slice(0, 10);
}

// Days are counted from the first day of the year 1, which is 0.
const millennium = Date.UTC(2000, 0, 1);
const millenniumDay = 730_119;

/** The number a day goes by, as in “2026-11-24”. */
export const dayNumber = (iso: string) => millenniumDay + Math.round((Date.parse(iso) - millennium) / 86_400_000);

/** A thing by kind and number, as it is said beside its title. */
export const named = (thing: Reference) =>
  thing.kind === 'piece' ? `P ${thing.number}` : thing.kind === 'day' ? 'day sheet' : `${thing.kind} ${thing.number}`;

const titled = (thing: Reference, title: string | null) =>
  thing.kind === 'day' ? longDay(addressOf(thing).slice(base.day.length)) : title;

/** The places a text links to. */
export function LinksOut({ links }: { links: readonly components['schemas']['LinkOut'][] }) {
  if (!links.length) return null;
  return (
    <section aria-label="Links to" className="mt-7">
      <h2 className="label border-b border-hair pb-1 text-second">Links to</h2>
      {links.map((link) => (
        <p key={link.name} className="border-b border-rule py-1.5">
          {link.to ? (
            <Link to={addressOf(link.to, link.part)} className="written text-[14.5px] hover:text-blue">
              {link.part ? `${link.part}, in ` : ''}
              {titled(link.to, link.title)} <span className="font-sans text-[12px] text-second">{named(link.to)}</span>
              {link.gone && <span className="font-sans text-[12px] text-red"> {link.gone}</span>}
            </Link>
          ) : (
            <span className="text-second">
              “{link.name}”, which there is nothing of yet:{' '}
              <Link className="link" to={`/go/${encodeURIComponent(link.name)}`}>
                make it
              </Link>
            </span>
          )}
        </p>
      ))}
    </section>
  );
}

/** The places the texts of a piece or of a day link to. */
export function LeadsTo({ kind, number }: { kind: 'piece' | 'day'; number: number }) {
  const links = useQuery({
    queryKey: keys.leads(kind, number),
    queryFn: () => ask(api.GET('/api/links/{kind}/{number}', { params: { path: { kind, number } } })),
  }).data;
  return <LinksOut links={links ?? []} />;
}

/** The places that link here, each with the sentence around the link. */
export function LinkedFrom({ lines, title = 'Linked from' }: { lines: readonly LinkLine[]; title?: string }) {
  if (!lines.length) return null;
  return (
    <section aria-label={title} className="mt-7">
      <h2 className="label border-b border-hair pb-1 text-second">{title}</h2>
      {lines.map((line, at) => (
        <div key={at} className="border-b border-rule py-2">
          <Link to={addressOf(line.from)} className="text-[12.5px] font-semibold hover:text-blue">
            {named(line.from)} · {titled(line.from, line.title)}
          </Link>
          {line.part && <span className="text-[12.5px] text-second"> to “{line.part}”</span>}
          <p className="written text-[14px] leading-snug text-second">{line.sentence}</p>
        </div>
      ))}
    </section>
  );
}

/** What was done to a thing; each step can be taken back from here while nothing came after it. */
export function History({ lines }: { lines: readonly HistoryLine[] }) {
  if (!lines.length) return null;
  return (
    <details className="mt-7">
      <summary className="label cursor-pointer border-b border-hair pb-1 text-second">History · {lines.length}</summary>
      {lines.map((line, at) => (
        <p
          key={line.command}
          className={`flex gap-4 border-b border-rule py-1.5 ${line.undone ? 'text-faint line-through' : ''}`}
        >
          <span className="narrow figures w-24 shrink-0 text-second">
            {shortDay(line.at.slice(0, 10))}, {clock(line.at)}
          </span>
          <span className="flex-1">{line.what}</span>
          {at === 0 && !line.undone && (
            <button type="button" className="link" onClick={() => void takeBack(line.command)}>
              take back
            </button>
          )}
        </p>
      ))}
    </details>
  );
}

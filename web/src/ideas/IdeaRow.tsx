import { Link } from 'react-router';
import { addressOf } from '../sources/Connections';
import type { Coming, Idea } from './asking';

type Origin = Coming['from'][number];

/** What an idea was made from: where it stands. */
function placeOf(origin: Origin): string {
  switch (origin.kind) {
    case 'release':
      return `/catalogue/${origin.number}`;
    case 'ask':
      return `/catalogue/asks/${origin.number}`;
    case 'occasion':
      return '/plan/occasions';
    default:
      return addressOf({ kind: origin.kind, number: origin.number });
  }
}

const spoken = (origin: Origin) => (origin.kind === 'piece' ? `P ${origin.number}` : `${origin.kind} ${origin.number}`);

/** Why an idea is proposed, and what it was made from, each a press away. */
export function MadeFrom({ idea }: { idea: Coming }) {
  return (
    <>
      <p className="mt-1 text-[13px]">{idea.because}</p>
      <p className="mt-1 flex flex-wrap gap-x-4 text-[13px] text-second">
        {idea.from.length > 0 && <span>made from</span>}
        {idea.from.map((origin) => (
          <Link
            key={`${origin.kind} ${origin.number}`}
            to={placeOf(origin)}
            className="link max-w-full truncate"
            title={origin.title}
          >
            {spoken(origin)} <span className="written text-ink">{short(origin.title)}</span>
          </Link>
        ))}
      </p>
    </>
  );
}

/** An idea in a line; the current one with what it was made from, and what said it already. */
export function IdeaRow({
  idea,
  current,
  chosen,
  later = false,
  onShow,
  onChoose,
  onGoOn,
  editing,
  children,
}: {
  idea: Coming;
  current: boolean;
  chosen: boolean;
  later?: boolean;
  onShow?: () => void;
  onChoose?: () => void;
  /** Goes on with words that were typed for it and are not kept yet; only where there are such. */
  onGoOn?: () => void;
  /** A field in place of its words. */
  editing?: React.ReactNode;
  /** What can be done with it. */
  children?: React.ReactNode;
}) {
  return (
    <li
      data-current={current || undefined}
      className={`grid grid-cols-[24px_132px_minmax(0,1fr)] gap-x-3 ${editing ? 'items-start' : 'items-baseline'} border-b border-rule py-[7px] max-md:grid-cols-[24px_minmax(0,1fr)] ${current ? 'bg-wash' : ''}`}
    >
      <span className="pl-1">
        {onChoose && (
          <input
            type="checkbox"
            aria-label={`Choose “${idea.text}”`}
            checked={chosen}
            onChange={onChoose}
            className="h-3.5 w-3.5 align-middle accent-(--blue)"
          />
        )}
      </span>
      <span className="narrow text-[12px] leading-tight text-second max-md:col-start-2">{idea.shape}</span>
      <div className="min-w-0 pr-2 max-md:col-start-2">
        {editing ?? (
          <button
            type="button"
            aria-expanded={current}
            onClick={onShow}
            className="written block min-h-6 w-full text-left text-[16.5px] leading-snug hover:text-blue"
          >
            {idea.text}
          </button>
        )}
        <p className="text-[12.5px] text-second">
          {later && <span className="mr-3">put off</span>}
          {onGoOn && !editing && (
            <button type="button" className="link mr-3 min-h-6" onClick={onGoOn}>
              go on with your words, not kept yet
            </button>
          )}
          {idea.saidIn && (
            <span>
              said already in{' '}
              <Link to={`/bench/${idea.saidIn.piece}`} className="link">
                {idea.saidIn.title}
              </Link>
              {current && <span className="written mt-1 block text-[14px] italic">“{idea.saidIn.passage}”</span>}
            </span>
          )}
          {idea.near && (
            <span className={idea.saidIn ? 'ml-3' : ''}>
              nearly the same as{' '}
              <Link to={placeOf(idea.near)} className="link" title={idea.near.title}>
                {spoken(idea.near)}
              </Link>
            </span>
          )}
        </p>
        {current && (
          <>
            <MadeFrom idea={idea} />
            {children}
          </>
        )}
      </div>
    </li>
  );
}

const short = (title: string) => (title.length > 48 ? `${title.slice(0, 46).trimEnd()}…` : title);

/** Ideas under their topics, in the order in which each topic comes first. */
export function byTopic<T extends { idea: Coming }>(
  ideas: readonly T[],
): { name: string; colour: string; ideas: T[] }[] {
  const groups = new Map<string, { name: string; colour: string; ideas: T[] }>();
  for (const one of ideas) {
    const name = one.idea.topic?.name ?? 'on no topic';
    const group = groups.get(name) ?? { name, colour: one.idea.topic?.colour ?? 'grey', ideas: [] };
    group.ideas.push(one);
    groups.set(name, group);
  }
  return [...groups.values()];
}

export type { Idea };

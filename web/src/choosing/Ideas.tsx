import { useState } from 'react';
import { Link } from 'react-router';
import type { Idea } from '../api/client';
import { Mark } from '../ui/Mark';
import { IdeaOpened } from './IdeaOpened';
import { inkOf, terms, workSaid } from './terms';

export const keyOf = (idea: Idea): string => (idea.slip === null ? `paragraph ${idea.usable}` : `slip ${idea.slip}`);

export const addressOf = (idea: Idea): string =>
  idea.slip === null ? '/bench' : idea.state === 'waiting' ? `/sift/${idea.slip}` : `/library/slip/${idea.slip}`;

/** Why it stands there, the weightiest first. */
export function Reason({ idea, className = '' }: { idea: Idea; className?: string }) {
  const [first, ...others] = idea.reason;
  return (
    <span className={className}>
      <b className="font-semibold text-ink">{first && first[0]!.toUpperCase() + first.slice(1)}</b>
      {others.map((reason, at) => (
        <span key={reason}>
          {at === others.length - 1 ? ' and ' : ', '}
          {reason}
        </span>
      ))}
      .
    </span>
  );
}

/** Ideas in the order of their worth; each opens to what that is made of, and lies beside the next. */
export function Ideas({
  ideas,
  first,
}: {
  ideas: readonly Idea[];
  /** The one that is open at first. */ first?: string;
}) {
  const [open, setOpen] = useState(first);
  return (
    <ol className="border-t border-ink">
      {ideas.map((idea, at) => (
        <li key={keyOf(idea)}>
          <IdeaRow
            idea={idea}
            isOpen={open === keyOf(idea)}
            onOpen={() => setOpen(open === keyOf(idea) ? undefined : keyOf(idea))}
          />
          {open === keyOf(idea) && (
            <IdeaOpened idea={idea} ideas={ideas} beside={ideas[at + 1] ?? ideas[at - 1]} key={keyOf(idea)} />
          )}
        </li>
      ))}
    </ol>
  );
}

function IdeaRow({ idea, isOpen, onOpen }: { idea: Idea; isOpen: boolean; onOpen: () => void }) {
  return (
    <div
      className={`grid grid-cols-[46px_minmax(0,1fr)_300px_92px] gap-x-[18px] py-4 max-lg:grid-cols-[46px_minmax(0,1fr)_92px] max-md:grid-cols-[34px_minmax(0,1fr)_52px] max-md:gap-x-3 ${isOpen ? '' : 'border-b border-rule'}`}
    >
      <span className="flex flex-col items-center gap-1 pt-0.5 text-second">
        <Mark kind={idea.isClaim ? 'claim' : idea.kind} size={17} />
        <span className="narrow figures text-[11.5px]">{idea.slip ?? '¶'}</span>
      </span>
      <span className="min-w-0">
        <button
          type="button"
          aria-expanded={isOpen}
          aria-label={`${idea.title}. Why it is worth ${Math.round(idea.score)}`}
          onClick={onOpen}
          className="written block w-full text-left text-[18px] leading-[1.28] hover:text-blue"
        >
          <span className="line-clamp-3">{idea.title}</span>
        </button>
        <Reason idea={idea} className="mt-0.5 block text-[12.5px] text-second" />
      </span>
      <Parts idea={idea} className="max-lg:hidden" />
      <span className="text-right">
        <span className="written figures block text-[28px] leading-none font-semibold max-md:text-[22px]">
          {Math.round(idea.score)}
        </span>
        <span className="narrow mt-1.5 block text-[11.5px] text-second">{workSaid(idea)}</span>
      </span>
    </div>
  );
}

const most = 5;

/** What the worth is made of: each term as long as the points it adds, out of a hundred. */
function Parts({ idea, className }: { idea: Idea; className: string }) {
  const parts = [...idea.terms].sort((a, b) => b.points - a.points).filter((term) => term.points >= 2);
  return (
    <span aria-hidden className={`flex gap-[2px] pt-1 ${className}`}>
      {parts.slice(0, most).map((term, at) => (
        <span
          key={term.term}
          className="min-w-0"
          style={{ width: `${term.points}%` }}
          title={`${terms[term.term].name}: ${Math.round(term.points)}`}
        >
          <span className={`block h-[12px] ${inkOf(term.term)} ${at % 2 ? 'opacity-75' : ''}`} />
          <span className="narrow block truncate text-[10.5px] leading-[16px] text-second">
            {term.points >= terms[term.term].name.length * 1.7 ? terms[term.term].name : ''}
          </span>
        </span>
      ))}
    </span>
  );
}

/** The first few, in a line each, with the way to all of them. */
export function FewIdeas({ ideas }: { ideas: readonly Idea[] }) {
  return ideas.map((idea) => (
    <Link
      key={keyOf(idea)}
      to={`/bench/begin?open=${encodeURIComponent(keyOf(idea))}`}
      className="group flex items-baseline gap-3 border-b border-rule py-2"
    >
      <span className="w-8 shrink-0 self-start pt-1 text-center text-second">
        <Mark kind={idea.isClaim ? 'claim' : idea.kind} size={14} />
      </span>
      <span className="min-w-0 flex-1">
        <span className="written line-clamp-2 text-[15.5px] leading-snug group-hover:text-blue">{idea.title}</span>
        <Reason idea={idea} className="block text-[12.5px] text-second" />
      </span>
      <span className="narrow shrink-0 text-[11.5px] text-second max-md:hidden">{workSaid(idea)}</span>
      <span className="written figures w-9 shrink-0 text-right text-[19px] leading-none font-semibold">
        {Math.round(idea.score)}
      </span>
    </Link>
  ));
}

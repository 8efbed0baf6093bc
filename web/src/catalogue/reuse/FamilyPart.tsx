import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';
import { nearDay } from '../../ui/dates';
import type { Relative } from './reuse';

const hows = { piece: 'begun from it', passage: 'a passage of it', cut: 'a cut of it' } as const;

/** What came of what, from the piece it all began with. */
export function FamilyTree({ family, piece }: { family: readonly Relative[]; piece: number }) {
  return (
    <ul>
      {family.map((one) => (
        <li
          key={one.piece}
          className="border-b border-rule py-1.5"
          style={{ paddingLeft: `${Math.min(one.depth, 5) * 18}px` }}
        >
          <p className="written text-[15px] leading-snug break-words">
            {one.depth > 0 && (
              <span aria-hidden className="mr-1.5 text-second">
                └
              </span>
            )}
            {one.piece === piece ? (
              <span className="font-semibold">{one.title}</span>
            ) : (
              <Link to={`/bench/${one.piece}`} className="hover:text-blue">
                {one.title}
              </Link>
            )}
          </p>
          <p className="text-[12px] text-second">
            {one.formatName}
            {one.how && `, ${hows[one.how]}`}
            {one.outOn
              ? ` · out ${nearDay(one.outOn)}${one.outletNames.length > 0 ? `, ${one.outletNames.join(', ')}` : ''}`
              : ` · in hand: ${one.stage}`}
          </p>
        </li>
      ))}
    </ul>
  );
}

/** The family of a piece, where it has one. */
export function FamilyPart({ piece }: { piece: number }) {
  const family =
    useQuery({
      queryKey: keys.family(piece),
      queryFn: () => ask(api.GET('/api/pieces/{number}/family', { params: { path: { number: String(piece) } } })),
    }).data ?? [];
  return (
    <section aria-label="Family" className="mt-6">
      <h2 className="label flex items-baseline border-b border-hair pb-1.5">
        What came of it
        <Link to={`/catalogue/again/${piece}`} className="link ml-auto text-[12.5px] tracking-normal normal-case">
          use it again
        </Link>
      </h2>
      {family.length > 1 ? (
        <FamilyTree family={family} piece={piece} />
      ) : (
        <p className="mt-2 text-[13px] text-second">Nothing yet.</p>
      )}
    </section>
  );
}

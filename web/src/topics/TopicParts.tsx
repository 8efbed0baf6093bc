import type { ReactNode } from 'react';
import { heldFor } from '../ui/held';
import { Link } from 'react-router';
import type { Piece, Slip } from '../api/client';
import { Mark } from '../ui/Mark';
import { StepsShown } from '../ui/Steps';
import { ago, nearDay } from '../ui/dates';

/** A part of the page that can be folded away. */
export function Part({
  title,
  count,
  beside,
  folded = false,
  children,
}: {
  title: string;
  count: number;
  beside?: ReactNode;
  folded?: boolean;
  children: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <div className="relative mt-6">
        <details open={!folded}>
          <summary className="label cursor-pointer border-b border-hair pt-1 pb-1 text-second">
            {title} · {count}
          </summary>
          {children}
        </details>
        {beside && <span className="absolute top-1 right-0 flex gap-4 text-[12.5px] font-semibold">{beside}</span>}
      </div>
    </section>
  );
}

/** A piece with its stage and when it is due, or how long it has been out. */
export function PieceLine({ piece }: { piece: Piece }) {
  return (
    <Link to={`/bench/${piece.number}`} className="flex items-baseline gap-3 border-b border-rule py-2 hover:text-blue">
      <span className="narrow figures w-9 text-[12px] text-faint">P {piece.number}</span>
      <span className="written min-w-0 flex-1 text-[15.5px]">{piece.title}</span>
      <span className="text-[12px] whitespace-nowrap text-second">
        {piece.outOn ? ago(piece.outOn) : piece.due ? `${piece.stage}, due ${nearDay(piece.due)}` : piece.stage}
      </span>
    </Link>
  );
}

/** Slips under one heading; nothing when there are none. */
export function Slips({ title, slips, folded = false }: { title: string; slips: readonly Slip[]; folded?: boolean }) {
  if (slips.length === 0) return null;
  return (
    <Part title={title} count={slips.length} folded={folded}>
      {slips.map((slip) => (
        <Link
          key={slip.number}
          to={slip.state === 'waiting' ? `/sift/${slip.number}` : `/library/slip/${slip.number}`}
          className="flex border-b border-rule hover:bg-quiet"
        >
          <span className="flex w-[46px] shrink-0 flex-col items-center border-r border-line pt-2 text-second">
            <Mark kind={slip.kind} size={14} />
            <span className="narrow figures text-[11.5px]">{slip.number}</span>
          </span>
          <span className="min-w-0 flex-1 px-3.5 py-1.5">
            <span className="written line-clamp-2 text-[15px] leading-snug">{slip.title}</span>
            <span className="flex items-baseline gap-3 text-[12px] text-second">
              {slip.used ? (
                'used'
              ) : slip.state === 'held' ? (
                heldFor(slip)
              ) : slip.state === 'waiting' ? (
                <b className="text-blue">waits</b>
              ) : (
                slip.state
              )}
              <StepsShown label="Pull" value={slip.pull} />
            </span>
          </span>
        </Link>
      ))}
    </Part>
  );
}

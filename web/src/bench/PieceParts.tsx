import { memo } from 'react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type Piece } from '../api/client';
import { keys, usePieces } from '../api/queries';
import { AddMove, MoveLine } from '../capture/Moves';
import { inSight } from '../ui/useNarrow';

export const pieceParts = ['', 'before', 'route', 'thread', 'beside', 'steps', 'versions', 'kept'] as const;
export type PiecePart = (typeof pieceParts)[number];

/** The parts of a piece's page, steps back and forward, and its next move. */
export const PieceParts = memo(function PieceParts({
  number,
  part: here,
  gone,
  isThread,
  onStep,
}: {
  number: number;
  part: PiecePart;
  gone: number;
  /** Whether its parts go out one after the other. */
  isThread: boolean;
  onStep: (way: 'back' | 'forward') => void;
}) {
  const moves = useQuery({ queryKey: keys.moves, queryFn: () => ask(api.GET('/api/moves')) }).data ?? [];
  const own = moves.filter((move) => move.piece === number);
  // In the order of the bench: what is in hand, then what is out.
  const pieces = usePieces().data ?? [];
  const order = [...pieces.filter((piece) => !piece.outOn), ...pieces.filter((piece) => piece.outOn)];
  const at = order.findIndex((piece) => piece.number === number);
  const beside = (piece: Piece | undefined, sign: string, name: string) =>
    piece ? (
      <Link
        to={`/bench/${piece.number}${here ? `/${here}` : ''}`}
        aria-label={`${name}: ${piece.title}`}
        title={`${name}: ${piece.title}`}
        className="flex min-h-7 min-w-7 items-center justify-center text-[15px] text-second hover:text-blue"
      >
        {sign}
      </Link>
    ) : (
      <span className="min-w-7" />
    );
  const steps = useQuery({
    queryKey: keys.steps(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/steps', { params: { path: { number: String(number) } } })),
  }).data;
  const done = steps?.steps.filter((step) => step.doneAt).length ?? 0;
  const part = (name: string, key: PiecePart, count?: number | string) => (
    <Link
      to={`/bench/${number}${key ? `/${key}` : ''}`}
      aria-current={here === key ? 'page' : undefined}
      ref={here === key ? inSight : undefined}
      className={`flex min-h-8 items-center gap-1.5 border-b-2 text-[12.5px] font-semibold whitespace-nowrap ${here === key ? 'border-blue text-ink' : 'border-transparent text-second hover:text-ink'}`}
    >
      {name}
      {count ? <span className="narrow figures text-[11px] font-medium">{count}</span> : null}
    </Link>
  );
  return (
    <div className="relative flex items-stretch gap-6 border-b border-hair px-6 max-md:flex-wrap max-md:gap-x-4 max-md:gap-y-0 max-md:px-4">
      <nav
        aria-label="Parts of the piece"
        className="flex gap-6 max-md:-mx-4 max-md:w-screen max-md:gap-4 max-md:overflow-x-auto max-md:px-4"
      >
        {part('Before writing', 'before')}
        {part('Route', 'route')}
        {part('Outline and draft', '')}
        {isThread && part('Parts', 'thread')}
        {part('Beside it', 'beside')}
        {part('Steps', 'steps', steps && steps.steps.length > 0 ? `${done} of ${steps.steps.length}` : undefined)}
        {part('Versions', 'versions')}
        {part('Kept with it', 'kept', gone)}
      </nav>
      <span className="flex items-center gap-1">
        <button
          type="button"
          aria-label="Step back"
          title="Step back: Ctrl+Z"
          onClick={() => onStep('back')}
          className="min-h-7 min-w-7 text-[15px] text-second hover:text-blue"
        >
          ↶
        </button>
        <button
          type="button"
          aria-label="Step forward"
          title="Step forward: Ctrl+Shift+Z"
          onClick={() => onStep('forward')}
          className="min-h-7 min-w-7 text-[15px] text-second hover:text-blue"
        >
          ↷
        </button>
      </span>
      {at >= 0 && order.length > 1 && (
        <nav aria-label="Other pieces" className="flex items-center gap-1">
          {beside(order[at - 1], '‹', 'Previous piece')}
          {beside(order[at + 1], '›', 'Next piece')}
        </nav>
      )}
      <details className="group ml-auto min-w-0 max-md:hidden">
        <summary className="flex min-h-8 cursor-pointer list-none items-center gap-2.5 text-[12.5px]">
          <span className="label whitespace-nowrap">Next move</span>
          <span className="written min-w-0 truncate text-[14px]">
            {own[0]?.text ?? <span className="font-sans text-[12.5px] text-second">none yet; what is next?</span>}
          </span>
          <span aria-hidden className="text-second">
            ▾
          </span>
        </summary>
        <div className="absolute right-4 z-30 max-h-[50vh] w-[26rem] overflow-y-auto border border-hair bg-sheet px-5 py-3 shadow-lg">
          {own.map((move) => (
            <MoveLine key={move.number} move={move} />
          ))}
          <AddMove piece={number} />
        </div>
      </details>
    </div>
  );
});

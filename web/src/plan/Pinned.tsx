import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ask, done, type Piece } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { isKey, keyOf, keysShown } from '../papers/ownKeys';
import { nearDay, today } from '../ui/dates';

const keysOf = ['all.pinned1', 'all.pinned2', 'all.pinned3', 'all.pinned4'] as const;

export const usePinned = () =>
  useQuery({ queryKey: keys.pinned, queryFn: () => ask(api.GET('/api/pinned')) }).data ?? [];

const set = (pieces: readonly number[], words: string) =>
  void carryOut(done(api.PUT('/api/pinned', { body: { pieces: [...pieces] } })), words).then(
    () => queryClient.invalidateQueries(),
    () => undefined,
  );

/** Pins a piece, or lets it go. */
export function PinButton({ piece }: { piece: number }) {
  const pinned = usePinned().map((one) => one.number);
  const isPinned = pinned.includes(piece);
  return (
    <button
      type="button"
      aria-pressed={isPinned}
      title={isPinned ? 'One of the next few, at hand everywhere' : 'Make it one of the next few, at hand everywhere'}
      className="link min-h-6 text-[12.5px]"
      onClick={() =>
        set(
          isPinned ? pinned.filter((one) => one !== piece) : [...pinned, piece],
          isPinned ? `P ${piece} is not pinned any more.` : `P ${piece} is pinned.`,
        )
      }
    >
      {isPinned ? 'pinned' : 'pin'}
    </button>
  );
}

/** The next few pieces in the head of every screen, each a press or a key away. */
export function PinnedInHead() {
  const pinned = usePinned();
  const navigate = useNavigate();
  useEffect(() => {
    // Also while one types: that is when another piece comes to mind.
    const listen = (event: KeyboardEvent) => {
      const at = keysOf.findIndex((name) => isKey(event, name));
      if (event.defaultPrevented || at < 0 || !pinned[at]) return;
      event.preventDefault();
      void navigate(`/bench/${pinned[at].number}`);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
  if (pinned.length === 0) return null;
  return (
    <nav aria-label="Pinned" className="flex items-baseline gap-2.5 max-lg:hidden">
      {pinned.map((piece, at) => (
        <Link
          key={piece.number}
          to={`/bench/${piece.number}`}
          title={`${piece.title} (${keysShown(keyOf(keysOf[at] ?? 'all.pinned4'))})`}
          className="narrow min-h-6 text-[12px] leading-6 font-semibold text-second hover:text-blue"
        >
          P {piece.number}
        </Link>
      ))}
    </nav>
  );
}

/** The next few pieces on the Desk. */
export function PinnedOnDesk() {
  const pinned = usePinned();
  if (pinned.length === 0) return null;
  const numbers = pinned.map((piece) => piece.number);
  return (
    <section aria-label="Pinned pieces" className="mb-7">
      <h2 className="label border-b border-hair pb-1.5">Pinned</h2>
      <ul>
        {pinned.map((piece, at) => (
          <Pinned
            key={piece.number}
            piece={piece}
            onUp={
              at > 0
                ? () =>
                    set(
                      [...numbers.slice(0, at - 1), numbers[at]!, numbers[at - 1]!, ...numbers.slice(at + 1)],
                      'Moved up.',
                    )
                : undefined
            }
            onAway={() =>
              set(
                numbers.filter((one) => one !== piece.number),
                `P ${piece.number} is not pinned any more.`,
              )
            }
          />
        ))}
      </ul>
    </section>
  );
}

function Pinned({ piece, onUp, onAway }: { piece: Piece; onUp?: () => void; onAway: () => void }) {
  const late = piece.due && !piece.outOn && piece.due < today();
  return (
    <li className="group border-b border-rule py-2">
      <Link to={`/bench/${piece.number}`} className="written block text-[15px] leading-snug hover:text-blue">
        <span className="narrow mr-2 text-[12px] font-semibold text-second">P {piece.number}</span>
        {piece.title}
      </Link>
      <p className="flex items-baseline gap-3 text-[12px] text-second">
        {piece.stage}
        {piece.due && !piece.outOn && (
          <span className={late ? 'font-semibold text-red' : ''}>{nearDay(piece.due)}</span>
        )}
        <span className="ml-auto inline-flex gap-3">
          {onUp && (
            <button
              type="button"
              className="min-h-6 hover:text-blue"
              aria-label={`Up: P ${piece.number}`}
              onClick={onUp}
            >
              ↑
            </button>
          )}
          <button
            type="button"
            className="min-h-6 hover:text-blue"
            aria-label={`Unpin P ${piece.number}`}
            onClick={onAway}
          >
            unpin
          </button>
        </span>
      </p>
    </li>
  );
}

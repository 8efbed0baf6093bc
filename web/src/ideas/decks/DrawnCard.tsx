import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { isKey } from '../../papers/ownKeys';
import { Button } from '../../ui/Button';
import { Key } from '../../ui/Key';
import { useChoice } from '../../ui/useChoice';
import { fieldFor, putInto } from './drawing';

const turnPlace = 'nachlass.turn';

/** A card drawn from a deck, over whatever is open; it goes into the text where the cursor was, and is ticked. */
export function DrawnCard() {
  const [into, setInto] = useState<{ field: HTMLElement | null }>();
  useEffect(() => {
    const open = (field: HTMLElement | null) =>
      setInto((before) => before ?? { field: field ?? document.querySelector<HTMLElement>('#strip') });
    const asked = (event: Event) => open((event as CustomEvent<HTMLElement | null>).detail);
    const pressed = (event: KeyboardEvent) => {
      if (event.defaultPrevented || !isKey(event, 'all.draw')) return;
      // A card that lies there draws the next one by itself.
      if (document.querySelector('[role=dialog]')) return;
      event.preventDefault();
      event.stopPropagation();
      open(fieldFor(document.activeElement));
    };
    window.addEventListener('draw-card', asked);
    window.addEventListener('keydown', pressed, true);
    return () => {
      window.removeEventListener('draw-card', asked);
      window.removeEventListener('keydown', pressed, true);
    };
  }, []);
  return into ? <Card field={into.field} onClose={() => setInto(undefined)} /> : null;
}

function Card({ field, onClose }: { field: HTMLElement | null; onClose: () => void }) {
  const box = useRef<HTMLDivElement>(null);
  const [deck, setDeck] = useChoice<string>('deck', '');
  const [turn, setTurn] = useState(() => Number(localStorage.getItem(turnPlace)) || 0);
  const decks = useQuery({ queryKey: keys.decks, queryFn: () => ask(api.GET('/api/decks')) }).data?.decks ?? [];
  const named = decks.some((one) => one.name === deck) ? deck : '';
  const drawn = useQuery({
    queryKey: keys.drawn(named, turn),
    queryFn: () => ask(api.GET('/api/decks/draw', { params: { query: { deck: named || undefined, turn } } })),
    placeholderData: (previous) => previous,
  });
  const card = drawn.data?.card;
  useEffect(() => {
    box.current?.focus();
  }, []);
  const another = () => {
    localStorage.setItem(turnPlace, String(turn + 1));
    setTurn(turn + 1);
  };
  const leave = () => {
    onClose();
    // An editor knows its place better than the browser does.
    if (field?.dispatchEvent(new CustomEvent('come-back', { cancelable: true }))) field.focus();
  };
  const use = () => {
    if (!card) return;
    onClose();
    if (field?.isConnected) putInto(field, card.text);
    void carryOut(done(api.POST('/api/decks/used', { body: { deck: card.deck, text: card.text, used: true } }))).then(
      () => queryClient.invalidateQueries({ queryKey: keys.decks }),
      () => undefined,
    );
  };
  return (
    <div
      ref={box}
      role="dialog"
      aria-label="A card"
      tabIndex={-1}
      onKeyDown={(event) => {
        if (event.key === 'Escape') leave();
        else if (isKey(event, 'all.draw')) another();
        else if (event.key === 'Enter' && event.target === box.current) use();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
      className="fixed bottom-[74px] left-1/2 z-40 w-[min(600px,94vw)] -translate-x-1/2 border border-manila-edge bg-manila px-6 py-4 shadow-lg outline-none"
    >
      <p className="flex flex-wrap items-baseline gap-x-4 text-[12.5px] text-manila-ink">
        <label>
          from{' '}
          <select
            aria-label="Which deck"
            value={named || card?.deck || ''}
            onChange={(event) => {
              setDeck(event.target.value);
              box.current?.focus();
            }}
            className="min-h-6 border-b border-manila-edge bg-transparent font-semibold text-ink"
          >
            {decks.map((one) => (
              <option key={one.name} value={one.name}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        {card && (
          <span className="figures">
            {card.left > 0 ? `${card.left} of ${card.of} not used yet` : `all ${card.of} were used; they come again`}
          </span>
        )}
        <Link to="/bench/ideas/decks" className="link ml-auto" onClick={onClose}>
          the decks
        </Link>
      </p>
      <p role="status" className="written mt-2 mb-3 min-h-14 text-[19px] leading-snug">
        {card ? card.text : drawn.data ? 'There is no card in this deck.' : ''}
      </p>
      <p className="flex flex-wrap items-center gap-3">
        <Button look="main" disabled={!card} onClick={use}>
          {field?.matches('.cm-content') ? 'Put it in as a remark' : 'Begin from it'} <Key>↵</Key>
        </Button>
        <Button onClick={another}>Another</Button>
        <Button look="quiet" onClick={leave}>
          Leave it <Key>Esc</Key>
        </Button>
      </p>
    </div>
  );
}

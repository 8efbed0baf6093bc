import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut } from '../../papers/notices';
import { GrowingText } from '../../capture/GrowingText';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';
import { useHeld } from '../../ui/useField';

type Deck = components['schemas']['Deck'];
type Card = Deck['cards'][number];

/** Decks of cards to draw from when nothing comes: the writer's to fill, tick, bring in and give out. */
export default function DecksPage() {
  const shown = useQuery({ queryKey: keys.decks, queryFn: () => ask(api.GET('/api/decks')) });
  // What is being changed is held in this browser until it is kept.
  const [held, setHeld] = useHeld('decks');
  const [error, setError] = useState('');
  useEffect(() => {
    document.title = 'Decks · Nachlass';
  }, []);
  if (shown.error) return <Failed error={shown.error} onRetry={() => void shown.refetch()} />;
  if (!shown.data) return <Loading what="Opening the decks" />;
  const { version, areReady } = shown.data;
  const decks = held ? (JSON.parse(held) as Deck[]) : shown.data.decks;
  const set = (next: readonly Deck[]) => setHeld(JSON.stringify(next));
  const change = (at: number, fields: Partial<Deck>) =>
    set(decks.map((deck, i) => (i === at ? { ...deck, ...fields } : deck)));
  const card = (at: number, nth: number, fields: Partial<Card>) =>
    change(at, { cards: decks[at]!.cards.map((one, i) => (i === nth ? { ...one, ...fields } : one)) });
  const keep = async (next: readonly Deck[], said: string) => {
    try {
      await carryOut(done(api.PUT('/api/decks', { body: { decks: [...next], version } })), said, true);
      setHeld('');
      setError('');
      await queryClient.invalidateQueries({ queryKey: keys.decks });
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1060px] px-9 py-7 max-md:px-4">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-3">
          <h1 className="written text-[30px] leading-tight font-semibold">Decks</h1>
          <span className="text-[13px] text-second">cards to draw from when nothing comes</span>
          <span className="ml-auto flex flex-wrap items-baseline gap-x-4 text-[13px] max-md:ml-0">
            <a href="/api/exports/decks.md" download className="link min-h-6">
              out as a list
            </a>
            {!areReady && (
              <button
                type="button"
                className="link min-h-6"
                onClick={() => void keep([], 'The decks papers begin with are back.')}
              >
                bring the ready ones back
              </button>
            )}
            <Link to="/bench/ideas" className="link">
              to the ideas
            </Link>
          </span>
        </header>
        {held && (
          <p className="sticky top-0 z-10 flex flex-wrap items-center gap-x-4 gap-y-1 border-y border-blue bg-wash px-2 py-1.5 text-[13px]">
            <span>What you changed is not kept yet.</span>
            <Button look="main" onClick={() => void keep(decks, 'The decks are kept.')}>
              Keep the decks
            </Button>
            <button type="button" className="link min-h-6" onClick={() => setHeld('')}>
              leave them as they were
            </button>
          </p>
        )}
        {error && (
          <p role="alert" className="pt-2 text-red">
            {error}
          </p>
        )}
        {decks.map((deck, at) => (
          <section key={at} aria-label={deck.name || 'A new deck'} className="mt-6">
            <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1">
              <input
                aria-label="Name of the deck"
                value={deck.name}
                placeholder="its name"
                onChange={(event) => change(at, { name: event.target.value })}
                className="label w-48 border-b border-transparent bg-transparent py-0.5 outline-none hover:border-hair focus:border-blue"
              />
              <span className="figures text-[12.5px] font-normal text-second">
                {deck.cards.length} {deck.cards.length === 1 ? 'card' : 'cards'},{' '}
                {deck.cards.filter((one) => one.isUsed).length} used
              </span>
              <span className="ml-auto flex gap-x-4 text-[12.5px] font-normal">
                {deck.cards.some((one) => one.isUsed) && (
                  <button
                    type="button"
                    className="link min-h-6"
                    onClick={() => change(at, { cards: deck.cards.map((one) => ({ ...one, isUsed: false })) })}
                  >
                    take all ticks away
                  </button>
                )}
                <button type="button" className="link min-h-6" onClick={() => set(decks.filter((_, i) => i !== at))}>
                  take the deck away
                </button>
              </span>
            </h2>
            <ul>
              {deck.cards.map((one, nth) => (
                <li key={nth} className="flex items-baseline gap-3 border-b border-rule py-1">
                  <input
                    type="checkbox"
                    aria-label={`Used: ${one.text}`}
                    checked={one.isUsed}
                    onChange={() => card(at, nth, { isUsed: !one.isUsed })}
                    className="ml-1 h-3.5 w-3.5 translate-y-0.5 accent-(--blue)"
                  />
                  <div className={`min-w-0 flex-1 ${one.isUsed ? 'text-second' : ''}`}>
                    <GrowingText
                      label={`Card ${nth + 1} of ${deck.name}`}
                      value={one.text}
                      least={26}
                      onChange={(text) => card(at, nth, { text: text.replace(/\s*\n\s*/g, ' ') })}
                    />
                  </div>
                  <button
                    type="button"
                    aria-label={`Take “${one.text}” away`}
                    title="Take it away"
                    className="min-h-7 min-w-7 text-second hover:text-red"
                    onClick={() => change(at, { cards: deck.cards.filter((_, i) => i !== nth) })}
                  >
                    ×
                  </button>
                </li>
              ))}
            </ul>
            <button
              type="button"
              className="link mt-1 ml-8 min-h-6 text-[12.5px]"
              onClick={() => change(at, { cards: [...deck.cards, { text: '', isUsed: false }] })}
            >
              another card
            </button>
          </section>
        ))}
        <p className="mt-6">
          <Button onClick={() => set([...decks, { name: '', cards: [{ text: '', isUsed: false }] }])}>
            A new deck
          </Button>
        </p>
        <BringIn disabled={held !== ''} />
      </div>
    </div>
  );
}

/** Cards from a list: typed, pasted or from a file. */
function BringIn({ disabled }: { disabled: boolean }) {
  const [text, setText] = useHeld('decks.list');
  const [error, setError] = useState('');
  const bring = async () => {
    try {
      await carryOut(
        done(api.POST('/api/decks/list', { body: { text, deck: null } })),
        'The cards are in the decks.',
        true,
      );
      setText('');
      setError('');
      await queryClient.invalidateQueries({ queryKey: keys.decks });
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <section aria-label="Bring cards in" className="mt-9">
      <h2 className="label border-b border-ink pb-1">Bring cards in</h2>
      <textarea
        aria-label="A list of cards"
        rows={5}
        value={text}
        placeholder={'## Name of a deck\nOne card on each line'}
        onChange={(event) => setText(event.target.value)}
        className="written mt-2 w-full border border-hair bg-transparent px-3 py-2 text-[15px] outline-none placeholder:italic focus:border-blue"
      />
      {error && (
        <p role="alert" className="text-red">
          {error}
        </p>
      )}
      <p className="mt-2 flex flex-wrap items-center gap-4 text-[12.5px] text-second">
        <Button disabled={!text.trim() || disabled} onClick={() => void bring()}>
          Bring them in
        </Button>
        <label className="link min-h-6 cursor-pointer">
          from a file
          <input
            type="file"
            accept=".md,.txt,text/plain,text/markdown"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              if (file && file.size <= 500_000) void file.text().then(setText);
              else if (file) setError('A list has at most 500,000 characters.');
            }}
          />
        </label>
        {disabled
          ? 'Keep what you changed first.'
          : 'Each line is a card; a heading begins a deck. Cards that are there already are left out.'}
      </p>
    </section>
  );
}

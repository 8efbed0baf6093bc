import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, ask, type Hit, type SaidAlready } from '../api/client';
import { keys } from '../api/queries';
import { complete, QueryHints } from '../text/QueryHints';
import { useUnderstood } from '../text/understood';
import { nearDay } from '../ui/dates';
import { Found } from '../ui/Found';
import { KeyOf } from '../ui/KeyOf';
import { Mark } from '../ui/Mark';
import { useKeys } from './keys';
import { screens } from './screens';

type Row = { id: string; address: string; hit?: Hit; said?: SaidAlready; screen?: string };

/** Finds everything, and goes to a number, a screen or a topic. */
export function FindBox() {
  const [typed, setTyped] = useState('');
  const [asked, setAsked] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const [caret, setCaret] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();

  useEffect(() => {
    const timer = setTimeout(() => setAsked(typed.trim()), 90);
    return () => clearTimeout(timer);
  }, [typed]);
  useKeys({
    'all.find': () => {
      input.current?.focus();
      input.current?.select();
    },
  });

  const understood = useUnderstood(typed, caret, open);
  const isWrong = understood.isCurrent && understood.problem;
  const found = useQuery({
    queryKey: keys.find(asked),
    queryFn: () => ask(api.GET('/api/find', { params: { query: { query: asked } } })),
    enabled: open && asked !== '' && !isWrong,
    retry: false,
    placeholderData: (previous) => previous,
  });
  const query = typed.trim().toLowerCase();
  const recent = useQuery({
    queryKey: keys.recent,
    queryFn: () => ask(api.GET('/api/find/recent')),
    enabled: open && query === '',
  }).data;
  const hits = (query ? found.data?.hits : recent) ?? [];
  const rowOf = (hit: Hit, nth: number): Row => ({
    id: `${hit.thing.kind}-${hit.thing.number}-${nth}`,
    address: hit.address,
    hit,
  });
  // A thing whose name it is comes before any text that says it.
  const rows: Row[] = [
    ...screens
      .filter((screen) => query !== '' && screen.name.toLowerCase().startsWith(query))
      .map((screen) => ({ id: screen.path, address: screen.path, screen: screen.name })),
    ...[...query.matchAll(/^r ?([1-9]\d{0,5})$/g)].map(([, number]) => ({
      id: `release-${number}`,
      address: `/catalogue/${number}`,
      screen: `Release R ${number}`,
    })),
    ...hits.filter((hit) => hit.isNamed).map(rowOf),
    ...((query ? found.data?.covered : undefined) ?? []).map((said) => ({
      id: `said-${said.piece}`,
      address: `/bench/${said.piece}`,
      said,
    })),
    ...hits.map(rowOf).filter((row) => !row.hit?.isNamed),
  ];
  const chosen = Math.min(at, rows.length - 1);

  const take = (taken: { text: string; caret: number }) => {
    setTyped(taken.text);
    setCaret(taken.caret);
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(taken.caret, taken.caret);
    });
  };
  const go = (row: Row | undefined) => {
    if (!row) return;
    setOpen(false);
    setTyped('');
    input.current?.blur();
    void navigate(row.address);
  };

  return (
    <div
      className="relative w-[236px] max-md:w-auto max-md:min-w-0 max-md:flex-1"
      onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && setOpen(false)}
    >
      <input
        ref={input}
        role="combobox"
        aria-expanded={open && rows.length > 0}
        aria-controls="found"
        aria-activedescendant={open && rows[chosen] ? `found-${rows[chosen].id}` : undefined}
        aria-label="Find, or go to a number"
        placeholder="Find, or go to a number"
        autoComplete="off"
        spellCheck={false}
        value={typed}
        onFocus={() => setOpen(true)}
        onChange={(event) => {
          setTyped(event.target.value);
          setCaret(event.target.selectionStart ?? event.target.value.length);
          setAt(0);
          setOpen(true);
        }}
        onKeyDown={async (event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(rows.length - 1, chosen + 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(0, chosen - 1));
          else if (event.key === 'Tab' && !event.shiftKey && understood.isCurrent && understood.completions?.[0])
            take(complete(typed, understood.completions[0]));
          else if (event.key === 'Escape') {
            setTyped('');
            setOpen(false);
            input.current?.blur();
          } else if (event.key === 'Enter') {
            event.preventDefault();
            if (query === '' || (asked === typed.trim() && found.isSuccess && !found.isPlaceholderData))
              return go(rows[chosen]);
            // Typed faster than answered: ask for exactly this, then go.
            const text = typed.trim();
            const screen = rows[chosen]?.screen ? rows[chosen] : undefined;
            const answer =
              screen || !text
                ? undefined
                : await ask(api.GET('/api/find', { params: { query: { query: text } } })).catch(() => undefined);
            const first =
              answer?.hits.find((hit) => hit.isNamed)?.address ??
              (answer?.covered[0] ? `/bench/${answer.covered[0].piece}` : answer?.hits[0]?.address);
            go(screen ?? (first ? { id: '', address: first } : undefined));
          } else return;
          event.preventDefault();
        }}
        className="h-8 w-full rounded-key border border-hair bg-quiet pr-9 pl-2.5 text-[13px] outline-none focus:border-blue focus:bg-sheet"
      />
      <span className="pointer-events-none absolute top-[6px] right-2">
        <KeyOf act="all.find" />
      </span>
      {open && (query !== '' || rows.length > 0) && (
        <div className="absolute right-0 z-50 mt-1 max-h-[70vh] w-[min(520px,calc(100vw-1.5rem))] overflow-auto border border-hair bg-sheet py-1 shadow-xl">
          {query === '' && <p className="label px-3 pt-1.5 pb-1 text-second">Changed last</p>}
          <div id="found" role="listbox" aria-label={query === '' ? 'Changed last' : 'Found'}>
            {rows.map((row, index) => (
              <button
                key={row.id}
                id={`found-${row.id}`}
                type="button"
                role="option"
                aria-selected={index === chosen}
                tabIndex={-1}
                onMouseDown={(event) => event.preventDefault()}
                onMouseMove={() => setAt(index)}
                onClick={() => go(row)}
                className={`flex w-full gap-3 px-3 py-2 text-left ${index === chosen ? 'bg-wash' : ''}`}
              >
                {row.said ? (
                  <SaidRow said={row.said} />
                ) : row.hit ? (
                  <HitRow hit={row.hit} />
                ) : (
                  <span className="font-semibold">Go to {row.screen}</span>
                )}
              </button>
            ))}
          </div>
          {rows.length === 0 && (
            <p className="px-3 py-2 text-second">
              {isWrong
                ? 'Nothing was looked for yet.'
                : found.isFetching || asked !== typed.trim()
                  ? 'Looking…'
                  : 'Nothing has these words.'}
            </p>
          )}
          {query !== '' && (found.data?.total ?? 0) > (found.data?.hits.length ?? 0) && (
            <button
              type="button"
              tabIndex={-1}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => go({ id: '', address: `/library?state=all&query=${encodeURIComponent(typed.trim())}` })}
              className="link w-full px-3 py-2 text-left text-[12.5px]"
            >
              all {(found.data?.total ?? 0) > 1000 ? 'of them, more than 1,000,' : found.data?.total} in the library
            </button>
          )}
          {/* Below what was found: it comes and goes with every letter. */}
          {query !== '' && (
            <QueryHints
              typed={typed}
              understood={understood}
              onTake={(text, caretAt) => take({ text, caret: caretAt })}
              className="sticky bottom-0 border-t border-rule bg-sheet px-3 py-2"
            />
          )}
        </div>
      )}
    </div>
  );
}

/** Where it has been said already: when, where, in which words. */
function SaidRow({ said }: { said: SaidAlready }) {
  return (
    <>
      <span className="flex w-8 shrink-0 flex-col items-center gap-0.5 pt-0.5 text-second">
        <Mark kind="piece" size={14} />
        <span className="narrow figures text-[11px]">P {said.piece}</span>
      </span>
      <span className="min-w-0 flex-1">
        <span className="text-[12px] font-semibold text-done">
          {said.outOn ? `You said this ${nearDay(said.outOn)}` : `In a draft of yours (${said.stage})`}
        </span>
        <span className="written block text-[14px] leading-snug font-semibold">{said.title}</span>
        <span className="written mt-0.5 line-clamp-3 block text-[13px] leading-snug text-second">
          <Worded text={said.saying.passage} words={said.saying.words} />
        </span>
      </span>
    </>
  );
}

/** A passage with the words that were asked for marked. */
function Worded({ text, words }: { text: string; words: readonly string[] }) {
  const stems = words.map((word) => word.toLowerCase().slice(0, Math.max(4, word.length - 3)));
  return (
    <>
      {text
        .split(/(\p{L}+)/u)
        .map((part, at) =>
          stems.some((stem) => part.toLowerCase().startsWith(stem)) ? <mark key={at}>{part}</mark> : part,
        )}
    </>
  );
}

function HitRow({ hit }: { hit: Hit }) {
  const { kind, number } = hit.thing;
  return (
    <>
      <span className="flex w-8 shrink-0 flex-col items-center gap-0.5 pt-0.5 text-second">
        <Mark kind={kind === 'slip' ? 'note' : kind} size={14} />
        {kind !== 'topic' && kind !== 'day' && (
          <span className="narrow figures text-[11px]">{kind === 'piece' ? `P ${number}` : number}</span>
        )}
      </span>
      <span className="min-w-0 flex-1">
        <span className="written line-clamp-2 text-[14px] leading-snug">
          {kind === 'slip' && hit.excerpt ? <Found text={hit.excerpt} /> : hit.title}
        </span>
        {hit.excerpt && kind !== 'slip' && kind !== 'topic' && (
          <span className="line-clamp-1 text-[12px] text-second">
            <Found text={hit.excerpt} />
          </span>
        )}
      </span>
      <span className="narrow shrink-0 text-[11.5px] text-faint">{hit.note}</span>
    </>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, ask, type Hit } from '../api/client';
import { keys } from '../api/queries';
import { Found } from '../ui/Found';
import { Key } from '../ui/Key';
import { Mark } from '../ui/Mark';
import { useKeys } from './keys';
import { screens } from './screens';

type Row = { id: string; address: string; hit?: Hit; screen?: string };

/** Finds everything, and goes to a number, a screen or a topic. */
export function FindBox() {
  const [typed, setTyped] = useState('');
  const [asked, setAsked] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();

  useEffect(() => {
    const timer = setTimeout(() => setAsked(typed.trim()), 90);
    return () => clearTimeout(timer);
  }, [typed]);
  useKeys({
    '/': () => {
      input.current?.focus();
      input.current?.select();
    },
  });

  const found = useQuery({
    queryKey: keys.find(asked),
    queryFn: () => ask(api.GET('/api/find', { params: { query: { query: asked } } })),
    enabled: open && asked !== '',
    placeholderData: (previous) => previous,
  });
  const query = typed.trim().toLowerCase();
  const rows: Row[] = query
    ? [
        ...screens
          .filter((screen) => screen.name.toLowerCase().startsWith(query))
          .map((screen) => ({ id: screen.path, address: screen.path, screen: screen.name })),
        ...(found.data ?? []).map((hit) => ({
          id: `${hit.thing.kind}-${hit.thing.number}`,
          address: hit.address,
          hit,
        })),
      ]
    : [];
  const chosen = Math.min(at, rows.length - 1);

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
          setAt(0);
          setOpen(true);
        }}
        onKeyDown={async (event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(rows.length - 1, chosen + 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(0, chosen - 1));
          else if (event.key === 'Escape') {
            setTyped('');
            setOpen(false);
            input.current?.blur();
          } else if (event.key === 'Enter') {
            event.preventDefault();
            if (asked === typed.trim() && !found.isPlaceholderData) return go(rows[chosen]);
            // Typed faster than answered: ask for exactly this, then go.
            const text = typed.trim();
            const screen = rows[chosen]?.screen ? rows[chosen] : undefined;
            const [hit] =
              screen || !text ? [] : await ask(api.GET('/api/find', { params: { query: { query: text } } }));
            go(screen ?? (hit && { id: '', address: hit.address }));
          } else return;
          event.preventDefault();
        }}
        className="h-8 w-full rounded-key border border-hair bg-quiet pr-9 pl-2.5 text-[13px] outline-none focus:border-blue focus:bg-sheet"
      />
      <span className="pointer-events-none absolute top-[6px] right-2">
        <Key>/</Key>
      </span>
      {open && query && (
        <div
          id="found"
          role="listbox"
          aria-label="Found"
          className="absolute right-0 z-50 mt-1 max-h-[70vh] w-[min(460px,calc(100vw-1.5rem))] overflow-auto border border-hair bg-sheet py-1 shadow-xl"
        >
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
              {row.hit ? <HitRow hit={row.hit} /> : <span className="font-semibold">Go to {row.screen}</span>}
            </button>
          ))}
          {rows.length === 0 && (
            <p className="px-3 py-2 text-second">
              {found.isFetching || asked !== typed.trim() ? 'Looking…' : 'Nothing has these words.'}
            </p>
          )}
        </div>
      )}
    </div>
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

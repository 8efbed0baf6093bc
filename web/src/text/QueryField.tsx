import { useRef, useState, type ReactNode } from 'react';
import { api, ask } from '../api/client';
import { complete, QueryHints } from './QueryHints';
import { useUnderstood } from './understood';

/** A field for a query with its reading and completions; `onAsk` gets it only once it can be read. */
export function QueryField({
  label,
  placeholder,
  value,
  onChange,
  after,
  autoFocus = false,
}: {
  label: string;
  placeholder?: string;
  value: string;
  onChange: (typed: string) => void;
  after?: ReactNode;
  autoFocus?: boolean;
}) {
  const [caret, setCaret] = useState(value.length);
  const [focused, setFocused] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const understood = useUnderstood(value, caret);
  const take = (text: string, at: number) => {
    onChange(text);
    setCaret(at);
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(at, at);
    });
  };
  const first = understood.isCurrent && focused ? understood.completions?.[0] : undefined;
  /** Tab pressed faster than the server answered: it is asked for exactly this, and the first completion is taken. */
  const takeFirst = async () => {
    const answer = await ask(api.GET('/api/query', { params: { query: { text: value, caret } } })).catch(
      () => undefined,
    );
    const offered = answer?.completions[0];
    if (!offered || input.current?.value !== value) return;
    const taken = complete(value, offered);
    take(taken.text, taken.caret);
  };
  return (
    <div>
      <div className="flex items-center gap-3">
        <input
          ref={input}
          autoFocus={autoFocus}
          aria-label={label}
          aria-invalid={understood.isCurrent && !!understood.problem}
          placeholder={placeholder}
          spellCheck={false}
          autoComplete="off"
          value={value}
          onFocus={() => setFocused(true)}
          onBlur={() => setFocused(false)}
          onSelect={(event) => setCaret(event.currentTarget.selectionStart ?? value.length)}
          onChange={(event) => {
            onChange(event.target.value);
            setCaret(event.target.selectionStart ?? event.target.value.length);
          }}
          onKeyDown={(event) => {
            if (event.key === 'Tab' && !event.shiftKey && value !== '' && !understood.isCurrent) {
              event.preventDefault();
              void takeFirst();
            } else if (event.key === 'Tab' && !event.shiftKey && first) {
              event.preventDefault();
              const taken = complete(value, first);
              take(taken.text, taken.caret);
            }
            if (event.key === 'Escape') {
              if (value) onChange('');
              else event.currentTarget.blur();
            }
          }}
          className="written min-w-0 flex-1 border-b border-ink bg-transparent py-1 text-[16px] outline-none focus:border-blue"
        />
        {after}
      </div>
      {/* Room for a reading and a line of completions is there from the start: nothing below may move while a hand is on its way. */}
      <div className="mt-1 h-[42px] overflow-y-auto">
        <QueryHints
          typed={value}
          understood={focused ? understood : { ...understood, completions: [] }}
          onTake={take}
        />
      </div>
    </div>
  );
}

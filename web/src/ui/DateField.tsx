import { useEffect, useId, useRef, useState } from 'react';
import { api, ask } from '../api/client';
import { dateShown } from './dates';

/** The day that was written, in whatever way people write one; undefined when it is none. */
export const readDate = (text: string): Promise<string | undefined> =>
  ask(api.GET('/api/dates', { params: { query: { text } } })).then((read) => read.day ?? undefined);

/** A date, written as dates are everywhere here, and read as people write them; a calendar beside it. */
export function DateField({
  label,
  value,
  onChange,
  empty = 'no date',
  needed = false,
  earliest,
  autoFocus = false,
  onLeave,
  className = '',
}: {
  label: string;
  value: string | null;
  onChange: (day: string | null) => void;
  /** Said while there is none. */
  empty?: string;
  /** Whether there has to be one. */
  needed?: boolean;
  /** The first day that can be. */
  earliest?: string;
  autoFocus?: boolean;
  onLeave?: () => void;
  className?: string;
}) {
  const [typed, setTyped] = useState<string>();
  const [wrong, setWrong] = useState('');
  const calendar = useRef<HTMLInputElement>(null);
  const about = useId();
  const shown = typed ?? (value ? dateShown(value) : '');

  const keep = async () => {
    const text = typed?.trim();
    if (text === undefined) return true;
    if (text === '' && needed) setWrong('A date is needed here.');
    else {
      const day = text === '' ? null : await readDate(text).catch(() => undefined);
      if (day === undefined)
        setWrong(`“${text}” is no date that can be read. Write 3 Dec, 2026-12-03, Friday or in 2 weeks.`);
      else if (day !== null && earliest && day < earliest)
        setWrong(`${dateShown(day)} is before ${dateShown(earliest)}.`);
      else {
        setTyped(undefined);
        setWrong('');
        if (day !== value) onChange(day);
        return true;
      }
    }
    return false;
  };

  // Whoever presses the form's button right after typing means the day that stands there: the form waits until it has been read.
  const text = useRef<HTMLInputElement>(null);
  const reading = useRef(keep);
  useEffect(() => {
    reading.current = keep;
  });
  const isUnread = typed !== undefined;
  useEffect(() => {
    const form = text.current?.form;
    if (!form || !isUnread) return;
    const wait = (event: SubmitEvent) => {
      event.preventDefault();
      event.stopPropagation();
      void reading.current().then((isKept) => isKept && setTimeout(() => form.requestSubmit()));
    };
    form.addEventListener('submit', wait, { capture: true });
    return () => form.removeEventListener('submit', wait, { capture: true });
  }, [isUnread]);

  return (
    <span className={`relative inline-flex flex-wrap items-baseline ${className}`}>
      <input
        ref={text}
        aria-label={label}
        aria-invalid={wrong !== ''}
        aria-describedby={wrong ? about : undefined}
        autoFocus={autoFocus}
        value={shown}
        placeholder={empty}
        autoComplete="off"
        spellCheck={false}
        size={Math.max(9, shown.length || empty.length)}
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          setWrong('');
        }}
        onBlur={() => void keep().then((isKept) => isKept && onLeave?.())}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            // The form around it, if there is one, is sent with what was read.
            event.preventDefault();
            const form = event.currentTarget.form;
            void keep().then((isKept) => isKept && (form ? setTimeout(() => form.requestSubmit()) : onLeave?.()));
          } else if (event.key === 'Escape' && typed !== undefined) {
            event.stopPropagation();
            setTyped(undefined);
            setWrong('');
          } else if (event.key === 'Escape') onLeave?.();
        }}
        className="min-w-0 border-b border-hair bg-transparent py-0.5 outline-none placeholder:text-second focus:border-blue"
      />
      <button
        type="button"
        aria-label={`${label}: choose in a calendar`}
        title="Choose in a calendar"
        // The field keeps the cursor, so that it does not leave before a day is chosen.
        onMouseDown={(event) => event.preventDefault()}
        onClick={() => calendar.current?.showPicker?.()}
        className="relative min-h-[24px] min-w-[24px] text-second hover:text-blue"
      >
        <span aria-hidden>▾</span>
      </button>
      <input
        ref={calendar}
        type="date"
        tabIndex={-1}
        aria-hidden
        min={earliest}
        value={value ?? ''}
        onChange={(event) => {
          if (!event.target.value) return;
          setTyped(undefined);
          setWrong('');
          onChange(event.target.value);
        }}
        className="pointer-events-none absolute right-0 bottom-0 h-px w-px opacity-0"
      />

      {wrong && (
        <span id={about} role="alert" className="basis-full text-[12px] whitespace-normal text-red">
          {wrong}
        </span>
      )}
    </span>
  );
}

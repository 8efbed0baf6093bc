import { useCallback, useEffect, useRef, useState } from 'react';
import { api, ask, done } from '../api/client';
import type { components } from '../api/schema';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { isKey, keyOf, keysShown } from '../papers/ownKeys';
import { KeyOf } from '../ui/KeyOf';
import { TwoTexts } from '../ui/TwoTexts';
import { minutes as shownAs, today } from '../ui/dates';
import { useChoice } from '../ui/useChoice';
import { useKeys } from '../papers/keys';
import { drawCard } from '../ideas/decks/drawing';
import { SelectionCount } from './SelectionCount';
import { useAutosave } from '../ui/useAutosave';
import { GrowingText } from './GrowingText';

const wordsIn = (text: string) => text.split(/\s+/).filter(Boolean).length;

/**
 * The place to write freely; it saves itself. With a number of minutes, time begins at the first key and everything else
 * steps back until it is over. What is selected, or the paragraph the cursor is in, can be lifted out as a slip.
 */
export function DaySheet({
  day,
  sheet,
  heading,
  minutes,
}: {
  day: string;
  sheet: components['schemas']['DaySheet'];
  heading: string;
  minutes: number | null;
}) {
  const save = useCallback(
    (text: string, version: number) =>
      ask(api.PUT('/api/desk/{day}/sheet', { params: { path: { day } }, body: { text, version } })),
    [day],
  );
  const { text, change, state, clash, settle, origin, error, flush } = useAutosave(
    `nachlass.sheet.${day}`,
    sheet,
    save,
  );
  const area = useRef<HTMLTextAreaElement>(null);
  const [selected, setSelected] = useState('');
  const [atOnce, setAtOnce] = useChoice<'yes' | 'no'>('write.atOnce', 'no');
  const begin = useRef(atOnce === 'yes' && day === today());
  useKeys({ 'desk.write': () => toEnd(area.current) });
  useEffect(() => {
    // Not where somebody came from another place of the page on purpose.
    if (begin.current && document.activeElement === document.body) toEnd(area.current);
    begin.current = false;
  }, []);
  const lifted = useRef(sheet.text);
  const clock = useStint(minutes);

  // In the row of the saves, or what is typed meanwhile would clash with it.
  const also = (more: { left?: boolean; idea?: string }, said: string) =>
    flush((text, version) =>
      carryOut(
        done(api.PUT('/api/desk/{day}/sheet', { params: { path: { day } }, body: { text, version, ...more } })),
        said,
      ),
    ).then(
      () => queryClient.invalidateQueries().then(() => true),
      () => false,
    );
  const leave = () => {
    clock.go();
    // A marked paragraph becomes a slip, a line with an empty box a move.
    const before = lifted.current;
    lifted.current = text;
    if (/#|[-*+] \[[ xX]\] /.test(text) && text !== before)
      void also({ left: true }, '').then((isLifted) => {
        if (!isLifted) lifted.current = before;
      });
  };
  const lift = () => {
    const field = area.current;
    if (!field) return;
    const idea = selected || paragraphAt(text, field.selectionStart);
    if (idea) void also({ idea }, 'Lifted out; it waits in Sift.');
  };

  return (
    <>
      <div className="mb-1 flex min-h-[20px] flex-wrap items-baseline gap-x-3">
        <h2 className="label text-second">{heading || 'Loose writing'}</h2>
        {clock.running && (
          <>
            <span
              role="timer"
              className={`figures text-[13px] font-bold ${clock.left > 0 ? 'text-blue' : 'text-done'}`}
              aria-label={clock.left > 0 ? `${shownAs(clock.left)} left` : 'Time is up'}
            >
              {clock.left > 0 ? shownAs(clock.left) : 'time is up; go on or stop'}
            </span>
            <span aria-hidden className="h-[4px] w-[150px] self-center bg-hair/60">
              <span
                className={`block h-full ${clock.left > 0 ? 'bg-blue' : 'bg-done'}`}
                style={{ width: `${100 * Math.min(1, clock.share)}%` }}
              />
            </span>
          </>
        )}
        <span className="figures text-[12px] text-second">
          {text.trim() !== '' && `${wordsIn(text)} ${wordsIn(text) === 1 ? 'word' : 'words'}`}
          {!clock.running && minutes !== null && text.trim() === '' && `${minutes} minutes from the first key`}
        </span>
        {text.trim() !== '' && minutes !== null && !clock.running && (
          <button
            type="button"
            className="link text-[12px]"
            onClick={() => {
              clock.begin();
              area.current?.focus();
            }}
          >
            {minutes} minutes more
          </button>
        )}
        {selected && <SelectionCount text={selected} />}
        <button
          type="button"
          className="link text-[12px]"
          title={`A prompt, a shape, a constraint or a question from your decks (${keysShown(keyOf('all.draw'))})`}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => drawCard(area.current)}
        >
          draw a card
        </button>
        <label className="flex items-baseline gap-1.5 text-[12px] text-second">
          <input
            type="checkbox"
            checked={atOnce === 'yes'}
            onChange={(event) => setAtOnce(event.target.checked ? 'yes' : 'no')}
          />
          cursor here when the Desk opens
        </label>
        {text.trim() !== '' && (
          <button
            type="button"
            className="link ml-auto flex items-center gap-2 text-[12px]"
            title={selected ? 'The selected words become a slip' : 'The paragraph the cursor is in becomes a slip'}
            onMouseDown={(event) => event.preventDefault()}
            onClick={lift}
          >
            {selected ? 'lift out the selection' : 'lift out the paragraph'}{' '}
            <span className="max-md:hidden">
              <KeyOf act="desk.lift" />
            </span>
          </button>
        )}
      </div>
      <GrowingText
        label={heading || 'Loose writing'}
        field={area}
        value={text}
        onChange={(next) => {
          // A text that is only mended is no stint.
          if (text.trim() === '') clock.begin();
          change(next);
        }}
        onSelect={(event) => {
          const { selectionStart, selectionEnd, value } = event.currentTarget;
          setSelected(value.slice(selectionStart, selectionEnd).trim());
        }}
        onFocus={clock.come}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === 'Escape') event.currentTarget.blur();
          if (isKey(event, 'desk.lift')) {
            event.preventDefault();
            lift();
          }
        }}
        placeholder="Write without stopping. Nobody reads this but you."
      />
      {state === 'kept' && <p className="text-[12px] text-red">{error}</p>}
      {clash && <TwoTexts mine={text} theirs={clash.text} origin={origin()} onChoose={settle} />}
    </>
  );
}

/** Puts the cursor behind what stands there. */
function toEnd(field: HTMLTextAreaElement | null): void {
  field?.focus();
  field?.setSelectionRange(field.value.length, field.value.length);
}

/** The paragraph around a place in a text. */
function paragraphAt(text: string, at: number): string {
  const from = text.lastIndexOf('\n\n', Math.max(0, at - 1));
  const to = text.indexOf('\n\n', at);
  return text.slice(from < 0 ? 0 : from + 2, to < 0 ? undefined : to).trim();
}

/** A stint of free writing: begins with the first key on an empty sheet or when asked, and keeps everything else quiet. */
function useStint(minutes: number | null) {
  const [begun, setBegun] = useState<number>();
  const [now, setNow] = useState(0);
  const [here, setHere] = useState(false);
  useEffect(() => {
    if (begun === undefined) return;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [begun]);
  const seconds = (minutes ?? 0) * 60;
  const past = begun === undefined ? 0 : Math.max(0, (now - begun) / 1000);
  const left = Math.max(0, Math.ceil(seconds - past));
  const running = begun !== undefined;
  const quiet = running && here && left > 0;
  useEffect(() => {
    if (!quiet) return;
    document.documentElement.dataset['quiet'] = 'on';
    return () => void delete document.documentElement.dataset['quiet'];
  }, [quiet]);
  return {
    running,
    left,
    share: seconds ? past / seconds : 0,
    begin: () => {
      if (minutes === null || running) return;
      setBegun(Date.now());
      setNow(Date.now());
    },
    come: () => setHere(true),
    /** Leaving brings the rest of the page back; a stint whose time is over ends with it. */
    go: () => {
      setHere(false);
      if (left === 0) setBegun(undefined);
    },
  };
}

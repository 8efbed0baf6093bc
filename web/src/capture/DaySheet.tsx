import { useCallback, useEffect, useRef } from 'react';
import { api, ask } from '../api/client';
import type { components } from '../api/schema';
import { useAutosave } from '../ui/useAutosave';
import { TwoTexts } from '../ui/TwoTexts';

const states = { saved: '', typing: '', saving: 'saving…', kept: 'kept in this browser', clash: 'changed elsewhere' };

/** The place to write freely; it saves itself. */
export function DaySheet({ day, sheet }: { day: string; sheet: components['schemas']['DaySheet'] }) {
  const save = useCallback(
    (text: string, version: number) =>
      ask(api.PUT('/api/desk/{day}/sheet', { params: { path: { day } }, body: { text, version } })),
    [day],
  );
  const { text, change, state, clash, settle, error } = useAutosave(`nachlass.sheet.${day}`, sheet, save);
  const area = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    const field = area.current;
    if (!field) return;
    field.style.height = 'auto';
    field.style.height = `${Math.max(76, field.scrollHeight)}px`;
  }, [text]);
  const words = text.split(/\s+/).filter(Boolean).length;

  return (
    <>
      <div className="mb-1 flex items-baseline gap-3">
        <h2 className="label text-second">Loose writing</h2>
        <span className="figures text-[12px] text-second">
          {words > 0 && `${words} ${words === 1 ? 'word' : 'words'}`}
        </span>
        <span
          className={`text-[12px] ${state === 'kept' || state === 'clash' ? 'text-red' : 'text-faint'}`}
          role="status"
        >
          {states[state]}
        </span>
      </div>
      <textarea
        ref={area}
        aria-label="Loose writing"
        value={text}
        onChange={(event) => change(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && event.currentTarget.blur()}
        placeholder="Write without stopping. Nobody reads this but you."
        className="written block w-full max-w-[46rem] resize-none bg-transparent text-[16.5px] leading-[1.6] outline-none placeholder:italic"
      />
      {state === 'kept' && <p className="text-[12px] text-red">{error}</p>}
      {clash && <TwoTexts mine={text} theirs={clash.text} onChoose={settle} />}
    </>
  );
}

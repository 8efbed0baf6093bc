import { isKey } from '../papers/ownKeys';
import { useEffect, useRef, useState } from 'react';
import { api, done, type Slip } from '../api/client';
import type { components } from '../api/schema';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Steps } from '../ui/Steps';
import { today } from '../ui/dates';
import { SlipLine } from './SlipLine';

type Block = components['schemas']['SheetBlock'];
type Line = { text: string; title: string; words: string; pull: number | null; effort: number | null };

const blank: Line = { text: '', title: '', words: '', pull: null, effort: null };

/** Ruled lines for ideas. A line becomes a slip when it is left; leaving some empty is fine. */
export function RuledLines({ day, block, slips }: { day: string; block: Block; slips: readonly Slip[] }) {
  // A day that is over asks for nothing more, and still takes what is remembered of it.
  const left = day < today() ? 1 : Math.max(1, (block.size ?? 1) - slips.length);
  return (
    <div>
      {slips.map((slip) => (
        <SlipLine key={slip.number} slip={slip} />
      ))}
      {Array.from({ length: left }, (_, at) => (
        <EmptyLine
          key={slips.length + at}
          place={at === 0 ? `nachlass.line.${day}.${block.block}` : null}
          day={day}
          block={block}
          name={`${block.heading || 'Idea'}, line ${slips.length + at + 1}`}
        />
      ))}
    </div>
  );
}

function EmptyLine({
  day,
  block,
  name,
  place,
}: {
  day: string;
  block: Block;
  name: string;
  /** Where the browser keeps what is typed until it is a slip. */
  place: string | null;
}) {
  const [line, setLine] = useState<Line>(() => {
    const kept = place && localStorage.getItem(place);
    return kept ? (JSON.parse(kept) as Line) : blank;
  });
  useEffect(() => {
    if (place && line.text) localStorage.setItem(place, JSON.stringify(line));
    else if (place) localStorage.removeItem(place);
  }, [place, line]);
  const [open, setOpen] = useState(false);
  const [error, setError] = useState('');
  const busy = useRef(false);
  const row = useRef<HTMLDivElement>(null);
  const set = (change: Partial<Line>) => setLine((before) => ({ ...before, ...change }));

  const keep = async () => {
    if (busy.current || !line.text.trim()) return;
    busy.current = true;
    try {
      await carryOut(
        done(
          api.POST('/api/desk/{day}/blocks/{block}/lines', {
            params: { path: { day, block: block.block } },
            body: line,
          }),
        ),
        (slip) => `Slip ${slip.number} caught.`,
      );
      setLine(blank);
      setOpen(false);
      setError('');
      await queryClient.invalidateQueries();
    } catch (problem) {
      setError((problem as Error).message);
    } finally {
      busy.current = false;
    }
  };
  const next = () => {
    const fields = [...document.querySelectorAll<HTMLElement>('[data-ruled]')];
    fields[fields.indexOf(document.activeElement as HTMLElement) + 1]?.focus();
  };

  return (
    <div
      ref={row}
      // Where the cursor went is known a moment later; from field to field within the line nothing is left yet.
      onBlur={() => setTimeout(() => !row.current?.contains(document.activeElement) && void keep(), 100)}
      className="group py-[3px] shadow-[inset_0_-1px_var(--rule)] focus-within:shadow-[inset_0_-1px_var(--blue)]"
    >
      {open && (
        <input
          aria-label={`${name}: working title`}
          value={line.title}
          maxLength={300}
          onChange={(event) => set({ title: event.target.value })}
          placeholder="working title"
          className="written w-full bg-transparent py-1 text-[15px] font-semibold outline-none placeholder:font-normal placeholder:italic"
        />
      )}
      <div className="flex items-center gap-3">
        <input
          data-ruled
          aria-label={name}
          value={line.text}
          onChange={(event) => set({ text: event.target.value })}
          onKeyDown={(event) => {
            if (isKey(event, 'desk.title')) {
              event.preventDefault();
              setOpen(!open);
            } else if (event.key === 'Enter') {
              event.preventDefault();
              next();
              void keep();
            } else if (event.key === 'Escape') event.currentTarget.blur();
          }}
          placeholder="an idea, disliked or not"
          className="written min-w-0 flex-1 bg-transparent py-[5px] text-[16px] outline-none placeholder:text-transparent placeholder:italic focus:placeholder:text-faint"
        />
        {line.text && (
          <>
            <span className="flex items-center gap-1 text-[11px] text-second">
              pull <Steps label={`Pull of ${name}`} value={line.pull} onChange={(pull) => set({ pull })} />
            </span>
            <span className="flex items-center gap-1 text-[11px] text-second">
              effort <Steps label={`Effort of ${name}`} value={line.effort} onChange={(effort) => set({ effort })} />
            </span>
            <button
              type="button"
              aria-expanded={open}
              title="A working title and a few words (Alt Enter)"
              className="link text-[12px]"
              onClick={() => setOpen(!open)}
            >
              {open ? 'less' : 'more'}
            </button>
          </>
        )}
      </div>
      {open && (
        <textarea
          aria-label={`${name}: a few words`}
          rows={2}
          value={line.words}
          onChange={(event) => set({ words: event.target.value })}
          placeholder="a few words about it"
          className="written w-full resize-none bg-transparent py-1 text-[14.5px] text-second outline-none placeholder:italic"
        />
      )}
      {error && (
        <p role="alert" className="text-[12px] text-red">
          {error}
        </p>
      )}
    </div>
  );
}

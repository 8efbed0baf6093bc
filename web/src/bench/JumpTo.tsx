import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done, type MarkShown, type Section } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Dialog } from '../ui/Dialog';
import { KeyOf } from '../ui/KeyOf';
import { numbered } from './headings';

const none: readonly MarkShown[] = [];

/** The places of a piece that were marked to come back to. */
export const useMarks = (piece: number): readonly MarkShown[] =>
  useQuery({
    queryKey: keys.marks(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/marks', { params: { path: { number: String(piece) } } })),
  }).data ?? none;

type Target = { key: string; name: string; note: string; at: number; isSection: boolean; mark?: number };

/** Goes to a section or to a place that was marked, by a few letters of its name. */
export function JumpTo({
  piece,
  sections,
  open,
  onClose,
  onGo,
}: {
  piece: number;
  sections: readonly Section[];
  open: boolean;
  onClose: () => void;
  /** A section counted from 0, or a place in the draft. */
  onGo: (to: { section: number } | { place: number }) => void;
}) {
  return (
    <Dialog title="Go to" open={open} onClose={onClose}>
      {open && <List piece={piece} sections={sections} onClose={onClose} onGo={onGo} />}
    </Dialog>
  );
}

function List({
  piece,
  sections,
  onClose,
  onGo,
}: {
  piece: number;
  sections: readonly Section[];
  onClose: () => void;
  onGo: (to: { section: number } | { place: number }) => void;
}) {
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const marks = useMarks(piece);
  const numbers = numbered(sections.map((section) => section.depth));
  const all: Target[] = [
    ...marks.map((mark) => ({
      key: `m${mark.number}`,
      name: mark.words || '…',
      note: mark.section ? `marked in ${mark.section}` : 'marked',
      at: mark.at,
      isSection: false,
      mark: mark.number,
    })),
    ...sections.map((section, nth) => ({
      key: `s${section.number}`,
      name: section.title,
      note: numbers[nth]!,
      at: nth,
      isSection: true,
    })),
  ];
  const wanted = typed.trim().toLowerCase();
  const shown = all.filter(
    (one) => !wanted || one.name.toLowerCase().includes(wanted) || (one.isSection && one.note.startsWith(wanted)),
  );
  const here = Math.min(at, shown.length - 1);
  const go = (one: Target | undefined) => {
    if (!one) return;
    onClose();
    onGo(one.isSection ? { section: one.at } : { place: one.at });
  };
  return (
    <>
      <input
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls="jump-list"
        aria-activedescendant={shown[here] ? `jump-${shown[here].key}` : undefined}
        aria-label="Section or mark"
        value={typed}
        placeholder="a section, its number, or the words at a mark"
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            setAt(Math.max(0, Math.min(shown.length - 1, here + (event.key === 'ArrowDown' ? 1 : -1))));
          }
          if (event.key === 'Enter') {
            event.preventDefault();
            go(shown[here]);
          }
        }}
        className="written w-full border-b border-hair bg-transparent py-1.5 text-[17px] outline-none focus:border-blue"
      />
      <ul
        id="jump-list"
        role="listbox"
        aria-label="Sections and marks"
        tabIndex={-1}
        className="mt-2 max-h-[46vh] overflow-y-auto"
      >
        {shown.map((one, nth) => (
          <li
            key={one.key}
            id={`jump-${one.key}`}
            role="option"
            aria-selected={nth === here}
            ref={(row) => {
              if (nth === here) row?.scrollIntoView({ block: 'nearest' });
            }}
            onClick={() => go(one)}
            className={`flex cursor-pointer items-baseline gap-3 border-b border-rule px-2 py-1.5 ${nth === here ? 'bg-wash' : ''}`}
          >
            <span className={`figures narrow w-9 shrink-0 text-[12px] ${one.isSection ? 'text-second' : 'text-blue'}`}>
              {one.isSection ? one.note : '◆'}
            </span>
            <span className="written min-w-0 flex-1 truncate text-[15.5px]">{one.name}</span>
            {!one.isSection && <span className="max-w-40 truncate text-[12px] text-second">{one.note}</span>}
          </li>
        ))}
        {shown.length === 0 && <li className="px-2 py-2 text-second">Nothing is called so.</li>}
      </ul>
      <div className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[12.5px] text-second">
        <span>
          A place is marked with <KeyOf act="bench.mark" /> in the draft.
        </span>
        {marks.map((mark) => (
          <button
            key={mark.number}
            type="button"
            aria-label={`Take the mark at “${mark.words}” away`}
            className="min-h-6 hover:text-red"
            onClick={() =>
              void carryOut(
                done(
                  api.DELETE('/api/pieces/{number}/marks/{mark}', {
                    params: { path: { number: String(piece), mark: String(mark.number) } },
                  }),
                ),
                'The mark is gone.',
              ).then(
                () => queryClient.invalidateQueries({ queryKey: keys.marks(piece) }),
                () => undefined,
              )
            }
          >
            unmark “{mark.words.slice(0, 24)}”
          </button>
        ))}
      </div>
    </>
  );
}

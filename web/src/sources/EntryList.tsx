import { useVirtualizer } from '@tanstack/react-virtual';
import { kindOf, numberOf, titleOf, topicsOf } from './entries';
import { heldFor } from '../ui/held';
import { useEffect, useMemo, useRef } from 'react';
import type { LibraryEntry } from '../api/client';
import { Found } from '../ui/Found';
import { Mark } from '../ui/Mark';
import { StepsShown } from '../ui/Steps';
import { TopicWords } from '../ui/TopicWord';
import type { Chosen } from './chosen';

/** Slips and sources one below the other; the margin with the number chooses, the rest opens. */
export function EntryList({
  entries,
  groups,
  total,
  at,
  chosen,
  onOpen,
  onMore,
}: {
  entries: LibraryEntry[];
  /** What the entries are gathered under, in order; none when they are not. */
  groups: readonly { name: string; entries: LibraryEntry[] }[];
  total: number;
  at: number;
  chosen: Chosen;
  onOpen: (entry: LibraryEntry) => void;
  onMore: () => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const headings = useMemo(() => {
    const at = new Map<number, { name: string; count: number }>();
    let row = 0;
    for (const group of groups) {
      at.set(row, { name: group.name, count: group.entries.length });
      row += group.entries.length;
    }
    return at;
  }, [groups]);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualiser is read only here and never passed on
  const rows = useVirtualizer({
    count: entries.length,
    getScrollElement: () => box.current,
    estimateSize: () => 76,
    overscan: 8,
    initialRect: { width: 400, height: 800 },
  });
  const items = rows.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last >= entries.length - 10 && entries.length < total) onMore();
  }, [last, entries.length, total, onMore]);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
  }, [at, rows]);
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto" role="list" aria-label="Slips and sources">
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {items.map((item) => {
          const entry = entries[item.index]!;
          const heading = headings.get(item.index);
          return (
            <div
              key={item.key}
              ref={rows.measureElement}
              data-index={item.index}
              role="listitem"
              className="absolute top-0 left-0 w-full"
              style={{ transform: `translateY(${item.start}px)` }}
            >
              {heading && (
                <h2 className="flex items-baseline border-b border-hair bg-sheet px-5 pt-4 pb-1">
                  <span className="written text-[15px] font-semibold">{heading.name}</span>
                  <span className="ml-2 text-second">{heading.count}</span>
                </h2>
              )}
              <EntryLine
                entry={entry}
                isHere={item.index === at}
                isChosen={chosen.has(entry)}
                onChoose={(range) => (range ? chosen.range : chosen.toggle)(item.index)}
                onOpen={() => onOpen(entry)}
              />
            </div>
          );
        })}
      </div>
    </div>
  );
}

function EntryLine({
  entry,
  isHere,
  isChosen,
  onChoose,
  onOpen,
}: {
  entry: LibraryEntry;
  isHere: boolean;
  isChosen: boolean;
  onChoose: (range: boolean) => void;
  onOpen: () => void;
}) {
  const { slip, source, other, excerpt } = entry;
  const topics = topicsOf(entry);
  return (
    <div
      aria-current={isHere ? 'true' : undefined}
      className={`group relative flex w-full border-b border-rule ${isHere || isChosen ? 'bg-wash' : 'hover:bg-quiet'}`}
    >
      <button
        type="button"
        aria-pressed={isChosen}
        disabled={other !== null}
        aria-label={other ? other.title : `Choose ${slip ? 'slip' : 'source'} ${numberOf(entry)}`}
        onClick={(event) => onChoose(event.shiftKey)}
        className={`flex w-[52px] shrink-0 flex-col items-center border-r border-line pt-3 ${isChosen ? 'text-blue' : 'text-second hover:text-blue'}`}
      >
        <Mark kind={kindOf(entry)} size={15} />
        <span className="narrow figures text-[11.5px]">{numberOf(entry)}</span>
        <span
          aria-hidden
          className={`mt-1 h-[9px] w-[9px] border ${isChosen ? 'border-blue bg-blue' : 'border-hair opacity-0 group-focus-within:opacity-100 group-hover:opacity-100'}`}
        />
      </button>
      <button
        type="button"
        className="min-w-0 flex-1 px-4 py-2.5 text-left"
        onKeyDown={(event) => {
          if (event.key !== ' ') return;
          event.preventDefault();
          onChoose(event.shiftKey);
        }}
        onClick={(event) => (event.shiftKey || event.ctrlKey || event.metaKey ? onChoose(event.shiftKey) : onOpen())}
      >
        <span className="written line-clamp-2 text-[15px] leading-[1.4] [overflow-wrap:anywhere]">
          {!slip ? <b className="font-semibold">{titleOf(entry)}</b> : excerpt ? <Found text={excerpt} /> : slip?.title}
        </span>
        {!slip && excerpt && (
          <span className="written line-clamp-1 text-[13.5px] text-second">
            <Found text={excerpt} />
          </span>
        )}
        <span className="mt-1 flex items-baseline gap-3 text-[12px] text-second">
          <span className="whitespace-nowrap">
            {other
              ? other.note
              : source
                ? [
                    source.creators.split(';')[0],
                    source.date,
                    `${source.passages} ${source.passages === 1 ? 'passage' : 'passages'}`,
                  ]
                    .filter(Boolean)
                    .join(' · ')
                : slip?.state === 'held'
                  ? heldFor(slip)
                  : slip?.used
                    ? `${slip.state}, used`
                    : slip?.state}
          </span>
          <span className="min-w-0 flex-1 overflow-hidden">
            <TopicWords topics={topics} />
          </span>
          {slip && <StepsShown label="Pull" value={slip.pull} />}
        </span>
      </button>
    </div>
  );
}

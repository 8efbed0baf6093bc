import { useVirtualizer } from '@tanstack/react-virtual';
import { addressOfEntry } from './entries';
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import type { LibraryEntry, ListSort, SeveralChange, ViewColumn } from '../api/client';
import { columnsOf, forServer, writeAsked, type LibraryAsked } from './asked';
import { groupsOf } from './grouping';
import { changeSeveral, useChosen } from './chosen';
import { copyAsTable } from './copyAsTable';
import { SeveralBar, menu } from './SeveralBar';
import { TableCell } from './TableCell';

const widths: Record<ViewColumn, string> = {
  number: '52px',
  text: 'minmax(220px, 3fr)',
  kind: '92px',
  topics: 'minmax(120px, 1.2fr)',
  pull: '72px',
  effort: '72px',
  worth: '62px',
  stage: '82px',
  due: '76px',
  out: '76px',
  words: '72px',
  fields: 'minmax(140px, 1.2fr)',
  format: '92px',
  state: '74px',
  used: '52px',
  source: 'minmax(110px, 1fr)',
  locator: '80px',
  origin: '76px',
  caught: '72px',
};
const sortable: Partial<Record<ViewColumn, ListSort>> = {
  number: 'number',
  text: 'text',
  kind: 'kind',
  pull: 'pull',
  effort: 'effort',
  worth: 'worth',
  stage: 'stage',
  due: 'due',
  fields: 'field',
  state: 'state',
  caught: 'caught',
};

type Line = { heading: string; count: number } | { entry: LibraryEntry; at: number };

/** The library as a table: sorted, gathered, edited in place, several at once. */
export function Table({
  asked,
  entries,
  onAsk,
}: {
  asked: LibraryAsked;
  entries: LibraryEntry[];
  onAsk: (changed: Partial<LibraryAsked>) => void;
}) {
  const columns = columnsOf(asked);
  const navigate = useNavigate();
  const [cell, setCell] = useState({ row: 0, column: Math.max(0, columns.indexOf('text')) });
  const box = useRef<HTMLDivElement>(null);

  const { lines, ordered } = useMemo(() => {
    const groups = groupsOf(entries, asked.group);
    const inOrder: LibraryEntry[] = groups.flatMap((group) => group.entries);
    let at = 0;
    return {
      ordered: inOrder,
      lines: groups.flatMap((group): Line[] => [
        ...(asked.group ? [{ heading: group.name, count: group.entries.length }] : []),
        ...group.entries.map((entry) => ({ entry, at: at++ })),
      ]),
    };
  }, [entries, asked.group]);
  const chosen = useChosen(ordered);

  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualiser is read only here and never passed on
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => 37,
    overscan: 12,
    initialRect: { width: 1200, height: 700 },
  });
  const template = columns.map((column) => widths[column]).join(' ');

  /** A change in a row is one of all that are chosen when it is one of them, else of the row alone. */
  const change = (entry: LibraryEntry, fields: Partial<SeveralChange>) =>
    void changeSeveral(chosen.has(entry) ? chosen.slips : entry.slip ? [entry.slip.number] : [], fields);

  const focus = (row: number, column: number) => {
    const to = {
      row: Math.max(0, Math.min(ordered.length - 1, row)),
      column: Math.max(0, Math.min(columns.length - 1, column)),
    };
    setCell(to);
    rows.scrollToIndex(
      lines.findIndex((line) => 'at' in line && line.at === to.row),
      { align: 'auto' },
    );
    requestAnimationFrame(() =>
      box.current?.querySelector<HTMLElement>(`[data-cell="${to.row}-${to.column}"]`)?.focus(),
    );
  };
  const onKey = (event: KeyboardEvent) => {
    if (!(event.target as HTMLElement).dataset['cell']) {
      // Inside a field of a cell only Escape leads back to the cell.
      if (event.key === 'Escape') {
        event.stopPropagation();
        focus(cell.row, cell.column);
      }
      return;
    }
    const column = columns[cell.column]!;
    const entry = ordered[cell.row];
    const digit = /^[0-5]$/.test(event.key) ? Number(event.key) : undefined;
    if ((event.ctrlKey || event.metaKey) && event.key === 'a') chosen.all(ordered);
    else if ((event.ctrlKey || event.metaKey) && event.key === 'c' && !getSelection()?.toString()) copy();
    else if (event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const row = Math.max(0, Math.min(ordered.length - 1, cell.row + (event.key === 'ArrowDown' ? 1 : -1)));
      if (event.shiftKey) {
        chosen.begin(cell.row);
        chosen.range(row);
      }
      focus(row, cell.column);
    } else if (event.key === 'ArrowRight') focus(cell.row, cell.column + 1);
    else if (event.key === 'ArrowLeft') focus(cell.row, cell.column - 1);
    else if (event.key === 'Home') focus(0, cell.column);
    else if (event.key === 'End') focus(ordered.length - 1, cell.column);
    else if (event.key === ' ') (event.shiftKey ? chosen.range : chosen.toggle)(cell.row);
    else if (event.key === 'Escape') chosen.none();
    else if (digit !== undefined && entry && (column === 'pull' || column === 'effort'))
      change(entry, { [column]: digit || null });
    else if (event.key === 'Enter' && entry) {
      const field = (event.target as HTMLElement).querySelector<HTMLElement>('select, input');
      if (field) field.focus();
      else open(entry);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const open = (entry: LibraryEntry) =>
    void navigate({
      pathname: addressOfEntry(entry),
      search: writeAsked(asked).toString(),
    });
  const copy = () => void copyAsTable(chosen.entries.length ? chosen.entries : ordered, columns);
  const csv = new URLSearchParams(
    Object.entries({ ...forServer(asked), columns: columns.join(',') }).flatMap(([key, value]) =>
      value === undefined ? [] : [[key, String(value)]],
    ),
  );

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <SeveralBar chosen={chosen} onAll={() => chosen.all(ordered)}>
        <button type="button" className={menu} onClick={copy}>
          copy as table
        </button>
        <a className={menu} href={`/api/library/table.csv?${csv}`} download>
          save as CSV
        </a>
      </SeveralBar>
      <div
        ref={box}
        role="grid"
        aria-label="Table"
        aria-rowcount={ordered.length}
        aria-multiselectable
        onKeyDown={onKey}
        className="min-h-0 flex-1 overflow-auto"
      >
        <div className="min-w-max">
          <div
            role="row"
            className="sticky top-0 z-10 grid gap-x-3 border-b border-hair bg-quiet px-5"
            style={{ gridTemplateColumns: template }}
          >
            {columns.map((column) => {
              const by = sortable[column];
              const isBy = by !== undefined && asked.sort === by;
              return (
                <span
                  key={column}
                  role="columnheader"
                  aria-sort={isBy ? (asked.upward ? 'ascending' : 'descending') : undefined}
                  className="label flex items-center py-1.5 text-second"
                >
                  {by ? (
                    <button
                      type="button"
                      className={`uppercase hover:text-blue ${isBy ? 'text-blue' : ''}`}
                      onClick={() =>
                        onAsk(isBy && asked.upward ? { sort: '', upward: '' } : { sort: by, upward: isBy ? 'yes' : '' })
                      }
                    >
                      {column} {isBy && (asked.upward ? '↑' : '↓')}
                    </button>
                  ) : (
                    column
                  )}
                </span>
              );
            })}
          </div>
          <div className="relative" style={{ height: rows.getTotalSize() }}>
            {rows.getVirtualItems().map((item) => {
              const line = lines[item.index]!;
              const place = { transform: `translateY(${item.start}px)`, height: item.size };
              if ('heading' in line)
                return (
                  <div
                    key={item.key}
                    className="absolute inset-x-0 top-0 flex items-end border-b border-hair px-5 pb-1"
                    style={place}
                  >
                    <span className="written text-[15px] font-semibold">{line.heading}</span>
                    <span className="ml-2 text-second">{line.count}</span>
                  </div>
                );
              const isChosen = chosen.has(line.entry);
              return (
                <div
                  key={item.key}
                  role="row"
                  aria-rowindex={line.at + 1}
                  aria-selected={isChosen}
                  className={`absolute inset-x-0 top-0 grid items-center gap-x-3 border-b border-rule px-5 ${isChosen ? 'bg-wash' : 'hover:bg-quiet'}`}
                  style={{ ...place, gridTemplateColumns: template }}
                >
                  {columns.map((column, at) => {
                    const isHere = cell.row === line.at && cell.column === at;
                    return (
                      <div
                        key={column}
                        role="gridcell"
                        data-cell={`${line.at}-${at}`}
                        tabIndex={isHere ? 0 : -1}
                        onMouseDown={(event) => {
                          if ((event.target as HTMLElement).closest('select, input, button')) return;
                          setCell({ row: line.at, column: at });
                          if (event.shiftKey) {
                            event.preventDefault();
                            chosen.range(line.at);
                          } else if (event.ctrlKey || event.metaKey || column === 'number') chosen.toggle(line.at);
                        }}
                        onDoubleClick={() => column === 'text' && open(line.entry)}
                        className="min-w-0 py-1 outline-offset-0"
                      >
                        <TableCell
                          entry={line.entry}
                          column={column}
                          isHere={isHere}
                          isChosen={isChosen}
                          onChange={(fields) => change(line.entry, fields)}
                        />
                      </div>
                    );
                  })}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </div>
  );
}

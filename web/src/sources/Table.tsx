import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import {
  api,
  done,
  type LibraryEntry,
  type ListSort,
  type SeveralChange,
  type SlipKind,
  type ViewColumn,
} from '../api/client';
import { queryClient, useFormats } from '../api/queries';
import { carryOut, complain, say } from '../papers/notices';
import { Mark } from '../ui/Mark';
import { Steps } from '../ui/Steps';
import { TopicField } from '../ui/TopicField';
import { TopicWords } from '../ui/TopicWord';
import { shortDay } from '../ui/dates';
import { columnsOf, type LibraryAsked } from './asked';
import { groupsOf } from './grouping';
import { SeveralBar } from './SeveralBar';

const widths: Record<ViewColumn, string> = {
  number: '52px',
  text: 'minmax(220px, 3fr)',
  kind: '92px',
  topics: 'minmax(120px, 1.2fr)',
  pull: '72px',
  effort: '72px',
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
  state: 'state',
  caught: 'caught',
};
const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];

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
  const formats = useFormats().data ?? [];
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [cell, setCell] = useState({ row: 0, column: Math.max(0, columns.indexOf('text')) });
  const from = useRef(0);
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
  const slipsAt = (rows: number[]) => rows.flatMap((row) => (ordered[row]?.slip ? [ordered[row].slip.number] : []));
  const inReach = slipsAt([...chosen].sort((a, b) => a - b));

  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualiser is read only here and never passed on
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => 37,
    overscan: 12,
    initialRect: { width: 1200, height: 700 },
  });
  const template = columns.map((column) => widths[column]).join(' ');

  const change = async (slips: number[], fields: Partial<SeveralChange>) => {
    if (!slips.length) return;
    await carryOut(
      done(api.POST('/api/slips/several', { body: { ...fields, slips } as SeveralChange })),
      slips.length > 1 ? `Changed ${slips.length} slips.` : undefined,
    ).catch(() => undefined);
    await queryClient.invalidateQueries({ queryKey: ['library'] });
  };
  /** What a change in a row is about: all that are chosen when it is one of them, else the row alone. */
  const about = (row: number) => (chosen.has(row) ? inReach : slipsAt([row]));

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
  const choose = (row: number, how: 'toggle' | 'range') => {
    const next = new Set(chosen);
    if (how === 'range') {
      const [low, high] = [Math.min(from.current, row), Math.max(from.current, row)];
      for (let i = low; i <= high; i++) next.add(i);
    } else {
      if (next.has(row)) next.delete(row);
      else next.add(row);
      from.current = row;
    }
    setChosen(next);
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
    if ((event.ctrlKey || event.metaKey) && event.key === 'a') setChosen(new Set(ordered.keys()));
    else if ((event.ctrlKey || event.metaKey) && event.key === 'c' && !getSelection()?.toString()) void copy();
    else if (event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const row = Math.max(0, Math.min(ordered.length - 1, cell.row + (event.key === 'ArrowDown' ? 1 : -1)));
      if (event.shiftKey) {
        if (!chosen.has(cell.row)) from.current = cell.row;
        choose(row, 'range');
      }
      focus(row, cell.column);
    } else if (event.key === 'ArrowRight') focus(cell.row, cell.column + 1);
    else if (event.key === 'ArrowLeft') focus(cell.row, cell.column - 1);
    else if (event.key === 'Home') focus(0, cell.column);
    else if (event.key === 'End') focus(ordered.length - 1, cell.column);
    else if (event.key === ' ') choose(cell.row, event.shiftKey ? 'range' : 'toggle');
    else if (event.key === 'Escape') setChosen(new Set());
    else if (digit !== undefined && (column === 'pull' || column === 'effort'))
      void change(about(cell.row), { [column]: digit || null });
    else if (event.key === 'Enter' && entry) {
      const field = (event.target as HTMLElement).querySelector<HTMLElement>('select, input');
      if (field) field.focus();
      else open(entry);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const open = (entry: LibraryEntry) =>
    void navigate(entry.slip ? `/library/slip/${entry.slip.number}` : `/library/source/${entry.source!.number}`);

  const plain = (entry: LibraryEntry, column: ViewColumn): string => {
    const { slip, source } = entry;
    switch (column) {
      case 'number':
        return String(slip?.number ?? source?.number);
      case 'text':
        return slip?.text ?? source!.title;
      case 'kind':
        return slip?.kind ?? 'source';
      case 'topics':
        return (slip ?? source!).topics.map((topic) => topic.name).join('; ');
      case 'source':
        return entry.from ?? source?.title ?? '';
      case 'caught':
        return slip?.day ?? source!.caughtAt.slice(0, 10);
      case 'used':
        return slip ? (slip.used ? 'yes' : 'no') : '';
      default:
        return String((slip as Record<string, unknown> | null)?.[column] ?? '');
    }
  };
  const copy = async () => {
    const taken = chosen.size ? [...chosen].sort((a, b) => a - b).map((row) => ordered[row]!) : ordered;
    const table = [columns as string[], ...taken.map((entry) => columns.map((column) => plain(entry, column)))];
    const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/\n/g, '<br>');
    const html = `<table>${table.map((row) => `<tr>${row.map((value) => `<td>${escaped(value)}</td>`).join('')}</tr>`).join('')}</table>`;
    const text = table.map((row) => row.map((value) => value.replace(/[\t\n]+/g, ' ')).join('\t')).join('\n');
    try {
      await navigator.clipboard.write([
        new ClipboardItem({
          'text/plain': new Blob([text], { type: 'text/plain' }),
          'text/html': new Blob([html], { type: 'text/html' }),
        }),
      ]);
      say(`Copied ${taken.length} ${taken.length === 1 ? 'row' : 'rows'} as a table.`);
    } catch (error) {
      complain(error);
    }
  };
  // What is chosen are places in the list; when the list changes they would mean others.
  const list = ordered.map((entry) => entry.slip?.number ?? -(entry.source?.number ?? 0)).join();
  useEffect(() => setChosen(new Set()), [list]);

  const shown = (entry: LibraryEntry, column: ViewColumn, row: number): ReactNode => {
    const { slip, source } = entry;
    switch (column) {
      case 'number':
        return <span className="narrow figures text-[12px] text-faint">{slip?.number ?? source?.number}</span>;
      case 'text':
        return (
          <span className="written block truncate text-[14px]" title={slip?.text ?? source?.title}>
            {source ? <b className="font-semibold">{source.title}</b> : slip?.title}
          </span>
        );
      case 'kind':
        return slip ? (
          <span className="flex items-center gap-1.5">
            <Mark kind={slip.kind} size={13} />
            <select
              tabIndex={-1}
              aria-label={`Kind of slip ${slip.number}`}
              value={slip.kind}
              onChange={(event) => void change(about(row), { kind: event.target.value as SlipKind })}
              className="w-full appearance-none bg-transparent outline-none focus:underline"
            >
              {kinds.map((kind) => (
                <option key={kind}>{kind}</option>
              ))}
            </select>
          </span>
        ) : (
          <span className="flex items-center gap-1.5">
            <Mark kind="source" size={13} /> source
          </span>
        );
      case 'topics':
        return slip && cell.row === row && columns[cell.column] === 'topics' ? (
          <TopicField
            quiet
            topics={slip.topics}
            onChange={(names) =>
              void change(about(row), {
                topics: names.filter((name) => !slip.topics.some((topic) => topic.name === name)),
                withoutTopics: slip.topics.map((topic) => topic.name).filter((name) => !names.includes(name)),
              })
            }
          />
        ) : (
          <span className="block truncate">
            <TopicWords topics={slip?.topics ?? source?.topics ?? []} />
          </span>
        );
      case 'pull':
      case 'effort':
        return slip ? (
          <span tabIndex={-1}>
            <Steps
              label={`${column === 'pull' ? 'Pull' : 'Effort'} of slip ${slip.number}`}
              value={slip[column]}
              tabIndex={-1}
              onChange={(value) => void change(about(row), { [column]: value })}
            />
          </span>
        ) : null;
      case 'format':
        return slip ? (
          <select
            tabIndex={-1}
            aria-label={`What slip ${slip.number} would become`}
            value={slip.format ?? ''}
            onChange={(event) => void change(about(row), { format: event.target.value || null })}
            className="w-full appearance-none bg-transparent outline-none focus:underline"
          >
            <option value="">–</option>
            {formats.map((format) => (
              <option key={format.key} value={format.key}>
                {format.name.toLowerCase()}
              </option>
            ))}
          </select>
        ) : null;
      case 'caught':
        return <span className="whitespace-nowrap text-second">{shortDay(plain(entry, 'caught'))}</span>;
      default:
        return <span className="block truncate text-second">{plain(entry, column)}</span>;
    }
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <SeveralBar
        slips={inReach}
        total={chosen.size}
        onChange={(fields) => change(inReach, fields)}
        onClear={() => setChosen(new Set())}
        onAll={() => setChosen(new Set(ordered.keys()))}
        onCopy={() => void copy()}
        asked={asked}
      />
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
                  className="label py-1.5 text-second"
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
              const isChosen = chosen.has(line.at);
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
                            choose(line.at, 'range');
                          } else if (event.ctrlKey || event.metaKey || column === 'number') choose(line.at, 'toggle');
                        }}
                        onDoubleClick={() => column === 'text' && open(line.entry)}
                        className="min-w-0 py-1 outline-offset-0"
                      >
                        {column === 'number' ? (
                          <span className="flex items-center gap-1.5">
                            <span
                              aria-hidden
                              className={`h-[9px] w-[9px] shrink-0 border ${isChosen ? 'border-blue bg-blue' : 'border-hair'}`}
                            />
                            {shown(line.entry, column, line.at)}
                          </span>
                        ) : (
                          shown(line.entry, column, line.at)
                        )}
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

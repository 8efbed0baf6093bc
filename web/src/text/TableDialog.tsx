import { useEffect, useRef, useState } from 'react';
import { api, ask } from '../api/client';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Loading } from '../ui/States';

type Set = 'asItComes' | 'left' | 'middle' | 'right';
type Table = { rows: string[][]; columns: Set[] };

const blank: Table = {
  rows: [
    ['', '', ''],
    ['', '', ''],
  ],
  columns: ['asItComes', 'asItComes', 'asItComes'],
};

/** What was typed into a table that was left by Escape or a press beside it: it is there when the same table is opened again. */
const place = 'nachlass.table';

function held(text: string): Table | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(place) ?? 'null') as { of: string; table: Table } | null;
    return kept?.of === text ? kept.table : undefined;
  } catch {
    return undefined;
  }
}

const letGo = () => localStorage.removeItem(place);

/** A table of a text, made and changed as one; what is kept is Markdown. */
export function TableDialog({
  text,
  onClose,
  onWrite,
}: {
  /** The table as it stands; empty for a new one; undefined while none is open. */
  text: string | undefined;
  onClose: () => void;
  onWrite: (table: string) => void;
}) {
  return (
    <Dialog title="Table" open={text !== undefined} onClose={onClose} wide>
      {text !== undefined && <Opened text={text} onClose={onClose} onWrite={onWrite} />}
    </Dialog>
  );
}

function Opened({ text, onClose, onWrite }: { text: string; onClose: () => void; onWrite: (table: string) => void }) {
  const [table, setTable] = useState<Table | undefined>(() => held(text) ?? (text === '' ? blank : undefined));
  const [error, setError] = useState('');
  const began = useRef(text);
  useEffect(() => {
    if (began.current === '' || held(began.current)) return;
    ask(api.POST('/api/tables/read', { body: { text: began.current } })).then(
      (read) => setTable({ rows: read.rows, columns: read.columns }),
      (problem: Error) => setError(problem.message),
    );
  }, []);
  if (!table) return error ? <p role="alert">{error}</p> : <Loading what="Reading the table" />;
  const keep = async () => {
    try {
      // Tab at the end begins a row; one that nothing was written in is none.
      const last = table.rows.findLastIndex((row) => row.some((cell) => cell.trim() !== ''));
      const rows = table.rows.slice(0, Math.max(1, last + 1));
      const written = await ask(api.POST('/api/tables/write', { body: { rows, columns: table.columns } }));
      letGo();
      onWrite(written.text);
      onClose();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <>
      <Grid
        table={table}
        onChange={(next) => {
          setTable(next);
          localStorage.setItem(place, JSON.stringify({ of: began.current, table: next }));
        }}
        onError={setError}
        onDone={() => void keep()}
      />
      {error && (
        <p role="alert" className="mt-2 text-red">
          {error} What you typed is still here.
        </p>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <Button look="main" onClick={() => void keep()}>
          Into the text
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            letGo();
            onClose();
          }}
        >
          Leave it as it was
        </Button>
        <span className="text-[12px] text-second">
          Tab goes on and begins a row at the end; cells from a spreadsheet can be pasted in.
        </span>
      </div>
    </>
  );
}

function Grid({
  table,
  onChange,
  onError,
  onDone,
}: {
  table: Table;
  onChange: (table: Table) => void;
  onError: (message: string) => void;
  onDone: () => void;
}) {
  const box = useRef<HTMLTableElement>(null);
  const goal = useRef<[number, number] | null>([0, 0]);
  const { rows, columns } = table;
  const back = useRef<Table[]>([]);
  useEffect(() => {
    if (!goal.current) return;
    const [row, column] = goal.current;
    goal.current = null;
    const cell = box.current?.querySelector<HTMLInputElement>(`[data-cell="${row}-${column}"]`);
    cell?.focus();
    cell?.select();
  });
  /** Changes that are more than a letter can be taken back. */
  const set = (next: Table, at?: [number, number]) => {
    back.current.push(table);
    if (at) goal.current = at;
    onChange(next);
  };
  const addRow = (at: number, column = 0) =>
    set({ rows: [...rows.slice(0, at), columns.map(() => ''), ...rows.slice(at)], columns }, [at, column]);
  const addColumn = (at: number) =>
    set(
      {
        rows: rows.map((row) => [...row.slice(0, at), '', ...row.slice(at)]),
        columns: [...columns.slice(0, at), 'asItComes', ...columns.slice(at)],
      },
      [0, at],
    );
  const swap = <T,>(list: readonly T[], a: number, b: number): T[] =>
    list.map((one, at) => (at === a ? list[b]! : at === b ? list[a]! : one));
  const write = (row: number, column: number, text: string) =>
    onChange({
      rows: rows.map((own, r) => (r === row ? own.map((cell, c) => (c === column ? text : cell)) : own)),
      columns,
    });
  const paste = async (row: number, column: number, text: string) => {
    try {
      const read = await ask(api.POST('/api/tables/read', { body: { text } }));
      const width = Math.max(columns.length, column + (read.rows[0]?.length ?? 0));
      const height = Math.max(rows.length, row + read.rows.length);
      set(
        {
          rows: Array.from({ length: height }, (_, r) =>
            Array.from({ length: width }, (_, c) => read.rows[r - row]?.[c - column] ?? rows[r]?.[c] ?? ''),
          ),
          columns: Array.from({ length: width }, (_, c) => columns[c] ?? 'asItComes'),
        },
        [row, column],
      );
    } catch (problem) {
      onError((problem as Error).message);
    }
  };
  return (
    <div className="overflow-x-auto">
      <table ref={box} className="w-full table-fixed border-collapse" style={{ minWidth: `${columns.length * 110}px` }}>
        <thead>
          <tr>
            {columns.map((how, column) => (
              <td key={column} className="h-6 text-center">
                <ActionMenu
                  label={`Column ${column + 1}`}
                  className="min-h-6 min-w-6 text-second hover:text-blue"
                  actions={[
                    { label: 'Add a column before it', onChoose: () => addColumn(column) },
                    { label: 'Add a column after it', onChoose: () => addColumn(column + 1) },
                    {
                      label: 'Move it left',
                      disabled: column === 0,
                      onChoose: () =>
                        set({
                          rows: rows.map((row) => swap(row, column, column - 1)),
                          columns: swap(columns, column, column - 1),
                        }),
                    },
                    {
                      label: 'Move it right',
                      disabled: column === columns.length - 1,
                      onChoose: () =>
                        set({
                          rows: rows.map((row) => swap(row, column, column + 1)),
                          columns: swap(columns, column, column + 1),
                        }),
                    },
                    {
                      label: how === 'right' ? 'Set it to the left' : 'Set it to the right',
                      onChoose: () =>
                        set({
                          rows,
                          columns: columns.map((own, at) =>
                            at === column ? (how === 'right' ? 'left' : 'right') : own,
                          ),
                        }),
                    },
                    {
                      label: 'Take it away',
                      disabled: columns.length === 1,
                      onChoose: () =>
                        set({
                          rows: rows.map((row) => row.filter((_, at) => at !== column)),
                          columns: columns.filter((_, at) => at !== column),
                        }),
                    },
                  ]}
                >
                  ⋯
                </ActionMenu>
              </td>
            ))}
            <td className="w-14" />
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            <tr key={r}>
              {row.map((cell, c) => (
                <td key={c} className={`border border-hair p-0 ${r === 0 ? 'bg-quiet' : ''}`}>
                  <input
                    data-cell={`${r}-${c}`}
                    aria-label={r === 0 ? `Name of column ${c + 1}` : `Row ${r}, ${rows[0]![c] || `column ${c + 1}`}`}
                    placeholder={r === 0 ? `column ${c + 1}` : undefined}
                    value={cell}
                    onChange={(event) => write(r, c, event.target.value)}
                    onPaste={(event) => {
                      const copied = event.clipboardData.getData('text/plain');
                      if (!/\t|\n[^\n]/.test(copied.trimEnd())) return;
                      event.preventDefault();
                      void paste(r, c, copied);
                    }}
                    onKeyDown={(event) => {
                      if (event.key === 'Tab' && !event.shiftKey && c === columns.length - 1 && r === rows.length - 1) {
                        event.preventDefault();
                        addRow(rows.length);
                      }
                      if (event.key === 'Tab' && (c < columns.length - 1 || r < rows.length - 1 || event.shiftKey)) {
                        const to = r * columns.length + c + (event.shiftKey ? -1 : 1);
                        if (to < 0) return;
                        event.preventDefault();
                        const next = box.current?.querySelector<HTMLInputElement>(
                          `[data-cell="${Math.floor(to / columns.length)}-${to % columns.length}"]`,
                        );
                        next?.focus();
                        next?.select();
                      }
                      if (event.key === 'Enter') {
                        event.preventDefault();
                        if (event.ctrlKey || event.metaKey) return onDone();
                        if (r === rows.length - 1) addRow(rows.length, c);
                        else box.current?.querySelector<HTMLInputElement>(`[data-cell="${r + 1}-${c}"]`)?.focus();
                      }
                      if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
                        event.preventDefault();
                        box.current
                          ?.querySelector<HTMLInputElement>(
                            `[data-cell="${r + (event.key === 'ArrowDown' ? 1 : -1)}-${c}"]`,
                          )
                          ?.focus();
                      }
                      if (
                        (event.ctrlKey || event.metaKey) &&
                        event.key === 'z' &&
                        back.current.length > 0 &&
                        !event.shiftKey
                      ) {
                        const before = back.current.pop()!;
                        event.preventDefault();
                        onChange(before);
                      }
                    }}
                    className={`written block w-full min-w-0 bg-transparent px-2 py-1.5 text-[15px] outline-none focus:bg-wash ${r === 0 ? 'font-semibold' : ''} ${columns[c] === 'right' ? 'text-right' : columns[c] === 'middle' ? 'text-center' : ''}`}
                  />
                </td>
              ))}
              <td className="w-14 pl-1">
                <ActionMenu
                  label={r === 0 ? 'First row' : `Row ${r}`}
                  className="min-h-6 min-w-6 text-second hover:text-blue"
                  actions={[
                    { label: 'Add a row after it', onChoose: () => addRow(r + 1) },
                    {
                      label: 'Move it up',
                      disabled: r < 2,
                      onChoose: () => set({ rows: swap(rows, r, r - 1), columns }),
                    },
                    {
                      label: 'Move it down',
                      disabled: r === 0 || r === rows.length - 1,
                      onChoose: () => set({ rows: swap(rows, r, r + 1), columns }),
                    },
                    {
                      label: 'Take it away',
                      disabled: rows.length < 2,
                      onChoose: () => set({ rows: rows.filter((_, at) => at !== r), columns }),
                    },
                  ]}
                >
                  ⋯
                </ActionMenu>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 flex gap-4">
        <button type="button" className="link min-h-6" onClick={() => addRow(rows.length)}>
          another row
        </button>
        <button type="button" className="link min-h-6" onClick={() => addColumn(columns.length)}>
          another column
        </button>
      </div>
    </div>
  );
}

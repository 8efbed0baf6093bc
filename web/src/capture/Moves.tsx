import { useState } from 'react';
import { Link } from 'react-router';
import { api, done, type Move } from '../api/client';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { ActionMenu } from '../ui/ActionMenu';
import { TextField } from '../ui/TextField';
import { nearDay, plusDays, today } from '../ui/dates';
import { useHeld } from '../ui/useField';

const refresh = () => queryClient.invalidateQueries();

type MoveChange = { done?: boolean; due?: string | null; text?: string };

const change = (move: Move, changed: MoveChange, said: string) =>
  carryOut(
    done(
      api.PATCH('/api/moves/{number}', {
        params: { path: { number: String(move.number) } },
        body: { version: move.version, ...changed },
      }),
    ),
    said,
  );

const edit = (move: Move, changed: MoveChange, said: string) =>
  change(move, changed, said).then(refresh, () => undefined);

/** One move: tick, words, piece and date, each of them changed where it stands. */
export function MoveLine({ move, stacked = false }: { move: Move; stacked?: boolean }) {
  const isDone = move.doneAt !== null;
  const [ticked, setTicked] = useState<boolean>();
  const [dating, setDating] = useState(false);
  const shown = ticked ?? isDone;
  const late = !isDone && move.due !== null && move.due < today();
  return (
    <div
      className={`flex gap-3 border-b ${stacked ? 'items-start border-rule py-2.5' : 'items-baseline border-rule py-[7px]'}`}
    >
      <input
        type="checkbox"
        checked={shown}
        aria-label={`Done: ${move.text}`}
        onChange={(event) => {
          setTicked(event.target.checked);
          void edit(move, { done: event.target.checked }, event.target.checked ? 'Done.' : 'Taken up again.').finally(
            () => setTicked(undefined),
          );
        }}
        className="mt-[3px] h-[14px] w-[14px] shrink-0 appearance-none self-start border border-second bg-sheet bg-center bg-no-repeat checked:bg-done"
      />
      <div className="min-w-0 flex-1">
        <TextField
          label={`Move: ${move.text}`}
          place={`move.${move.number}`}
          shown={false}
          value={move.text}
          onSave={(text) => change(move, { text }, 'Move changed.').then(refresh)}
          className={`written text-[15.5px] leading-snug ${shown ? 'text-second line-through' : ''}`}
        />
        {move.piece !== null && (
          <Link to={`/bench/${move.piece}`} className="block min-h-6 text-[12px] leading-6 text-second hover:text-blue">
            {move.pieceTitle}
          </Link>
        )}
      </div>
      {dating ? (
        <input
          type="date"
          autoFocus
          aria-label="Date of the move"
          defaultValue={move.due ?? today()}
          onBlur={(event) => {
            setDating(false);
            if (event.target.value && event.target.value !== move.due)
              void edit(move, { due: event.target.value }, 'Date set.');
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          className="border border-hair bg-sheet px-1 text-[12px]"
        />
      ) : (
        <ActionMenu
          label={`Date of: ${move.text}`}
          className={`narrow shrink-0 text-[12.5px] font-semibold hover:text-blue ${late ? 'text-red' : 'text-second'}`}
          actions={[
            { key: 'today', label: 'Today', onChoose: () => void edit(move, { due: today() }, 'Set for today.') },
            {
              key: 'tomorrow',
              label: 'Tomorrow',
              onChoose: () => void edit(move, { due: plusDays(today(), 1) }, 'Set for tomorrow.'),
            },
            {
              key: 'week',
              label: 'In a week',
              onChoose: () => void edit(move, { due: plusDays(today(), 7) }, 'Set for in a week.'),
            },
            { key: 'date', label: 'Another date…', onChoose: () => setDating(true) },
            { key: 'none', label: 'No date', onChoose: () => void edit(move, { due: null }, 'Without a date.') },
            {
              key: 'remove',
              label: 'Take the move away',
              onChoose: () =>
                void carryOut(
                  done(api.DELETE('/api/moves/{number}', { params: { path: { number: String(move.number) } } })),
                  'Move taken away.',
                ).then(refresh, () => undefined),
            },
          ]}
        >
          {move.due ? nearDay(move.due) : 'no date'}
        </ActionMenu>
      )}
    </div>
  );
}

/** A line to write a new move; a date in it is read. */
export function AddMove({ day, piece }: { day?: string; piece?: number }) {
  const [typed, setTyped] = useHeld(`move.${piece ?? day ?? ''}`);
  const [error, setError] = useState('');
  const add = async () => {
    if (!typed.trim()) return;
    try {
      await carryOut(done(api.POST('/api/moves', { body: { text: typed, day, piece } })), 'Move written down.');
      setTyped('');
      setError('');
      await refresh();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <div>
      <input
        aria-label="New move"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void add();
          if (event.key === 'Escape') event.currentTarget.blur();
        }}
        placeholder="what next, and when? “call the printer on Friday”"
        className="written w-full border-b border-rule bg-transparent py-[7px] text-[15.5px] outline-none placeholder:italic focus:border-blue"
      />
      {error && (
        <p role="alert" className="mt-1 text-[12px] text-red">
          {error}
        </p>
      )}
    </div>
  );
}

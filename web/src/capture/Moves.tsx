import { useState } from 'react';
import { isKey, keyOf, keysShown } from '../papers/ownKeys';
import { DateField } from '../ui/DateField';
import { Link } from 'react-router';
import { api, done, type Move } from '../api/client';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { ActionMenu } from '../ui/ActionMenu';
import { TextField } from '../ui/TextField';
import { nearDay, plusDays, today } from '../ui/dates';
import { isHeld, useHeld } from '../ui/useField';
import { MoveWhen, remindSaid } from '../plan/moves/MoveWhen';

const refresh = () => queryClient.invalidateQueries();

type MoveChange = { done?: boolean; due?: string | null; text?: string; note?: string };

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
export function MoveLine({
  move,
  stacked = false,
  onStep,
}: {
  move: Move;
  /** In a narrow column, where it also says where it belongs. */
  stacked?: boolean;
  /** Puts it one place up or down; not given where it has no place of its own. */
  onStep?: (by: -1 | 1) => void;
}) {
  const isDone = move.doneAt !== null;
  const [ticked, setTicked] = useState<boolean>();
  const [dating, setDating] = useState(false);
  const [when, setWhen] = useState(false);
  const [noting, setNoting] = useState(() => isHeld(`move.${move.number}.note`));
  const shown = ticked ?? isDone;
  const late = !isDone && move.due !== null && move.due < today();
  return (
    <div
      onKeyDown={(event) => {
        const by = isKey(event, 'desk.up') ? -1 : isKey(event, 'desk.down') ? 1 : undefined;
        if (!by || !onStep) return;
        event.preventDefault();
        onStep(by);
      }}
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
        <MoveTimes move={move} />
        {(noting || move.note) && <MoveNote move={move} open={noting} onOpen={setNoting} />}
        {move.piece !== null ? (
          <Link to={`/bench/${move.piece}`} className="block min-h-6 text-[12px] leading-6 text-second hover:text-blue">
            {move.pieceTitle}
          </Link>
        ) : (
          stacked && (
            <Link to={`/desk/${move.day}`} className="block min-h-6 text-[12px] leading-6 text-second hover:text-blue">
              on the sheet of {move.day === today() ? 'today' : nearDay(move.day)}
            </Link>
          )
        )}
      </div>
      {dating ? (
        <DateField
          label="Date of the move"
          autoFocus
          value={move.due ?? today()}
          onLeave={() => setDating(false)}
          onChange={(due) => {
            setDating(false);
            void edit(move, { due }, due ? 'Date set.' : 'Without a date.');
          }}
          className="text-[12px]"
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
            { key: 'when', label: 'Begins, reminds, comes again…', onChoose: () => setWhen(true) },
            { key: 'note', label: move.note ? 'The note…' : 'Note something to it…', onChoose: () => setNoting(true) },
            ...(onStep
              ? [
                  { key: 'up', label: 'One place up', note: keysShown(keyOf('desk.up')), onChoose: () => onStep(-1) },
                  {
                    key: 'down',
                    label: 'One place down',
                    note: keysShown(keyOf('desk.down')),
                    onChoose: () => onStep(1),
                  },
                ]
              : []),
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
      {when && <MoveWhen move={move} onClose={() => setWhen(false)} />}
    </div>
  );
}

/** From when it is seen, when it is reminded of and how often it comes again, where any of it is said. */
function MoveTimes({ move }: { move: Move }) {
  const said = [
    move.start && move.start > today() && `from ${nearDay(move.start)}`,
    move.remindAt && `reminder ${remindSaid(move.remindAt)}`,
    move.repeatsSaid && `again ${move.repeatsSaid}`,
  ].filter(Boolean);
  return said.length === 0 ? null : <span className="figures block text-[12px] text-second">{said.join(' · ')}</span>;
}

/** The note to a move, folded to its first words until it is opened. */
function MoveNote({ move, open, onOpen }: { move: Move; open: boolean; onOpen: (open: boolean) => void }) {
  return (
    <div className="text-[13px]">
      <button
        type="button"
        aria-expanded={open}
        aria-label={open ? 'Fold the note' : `Note: ${move.note}`}
        className="block min-h-6 w-full truncate text-left text-second hover:text-blue"
        onClick={() => onOpen(!open)}
      >
        {open ? '▾ note' : `▸ ${move.note.split('\n')[0]}`}
      </button>
      {open && (
        <TextField
          label={`Note to: ${move.text}`}
          place={`move.${move.number}.note`}
          shown={false}
          lines
          value={move.note}
          placeholder="What to bear in mind"
          onSave={(note) => change(move, { note }, 'Noted.').then(refresh)}
          className="written text-[14px]"
        />
      )}
    </div>
  );
}

/** Moves in the writer's own order; what is done is folded away. */
export function MoveList({ moves }: { moves: readonly Move[] }) {
  const [whole, setWhole] = useState(false);
  const open = moves.filter((move) => move.doneAt === null);
  const isDone = moves.filter((move) => move.doneAt !== null);
  return (
    <>
      {open.map((move, at) => (
        <MoveLine key={move.number} move={move} onStep={(by) => void placeMove(open, at, by)} />
      ))}
      {isDone.length > 0 && (
        <button
          type="button"
          aria-expanded={whole}
          className="link min-h-6 text-[12.5px]"
          onClick={() => setWhole(!whole)}
        >
          {whole ? '▾' : '▸'} {isDone.length} done
        </button>
      )}
      {whole && isDone.map((move) => <MoveLine key={move.number} move={move} />)}
    </>
  );
}

/** Puts a move one place up or down among others. */
export async function placeMove(moves: readonly Move[], at: number, by: -1 | 1): Promise<void> {
  const to = at + by;
  if (to < 0 || to >= moves.length) return;
  // Downwards it goes behind its neighbour: before the one after that, or before whatever follows the last.
  const [first, second] = by < 0 ? [moves[at]!, moves[to]!] : [moves[to]!, moves[at]!];
  await carryOut(
    done(
      api.PUT('/api/moves/{number}/place', {
        params: { path: { number: String(first.number) } },
        body: { before: second.number },
      }),
    ),
    'Moved.',
  ).then(refresh, () => undefined);
}

/** A line to write a new move; a date in it is read. */
export function AddMove({ day, piece }: { day?: string; piece?: number }) {
  const [typed, setTyped] = useHeld(`move.${piece ?? day ?? ''}`);
  const [error, setError] = useState('');
  const add = async () => {
    if (!typed.trim()) return;
    try {
      await carryOut(done(api.POST('/api/moves', { body: { text: typed, day, piece } })), 'Move written down.', true);
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
        onChange={(event) => {
          setTyped(event.target.value);
          setError('');
        }}
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

import { useState } from 'react';
import { api, done, type Topic } from '../api/client';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { useHeld } from '../ui/useField';

type Column = { number?: number; version?: number; name: string };

const intents: Column[] = ['to explain', 'to tell', 'to argue', 'to ask'].map((name) => ({ name }));

/** Names and order of an axis, changed where it stands; held in this browser until they are kept. */
export function AxisForm({
  axis,
  columns: there = [],
  onClose,
  onMade,
}: {
  /** The wider topic; undefined for a new axis. */
  axis?: number;
  columns?: readonly Topic[];
  onClose: () => void;
  onMade: (axis: number) => void;
}) {
  const [held, setHeld] = useHeld(`axis.${axis ?? 'new'}`);
  const [wrong, setWrong] = useState('');
  const typed: { name: string; columns: Column[] } = held
    ? (JSON.parse(held) as { name: string; columns: Column[] })
    : {
        name: axis ? '' : 'intents',
        columns: axis ? there.map(({ number, version, name }) => ({ number, version, name })) : intents,
      };
  const set = (next: Partial<typeof typed>) => {
    setWrong('');
    setHeld(JSON.stringify({ ...typed, ...next }));
  };
  const { columns } = typed;
  const move = (at: number, by: number) => {
    const next = [...columns];
    const [one] = next.splice(at, 1);
    next.splice(at + by, 0, one!);
    set({ columns: next });
  };
  const keep = async () => {
    const body = {
      name: axis ? null : typed.name,
      columns: columns
        .filter((one) => one.number || one.name.trim())
        .map((one) => ({
          name: one.name,
          version: one.version ?? null,
          number: one.number ?? null,
        })),
    };
    try {
      const made = await carryOut(
        done(
          axis
            ? api.PUT('/api/topics/axes/{number}', { params: { path: { number: String(axis) } }, body })
            : api.POST('/api/topics/axes', { body }),
        ),
        (kept) => `${kept.name}: ${kept.columns.map((one) => one.name).join(', ')}.`,
        true,
      );
      setHeld('');
      await queryClient.invalidateQueries();
      onMade(made.number);
    } catch (problem) {
      setWrong((problem as Error).message);
    }
  };
  return (
    <form
      aria-label={axis ? 'Names and order' : 'A new axis'}
      className="mb-4 border-y border-blue bg-wash px-3 py-2.5 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {!axis && (
        <p className="mb-2 flex flex-wrap items-baseline gap-x-3">
          <label className="flex items-baseline gap-2">
            called
            <input
              autoFocus
              // What is proposed is replaced by typing.
              onFocus={(event) => event.target.select()}
              value={typed.name}
              onChange={(event) => set({ name: event.target.value })}
              className="written w-44 border-b border-hair bg-transparent text-[15px] outline-none focus:border-blue"
            />
          </label>
          <span className="text-second">It is a topic, and its columns are the topics under it.</span>
        </p>
      )}
      <ol className="flex flex-wrap gap-x-5 gap-y-1.5">
        {columns.map((one, at) => (
          <li key={one.number ?? `new ${at}`} className="flex items-baseline gap-0.5">
            <button
              type="button"
              aria-label={`Move ${one.name || 'the new one'} to the left`}
              disabled={at === 0}
              className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
              onClick={() => move(at, -1)}
            >
              ←
            </button>
            <input
              aria-label={`Column ${at + 1}`}
              value={one.name}
              placeholder="its name"
              onChange={(event) =>
                set({ columns: columns.map((other, i) => (i === at ? { ...other, name: event.target.value } : other)) })
              }
              onKeyDown={(event) => {
                // Alt and an arrow move it, as sections of an outline are moved.
                if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
                  event.preventDefault();
                  const by = event.key === 'ArrowLeft' ? -1 : 1;
                  if (columns[at + by]) move(at, by);
                }
              }}
              className="written w-32 border-b border-hair bg-transparent text-[15px] outline-none focus:border-blue"
            />
            <button
              type="button"
              aria-label={`Move ${one.name || 'the new one'} to the right`}
              disabled={at === columns.length - 1}
              className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
              onClick={() => move(at, 1)}
            >
              →
            </button>
            <button
              type="button"
              aria-label={`Leave ${one.name || 'the new one'} out`}
              title="Leave it out; the topic stays"
              className="min-h-6 min-w-6 text-second hover:text-red"
              onClick={() => set({ columns: columns.filter((_, i) => i !== at) })}
            >
              ×
            </button>
          </li>
        ))}
        <li>
          <button type="button" className="link min-h-6" onClick={() => set({ columns: [...columns, { name: '' }] })}>
            another
          </button>
        </li>
      </ol>
      {wrong && (
        <p role="alert" className="mt-2 text-red">
          {wrong}
        </p>
      )}
      <p className="mt-2.5 flex gap-2">
        <Button look="main" type="submit">
          Keep
        </Button>
        <Button
          onClick={() => {
            setHeld('');
            onClose();
          }}
        >
          {held ? 'Leave it as it was' : 'Close'}
        </Button>
      </p>
    </form>
  );
}

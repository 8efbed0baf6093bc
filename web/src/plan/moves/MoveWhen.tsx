import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done, Problem, type Move } from '../../api/client';
import { queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { useSettled } from '../../text/understood';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { Dialog } from '../../ui/Dialog';
import { nearDay, plusDays, today } from '../../ui/dates';

const local = (instant: string) => {
  const at = new Date(instant);
  const two = (n: number) => String(n).padStart(2, '0');
  return {
    day: `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`,
    time: `${two(at.getHours())}:${two(at.getMinutes())}`,
  };
};

/** When a reminder is, as one would say it. */
export const remindSaid = (instant: string) => {
  const { day, time } = local(instant);
  return `${nearDay(day)} ${time}`;
};

const often = ['every day', 'weekdays', 'every Friday', 'every second Friday', 'the first Monday of the month'];

/** When a move is due, from when it is seen, when it is reminded of, and how often it comes again. */
export function MoveWhen({ move, onClose }: { move: Move; onClose: () => void }) {
  const was = move.remindAt ? local(move.remindAt) : undefined;
  const [due, setDue] = useState(move.due);
  const [start, setStart] = useState(move.start);
  const [remindOn, setRemindOn] = useState<string | null>(was?.day ?? null);
  const [time, setTime] = useState(was?.time ?? '09:00');
  const [repeats, setRepeats] = useState(move.repeatsSaid ?? '');
  const [wrong, setWrong] = useState<Problem>();
  const keep = async () => {
    try {
      await carryOut(
        done(
          api.PATCH('/api/moves/{number}', {
            params: { path: { number: String(move.number) } },
            body: {
              version: move.version,
              due,
              start,
              remindAt: remindOn ? new Date(`${remindOn}T${time || '09:00'}:00`).toISOString() : null,
              repeats: repeats.trim() || null,
            },
          }),
        ),
        'When it is done is set.',
        true,
      );
      await queryClient.invalidateQueries();
      onClose();
    } catch (error) {
      if (error instanceof Problem) setWrong(error);
    }
  };
  return (
    <Dialog open title={move.text.length > 60 ? `${move.text.slice(0, 58)}…` : move.text} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <div className="grid grid-cols-[84px_1fr] items-baseline gap-x-4 gap-y-3">
          <span className="label text-second">Due</span>
          <DateField label="Due" value={due} onChange={setDue} />
          <span className="label text-second">Begins</span>
          <DateField label="Begins" empty="at once" value={start} onChange={setStart} />
          <span className="label text-second">Reminder</span>
          <span className="inline-flex items-baseline gap-2">
            <DateField label="Reminder on" empty="none" value={remindOn} onChange={setRemindOn} />
            {remindOn && (
              <>
                at
                <input
                  aria-label="Reminder at"
                  type="time"
                  value={time}
                  onChange={(event) => setTime(event.target.value)}
                  className="border-b border-hair bg-transparent"
                />
              </>
            )}
            {!remindOn && (
              <button
                type="button"
                className="link text-[12.5px]"
                onClick={() => setRemindOn(due ?? plusDays(today(), 1))}
              >
                {due ? 'on its day at nine' : 'tomorrow at nine'}
              </button>
            )}
          </span>
          <label htmlFor="move-repeats" className="label text-second">
            Again
          </label>
          <span>
            <input
              id="move-repeats"
              value={repeats}
              list="move-often"
              placeholder="once; or: every second Friday"
              onChange={(event) => {
                setRepeats(event.target.value);
                setWrong(undefined);
              }}
              className="w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue"
            />
            <datalist id="move-often">
              {often.map((words) => (
                <option key={words} value={words} />
              ))}
            </datalist>
            <NextDays words={repeats} from={due} />
          </span>
        </div>
        {wrong && (
          <p role="alert" className="mt-3 text-red">
            {wrong.message}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit">
            Keep
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}

/** The next days it would come, while one writes how often. */
function NextDays({ words, from }: { words: string; from: string | null }) {
  const said = useSettled(words.trim(), 200);
  const preview = useQuery({
    queryKey: ['cadences', 'preview', said, from],
    queryFn: () => ask(api.POST('/api/cadences/preview', { body: { said, from } })),
    enabled: said !== '',
    retry: false,
  });
  if (said === '') return null;
  return (
    <span className="figures block min-h-5 text-[12px] text-second">
      {preview.data
        ? `${preview.data.dates.slice(0, 4).map(nearDay).join(', ')} … The next appears when this one is done.`
        : preview.error && 'Not read yet.'}
    </span>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ask, done } from '../../api/client';
import { queryClient, usePieces } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut } from '../../papers/notices';
import { DateField } from '../../ui/DateField';
import { Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { minutes, nearDay, today } from '../../ui/dates';

type Shot = components['schemas']['ShotShown'];

const keyOf = (day: string) => ['shots', day];

/** “1:30” or “90” as seconds; null for nothing, undefined for what is no length. */
function secondsOf(typed: string): number | null | undefined {
  const clean = typed.trim();
  if (clean === '') return null;
  const parts = /^(?:(\d{1,3}):)?(\d{1,5})$/.exec(clean);
  return parts ? Number(parts[1] ?? 0) * 60 + Number(parts[2]) : undefined;
}

/** What is recorded on a day, one piece after the other. */
export default function ShootingPage() {
  const day = useParams().day ?? today();
  const navigate = useNavigate();
  const list = useQuery({
    queryKey: keyOf(day),
    queryFn: () => ask(api.GET('/api/shots', { params: { query: { day } } })),
    retry: false,
  });
  const pieces = usePieces().data ?? [];
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!list.data) return <Loading what="Opening the list" />;
  const shots = list.data;
  const took = (made: Shot[]) => queryClient.setQueryData(keyOf(day), made);
  const add = async (piece: number) => {
    const made = await carryOut(
      done(api.POST('/api/shots', { body: { day, piece } })),
      `P ${piece} is on the list.`,
    ).catch(() => undefined);
    if (made) took(made);
  };
  const open = shots.filter((shot) => !shot.doneAt);
  const length = shots.reduce((sum, shot) => sum + shot.seconds, 0);
  return (
    <div className="h-full overflow-y-auto px-8 pb-16 max-md:px-4">
      <div className="mx-auto max-w-[56rem]">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pt-7 pb-2">
          <h1 className="written text-[25px] font-semibold">To record {nearDay(day)}</h1>
          <DateField
            label="Day"
            empty="another day"
            value={day}
            onChange={(next) => next && void navigate(`/shooting/${next}`)}
          />
          <Link className="link min-h-6 text-[12.5px]" to="/bench">
            back to the Bench
          </Link>
          {open.length > 0 && (
            <Link
              to={`/read/${open.map((shot) => shot.piece).join(',')}?day=${day}`}
              className="ml-auto inline-flex min-h-[30px] items-center rounded-key bg-blue px-4 text-[13px] font-semibold text-sheet"
            >
              Read {open.length === 1 ? 'it' : `all ${open.length}`} aloud
            </Link>
          )}
        </header>
        <p className="figures text-[13px] text-second">
          {shots.length} {shots.length === 1 ? 'piece' : 'pieces'} · {minutes(length)} as you read ·{' '}
          {shots.length - open.length} recorded
        </p>
        {shots.length === 0 && (
          <p className="py-6 text-second">
            Nothing yet. Pieces that are recorded on one day stand here in a row: what is said, what is needed at the
            place, how long each lasts.
          </p>
        )}
        <ol>
          {shots.map((shot, at) => (
            <Line key={shot.number} shot={shot} at={at} of={shots.length} onMade={took} />
          ))}
        </ol>
        <label className="mt-5 flex flex-wrap items-center gap-3 text-[13px]">
          Another piece
          <select
            aria-label="Another piece for the list"
            value=""
            onChange={(event) => void add(Number(event.target.value))}
            className="min-h-8 min-w-0 flex-1 border-b border-ink bg-transparent"
          >
            <option value="">choose…</option>
            {pieces
              .filter((piece) => shots.every((shot) => shot.piece !== piece.number))
              .map((piece) => (
                <option key={piece.number} value={piece.number}>
                  P {piece.number} · {piece.title}
                </option>
              ))}
          </select>
        </label>
      </div>
    </div>
  );
}

function Line({ shot, at, of, onMade }: { shot: Shot; at: number; of: number; onMade: (made: Shot[]) => void }) {
  const [writing, setWriting] = useState(false);
  const path = { number: String(shot.number) };
  const edit = async (
    body: { points?: string; needs?: string; aim?: number | null; done?: boolean; place?: number },
    said: string,
  ) => {
    const made = await carryOut(
      done(api.PATCH('/api/shots/{number}', { params: { path }, body: { ...body, version: shot.version } })),
      said,
    );
    onMade(made);
    return made;
  };
  const quietly = (act: Promise<unknown>) => void act.catch(() => undefined);
  const isLong = shot.aim !== null && shot.seconds > shot.aim;
  return (
    <li
      aria-label={shot.title}
      className="grid grid-cols-[auto_1fr_13rem] gap-x-4 border-b border-rule py-4 max-md:grid-cols-[auto_1fr]"
    >
      <input
        type="checkbox"
        aria-label={`${shot.title} is recorded`}
        checked={shot.doneAt !== null}
        onChange={(event) =>
          quietly(edit({ done: event.target.checked }, event.target.checked ? 'Recorded.' : 'To be recorded again.'))
        }
        className="mt-2 h-4 w-4"
      />
      <div className="min-w-0">
        <h2 className={`written text-[18px] font-semibold ${shot.doneAt ? 'text-second line-through' : ''}`}>
          <Link to={`/bench/${shot.piece}`} className="hover:text-blue">
            {shot.title}
          </Link>
        </h2>
        {writing || shot.isOwn ? (
          <TextField
            label={`Talking points of ${shot.title}`}
            shown={false}
            lines
            place={`shot.${shot.number}.points`}
            value={shot.points}
            placeholder="a point on each line; empty for the outline"
            onSave={(points) => edit({ points }, 'Points written.')}
            className="written text-[15px]"
          />
        ) : (
          <>
            <ul className="written list-disc pl-5 text-[15px]">
              {shot.said.map((point, nth) => (
                <li key={nth}>{point}</li>
              ))}
            </ul>
            <button type="button" className="link min-h-6 text-[12.5px]" onClick={() => setWriting(true)}>
              {shot.said.length > 0 ? 'own points instead of the outline' : 'write points'}
            </button>
          </>
        )}
      </div>
      <div className="text-[12.5px] max-md:col-start-2">
        <p className="figures">
          <b className={isLong ? 'text-red' : ''}>{minutes(shot.seconds)}</b>
          <span className="text-second">
            {shot.aim !== null ? ` of ${minutes(shot.aim)}` : ''} · {shot.words.toLocaleString('en')} words
          </span>
        </p>
        <TextField
          label="May last"
          place={`shot.${shot.number}.aim`}
          value={shot.aim === null ? '' : `${Math.floor(shot.aim / 60)}:${String(shot.aim % 60).padStart(2, '0')}`}
          placeholder="minutes:seconds"
          onSave={async (typed) => {
            const aim = secondsOf(typed);
            if (aim === undefined) throw new Error('A length is written 1:30, or as seconds: 90.');
            return edit({ aim }, 'Length set.');
          }}
        />
        <TextField
          label="Needed there"
          lines
          place={`shot.${shot.number}.needs`}
          value={shot.needs}
          placeholder="things, light, people"
          onSave={(needs) => edit({ needs }, 'Noted.')}
        />
        <p className="mt-1 flex gap-3">
          <Link className="link inline-flex min-h-6 items-center" to={`/read/${shot.piece}?day=${shot.day}`}>
            read
          </Link>
          <button
            type="button"
            aria-label={`${shot.title} up`}
            disabled={at === 0}
            className="link min-h-6 disabled:text-second"
            onClick={() => quietly(edit({ place: at - 1 }, 'Moved up.'))}
          >
            up
          </button>
          <button
            type="button"
            aria-label={`${shot.title} down`}
            disabled={at === of - 1}
            className="link min-h-6 disabled:text-second"
            onClick={() => quietly(edit({ place: at + 1 }, 'Moved down.'))}
          >
            down
          </button>
          <button
            type="button"
            aria-label={`${shot.title} off the list`}
            className="link min-h-6"
            onClick={() =>
              quietly(
                carryOut(done(api.DELETE('/api/shots/{number}', { params: { path } })), 'Off the list.').then(onMade),
              )
            }
          >
            off the list
          </button>
        </p>
      </div>
    </li>
  );
}

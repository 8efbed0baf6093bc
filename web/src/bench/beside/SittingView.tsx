import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { api, ask, done, type Piece } from '../../api/client';
import { queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut, say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { Failed, Loading } from '../../ui/States';
import { nearDay } from '../../ui/dates';
import { refreshPiece } from '../refreshPiece';

type Shown = components['schemas']['SittingShown'];
type Sitting = components['schemas']['DraftSitting'];

export const sittingKey = (piece: number) => ['sitting', piece];

/** The sitting of a piece, followed while it goes on. */
export const useSitting = (piece: number, changedAt: string | undefined) =>
  useQuery({
    queryKey: [...sittingKey(piece), changedAt],
    queryFn: () => ask(api.GET('/api/pieces/{number}/sitting', { params: { path: { number: String(piece) } } })),
    placeholderData: (before: Shown | undefined) => before,
  });

/** A gentle word, once, when a sitting has the words it was to have. */
export function useAimReached(shown: Shown | undefined) {
  const told = useRef(0);
  const sitting = shown?.now;
  const aim = shown?.sittingAim;
  useEffect(() => {
    if (!sitting || !aim || sitting.written < aim || told.current === sitting.number) return;
    // Not for a sitting that was over its aim when the page was opened.
    if (told.current !== 0 || sitting.written < aim * 1.2)
      say(`${aim.toLocaleString('en')} words: what this sitting was to have.`);
    told.current = sitting.number;
  }, [sitting, aim]);
}

const lasted = ({ startedAt, lastAt }: Sitting) =>
  Math.max(1, Math.round((Date.parse(lastAt) - Date.parse(startedAt)) / 60_000));

/** What a sitting did, in a sentence. */
function told(sitting: Sitting): string {
  const parts = [
    `${sitting.written.toLocaleString('en')} ${sitting.written === 1 ? 'word' : 'words'} written`,
    sitting.pasted > 0 && `${sitting.pasted.toLocaleString('en')} pasted`,
    sitting.taken > 0 && `${sitting.taken.toLocaleString('en')} taken out`,
  ].filter(Boolean);
  return `${parts.join(', ')} in ${lasted(sitting)} ${lasted(sitting) === 1 ? 'minute' : 'minutes'}`;
}

/** Aims in words, what was written, and the end of the sitting. */
export function SittingView({
  piece,
  words,
  changedAt,
  flush,
}: {
  piece: Piece;
  words: number;
  changedAt: string | undefined;
  flush: () => Promise<unknown>;
}) {
  const sitting = useSitting(piece.number, changedAt);
  if (sitting.error) return <Failed error={sitting.error} />;
  if (!sitting.data) return <Loading />;
  const { now, last, sittingAim, days } = sitting.data;
  const path = { number: String(piece.number) };
  const refresh = async () => {
    await queryClient.invalidateQueries({ queryKey: sittingKey(piece.number) });
    await refreshPiece();
  };
  const aim = async (of: 'sitting' | 'piece', typed: string) => {
    const clean = typed.replace(/[\s,.]/g, '');
    if (clean !== '' && !/^\d{1,7}$/.test(clean)) throw new Error('An aim is a number of words.');
    const made = await carryOut(
      done(
        api.PUT('/api/pieces/{number}/aims', {
          params: { path },
          body: { [of]: clean === '' ? null : Number(clean) },
        }),
      ),
      clean === '' ? 'Without an aim.' : `Aim set: ${Number(clean).toLocaleString('en')} words.`,
    );
    await refresh();
    return made;
  };
  const end = async () => {
    await flush();
    const made = await carryOut(
      done(api.POST('/api/pieces/{number}/sitting/end', { params: { path } })),
      ({ last: over }) => (over ? `The sitting is over: ${told(over)}.` : 'There was no sitting to end.'),
    );
    await refresh();
    return made;
  };
  const most = Math.max(1, ...days.map((day) => day.written + day.pasted));
  return (
    <div className="px-3.5 py-3">
      <p className="written text-[15px] leading-snug">{now ? told(now) : 'Nothing is written in this sitting yet.'}</p>
      {now && sittingAim && <Meter has={now.written} of={sittingAim} name="this sitting" />}
      {piece.wordAim && <Meter has={words} of={piece.wordAim} name="the piece" />}
      {now && (
        <Button className="mt-2" onClick={() => void end().catch(() => undefined)}>
          End the sitting
        </Button>
      )}
      {last && (
        <p className="mt-3 text-[12.5px] text-second">
          The one before, {nearDay(last.startedAt.slice(0, 10))}: {told(last)}.
        </p>
      )}
      <div className="mt-4 flex gap-4">
        <TextField
          label="Words a sitting"
          place={`piece.${piece.number}.aim.sitting`}
          value={sittingAim?.toString() ?? ''}
          placeholder="no aim"
          onSave={(typed) => aim('sitting', typed)}
        />
        <TextField
          label="Words of the piece"
          place={`piece.${piece.number}.aim.piece`}
          value={piece.wordAim?.toString() ?? ''}
          placeholder="its sections"
          onSave={(typed) => aim('piece', typed)}
        />
      </div>
      <h3 className="label mt-4 text-second">Written in the last fourteen days</h3>
      <ol className="mt-1">
        {days.map((day) => (
          <li key={day.day} className="figures flex items-center gap-2 text-[12px] leading-5 text-second">
            <span className="w-20 shrink-0 whitespace-nowrap">{nearDay(day.day)}</span>
            <span className="relative h-2 flex-1">
              <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: `${(100 * day.written) / most}%` }} />
              <span
                className={`absolute inset-y-0 ${day.pasted > 0 ? 'border border-second' : ''}`}
                style={{ left: `${(100 * day.written) / most}%`, width: `${(100 * day.pasted) / most}%` }}
              />
            </span>
            <b className="w-10 text-right font-semibold text-ink">{day.written || '–'}</b>
          </li>
        ))}
      </ol>
      <p className="mt-1 text-[12px] text-second">Filled: written, in all pieces. Outlined: pasted.</p>
    </div>
  );
}

function Meter({ has, of, name }: { has: number; of: number; name: string }) {
  const share = Math.min(1, has / of);
  return (
    <p className="figures mt-1.5 text-[12.5px]">
      <span className="block h-1 bg-hair">
        <span className={`block h-1 ${share === 1 ? 'bg-done' : 'bg-blue'}`} style={{ width: `${100 * share}%` }} />
      </span>
      {name}: <b>{has.toLocaleString('en')}</b> of {of.toLocaleString('en')}
      {share === 1 && ' · there'}
    </p>
  );
}

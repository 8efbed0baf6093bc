import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../../api/client';
import type { components } from '../../api/schema';
import { keys, queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';

export type StagesOf = components['schemas']['StagesOf'];
type StagesShown = components['schemas']['StagesShown'];
export type Standing = components['schemas']['StandingPiece'];
export type StageLead = components['schemas']['StageLead'];

export const useStages = () => useQuery({ queryKey: keys.stages, queryFn: () => ask(api.GET('/api/stages')) });

export const sorts = {
  due: 'what is due first',
  waiting: 'what has stood longest first',
  worth: 'what is worth most first',
  effort: 'what needs least work first',
} as const;
export type Sort = keyof typeof sorts;

const far = '9999';
const orders: Record<Sort, (a: Standing, b: Standing) => number> = {
  due: (a, b) => (a.due ?? far).localeCompare(b.due ?? far),
  waiting: (a, b) => b.days - a.days,
  worth: (a, b) => b.worth - a.worth,
  effort: (a, b) => a.hours - b.hours,
};

export const sorted = (pieces: readonly Standing[], by: Sort) =>
  [...pieces].sort((a, b) => orders[by](a, b) || a.number - b.number);

/** What can stand on a line beside the title. */
export const fields = {
  due: 'the date',
  words: 'words',
  hours: 'hours still needed',
  worth: 'worth',
  topics: 'topics',
  series: 'series',
  steps: 'open steps',
  move: 'next move',
} as const;
export type Field = keyof typeof fields;

/** How long a piece has stood at its stage, as one would say it. */
export const stood = (days: number) =>
  days === 0 ? 'since today' : days === 1 ? '1 day' : days < 60 ? `${days} days` : `${Math.round(days / 30.44)} months`;

const turns = new Map<number, Promise<unknown>>();
const versions = new Map<number, number>();

/**
 * Changes a piece and says what was done. It stands there at once; what is done to a piece quickly, one after the other, goes in
 * turn, each on what the last made of it.
 */
export async function change(
  piece: Standing,
  body: components['schemas']['PieceChange'],
  words: string,
): Promise<void> {
  const { number } = piece;
  const { stage } = body;
  if (stage)
    queryClient.setQueryData<StagesShown>(
      keys.stages,
      (shown) =>
        shown && {
          ...shown,
          pieces: shown.pieces.map((one) => (one.number === number ? { ...one, stage, days: 0 } : one)),
        },
    );
  const turn = (turns.get(number) ?? Promise.resolve())
    .catch(() => undefined)
    .then(() =>
      carryOut(
        done(
          api.PATCH('/api/pieces/{number}', {
            params: { path: { number: String(number) } },
            body: { ...body, version: Math.max(piece.version, versions.get(number) ?? 0) },
          }),
        ),
        words,
      ),
    )
    .then((made) => versions.set(number, made.version));
  turns.set(number, turn);
  try {
    await turn;
  } finally {
    if (turns.get(number) === turn) await queryClient.invalidateQueries();
  }
}

import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../../api/client';
import type { components } from '../../api/schema';
import { keys, queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';

export type StagesOf = components['schemas']['StagesOf'];
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

/** Changes a piece and says what was done. */
export async function change(
  piece: Standing,
  body: components['schemas']['PieceChange'],
  words: string,
): Promise<void> {
  try {
    await carryOut(
      done(
        api.PATCH('/api/pieces/{number}', {
          params: { path: { number: String(piece.number) } },
          body: { ...body, version: piece.version },
        }),
      ),
      words,
    );
  } finally {
    await queryClient.invalidateQueries();
  }
}

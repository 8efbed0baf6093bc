import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api, ask } from '../api/client';
import type { components } from '../api/schema';
import { keys } from '../api/queries';
import { plusDays, today } from '../ui/dates';
import type { Carried } from './carryingDays';

export type Outlet = components['schemas']['Outlet'];
export type PlanShown = components['schemas']['PlanShown'];
export type PlanEntry = components['schemas']['PlanEntry'];
export type PlanWeek = components['schemas']['PlanWeek'];
export type PlanTried = components['schemas']['PlanTried'];
export type Undated = components['schemas']['UndatedPiece'];

/** The plan with something on another day already, until the server has worked it all back: what is dropped stands there at once. */
export function moved(plan: PlanShown, carried: Carried, day: string): PlanShown {
  if (carried.kind === 'entry') {
    const key = keyOf(carried.entry);
    return {
      ...plan,
      entries: plan.entries.map((entry) =>
        entry.day === carried.entry.day && keyOf(entry) === key ? { ...entry, day, last: day } : entry,
      ),
    };
  }
  if (carried.kind !== 'undated') return plan;
  const { piece } = carried;
  const blank = { kind: 'due' as const, day, last: day, title: piece.title, piece: piece.number, move: null };
  return {
    ...plan,
    undated: plan.undated.filter((one) => one.number !== piece.number),
    entries: [
      ...plan.entries,
      {
        ...blank,
        ...{
          outlet: piece.outlet,
          series: piece.series,
          format: piece.format,
          stage: piece.stage,
          topics: piece.topics,
        },
        ...{ occasion: null, away: null, hours: piece.hours, missing: null, readyOn: null, begins: null, isSet: false },
        ...{ insteadOf: null, version: null, people: [], country: null, remindAt: null },
      },
    ],
  };
}

/** How much of the plan is shown at once, in weeks. */
export const spans = { month: 6, quarter: 13, year: 53 } as const;
export type Span = keyof typeof spans;

export const mondayOf = (iso: string) => plusDays(iso, -((new Date(`${iso}T12:00:00`).getDay() + 6) % 7));

/** Some weeks of the plan, from the week of a day on. */
export const usePlan = (from: string, span: Span) => {
  const first = mondayOf(from);
  const to = plusDays(first, 7 * spans[span] - 1);
  return useQuery({
    queryKey: keys.plan(first, to),
    queryFn: () => ask(api.GET('/api/plan', { params: { query: { from: first, to } } })),
    placeholderData: keepPreviousData,
  });
};

export const useOutlets = () =>
  useQuery({ queryKey: keys.outlets, queryFn: () => ask(api.GET('/api/outlets')) }).data ?? [];

/** Hours as they are said: 9, 2.5; what is left of a sum is not shown. */
export const hours = (count: number) => tenths.format(Math.round(count * 10) / 10);
const tenths = new Intl.NumberFormat('en', { maximumFractionDigits: 1 });

export const firstShown = (asked: string | null) => (asked && /^\d{4}-\d\d-\d\d$/.test(asked) ? asked : today());

/** What something on the plan is known by; the same on every day it may be carried to. */
export const keyOf = (entry: PlanEntry): string =>
  [
    entry.kind,
    entry.piece ??
      entry.move ??
      entry.away ??
      entry.occasion ??
      (entry.country ? `${entry.country}.${entry.title}` : `${entry.outlet}.${entry.format}`),
    entry.stage,
  ]
    .concat(entry.kind === 'open' || entry.kind === 'missed' || entry.kind === 'occasion' ? [entry.day] : [])
    .filter((part) => part !== null && part !== undefined)
    .join(' ');

/** What is shown in a place, each on or off. */
export const showable = {
  stages: 'the days stages are done by',
  moves: 'moves',
  occasions: 'occasions',
  out: 'what went out',
  notes: 'format and stage',
} as const;
export type Showable = keyof typeof showable;

/** What of the plan is left out. */
export type Sight = {
  /** Outlets that are hidden. */
  without: ReadonlySet<number>;
  format: string;
  topic: number;
  series: number;
  person: string;
  hidden: ReadonlySet<Showable>;
};

const partOf: Partial<Record<PlanEntry['kind'], Showable>> = {
  stage: 'stages',
  move: 'moves',
  occasion: 'occasions',
  out: 'out',
};

export function isInSight(entry: PlanEntry, sight: Sight): boolean {
  const part = partOf[entry.kind];
  if (part && sight.hidden.has(part)) return false;
  if (entry.outlet !== null && sight.without.has(entry.outlet)) return false;
  if (entry.kind === 'move' || entry.kind === 'away' || entry.kind === 'occasion') return true;
  if (sight.format && entry.format !== sight.format) return false;
  if (sight.series && entry.series !== sight.series) return false;
  if (sight.person && entry.piece !== null && !entry.people.includes(sight.person)) return false;
  if (sight.topic && entry.piece !== null && !entry.topics.some((topic) => topic.number === sight.topic)) return false;
  return true;
}

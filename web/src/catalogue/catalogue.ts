import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import type { components } from '../api/schema';

export type Row = components['schemas']['CatalogueRow'];
export type Release = components['schemas']['Release'];
export type There = components['schemas']['There'];
export type Outlet = components['schemas']['Outlet'];
export type Mentions = components['schemas']['MentionsFound'];
export type YearReviewed = components['schemas']['YearReviewed'];

export const useCatalogue = () => useQuery({ queryKey: keys.catalogue, queryFn: () => ask(api.GET('/api/catalogue')) });

/** "3 releases", "1 release". */
export const several = (count: number, what: string) =>
  `${count.toLocaleString('en')} ${what}${count === 1 ? '' : 's'}`;

/** Whether everything that is looked for stands somewhere in what is shown of a piece. */
export function fits(row: Row, looked: string, outlets: readonly Outlet[]): boolean {
  const names = row.releases.map((release) => outlets.find((outlet) => outlet.number === release.outlet)?.name ?? '');
  const shown = [
    row.title,
    row.summary,
    row.formatName,
    row.series,
    row.outOn,
    `r ${row.number}`,
    `p ${row.piece}`,
    ...row.topics.map((topic) => topic.name),
    ...names,
  ]
    .join('\n')
    .toLowerCase();
  return looked
    .toLowerCase()
    .split(/\s+/)
    .every((word) => shown.includes(word));
}

import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import type { components } from '../api/schema';

export type Row = components['schemas']['CatalogueRow'];
export type Release = components['schemas']['Release'];
export type There = components['schemas']['There'];
export type Outlet = components['schemas']['Outlet'];
export type Mentions = components['schemas']['MentionsFound'];
export type CatalogueBy = components['schemas']['CatalogueView']['by'];
export type YearReviewed = components['schemas']['YearReviewed'];

export const useCatalogue = () => useQuery({ queryKey: keys.catalogue, queryFn: () => ask(api.GET('/api/catalogue')) });

/** What a release is, where it is not the usual. */
export const kinds: Record<Release['kind'], string> = {
  usual: '',
  event: 'special event',
  spoken: 'spoken version',
};

/** Where the picture lies that a piece shows itself by: its cover, else the one that went out with it; undefined for none. */
export function coverOf(row: Row): string | undefined {
  if (row.cover !== null) return `/api/attachments/${row.cover}/content`;
  const shown = row.releases.find((release) => release.picture);
  return shown && `/api/releases/${shown.number}/picture`;
}

/** The groups a piece stands in. */
export function groupsOf(row: Row, by: CatalogueBy, outlets: readonly Outlet[]): string[] {
  const unique = (names: string[], otherwise: string) => {
    const some = [...new Set(names.filter(Boolean))];
    return some.length > 0 ? some : [otherwise];
  };
  switch (by) {
    case 'series':
      return [row.series || 'in no series'];
    case 'outlet':
      return unique(
        row.releases.map((release) => outlets.find((outlet) => outlet.number === release.outlet)?.name ?? ''),
        'outlet not said',
      );
    case 'format':
      return [row.formatName];
    case 'topic':
      return unique(
        row.topics.map((topic) => topic.name),
        'on no topic',
      );
    case 'kind':
      return unique(
        row.releases.map((release) => kinds[release.kind]),
        'the usual run',
      );
    default:
      return [row.outOn.slice(0, 4)];
  }
}

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
    ...row.releases.flatMap((release) => [kinds[release.kind], release.tried]),
    ...names,
  ]
    .join('\n')
    .toLowerCase();
  return looked
    .toLowerCase()
    .split(/\s+/)
    .every((word) => shown.includes(word));
}

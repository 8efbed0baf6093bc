import type { components } from '../api/schema';

export type Tally = components['schemas']['Tally'];

/** The seven screens in the order of the work. */
export const screens: { name: string; path: string; key: string; count?: keyof Tally; counts: string }[] = [
  { name: 'Desk', path: '/desk', key: 'd', count: 'desk', counts: 'moves due' },
  { name: 'Sift', path: '/sift', key: 's', count: 'sift', counts: 'slips waiting' },
  { name: 'Library', path: '/library', key: 'l', count: 'library', counts: 'slips and sources in sight' },
  { name: 'Topics', path: '/topics', key: 't', count: 'topics', counts: 'topics' },
  { name: 'Bench', path: '/bench', key: 'b', count: 'bench', counts: 'pieces in hand' },
  { name: 'Plan', path: '/plan', key: 'p', counts: '' },
  { name: 'Catalogue', path: '/catalogue', key: 'a', count: 'catalogue', counts: 'pieces out' },
];

import type { components } from '../api/schema';

export type Tally = components['schemas']['Tally'];

/** The seven screens in the order of the work. */
export const screens: { name: string; path: string; count?: keyof Tally; counts: string }[] = [
  { name: 'Desk', path: '/desk', count: 'desk', counts: 'moves due' },
  { name: 'Sift', path: '/sift', count: 'sift', counts: 'slips waiting' },
  { name: 'Library', path: '/library', count: 'library', counts: 'slips and sources in sight' },
  { name: 'Topics', path: '/topics', count: 'topics', counts: 'topics' },
  { name: 'Bench', path: '/bench', count: 'bench', counts: 'pieces in hand' },
  { name: 'Plan', path: '/plan', counts: '' },
  { name: 'Catalogue', path: '/catalogue', count: 'catalogue', counts: 'pieces out' },
];

const firstPlace = 'nachlass.choice.first';

/** The address of the screen that opens first. */
export const firstScreen = (): string => {
  const chosen = localStorage.getItem(firstPlace);
  return screens.find((screen) => screen.path === chosen)?.path ?? '/desk';
};

export const openFirst = (path: string): void => localStorage.setItem(firstPlace, path);

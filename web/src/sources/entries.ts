import type { LibraryEntry } from '../api/client';

/** What an entry is. */
export const kindOf = ({ slip, other }: LibraryEntry) =>
  slip?.kind ?? (other?.thing.kind === 'piece' || other?.thing.kind === 'day' ? other.thing.kind : 'source');

/** Its number as it is shown; a day has none. */
export const numberOf = ({ slip, source, other }: LibraryEntry): string =>
  slip || source ? String((slip ?? source)!.number) : other!.thing.kind === 'day' ? '' : String(other!.thing.number);

export const titleOf = ({ slip, source, other }: LibraryEntry): string =>
  slip?.title ?? source?.title ?? other?.title ?? '';

/** Its words in full, where the list has them. */
export const wordsOf = ({ slip, source, other }: LibraryEntry): string =>
  slip?.text ?? source?.title ?? other?.title ?? '';

export const topicsOf = ({ slip, source }: LibraryEntry) => (slip ?? source)?.topics ?? [];

/** The day it was caught on; a piece or a sheet does not say. */
export const dayOfEntry = ({ slip, source }: LibraryEntry): string => slip?.day ?? source?.caughtAt.slice(0, 10) ?? '';

/** Tells entries apart, whatever they are. */
export const idOf = ({ slip, source, other }: LibraryEntry): number =>
  slip?.number ?? (source ? -source.number : -(other!.thing.kind === 'day' ? 2e7 : 1e7) - other!.thing.number);

/** Where an entry is shown. */
export const addressOfEntry = ({ slip, source, other }: LibraryEntry): string =>
  slip ? `/library/slip/${slip.number}` : source ? `/library/source/${source.number}` : other!.address;

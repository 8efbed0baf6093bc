import type { LibraryEntry, ViewGroup } from '../api/client';
import { dayOfEntry, kindOf, topicsOf } from './entries';

/** Entries gathered under headings; one that has several topics stands under each of them. */
export function groupsOf(
  entries: readonly LibraryEntry[],
  by: ViewGroup | '',
): { name: string; entries: LibraryEntry[] }[] {
  if (!by) return [{ name: '', entries: [...entries] }];
  const groups = new Map<string, LibraryEntry[]>();
  for (const entry of entries)
    for (const name of namesOf(entry, by)) {
      const group = groups.get(name);
      if (group) group.push(entry);
      else groups.set(name, [entry]);
    }
  const inOrder = [...groups].map(([name, list]) => ({ name, entries: list }));
  if (by === 'topic' || by === 'source')
    inOrder.sort(
      (a, b) => Number(a.name.startsWith('no ')) - Number(b.name.startsWith('no ')) || a.name.localeCompare(b.name),
    );
  return inOrder;
}

function namesOf(entry: LibraryEntry, by: ViewGroup): string[] {
  const { slip, source, from } = entry;
  const topics = topicsOf(entry);
  switch (by) {
    case 'topic':
      return topics.length ? topics.map((topic) => topic.name) : ['no topic'];
    case 'kind':
      return [kindOf(entry)];
    case 'state':
      return [slip?.state ?? `${kindOf(entry)}s`];
    case 'origin':
      return [slip?.origin ?? `${kindOf(entry)}s`];
    case 'format':
      return slip?.formats.length ? [...slip.formats] : ['no format'];
    case 'source':
      return [from ?? source?.title ?? 'no source'];
    default:
      return [
        dayOfEntry(entry)
          ? new Date(`${dayOfEntry(entry).slice(0, 7)}-01`).toLocaleDateString('en-GB', {
              month: 'long',
              year: 'numeric',
            })
          : 'no month',
      ];
  }
}

import type { LibraryEntry, ViewGroup } from '../api/client';

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

function namesOf({ slip, source, from }: LibraryEntry, by: ViewGroup): string[] {
  const topics = (slip ?? source)?.topics ?? [];
  switch (by) {
    case 'topic':
      return topics.length ? topics.map((topic) => topic.name) : ['no topic'];
    case 'kind':
      return [slip?.kind ?? 'source'];
    case 'state':
      return [slip?.state ?? 'sources'];
    case 'origin':
      return [slip?.origin ?? 'sources'];
    case 'format':
      return slip?.formats.length ? [...slip.formats] : ['no format'];
    case 'source':
      return [from ?? source?.title ?? 'no source'];
    default:
      return [
        new Date(`${(slip?.day ?? source!.caughtAt).slice(0, 7)}-01`).toLocaleDateString('en-GB', {
          month: 'long',
          year: 'numeric',
        }),
      ];
  }
}

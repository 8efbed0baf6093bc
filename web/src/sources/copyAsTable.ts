import type { LibraryEntry, ViewColumn } from '../api/client';
import { dayOfEntry, kindOf, numberOf, topicsOf, wordsOf } from './entries';
import { complain, say } from '../papers/notices';

/** What stands in a cell, in plain words. */
export function plainly(entry: LibraryEntry, column: ViewColumn): string {
  const { slip, source } = entry;
  switch (column) {
    case 'number':
      return numberOf(entry);
    case 'text':
      return wordsOf(entry);
    case 'kind':
      return kindOf(entry);
    case 'topics':
      return topicsOf(entry)
        .map((topic) => topic.name)
        .join('; ');
    case 'source':
      return entry.from ?? source?.title ?? '';
    case 'caught':
      return dayOfEntry(entry);
    case 'worth':
      return entry.worth == null ? '' : String(Math.round(entry.worth));
    case 'format':
      return entry.piece?.format ?? slip?.formats.join('; ') ?? '';
    case 'stage':
      return entry.piece?.stage ?? '';
    case 'due':
      return entry.piece?.due ?? '';
    case 'out':
      return entry.piece?.outOn ?? '';
    case 'words':
      return entry.piece ? String(entry.piece.words) : '';
    case 'fields':
      return Object.entries(entry.piece?.fields ?? {})
        .map(([key, value]) => `${key.replaceAll('_', ' ')}: ${value}`)
        .join('; ');
    case 'used':
      return slip ? (slip.used ? 'yes' : 'no') : '';
    default:
      return String((slip as Record<string, unknown> | null)?.[column] ?? '');
  }
}

/** Puts entries on the clipboard as a table, for a sheet or a letter. */
export async function copyAsTable(taken: readonly LibraryEntry[], columns: readonly ViewColumn[]): Promise<void> {
  const table = [[...columns] as string[], ...taken.map((entry) => columns.map((column) => plainly(entry, column)))];
  const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/\n/g, '<br>');
  const html = `<table>${table.map((row) => `<tr>${row.map((value) => `<td>${escaped(value)}</td>`).join('')}</tr>`).join('')}</table>`;
  const text = table.map((row) => row.map((value) => value.replace(/[\t\n]+/g, ' ')).join('\t')).join('\n');
  try {
    await navigator.clipboard.write([
      new ClipboardItem({
        'text/plain': new Blob([text], { type: 'text/plain' }),
        'text/html': new Blob([html], { type: 'text/html' }),
      }),
    ]);
    say(`Copied ${taken.length} ${taken.length === 1 ? 'row' : 'rows'} as a table.`);
  } catch (error) {
    complain(error);
  }
}

import type { InState, ListSort, SavedView, SlipKind, ViewColumn, ViewGroup } from '../api/client';

/** What the library is asked and how the answer is laid out; it stands in the address, so that it reloads and can be gone back to. */
export type LibraryAsked = {
  query: string;
  state: InState;
  kind: SlipKind | 'source' | '';
  topic: string;
  used: '' | 'yes' | 'no';
  sort: ListSort | '';
  upward: '' | 'yes';
  as: '' | 'table';
  group: ViewGroup | '';
  columns: string;
  view: string;
};

const fields: (keyof LibraryAsked)[] = [
  'query',
  'state',
  'kind',
  'topic',
  'used',
  'sort',
  'upward',
  'as',
  'group',
  'columns',
  'view',
];

export function readAsked(params: URLSearchParams): LibraryAsked {
  const asked = Object.fromEntries(fields.map((field) => [field, params.get(field) ?? ''])) as LibraryAsked;
  return { ...asked, state: asked.state || 'sight' };
}

export function writeAsked(asked: LibraryAsked): URLSearchParams {
  const params = new URLSearchParams();
  for (const field of fields) {
    const value = asked[field];
    if (value && !(field === 'state' && value === 'sight')) params.set(field, value);
  }
  return params;
}

/** As the server is asked. */
export const forServer = (asked: LibraryAsked) => ({
  query: asked.query || undefined,
  state: asked.state || undefined,
  kind: asked.kind && asked.kind !== 'source' ? asked.kind : undefined,
  sources: asked.kind === 'source' ? true : undefined,
  topic: Number(asked.topic) || undefined,
  used: asked.used ? asked.used === 'yes' : undefined,
  sort: asked.sort || undefined,
  upward: asked.upward === 'yes' || undefined,
});

export const nothingAsked = readAsked(new URLSearchParams());

/** What a view asks, as an address. */
export const askedBy = (view: SavedView): LibraryAsked => ({
  ...nothingAsked,
  query: view.query,
  sort: view.sort ?? '',
  upward: view.upward ? 'yes' : '',
  as: view.layout === 'table' ? 'table' : '',
  group: view.grouped ?? '',
  columns: view.columns.join(','),
  view: String(view.number),
});

/** All that is asked as one query, the fields of the filters among it, so that it can be kept as a view. */
export function asQuery(asked: LibraryAsked, topicName: (number: string) => string | undefined): string {
  const quoted = (value: string) => (/^[\p{L}\p{N}-]+$/u.test(value) ? value : `"${value}"`);
  const topic = asked.topic && topicName(asked.topic);
  const parts = [
    asked.kind === 'source' ? 'in:sources' : asked.kind && `kind:${asked.kind}`,
    topic && `topic:${quoted(topic)}`,
    asked.used && `used:${asked.used}`,
    ['waiting', 'kept', 'held', 'dropped'].includes(asked.state) && `state:${asked.state}`,
    asked.state === 'all' && 'state:any',
  ].filter(Boolean);
  const own = asked.query.trim();
  return [parts.length && /\bor\b/i.test(own) ? `(${own})` : own, ...parts].filter(Boolean).join(' ');
}

export const allColumns: ViewColumn[] = [
  'number',
  'text',
  'kind',
  'topics',
  'pull',
  'effort',
  'worth',
  'stage',
  'due',
  'out',
  'words',
  'fields',
  'format',
  'state',
  'used',
  'source',
  'locator',
  'origin',
  'caught',
];
const usual = ['number', 'text', 'kind', 'topics', 'pull', 'effort', 'state', 'caught'];
export const columnsOf = (asked: LibraryAsked): ViewColumn[] =>
  (asked.columns ? asked.columns.split(',') : usual).filter((c): c is ViewColumn =>
    (allColumns as string[]).includes(c),
  );

import type { ListSort } from '../api/client';
import { ActionMenu } from '../ui/ActionMenu';
import { allColumns, columnsOf, type LibraryAsked } from './asked';

type Order = { sort: ListSort | ''; upward: '' | 'yes'; name: string };

const orders: Order[] = [
  { sort: '', upward: '', name: 'the newest first' },
  { sort: 'caught', upward: 'yes', name: 'the oldest first' },
  { sort: 'pull', upward: '', name: 'the highest pull first' },
  { sort: 'effort', upward: 'yes', name: 'the least effort first' },
  { sort: 'worth', upward: '', name: 'the worthiest first' },
  { sort: 'due', upward: 'yes', name: 'the next due first' },
  { sort: 'stage', upward: 'yes', name: 'by stage' },
  { sort: 'kind', upward: 'yes', name: 'by kind' },
  { sort: 'state', upward: 'yes', name: 'by state' },
  { sort: 'text', upward: 'yes', name: 'from A to Z' },
];

/** In what order the library stands and what it is gathered under; in a table, which columns it has. */
export function LayoutChoices({
  asked,
  isTable,
  onAsk,
}: {
  asked: LibraryAsked;
  isTable: boolean;
  onAsk: (changed: Partial<LibraryAsked>) => void;
}) {
  const columns = columnsOf(asked);
  const hasWords = /\p{L}/u.test(asked.query.replace(/\S+[:<>=]\S*/g, ''));
  const nameOf = (order: Order) => (order.sort === '' && hasWords ? 'the best first' : order.name);
  const current = orders.find((order) => order.sort === asked.sort && order.upward === asked.upward);
  return (
    <span className="flex flex-wrap gap-x-4">
      <ActionMenu
        label="Order"
        className="link"
        actions={orders.map((order) => ({
          key: order.name,
          label: <span className={order === current ? 'font-semibold text-blue' : ''}>{nameOf(order)}</span>,
          onChoose: () => onAsk({ sort: order.sort, upward: order.upward }),
        }))}
      >
        {current ? nameOf(current) : `by ${asked.sort}, ${asked.upward ? 'up' : 'down'}`} ▾
      </ActionMenu>
      <ActionMenu
        label="Gathered by"
        className="link"
        actions={(['', 'topic', 'kind', 'state', 'origin', 'source', 'format', 'month'] as const).map((group) => ({
          key: group || 'nothing',
          label: <span className={group === asked.group ? 'font-semibold text-blue' : ''}>{group || 'nothing'}</span>,
          onChoose: () => onAsk({ group }),
        }))}
      >
        {asked.group ? `gathered by ${asked.group}` : 'not gathered'} ▾
      </ActionMenu>
      {isTable && (
        <ActionMenu
          label="Columns"
          className="link"
          actions={allColumns.map((column) => ({
            key: column,
            label: (
              <span className="flex gap-2">
                <span className="w-3">{columns.includes(column) ? '✓' : ''}</span>
                {column}
              </span>
            ),
            disabled: columns.length === 1 && columns[0] === column,
            onChoose: () =>
              onAsk({
                columns: (columns.includes(column)
                  ? columns.filter((c) => c !== column)
                  : allColumns.filter((c) => c === column || columns.includes(c))
                ).join(','),
              }),
          }))}
        >
          columns ▾
        </ActionMenu>
      )}
    </span>
  );
}

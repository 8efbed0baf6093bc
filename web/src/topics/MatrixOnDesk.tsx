import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { useChoice } from '../ui/useChoice';

const mostRows = 6;
const mostColumns = 5;

/** The matrix in small, where its writer wants it on the Desk: the topics with most in hand, and where something is missing. */
export function MatrixOnDesk() {
  const [chosen] = useChoice<string>('matrix on the desk', '');
  return chosen ? <Small axis={chosen === 'formats' ? undefined : chosen} /> : null;
}

function Small({ axis }: { axis: string | undefined }) {
  const map = useQuery({
    queryKey: keys.coverage(axis ? Number(axis) : undefined),
    queryFn: () => ask(api.GET('/api/topics/coverage', { params: { query: { axis } } })),
    // An axis that is gone is no reason to complain on every visit.
    retry: false,
  }).data;
  if (!map) return null;
  const at = new Map(map.cells.map((cell) => [`${cell.topic}/${cell.column}`, cell]));
  const used = new Map<string, number>();
  for (const cell of map.cells)
    used.set(cell.column, (used.get(cell.column) ?? 0) + cell.inHand + cell.inWork + cell.out);
  // Of many formats those in use; an axis of the writer's own in its order.
  const columns = (
    axis ? map.columns : [...map.columns].sort((a, b) => (used.get(b.key) ?? 0) - (used.get(a.key) ?? 0))
  ).slice(0, mostColumns);
  const rows = [...map.rows].sort((a, b) => b.kept - b.used - (a.kept - a.used)).slice(0, mostRows);
  if (rows.length === 0 || columns.length === 0) return null;
  return (
    <section aria-label="Topics against" className="mb-7">
      <header className="mb-1 flex items-baseline justify-between gap-3 border-b border-hair pb-1.5">
        <h2 className="label min-w-0 truncate">Topics against {axis ? 'an axis of yours' : 'formats'}</h2>
        <Link
          to={`/topics?as=coverage${axis ? `&against=${axis}` : ''}`}
          className="link text-[12px] whitespace-nowrap"
        >
          all of it
        </Link>
      </header>
      <table className="figures w-full border-collapse text-[12px]">
        <thead>
          <tr>
            <th className="sr-only">Topic</th>
            {columns.map((column) => (
              <th
                key={column.key}
                title={column.name}
                className="narrow max-w-0 truncate py-1 pl-2 text-left font-normal text-second"
              >
                {column.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((topic) => (
            <tr key={topic.number} className="border-t border-rule">
              <th className="narrow max-w-24 truncate py-1 text-left font-normal">
                <Link to={`/topics/${topic.number}`} className="hover:text-blue">
                  {topic.name}
                </Link>
              </th>
              {columns.map((column) => {
                const cell = at.get(`${topic.number}/${column.key}`);
                const name = `${column.name} on ${topic.name}`;
                return (
                  <td key={column.key} className="py-1 pl-2">
                    {cell ? (
                      <span
                        title={`${name}: ${cell.inHand} in hand, ${cell.inWork} in work, ${cell.out} out`}
                        className="inline-block min-h-6 leading-6"
                      >
                        <span className="sr-only">
                          {name}: {cell.inHand} in hand, {cell.inWork} in work, {cell.out} out
                        </span>
                        <span aria-hidden>
                          <span className="text-blue">{cell.inHand}</span> · {cell.inWork} ·{' '}
                          <span className="text-done">{cell.out}</span>
                        </span>
                      </span>
                    ) : (
                      <Link
                        to={`/bench/ideas?topic=${topic.number}&${axis ? 'topic' : 'format'}=${column.key}`}
                        aria-label={`Ideas for ${name}`}
                        title={`Nothing yet; ideas for ${name}`}
                        className="inline-block min-h-6 min-w-6 leading-6 text-second hover:text-blue"
                      >
                        +
                      </Link>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[11.5px] text-second">
        <span className="text-blue">in hand</span> · in work · <span className="text-done">out</span>
      </p>
    </section>
  );
}

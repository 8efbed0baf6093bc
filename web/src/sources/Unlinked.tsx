import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, done, type Reference } from '../api/client';
import { keys } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { addressOf, named } from './Connections';

/** Places that name a thing, or a section of it, without a link to it; linked with a press. */
export function Unlinked({
  kind,
  number,
  section,
}: {
  kind: 'topic' | 'source' | 'piece' | 'slip';
  number: number;
  section?: string;
}) {
  const client = useQueryClient();
  const path = { kind, number };
  const found =
    useQuery({
      queryKey: keys.mentions(kind, number, section),
      queryFn: () => ask(api.GET('/api/mentions/{kind}/{number}', { params: { path, query: { section } } })),
    }).data ?? [];
  if (found.length === 0) return null;
  const link = (place: Reference) =>
    void carryOut(
      done(
        api.POST('/api/mentions/{kind}/{number}/link', {
          params: { path },
          body: { inKind: place.kind, inNumber: place.number, section },
        }),
      ),
      'Linked.',
    ).then(
      () => client.invalidateQueries(),
      () => undefined,
    );
  return (
    <details className="mt-7" open={found.length <= 3}>
      <summary className="label cursor-pointer border-b border-hair pb-1 text-second">
        Named without a link · {found.length}
      </summary>
      {found.map((place) => (
        <div key={`${place.in.kind}${place.in.number}`} className="flex items-start gap-3 border-b border-rule py-2">
          <div className="min-w-0 flex-1">
            <Link to={addressOf(place.in)} className="text-[12.5px] font-semibold hover:text-blue">
              {named(place.in)}
            </Link>
            <p className="written text-[14px] leading-snug text-second">{place.sentence}</p>
          </div>
          <Button onClick={() => link(place.in)}>Link</Button>
        </div>
      ))}
    </details>
  );
}

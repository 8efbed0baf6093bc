import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, ask, type Done, type Draft } from '../../api/client';
import { keys } from '../../api/queries';
import { Failed, Loading } from '../../ui/States';
import { Faults } from './Faults';
import { Proposed } from './Proposed';
import { Strip } from './Strip';

export type RouteActs = {
  /** Shows a place of the draft. */
  goTo: (at: number) => void;
  move: (moved: readonly number[], before: number | null, depth: number) => Promise<unknown>;
  /** Runs a command that changes the draft, once all that was typed is at the server. */
  onDraft: (run: (version: number) => Promise<Done<Draft>>) => Promise<Done<Draft>>;
};

/** The piece as the way a reader goes through it, where it would lose one, and what the material proposes. */
export function RoutePart({
  piece,
  acts,
  onEnter,
}: {
  piece: number;
  acts: RouteActs;
  /** Brings what was typed to the server, so that it is looked through too. */
  onEnter: () => Promise<unknown>;
}) {
  const path = { number: String(piece) };
  const route = useQuery({
    queryKey: keys.route(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/route', { params: { path } })),
  });
  const proposal = useQuery({
    queryKey: keys.proposal(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/proposal', { params: { path } })),
  });
  useEffect(() => {
    void onEnter();
    // Once, on coming here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  if (route.error) return <Failed error={route.error} onRetry={() => void route.refetch()} />;
  if (!route.data) return <Loading what="Walking the route" />;
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto px-6 pb-12 max-md:flex-none max-md:overflow-visible max-md:px-4"
      tabIndex={-1}
    >
      <Strip route={route.data} acts={acts} />
      <div className="mt-7 grid gap-x-11 gap-y-8 lg:grid-cols-2">
        <Faults piece={piece} shown={route.data} acts={acts} />
        {proposal.error ? (
          <Failed error={proposal.error} />
        ) : proposal.data ? (
          <Proposed piece={piece} shown={proposal.data} route={route.data} acts={acts} />
        ) : (
          <Loading what="Laying out the material" />
        )}
      </div>
    </div>
  );
}

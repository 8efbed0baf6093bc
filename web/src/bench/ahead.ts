import { api, ask, type Draft } from '../api/client';
import { keys, queryClient } from '../api/queries';

const drafts = new Map<number, Promise<Draft>>();

const read = (piece: number): Promise<Draft> =>
  ask(api.GET('/api/pieces/{number}/draft', { params: { path: { number: String(piece) } } }));

/** Asks for what a piece's page shows first, while the page itself is still on its way. */
export function askAhead(piece: number): void {
  const path = { number: String(piece) };
  const asked = read(piece);
  asked.catch(() => undefined);
  drafts.set(piece, asked);
  void queryClient.prefetchQuery({
    queryKey: keys.piece(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}', { params: { path } })),
  });
  void queryClient.prefetchQuery({
    queryKey: keys.material(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/material', { params: { path } })),
  });
}

/** The draft as the server has it: what was asked for ahead serves once, since a second reading wants what is there by then. */
export function readDraft(piece: number): Promise<Draft> {
  const asked = drafts.get(piece);
  drafts.delete(piece);
  return asked ?? read(piece);
}

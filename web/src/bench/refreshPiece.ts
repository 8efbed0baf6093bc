import { queryClient } from '../api/queries';

/** Everything but drafts is asked for again; an open editor knows best what it has. */
export const refreshPiece = () =>
  queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'draft' });

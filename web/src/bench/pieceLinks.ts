import { useQuery } from '@tanstack/react-query';
import { api, ask, type LinkLine } from '../api/client';
import { keys } from '../api/queries';

/** Everything that links to a piece or to a section of it. */
export const usePieceLinks = (piece: number, enabled = true): readonly LinkLine[] =>
  useQuery({
    queryKey: keys.links(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/links', { params: { path: { number: String(piece) } } })),
    enabled,
  }).data ?? [];

/** Those that lead to the section with this heading. */
export const linksTo = (lines: readonly LinkLine[], section: string) =>
  lines.filter((line) => line.part.toLowerCase() === section.toLowerCase());

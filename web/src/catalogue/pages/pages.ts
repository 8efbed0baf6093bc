import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut } from '../../papers/notices';

export type PageShown = components['schemas']['PageShown'];
export type PageComment = components['schemas']['PageComment'];
export type CommentState = components['schemas']['CommentState'];
export type PageChange = components['schemas']['PageChange'];

export const usePages = () => useQuery({ queryKey: keys.pages, queryFn: () => ask(api.GET('/api/pages')) });
/** The page of a piece; undefined while it has none. */
export const usePageOf = (piece: number) =>
  useQuery({
    queryKey: keys.pageOf(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/page', { params: { path: { number: String(piece) } } })),
  }).data?.page ?? undefined;
export const useSite = () => useQuery({ queryKey: keys.site, queryFn: () => ask(api.GET('/api/site')) });

/** Where a page is read: by its writer over the address at which it is served, which is always this program. */
export const hereOf = (servedAt: string, shown: PageShown) => servedAt.replace(/\/$/, '') + (shown.path ?? '');

/** The address for others, without its protocol. */
export const addressOf = (site: string, shown: PageShown) =>
  (site.replace(/\/$/, '') + (shown.path ?? '')).replace(/^https?:\/\//, '').replace(/\/$/, '');

const path = (shown: PageShown) => ({ params: { path: { number: String(shown.page.number) } } });

const after = () => queryClient.invalidateQueries();

export const renew = (shown: PageShown) =>
  carryOut(done(api.POST('/api/pages/{number}/renew', path(shown))), 'The page shows the text as it stands now.')
    .then(after)
    .catch(() => undefined);

export const setDown = (shown: PageShown, down: boolean) =>
  carryOut(
    done(down ? api.POST('/api/pages/{number}/down', path(shown)) : api.POST('/api/pages/{number}/up', path(shown))),
    down ? 'Taken down; its address answers that it is gone.' : 'It is up again.',
  )
    .then(after)
    .catch(() => undefined);

const said: Record<CommentState, string> = {
  held: 'It is held again.',
  shown: 'It stands on the page, and among the messages.',
  kept: 'Kept among the messages; it does not stand on the page.',
  refused: 'Refused.',
};

export const decide = (comment: PageComment, state: CommentState) =>
  carryOut(
    done(
      api.POST('/api/comments/{number}', {
        params: { path: { number: String(comment.number) } },
        body: { state },
      }),
    ),
    said[state],
  )
    .then(after)
    .catch(() => undefined);

/** Has the page elsewhere fetched, and keeps what it says of this one. */
export const look = (comment: PageComment) =>
  carryOut(
    done(api.POST('/api/comments/{number}/look', { params: { path: { number: String(comment.number) } } })),
    'It mentions this page; what it says stands here now.',
  )
    .then(after)
    .catch(() => undefined);

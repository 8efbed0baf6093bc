import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut } from '../../papers/notices';

export type Ask = components['schemas']['AskShown'];
export type Wish = components['schemas']['WishShown'];
export type MessageLine = components['schemas']['MessageShown'];

export const useAsks = (putAway = false) =>
  useQuery({
    queryKey: keys.asks(putAway),
    queryFn: () => ask(api.GET('/api/asks', { params: { query: { putAway } } })),
  });

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });
const withYear = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** "19 Oct", with the year when it is not this one. */
export function daySaid(instant: string): string {
  const at = new Date(instant);
  return (at.getFullYear() === new Date().getFullYear() ? day : withYear).format(at);
}

/** Carries out what was asked of the server, says it, and shows all anew. */
export async function act<T>(
  asked: Promise<{ answer: T; command: number; followed?: string }>,
  said: string | ((answer: T) => string),
): Promise<T | undefined> {
  try {
    return await carryOut(asked, said);
  } catch {
    return undefined;
  } finally {
    await queryClient.invalidateQueries();
  }
}

const path = (number: number) => ({ path: { number: String(number) } });

export const placeWish = (wish: Wish, place: { ask?: number; nothing?: boolean }, said: string) =>
  act(
    done(
      api.PUT('/api/wishes/{number}/place', {
        params: path(wish.number),
        body: { ask: place.ask, nothing: place.nothing ?? false },
      }),
    ),
    said,
  );

export const joinAsks = (one: Ask, into: Ask) =>
  act(
    done(api.POST('/api/asks/{number}/join', { params: path(one.number), body: { into: into.number } })),
    `Joined with “${into.ask}”.`,
  );

export const makeIdea = (one: Ask) =>
  act(done(api.POST('/api/asks/{number}/idea', { params: path(one.number) })), 'Made an idea of it, with who asked.');

export const beginPiece = (one: Ask) =>
  act(
    done(api.POST('/api/asks/{number}/piece', { params: path(one.number), body: {} })),
    'Began a piece for it, with who asked as its material.',
  );

export const editAsk = (one: Ask, edit: { title?: string; putAway?: boolean; idea?: number }, said: string) =>
  act(
    done(
      api.PATCH('/api/asks/{number}', {
        params: path(one.number),
        body: {
          version: one.version,
          title: edit.title ?? null,
          putAway: edit.putAway ?? null,
          idea: edit.idea ?? null,
        },
      }),
    ),
    said,
  );

/** The release that answers an ask: the piece made for it once it is out, else one in which it was said already. */
export const answerTo = (one: Ask) => one.piece?.out ?? one.answeredBy[0];

/** A reply that says where the answer stands, to be gone over before it is sent. */
export function replyFor(one: Ask, wish: Wish): string {
  const answer = answerTo(one);
  if (!answer) return '';
  const where = answer.address ? `: ${answer.address}` : '.';
  const said = 'sentence' in answer && answer.sentence ? `\n\n> ${answer.sentence}` : '';
  const name = wish.person ? `Dear ${wish.person},` : 'Dear reader,';
  return `${name}\n\nyou asked: “${wish.text}” I wrote about it in “${answer.title}”${where}${said}\n`;
}

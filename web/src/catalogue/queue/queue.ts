import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { complain, say } from '../../papers/notices';

export type Sending = components['schemas']['Sending'];
export type Connection = components['schemas']['Connection'];
export type QueueAct = components['schemas']['QueueAct'];

export const useQueue = () => useQuery({ queryKey: keys.queue, queryFn: () => ask(api.GET('/api/queue')) }).data ?? [];

const connections = { queryKey: keys.connections, queryFn: () => ask(api.GET('/api/connections')) };

export const useConnections = () => useQuery(connections).data ?? [];

/** Whether it is known which outlets are connected. */
export const useConnectionsKnown = () => useQuery(connections).isSuccess;

const clock = { weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' } as const;
const thisYear = new Intl.DateTimeFormat('en-GB', clock);
const otherYear = new Intl.DateTimeFormat('en-GB', { ...clock, year: 'numeric' });

/** "Sat 28 Nov, 07:30", with the year when it is not this one. */
export function whenSaid(instant: string): string {
  const at = new Date(instant);
  return (at.getFullYear() === new Date().getFullYear() ? thisYear : otherYear).format(at);
}

/** Where something in the queue stands, in a few words. */
export function standing(sending: Sending): { words: string; isWrong: boolean } {
  const sent = sending.parts.filter((part) => part.state === 'sent').length;
  const { letters } = sending;
  if (letters && sending.state === 'sent')
    return {
      words: `sent to ${letters.sent.toLocaleString('en')}${letters.refused > 0 ? `; ${letters.refused.toLocaleString('en')} did not get it` : ''}`,
      isWrong: false,
    };
  if (letters && sending.state === 'tries')
    return {
      words: `${letters.sent.toLocaleString('en')} of ${letters.all.toLocaleString('en')} letters are out`,
      isWrong: false,
    };
  const so = sending.parts.length > 1 && sent > 0 ? `${sent} of ${sending.parts.length} posts are out. ` : '';
  switch (sending.state) {
    case 'sent':
      return { words: 'sent', isWrong: false };
    case 'tries':
      return { words: `${so}is being sent`, isWrong: false };
    case 'waits':
      return sending.problem
        ? { words: `${so}${sending.problem} Next try ${whenSaid(sending.nextTry)}.`, isWrong: true }
        : { words: `${so}goes out ${whenSaid(sending.at)}`, isWrong: false };
    default:
      return { words: so + sending.problem, isWrong: true };
  }
}

/** The same in a line of the piece's head. */
export function shortly(sending: Sending, outlet: string): string {
  switch (sending.state) {
    case 'asks':
      return `to ${outlet}: it asks you`;
    case 'gaveUp':
      return `to ${outlet}: not sent`;
    case 'waits':
      if (sending.problem) return `to ${outlet}: tried again soon`;
      return new Date(sending.at) > new Date() ? `to ${outlet}, ${whenSaid(sending.at)}` : `on its way to ${outlet}`;
    default:
      return `on its way to ${outlet}`;
  }
}

const did: Record<QueueAct, string> = {
  tryNow: 'It is tried now.',
  sendAgain: 'It is sent again.',
  itArrived: 'Noted that it arrived.',
  takeOut: 'Taken out of the queue.',
};

/** What can be done with something in the queue as it stands. */
export function actsOf(sending: Sending): { act: QueueAct; label: string }[] {
  if (sending.state === 'sent' || sending.state === 'tries') return [];
  const { letters } = sending;
  const isOut = letters && letters.sent + letters.unknown > 0;
  const isLost = sending.parts.some((part) => part.state === 'tries');
  return [
    ...(sending.state === 'asks' && isLost
      ? ([
          { act: 'itArrived', label: letters ? 'they arrived' : 'it arrived' },
          { act: 'sendAgain', label: letters ? 'they did not: send those again' : 'it did not: send again' },
        ] as const)
      : ([{ act: 'tryNow', label: sending.problem ? 'try now' : 'send now' }] as const)),
    ...(isOut && letters.waits === 0
      ? []
      : ([{ act: 'takeOut', label: isOut ? 'stop the rest' : 'take out' }] as const)),
  ];
}

export async function carryOutAct(sending: Sending, act: QueueAct): Promise<void> {
  try {
    await done(
      api.POST('/api/queue/{number}/act', { params: { path: { number: String(sending.number) } }, body: { act } }),
    );
    say(did[act]);
  } catch (error) {
    complain(error);
  }
  await queryClient.invalidateQueries();
}

/** A place in a recording: "4:10", hours first where there are some. */
export function timeOf(milliseconds: number): string {
  const seconds = Math.floor(milliseconds / 1000);
  const two = (part: number) => String(part).padStart(2, '0');
  const minutes = Math.floor(seconds / 60);
  return seconds >= 3600
    ? `${Math.floor(seconds / 3600)}:${two(minutes % 60)}:${two(seconds % 60)}`
    : `${minutes}:${two(seconds % 60)}`;
}

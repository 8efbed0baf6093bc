import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';
import type { components } from '../../api/schema';

export type ReuseShown = components['schemas']['ReuseShown'];
export type ReuseLine = components['schemas']['ReuseLine'];
export type ReuseParagraph = components['schemas']['ReuseParagraph'];
export type Cut = components['schemas']['Cut'];
export type Relative = components['schemas']['RelativeShown'];

export const useReuseList = () => useQuery({ queryKey: keys.reuseList, queryFn: () => ask(api.GET('/api/reuse')) });

export const useReuse = (piece: number) =>
  useQuery({
    queryKey: keys.reuse(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/reuse', { params: { path: { number: String(piece) } } })),
  });

/** A time in a recording, from milliseconds. */
export function timeSaid(milliseconds: number): string {
  const seconds = Math.round(milliseconds / 1_000);
  const two = (n: number) => String(n).padStart(2, '0');
  const [h, m, s] = [Math.floor(seconds / 3_600), Math.floor(seconds / 60) % 60, seconds % 60];
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}

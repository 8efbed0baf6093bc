import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut } from '../../papers/notices';

export type ClosingShown = components['schemas']['ClosingShown'];
export type ClosingLine = components['schemas']['ClosingLine'];
export type Offered = components['schemas']['PassageOffered'];

export const useClosings = () => useQuery({ queryKey: keys.closings, queryFn: () => ask(api.GET('/api/closings')) });

export const useClosing = (piece: number) =>
  useQuery({
    queryKey: keys.closing(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/closing', { params: { path: { number: String(piece) } } })),
  });

/** What the latest pieces of a format said they would do otherwise. */
export const useLearned = (format: string | undefined) =>
  useQuery({
    queryKey: keys.learned(format ?? ''),
    queryFn: () => ask(api.GET('/api/formats/{key}/learned', { params: { path: { key: format! } } })),
    enabled: Boolean(format),
  }).data ?? [];

const path = (piece: number) => ({ path: { number: String(piece) } });

export async function writeClosing(of: ClosingShown, edit: { learned?: string; otherwise?: string }): Promise<void> {
  await carryOut(
    done(
      api.PATCH('/api/pieces/{number}/closing', {
        params: path(of.closing.piece),
        body: { version: of.closing.version ?? 0, learned: edit.learned ?? null, otherwise: edit.otherwise ?? null },
      }),
    ),
    undefined,
    true,
  );
  await queryClient.invalidateQueries();
}

/** Keeps a passage; what it is undone by comes back. */
export async function keepPassage(piece: number, text: string, asClaim: boolean): Promise<number | undefined> {
  const asked = done(api.POST('/api/pieces/{number}/closing/kept', { params: path(piece), body: { text, asClaim } }));
  try {
    await carryOut(asked, (kept) => `Kept as ${asClaim ? 'a claim, ' : ''}slip ${kept.slip}.`);
    return (await asked).command;
  } catch {
    return undefined;
  } finally {
    await queryClient.invalidateQueries();
  }
}

export async function setClosed(piece: number, closed: boolean): Promise<boolean> {
  try {
    await carryOut(
      done(api.PUT('/api/pieces/{number}/closing/closed', { params: path(piece), body: { closed } })),
      closed ? `Closed P ${piece}.` : `Opened P ${piece} again.`,
    );
    return true;
  } catch {
    return false;
  } finally {
    await queryClient.invalidateQueries();
  }
}

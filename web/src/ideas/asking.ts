import { useRef, useState } from 'react';
import type { components } from '../api/schema';
import { queryClient, keys } from '../api/queries';
import { newKey } from '../api/key';
import { thisTab } from '../api/client';

type Schemas = components['schemas'];
export type Idea = Schemas['IdeaShown'];
export type Coming = Schemas['IdeaComing'];
export type Wanted = Schemas['IdeasWanted'];

/** The last line of the stream. */
type Kept = { kept: number; command: number | null; seed: number; joined: number; problem: string | null };

/** How asking goes. */
export type Asking = { of: number; coming: readonly Coming[]; stop: () => void };

/** Asks for ideas, which come one by one. Whoever stops keeps what came until then. */
export function useAsking(): {
  asking: Asking | undefined;
  ask: (wanted: Wanted) => Promise<Kept | undefined>;
} {
  const [asking, setAsking] = useState<Asking>();
  const running = useRef<AbortController>(undefined);

  const ask = async (wanted: Wanted) => {
    if (running.current) return undefined;
    const abort = new AbortController();
    running.current = abort;
    const coming: Coming[] = [];
    const show = () => setAsking({ of: wanted.count ?? 10, coming: [...coming], stop: () => abort.abort() });
    show();
    try {
      const response = await fetch('/api/ideas', {
        method: 'POST',
        body: JSON.stringify(wanted),
        headers: { 'Content-Type': 'application/json', 'Nachlass-Tab': thisTab, 'Idempotency-Key': newKey() },
        signal: abort.signal,
      });
      if (!response.ok || !response.body) {
        const problem = (await response.json().catch(() => undefined)) as { detail?: string } | undefined;
        throw new Error(problem?.detail ?? 'The ideas could not be made. Nothing was lost.');
      }
      let kept: Kept | undefined;
      for await (const line of lines(response.body)) {
        const said = JSON.parse(line) as Coming | Kept;
        if ('kept' in said) kept = said;
        else coming.push(said);
        show();
      }
      return kept;
    } catch (error) {
      if (abort.signal.aborted) return undefined;
      throw error;
    } finally {
      running.current = undefined;
      // What was stopped is kept by the server a moment later.
      if (abort.signal.aborted) await new Promise((done) => setTimeout(done, 300));
      await queryClient.invalidateQueries({ queryKey: keys.ideas });
      setAsking(undefined);
    }
  };
  return { asking, ask };
}

let turn: Promise<void> = Promise.resolve();

/** Decisions one after the other, in the order they were taken, however quickly the keys come. */
export function inTurn(run: () => Promise<void>): void {
  turn = turn.then(run);
}

/** The lines of an answer as they come. */
async function* lines(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.getReader();
  const letters = new TextDecoder();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    const parts = (rest + letters.decode(value, { stream: true })).split('\n');
    rest = parts.pop() ?? '';
    yield* parts.filter(Boolean);
  }
  if (rest) yield rest;
}

import { api, done, Problem, type Caught } from '../api/client';
import { newKey } from '../api/key';
import type { components } from '../api/schema';
import { onLine } from '../api/events';
import { queryClient } from '../api/queries';
import { complain, say } from '../papers/notices';

type Line = components['schemas']['ToCatch'];
type Waiting = { key: string; lines: Line[] };

const place = 'nachlass.outbox';

function kept(): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(place) ?? '[]') as Waiting[];
  } catch {
    return [];
  }
}

const keep = (waiting: Waiting[]) => localStorage.setItem(place, JSON.stringify(waiting));

const send = ({ key, lines }: Waiting) =>
  done(
    api.POST('/api/capture', {
      params: { header: { 'Idempotency-Key': key } },
      body: { lines },
      headers: { 'Idempotency-Key': key },
    }),
  );

/** What the strip says after catching. */
export function named(caught: Caught[]): string {
  const [first] = caught;
  if (caught.length > 1) return `${caught.length} caught.`;
  if (first?.move) return `Move written down: ${first.move.text}`;
  const source = first?.source ? `, source ${first.source.number}` : '';
  return `Slip ${first?.slip?.number}${source} caught.`;
}

/**
 * Catches lines. They are kept in the browser before they are sent and until they are answered, under a key that makes a
 * second sending harmless; so neither a reload nor a stopped server loses one.
 */
export async function catchLines(lines: Line[]): Promise<void> {
  const waiting = { key: newKey(), lines };
  keep([...kept(), waiting]);
  try {
    const { answer, command } = await send(waiting);
    keep(kept().filter((other) => other.key !== waiting.key));
    say(named(answer), command);
    void queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'draft' });
  } catch (error) {
    if (error instanceof Problem && error.isAway) {
      // Where the server says why it takes nothing, its writer should know.
      if (error.status === 503) complain(error);
      else say('Kept in this browser; it goes out when the server is back.');
      return;
    }
    keep(kept().filter((other) => other.key !== waiting.key));
    throw error;
  }
}

let sending = false;

async function sendWaiting(): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    for (const waiting of kept()) {
      const { answer, command } = await send(waiting);
      keep(kept().filter((other) => other.key !== waiting.key));
      say(`${named(answer)} It had been waiting in this browser.`, command);
    }
  } catch (error) {
    if (!(error instanceof Problem && error.isAway)) complain(error);
  } finally {
    sending = false;
  }
}

/** Sends what is still waiting, now and whenever the server is back. */
export function startOutbox(): void {
  onLine((open) => {
    if (open) void sendWaiting();
  });
}

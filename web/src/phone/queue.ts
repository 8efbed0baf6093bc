import { openDB, type DBSchema } from 'idb';
import { newKey } from '../api/key';

/** A text caught on the phone, until some time after the server has it. */
export type Caught = {
  key: string;
  text: string;
  at: string;
  /** What it became; undefined while it waits. */
  became?: string;
  /** Why the server would not have it. */
  refused?: string;
};

interface Phone extends DBSchema {
  queue: { key: string; value: Caught; indexes: { at: string } };
}

const database = openDB<Phone>('nachlass-phone', 1, {
  upgrade: (db) => db.createObjectStore('queue', { keyPath: 'key' }).createIndex('at', 'at'),
});

/** How many that have arrived stay in sight. */
const shown = 12;

/** All that waits and the latest that arrived, the newest first. */
export async function queued(): Promise<Caught[]> {
  const db = await database;
  const all = (await db.getAllFromIndex('queue', 'at')).reverse();
  const past = all.filter((one) => one.became).slice(shown);
  for (const one of past) await db.delete('queue', one.key);
  return all.filter((one) => !past.includes(one));
}

/** Puts a text into the queue, under a key that makes a second sending harmless. */
export async function put(text: string): Promise<void> {
  await (await database).put('queue', { key: newKey(), text, at: new Date().toISOString() });
}

export async function take(key: string): Promise<void> {
  await (await database).delete('queue', key);
}

let sending: Promise<boolean> | undefined;

/** Sends what waits, the oldest first. Returns whether the server could be reached. */
export function send(onChange: () => void): Promise<boolean> {
  sending ??= sendAll(onChange).finally(() => (sending = undefined));
  return sending;
}

async function sendAll(onChange: () => void): Promise<boolean> {
  const db = await database;
  const waiting = (await db.getAllFromIndex('queue', 'at')).filter((one) => !one.became && !one.refused);
  if (waiting.length === 0) return ping();
  for (const one of waiting) {
    let answer: Response;
    try {
      answer = await fetch('/api/capture', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'Idempotency-Key': one.key },
        body: JSON.stringify({ lines: [{ text: one.text, origin: 'phone', at: one.at }] }),
      });
    } catch {
      return false;
    }
    if (answer.status >= 500) return false;
    const said = (await answer.json()) as unknown;
    const why = (said as { detail?: string }).detail ?? `The server answered ${answer.status}.`;
    await db.put('queue', answer.ok ? { ...one, became: named(said) } : { ...one, refused: why });
    onChange();
  }
  return true;
}

async function ping(): Promise<boolean> {
  try {
    return (await fetch('/api/health')).ok;
  } catch {
    return false;
  }
}

function named(caught: unknown): string {
  const [first] = caught as { slip?: { number: number } | null; source?: { number: number } | null }[];
  if (!first?.slip) return 'a move';
  return first.source ? `slip ${first.slip.number}, source ${first.source.number}` : `slip ${first.slip.number}`;
}

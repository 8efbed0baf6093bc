import { openDB, type DBSchema } from 'idb';
import { newKey } from '../api/key';

/** A text caught on the phone, with its photos and files, until some time after the server has it. */
export type Caught = {
  key: string;
  text: string;
  at: string;
  /** What is still to be sent with it; each under a key of its own. */
  files?: { key: string; file: File }[];
  /** The slip it became, while its files are still on the way. */
  slip?: number;
  /** What it became; undefined while it waits. */
  became?: string;
  /** Why the server would not have it. */
  refused?: string;
};

interface Phone extends DBSchema {
  queue: { key: string; value: Caught; indexes: { at: string } };
  shared: { key: number; value: Shared };
}

/** What another app shared, put here by the worker until the page takes it. */
export type Shared = { title: string; text: string; url: string; files: File[] };

const database = openDB<Phone>('nachlass-phone', 2, {
  upgrade: (db, from) => {
    if (from < 1) db.createObjectStore('queue', { keyPath: 'key' }).createIndex('at', 'at');
    if (from < 2) db.createObjectStore('shared', { autoIncrement: true });
  },
});

/** Takes what was shared, all of it, once. */
export async function takeShared(): Promise<Shared[]> {
  const shelf = (await database).transaction('shared', 'readwrite').store;
  const all = await shelf.getAll();
  await shelf.clear();
  return all;
}

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
export async function put(text: string, files: readonly File[] = []): Promise<void> {
  const sent = files.map((file) => ({ key: newKey(), file }));
  await (await database).put('queue', { key: newKey(), text, at: new Date().toISOString(), files: sent });
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
    let now: Caught;
    try {
      now = await sendOne(db, one);
    } catch {
      return false;
    }
    await db.put('queue', now);
    onChange();
  }
  return true;
}

/** Sends the text, then its files one by one; each step is written down, so that after a break it goes on where it was. */
async function sendOne(db: Awaited<typeof database>, one: Caught): Promise<Caught> {
  let now = one;
  if (now.slip === undefined) {
    const answer = await fetch('/api/capture', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Idempotency-Key': now.key },
      // With a photo it is a slip, whatever its words look like.
      body: JSON.stringify({
        lines: [
          {
            text: now.text,
            origin: 'phone',
            at: now.at,
            ...(now.files?.length ? { overruling: { move: false } } : {}),
          },
        ],
      }),
    });
    const said = await read(answer);
    if (!answer.ok) return { ...now, refused: reason(answer, said) };
    const [first] = said as Said[];
    if (!now.files?.length || !first?.slip) return { ...now, files: [], became: named(first) };
    now = { ...now, slip: first.slip.number };
    await db.put('queue', now);
  }
  while (now.files?.length) {
    const [{ key, file }, ...rest] = now.files as [{ key: string; file: File }, ...{ key: string; file: File }[]];
    const answer = await fetch(`/api/attachments/slip/${now.slip}?name=${encodeURIComponent(file.name)}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream', 'Idempotency-Key': key },
      body: file,
    });
    const said = await read(answer);
    if (!answer.ok) return { ...now, refused: `${file.name}: ${reason(answer, said)}` };
    now = { ...now, files: rest };
    await db.put('queue', now);
  }
  return { ...now, became: `slip ${now.slip}` };
}

/** What the server said; it is away when it only failed, or asks to sign in first. */
async function read(answer: Response): Promise<unknown> {
  if (answer.status >= 500 || answer.status === 429) throw new Error('away');
  if (answer.status === 401) {
    location.assign('/sign-in?back=/c');
    throw new Error('sign in');
  }
  return answer.json();
}

const reason = (answer: Response, said: unknown) =>
  (said as { detail?: string }).detail ?? `The server answered ${answer.status}.`;

async function ping(): Promise<boolean> {
  try {
    return (await fetch('/api/health')).ok;
  } catch {
    return false;
  }
}

type Said = { slip?: { number: number } | null; source?: { number: number } | null };

function named(first: Said | undefined): string {
  if (!first?.slip) return 'a move';
  return first.source ? `slip ${first.slip.number}, source ${first.source.number}` : `slip ${first.slip.number}`;
}

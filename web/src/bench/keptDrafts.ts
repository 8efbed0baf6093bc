import { openDB } from 'idb';

/** A draft that is not on the server yet. */
export type KeptDraft = { piece: number; text: string; version: number };

const database = openDB('nachlass', 1, { upgrade: (db) => void db.createObjectStore('drafts', { keyPath: 'piece' }) });

/** Holds a draft in the browser until the server has it. */
export async function keepDraft(draft: KeptDraft): Promise<void> {
  await (await database).put('drafts', draft);
}

export async function keptDraft(piece: number): Promise<KeptDraft | undefined> {
  return (await database).get('drafts', piece) as Promise<KeptDraft | undefined>;
}

/** Lets go of a kept draft, if it is still this text. */
export async function releaseDraft(piece: number, text: string): Promise<void> {
  const tx = (await database).transaction('drafts', 'readwrite');
  const kept = (await tx.store.get(piece)) as KeptDraft | undefined;
  if (kept?.text === text) await tx.store.delete(piece);
  await tx.done;
}

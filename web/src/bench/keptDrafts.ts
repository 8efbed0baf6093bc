import { openDB } from 'idb';
import type { Anchor } from '../api/client';

/** A draft that is not on the server yet. */
export type KeptDraft = {
  piece: number;
  text: string;
  /** The version it is based on, and the text of that version. */
  version: number;
  base?: string;
  /** Where its sections begin. */
  anchors?: Anchor[];
  at: number;
};

const database = openDB('nachlass', 1, { upgrade: (db) => void db.createObjectStore('drafts', { keyPath: 'piece' }) });
const place = (piece: number) => `nachlass.draft.${piece}`;

/** Holds a draft in the browser until the server has it. */
export async function keepDraft(draft: KeptDraft): Promise<void> {
  await (await database).put('drafts', draft);
}

/** Holds a draft at once, before the page goes: what has to wait for an answer would come too late. */
export function keepDraftNow(draft: KeptDraft): void {
  try {
    localStorage.setItem(place(draft.piece), JSON.stringify({ ...draft, base: undefined }));
  } catch {
    // Larger than the browser holds there; the database has it up to the last pause.
  }
}

/** The draft this browser still holds, the later of the two. */
export async function keptDraft(piece: number): Promise<KeptDraft | undefined> {
  const stored = (await (await database).get('drafts', piece)) as KeptDraft | undefined;
  const last = JSON.parse(localStorage.getItem(place(piece)) ?? 'null') as KeptDraft | null;
  if (!last) return stored;
  const base = stored?.version === last.version ? stored.base : undefined;
  return !stored || last.at >= (stored.at ?? 0) ? { ...last, base } : stored;
}

/** Lets go of a kept draft, if it is still this text. */
export async function releaseDraft(piece: number, text: string): Promise<void> {
  const last = JSON.parse(localStorage.getItem(place(piece)) ?? 'null') as KeptDraft | null;
  if (last?.text === text) localStorage.removeItem(place(piece));
  const tx = (await database).transaction('drafts', 'readwrite');
  const kept = (await tx.store.get(piece)) as KeptDraft | undefined;
  if (kept?.text === text) await tx.store.delete(piece);
  await tx.done;
}

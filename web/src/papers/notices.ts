import { useSyncExternalStore } from 'react';
import { api, done, Problem } from '../api/client';
import { queryClient } from '../api/queries';

/** Something that was done or went wrong, said in a corner for a while. */
export type Notice = { id: number; text: string; command?: number; bad?: boolean };

let notices: Notice[] = [];
let next = 1;
const watchers = new Set<() => void>();

function set(changed: Notice[]) {
  notices = changed;
  watchers.forEach((watch) => watch());
}

export function useNotices(): Notice[] {
  return useSyncExternalStore(
    (watch) => {
      watchers.add(watch);
      return () => watchers.delete(watch);
    },
    () => notices,
  );
}

export function dismiss(id: number): void {
  set(notices.filter((notice) => notice.id !== id));
}

/** Says that something was done; with its command, it can be taken back from there. */
export function say(text: string, command?: number): void {
  const id = next++;
  set([...notices.slice(-1), { id, text, command }]);
  setTimeout(() => dismiss(id), command ? 9_000 : 5_000);
}

/** Says what went wrong. */
export function complain(error: unknown): void {
  const id = next++;
  const text = error instanceof Error ? error.message : String(error);
  set([...notices.filter((notice) => notice.text !== text).slice(-2), { id, text, bad: true }]);
  setTimeout(() => dismiss(id), 12_000);
}

/** Takes a command back and says so. Returns whether it could be. */
export async function takeBack(command: number): Promise<boolean> {
  set(notices.filter((notice) => notice.command !== command));
  try {
    const { answer } = await done(
      api.POST('/api/commands/{number}/undo', { params: { path: { number: String(command) } } }),
    );
    say(sentence(answer.what));
    await queryClient.invalidateQueries();
    return true;
  } catch (error) {
    complain(error);
    return !(error instanceof Problem && error.isAway);
  }
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1) + '.';

/** Runs a command and says what it did, with undo; what goes wrong is said too and thrown on. */
export async function carryOut<T>(
  asked: Promise<{ answer: T; command: number }>,
  text?: string | ((answer: T) => string),
): Promise<T> {
  try {
    const { answer, command } = await asked;
    const words = typeof text === 'function' ? text(answer) : text;
    if (words) say(words, command);
    return answer;
  } catch (error) {
    complain(error);
    throw error;
  }
}

import { useSyncExternalStore } from 'react';
import { api, done, Problem, type InTheWay } from '../api/client';
import { queryClient } from '../api/queries';

/** Something that was done or went wrong, said in a corner for a while. */
export type Notice = {
  id: number;
  text: string;
  /** Takes it back. */
  undo?: () => void;
  /** The commands it speaks of. */
  commands?: readonly number[];
  bad?: boolean;
  /** What stands in the way of what was asked. */
  inTheWay?: InTheWay;
};

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

/** Says that something was done; with its command, or several of them, or a way of its own, it can be taken back from there. */
export function say(text: string, undo?: number | readonly number[] | (() => void)): void {
  const id = next++;
  const commands = typeof undo === 'number' ? [undo] : typeof undo === 'function' ? [] : (undo ?? []);
  const back =
    typeof undo === 'function'
      ? () => {
          dismiss(id);
          undo();
        }
      : commands.some(Boolean)
        ? () => {
            dismiss(id);
            void takeBackAll(commands);
          }
        : undefined;
  set([...notices.slice(-1), { id, text, undo: back, commands }]);
  setTimeout(() => dismiss(id), back ? 12_000 : 5_000);
}

/** Says what went wrong, and what stands in the way when that is known. */
export function complain(error: unknown): void {
  const id = next++;
  const text = error instanceof Error ? error.message : String(error);
  const inTheWay = error instanceof Problem ? error.inTheWay : undefined;
  set([...notices.filter((notice) => notice.text !== text).slice(-1), { id, text, bad: true, inTheWay }]);
  setTimeout(() => dismiss(id), 15_000);
}

/** What is wrong with what was typed is said at its field, for as long as it stands there: a notice would say it twice. */
export function saidAtField(error: unknown): void {
  if (error instanceof Problem && error.status === 400)
    set(notices.filter((notice) => !(notice.bad && notice.text === error.message)));
}

async function takeBackAll(commands: readonly number[]): Promise<void> {
  for (const command of [...commands].reverse()) if (!(await takeBack(command))) return;
}

/** Takes a command back and says so. Returns whether the server could be asked, so that others can be taken back after it. */
export async function takeBack(command: number): Promise<boolean> {
  return (await tryBack(command)) !== 'away';
}

/** Takes a command back and says so, or why not; whether it is taken back now. */
export async function isTakenBack(command: number): Promise<boolean> {
  return (await tryBack(command)) === 'back';
}

async function tryBack(command: number): Promise<'back' | 'refused' | 'away'> {
  set(notices.filter((notice) => !notice.commands?.includes(command)));
  try {
    const { answer, command: step } = await done(
      api.POST('/api/commands/{number}/undo', { params: { path: { number: String(command) } } }),
    );
    say(sentence(answer.what), step);
    await queryClient.invalidateQueries();
    return 'back';
  } catch (error) {
    complain(error);
    return error instanceof Problem && error.isAway ? 'away' : 'refused';
  }
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1) + '.';

/** Runs a command and says what it did, with undo, and what rules did besides; what goes wrong is said too and thrown on. */
export async function carryOut<T>(
  asked: Promise<{ answer: T; command: number; followed?: string }>,
  text?: string | ((answer: T) => string),
  /** Whether a field says what is wrong with what was typed into it; a notice would say it twice. */
  isSaidAtField = false,
): Promise<T> {
  try {
    const { answer, command, followed } = await asked;
    const words = typeof text === 'function' ? text(answer) : text;
    const rules = followed ? sentence(followed) : '';
    if (words || rules) say([words, rules].filter(Boolean).join(' '), command);
    return answer;
  } catch (error) {
    if (!(isSaidAtField && error instanceof Problem && error.status === 400)) complain(error);
    throw error;
  }
}

import type { components } from '../api/schema';
import { Key } from '../ui/Key';
import { isMoreThanWords } from './understood';

type Completion = components['schemas']['Completion'];
type Problem = components['schemas']['QueryProblem'];

/** What a completion makes of the text, and where the caret goes. */
export function complete(typed: string, offered: Completion): { text: string; caret: number } {
  const before = typed.slice(0, offered.at) + offered.text;
  const after = typed.slice(offered.at + offered.length);
  const isDone = !/[:<>=]$/.test(offered.text);
  return { text: before + (isDone && !after ? ' ' : '') + after, caret: before.length + (isDone && !after ? 1 : 0) };
}

/** Under a query: how it is read, what is wrong with it and where, and what could stand at the caret. */
export function QueryHints({
  typed,
  understood,
  onTake,
  className = '',
}: {
  typed: string;
  understood: { said?: string; problem?: Problem | null; completions?: readonly Completion[]; isCurrent: boolean };
  onTake: (text: string, caret: number) => void;
  className?: string;
}) {
  const { said, problem, completions = [], isCurrent } = understood;
  if (!typed.trim()) return null;
  const offered = isCurrent ? completions : [];
  const isWrong = isCurrent && problem;
  if (!isWrong && !offered.length && !(said && isMoreThanWords(typed))) return null;
  return (
    <div className={`text-[12px] leading-snug ${className}`}>
      {isWrong ? (
        <p role="alert">
          <span className="font-mono whitespace-pre-wrap [overflow-wrap:anywhere]">
            {typed.slice(0, problem.at)}
            <span className="text-red underline decoration-red decoration-wavy underline-offset-4">
              {typed.slice(problem.at, problem.at + problem.length) || '\u2038'}
            </span>
            {typed.slice(problem.at + problem.length)}
          </span>
          <span className="mt-1 block text-red">{problem.message}</span>
        </p>
      ) : (
        isMoreThanWords(typed) &&
        said && (
          <p className="truncate text-second" title={said}>
            {said}
          </p>
        )
      )}
      {offered.length > 0 && (
        <ul className="flex max-h-6 flex-wrap gap-x-3 overflow-hidden" aria-label="Could stand here">
          {offered.map((completion, at) => (
            <li key={completion.text}>
              <button
                type="button"
                tabIndex={-1}
                title={completion.about}
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => {
                  const taken = complete(typed, completion);
                  onTake(taken.text, taken.caret);
                }}
                className="inline-flex min-h-6 items-center gap-1.5 text-blue hover:underline"
              >
                {completion.text}
                {at === 0 && <Key>Tab</Key>}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

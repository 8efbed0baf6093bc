import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { useHeld } from '../ui/useField';

/** The writer's own questions that the comments do not answer yet: one at hand, the answer a line and Enter. */
export function Asked({ source, questions }: { source: number; questions: readonly string[] }) {
  const [at, setAt] = useState(0);
  const [typed, setTyped] = useHeld(`source.${source}.answer`);
  const [error, setError] = useState('');
  const [editing, setEditing] = useState(false);
  const question = questions[at % Math.max(1, questions.length)];
  const answer = async () => {
    if (!question || !typed.trim()) return;
    try {
      await carryOut(
        done(
          api.POST('/api/sources/{number}/comments', {
            params: { path: { number: String(source) } },
            body: { question, answer: typed },
          }),
        ),
        'Comment kept.',
      );
      setTyped('');
      setError('');
      await queryClient.invalidateQueries();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <div className="mt-2">
      {question && (
        <form
          className="flex items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void answer();
          }}
        >
          <label className="min-w-0 flex-1">
            <span className="block text-[13px] font-semibold">{question}</span>
            <input
              aria-label={question}
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
              className="written w-full border-b border-hair bg-transparent py-1 text-[15px] outline-none focus:border-blue"
            />
          </label>
          {typed.trim() ? (
            <Button type="submit">Keep</Button>
          ) : (
            questions.length > 1 && (
              <Button look="quiet" onClick={() => setAt(at + 1)}>
                another question
              </Button>
            )
          )}
        </form>
      )}
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error}
        </p>
      )}
      <button type="button" className="link mt-1.5 text-[12px]" onClick={() => setEditing(true)}>
        my questions
      </button>
      {editing && <QuestionsDialog onClose={() => setEditing(false)} />}
    </div>
  );
}

function QuestionsDialog({ onClose }: { onClose: () => void }) {
  const asked = useQuery({ queryKey: keys.questions, queryFn: () => ask(api.GET('/api/sources/questions')) }).data;
  const [held, setHeld] = useHeld('questions');
  const typed = held || undefined;
  const [error, setError] = useState('');
  const save = async () => {
    try {
      await carryOut(
        done(api.PUT('/api/sources/questions', { body: { questions: (typed ?? '').split('\n') } })),
        'Your questions are kept.',
      );
      setHeld('');
      await queryClient.invalidateQueries();
      onClose();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <Dialog title="What do I ask of everything I read?" open onClose={onClose}>
      <textarea
        aria-label="My questions, one a line"
        rows={7}
        value={typed ?? asked?.join('\n') ?? ''}
        onChange={(event) => setHeld(event.target.value)}
        className="written block w-full resize-y border border-hair bg-sheet p-3 text-[15px] leading-relaxed outline-none focus:border-blue"
      />
      <p className="mt-2 text-second">One question a line. With none, the four that came with Nachlass are back.</p>
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error}
        </p>
      )}
      <Button look="main" className="mt-3" disabled={typed === undefined} onClick={() => void save()}>
        Keep them
      </Button>
    </Dialog>
  );
}

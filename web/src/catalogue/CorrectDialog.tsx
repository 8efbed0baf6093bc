import { useState } from 'react';
import { Link } from 'react-router';
import { api, done } from '../api/client';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import type { Release } from './catalogue';

/** Notes what was wrong, with the draft as it stands now as the text put right. */
export function CorrectDialog({ release, onClose }: { release: Release; onClose: () => void }) {
  const [note, setNote] = useState('');
  const [wrong, setWrong] = useState('');
  const correct = () =>
    carryOut(
      done(
        api.POST('/api/releases/{number}/corrections', {
          params: { path: { number: String(release.number) } },
          body: { note },
        }),
      ),
      'What was wrong is noted, and the text put right stands beside what was sent.',
      true,
    )
      .then(() => {
        onClose();
        return queryClient.invalidateQueries();
      })
      .catch((error: Error) => setWrong(error.message));
  return (
    <Dialog open title="An error found afterwards" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void correct();
        }}
      >
        <p className="text-[13.5px] leading-relaxed">
          Put it right in the draft of{' '}
          <Link to={`/bench/${release.piece}`} className="link">
            P {release.piece}
          </Link>{' '}
          first; the draft as it stands is then kept as the text put right. What was sent stays as it is.
        </p>
        <label className="mt-4 block">
          <span className="label mb-1 block text-second">What was wrong, as readers are told</span>
          <textarea
            rows={3}
            maxLength={1_000}
            className="written w-full border border-hair bg-transparent p-2 text-[14.5px] outline-none focus:border-blue"
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        {wrong && (
          <p role="alert" className="mt-2 text-[12.5px] text-red">
            {wrong}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit" disabled={!note.trim()}>
            Note it
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { say } from './notices';

/** Chooses the passphrase that is asked for when others can reach the app. */
export function PassphraseDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const door = useQuery({ queryKey: keys.door, queryFn: () => ask(api.GET('/api/sign-in')), enabled: open }).data;
  const [present, setPresent] = useState('');
  const [next, setNext] = useState('');
  const [error, setError] = useState('');
  const set = async () => {
    try {
      await done(api.PUT('/api/passphrase', { body: { present: present || null, next } }));
      setPresent('');
      setNext('');
      setError('');
      say('The passphrase is set.');
      await queryClient.invalidateQueries({ queryKey: keys.door });
      onClose();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <Dialog title="Passphrase" open={open} onClose={onClose}>
      <p className="mb-4">
        It is asked for when Nachlass listens to more than this machine. Other browsers that are signed in have to sign
        in anew after a change.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void set();
        }}
      >
        {door?.isSet && (
          <Field label="The present one" value={present} onChange={setPresent} complete="current-password" />
        )}
        <Field label="A new one, at least 12 characters" value={next} onChange={setNext} complete="new-password" />
        {error && (
          <p role="alert" className="mb-3 text-red">
            {error}
          </p>
        )}
        <span className="flex gap-2">
          <Button type="submit" look="main" disabled={!next}>
            {door?.isSet ? 'Change it' : 'Set it'}
          </Button>
          {door?.asks && (
            <Button
              onClick={() => void fetch('/api/sign-in', { method: 'DELETE' }).then(() => location.assign('/sign-in'))}
            >
              Sign out here
            </Button>
          )}
        </span>
      </form>
    </Dialog>
  );
}

function Field({
  label,
  value,
  onChange,
  complete,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  complete: string;
}) {
  return (
    <label className="mb-3 block">
      <span className="label text-second">{label}</span>
      <input
        type="password"
        autoComplete={complete}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="w-full border-b border-ink bg-transparent py-1 outline-none focus:border-blue"
      />
    </label>
  );
}

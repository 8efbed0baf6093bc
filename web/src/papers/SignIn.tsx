import { useState } from 'react';
import { Button } from '../ui/Button';

/** Asks for the passphrase, and goes back to where one wanted to. */
export default function SignIn() {
  const [typed, setTyped] = useState('');
  const [error, setError] = useState('');
  const back = new URLSearchParams(location.search).get('back') ?? '/desk';
  const go = async () => {
    try {
      const response = await fetch('/api/sign-in', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ passphrase: typed }),
      });
      // Only our own pages: an address of another site would be no place to go back to.
      if (response.ok) return location.assign(/^\/(?![/\\])/.test(back) ? back : '/desk');
      setError(((await response.json()) as { detail?: string }).detail ?? `The server answered ${response.status}.`);
    } catch {
      setError('The server can’t be reached.');
    }
  };
  return (
    <main className="flex h-full items-start justify-center bg-board pt-[18vh]">
      <form
        className="w-full max-w-sm border border-hair bg-sheet px-7 py-6"
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <h1 className="written text-[24px] italic">Nachlass</h1>
        <label className="mt-5 block">
          <span className="label text-second">Passphrase</span>
          <input
            autoFocus
            type="password"
            autoComplete="current-password"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            className="w-full border-b border-ink bg-transparent py-1.5 text-[16px] outline-none focus:border-blue"
          />
        </label>
        {error && (
          <p role="alert" className="mt-2 text-red">
            {error}
          </p>
        )}
        <Button type="submit" look="main" className="mt-5 min-h-[36px] w-full" disabled={!typed}>
          Open the papers
        </Button>
      </form>
    </main>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { dayOf, nearDay } from '../ui/dates';
import { carryOut, complain, say } from './notices';
import { useHeld } from '../ui/useField';

const day = (instant: string) => nearDay(dayOf(new Date(instant)));

/** Keys with which other programs may add slips: made, shown once, withdrawn. */
export function CaptureKeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [name, setName] = useHeld('key.new');
  const [error, setError] = useState('');
  const [made, setMade] = useState<{ name: string; secret: string }>();
  const list = useQuery({
    queryKey: keys.captureKeys,
    queryFn: () => ask(api.GET('/api/keys')),
    enabled: open,
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey: keys.captureKeys });
  const close = () => {
    setMade(undefined);
    onClose();
  };
  const make = async () => {
    try {
      const { answer } = await done(api.POST('/api/keys', { body: { name } }));
      setMade({ name: answer.key.name, secret: answer.secret });
      setName('');
      setError('');
      await refresh();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  const curl = made
    ? `curl ${location.origin}/api/capture -H "Authorization: Bearer ${made.secret}" -H "Content-Type: application/json" -d '{"text": "An idea #topic"}'`
    : '';
  const copy = (text: string, what: string) =>
    navigator.clipboard.writeText(text).then(() => say(`Copied ${what}.`), complain);

  return (
    <Dialog title="Keys for other programs" open={open} onClose={close}>
      <p className="mb-4">
        With a key, a phone shortcut or a script may add slips, and do nothing else. What it adds waits in Sift under
        the key’s name.
      </p>
      {made ? (
        <section aria-label="The new key" className="mb-5 border-l-[3px] border-blue bg-quiet px-4 py-3">
          <p>
            <b>{made.name}</b>. This is the only time it is shown; copy it now.
          </p>
          <code className="mt-2 block break-all">{made.secret}</code>
          <span className="mt-2 flex gap-2">
            <Button look="main" onClick={() => void copy(made.secret, 'the key')}>
              Copy the key
            </Button>
            <Button onClick={() => void copy(curl, 'a command that uses it')}>Copy a command that uses it</Button>
          </span>
        </section>
      ) : (
        <form
          className="mb-5 flex items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void make();
          }}
        >
          <label className="flex-1">
            <span className="label block text-second">What the key is for</span>
            <input
              autoFocus
              value={name}
              maxLength={80}
              onChange={(event) => setName(event.target.value)}
              placeholder="shortcut on the phone"
              className="w-full border-b border-ink bg-transparent py-1 outline-none focus:border-blue"
            />
          </label>
          <Button type="submit" look="main" disabled={!name.trim()}>
            Make a key
          </Button>
        </form>
      )}
      {error && (
        <p role="alert" className="mb-3 text-red">
          {error}
        </p>
      )}
      {list.data?.map((key) => (
        <div key={key.number} className="flex items-baseline gap-3 border-b border-rule py-2">
          <span className={`flex-1 ${key.withdrawnAt ? 'text-faint line-through' : 'font-semibold'}`}>{key.name}</span>
          <span className="text-[12px] text-second">
            {key.withdrawnAt
              ? `withdrawn ${day(key.withdrawnAt)}`
              : key.usedAt
                ? `used ${day(key.usedAt)}`
                : `made ${day(key.madeAt)}, not used yet`}
          </span>
          {!key.withdrawnAt && (
            <button
              type="button"
              className="link"
              aria-label={`Withdraw ${key.name}`}
              onClick={() =>
                void carryOut(
                  done(api.DELETE('/api/keys/{number}', { params: { path: { number: String(key.number) } } })),
                ).then(
                  () => {
                    say(`Withdrew the key for ${key.name}.`);
                    return refresh();
                  },
                  () => undefined,
                )
              }
            >
              withdraw
            </button>
          )}
        </div>
      ))}
    </Dialog>
  );
}

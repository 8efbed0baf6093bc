import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, Problem } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { clock, shortDay } from '../ui/dates';
import { Loading } from '../ui/States';
import { complain, say } from './notices';

const when = (instant: string) => `${shortDay(instant.slice(0, 10))}, ${clock(instant)}`;

const size = (bytes: number) =>
  bytes < 1 << 20 ? `${Math.max(1, Math.round(bytes / 1024))} kB` : `${(bytes / (1 << 20)).toFixed(1)} MB`;

/** Copies of the papers, and their mirror: how they stand, and the way back. */
export default function Safekeeping() {
  return (
    <div className="h-full overflow-y-auto px-9 py-6 max-md:px-4">
      <div className="mx-auto max-w-[760px]">
        <h1 className="written text-[27px] leading-tight font-semibold">Copies and mirror</h1>
        <p className="mt-1 text-[14px] text-second">
          A copy is the whole of your papers at one moment, to go back to. The mirror is the same papers as Markdown
          files, for other programs to read.
        </p>
        <CopiesPart />
        <MirrorPart />
      </div>
    </div>
  );
}

function CopiesPart() {
  const copies = useQuery({
    queryKey: keys.copies,
    queryFn: () => ask(api.GET('/api/copies')),
    refetchInterval: 20_000,
  });
  const [busy, setBusy] = useState(false);
  const [chosen, setChosen] = useState<string>();
  const state = copies.data;
  if (!state) return <Loading />;
  const make = async () => {
    setBusy(true);
    try {
      queryClient.setQueryData(keys.copies, await ask(api.POST('/api/copies')));
      say('A copy was made, opened and looked through.');
    } catch (error) {
      complain(error);
      void copies.refetch();
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label="Copies" className="mt-7">
      <h2 className="label border-b border-hair pb-1 text-second">Copies</h2>
      <Place
        key={`${state.folder}${state.at}`}
        label="Folder of the copies"
        folder={state.folder}
        time={state.at ?? ''}
        onSave={async (folder, at) => {
          queryClient.setQueryData(keys.copies, await ask(api.PUT('/api/copies', { body: { folder, at } })));
          say(at ? `A copy is made every day at ${at}.` : 'No copy is made by itself any more.');
        }}
      />
      <p className="flex flex-wrap items-baseline gap-x-6 gap-y-1 py-2.5">
        <span>
          {state.last ? (
            <>
              The last one, <b className="font-semibold">{when(state.last)}</b>, could be opened.
            </>
          ) : (
            'There is no copy yet.'
          )}{' '}
          <span className="text-second">
            {state.nextAt ? `The next: ${when(state.nextAt)}.` : 'None is made by itself.'}
          </span>
        </span>
        <Button disabled={busy} onClick={() => void make()} className="ml-auto">
          {busy ? 'Copying…' : 'Make a copy now'}
        </Button>
      </p>
      {state.problem && (
        <p role="alert" className="mb-3 border-l-[3px] border-red bg-quiet px-4 py-2 text-[13.5px]">
          {state.problem}
        </p>
      )}
      {state.copies.length > 0 && (
        <ul aria-label="All copies" className="border-t border-rule">
          {state.copies.map((copy) => (
            <li key={copy.name} className="flex items-baseline gap-4 border-b border-rule py-1.5 max-md:flex-wrap">
              <span className="w-36 shrink-0 font-semibold max-md:flex-1">{when(copy.at)}</span>
              <span className="figures min-w-0 flex-1 text-second max-md:order-last max-md:basis-full">
                {copy.holds
                  ? `${copy.holds.slips} slips · ${copy.holds.sources} sources · ${copy.holds.pieces} pieces · ${copy.holds.days} days`
                  : 'can’t be read'}
              </span>
              <span className="figures w-16 text-right text-second">{size(copy.bytes)}</span>
              <Button
                look="quiet"
                disabled={!copy.holds}
                aria-label={`Restore the copy of ${when(copy.at)}`}
                onClick={() => setChosen(copy.name)}
              >
                Restore…
              </Button>
            </li>
          ))}
        </ul>
      )}
      <p className="pt-2 text-[12.5px] text-second">
        All of the last two days stay, then one of each day for two weeks, of each week for ten weeks, of each month for
        two years, and of each year.
      </p>
      {chosen && (
        <RestoreDialog copy={state.copies.find((copy) => copy.name === chosen)!} onClose={() => setChosen(undefined)} />
      )}
    </section>
  );
}

/** Going back to a copy: said plainly, and waited for. */
function RestoreDialog({ copy, onClose }: { copy: { name: string; at: string }; onClose: () => void }) {
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState('');
  const restore = async () => {
    setBusy(true);
    setError('');
    try {
      await ask(api.POST('/api/copies/{name}/restore', { params: { path: { name: copy.name } } }));
      // The program begins anew with the papers of the copy; until it is there nothing answers.
      await new Promise((soon) => setTimeout(soon, 1_500));
      for (let tries = 0; tries < 120; tries++) {
        const health = await fetch('/api/health').catch(() => undefined);
        if (health?.ok) return location.assign('/desk');
        await new Promise((soon) => setTimeout(soon, 500));
      }
      setError('The program did not come back. Start it again; the copy is in its place then.');
    } catch (problem) {
      setError(problem instanceof Problem ? problem.message : 'The server can’t be reached.');
    }
    setBusy(false);
  };
  return (
    <Dialog title="Restore this copy" open onClose={busy ? () => undefined : onClose}>
      <p>
        Your papers become what they were on <b className="font-semibold">{when(copy.at)}</b>. What was written since is
        not in them. A copy of the papers as they are now is made first, so that you can come back.
      </p>
      {error && (
        <p role="alert" className="mt-3 border-l-[3px] border-red pl-3">
          {error}
        </p>
      )}
      <div className="mt-5 flex justify-end gap-3">
        <Button look="quiet" disabled={busy} onClick={onClose}>
          Not now
        </Button>
        <Button look="main" disabled={busy} onClick={() => void restore()}>
          {busy ? 'Restoring…' : 'Restore it'}
        </Button>
      </div>
    </Dialog>
  );
}

function MirrorPart() {
  const state = useQuery({
    queryKey: keys.mirror,
    queryFn: () => ask(api.GET('/api/mirror')),
    refetchInterval: 5_000,
  }).data;
  if (!state) return <Loading />;
  return (
    <section aria-label="Mirror" className="mt-9 mb-10">
      <h2 className="label border-b border-hair pb-1 text-second">Mirror</h2>
      <Place
        key={state.folder}
        label="Folder of the mirror"
        folder={state.folder ?? ''}
        empty="none; name an empty folder by its whole path"
        onSave={async (folder) => {
          queryClient.setQueryData(keys.mirror, await ask(api.PUT('/api/mirror', { body: { folder } })));
          say(folder ? 'The mirror is written and kept in step.' : 'There is no mirror any more; its files stay.');
        }}
      />
      {state.folder && (
        <p className="py-2.5">
          {state.last ? (
            <>
              In step since <b className="font-semibold">{when(state.last)}</b>,{' '}
              <span className="figures">{state.files.toLocaleString('en')}</span> files.
            </>
          ) : (
            'It is being written.'
          )}{' '}
          <span className="text-second">
            It goes one way: what another program changes there is kept beside it and does not come in.
          </span>
        </p>
      )}
      {state.problem && (
        <p role="alert" className="border-l-[3px] border-red bg-quiet px-4 py-2 text-[13.5px]">
          {state.problem}
        </p>
      )}
      {state.aside.length > 0 && (
        <ul aria-label="Changed elsewhere" className="text-[12.5px] text-second">
          {state.aside.map((name) => (
            <li key={name}>kept beside: {name}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** A folder, with a time where there is one. */
function Place({
  label,
  folder,
  time,
  empty = '',
  onSave,
}: {
  label: string;
  folder: string;
  time?: string;
  empty?: string;
  onSave: (folder: string, time: string) => Promise<void>;
}) {
  const [typed, setTyped] = useState(folder);
  const [at, setAt] = useState(time ?? '');
  const [error, setError] = useState('');
  const isChanged = typed !== folder || (time !== undefined && at !== time);
  const save = async () => {
    try {
      await onSave(typed.trim(), at.trim());
      setError('');
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <form
      className="border-b border-rule py-2"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="flex flex-wrap items-baseline gap-3">
        <input
          aria-label={label}
          value={typed}
          spellCheck={false}
          placeholder={empty}
          onChange={(event) => setTyped(event.target.value)}
          className="min-w-[14rem] flex-1 border-b border-hair bg-transparent py-0.5 outline-none focus:border-blue"
        />
        {time !== undefined && (
          <label className="whitespace-nowrap text-second">
            every day at{' '}
            <input
              aria-label="Time of the daily copy"
              value={at}
              size={6}
              placeholder="never"
              onChange={(event) => setAt(event.target.value)}
              className="border-b border-hair bg-transparent py-0.5 text-ink outline-none focus:border-blue"
            />
          </label>
        )}
        <Button type="submit" look={isChanged ? 'main' : 'plain'} disabled={!isChanged}>
          Set
        </Button>
      </div>
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error} What you typed is still here.
        </p>
      )}
    </form>
  );
}

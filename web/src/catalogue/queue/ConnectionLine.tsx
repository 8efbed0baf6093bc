import { useState } from 'react';
import { api, ask, done, Problem } from '../../api/client';
import { queryClient } from '../../api/queries';
import { complain, say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { useConnections, type Connection } from './queue';

type Kind = Connection['kind'];

/** How an outlet is reached, with trying it and taking it away. */
export function ConnectionLine({ outlet, name }: { outlet: number; name: string }) {
  const connection = useConnections().find((one) => one.outlet === outlet);
  const [open, setOpen] = useState(false);
  const [tried, setTried] = useState<string>();
  const path = { number: String(outlet) };
  const tryIt = () => {
    setTried('…');
    ask(api.POST('/api/outlets/{number}/connection/try', { params: { path } }))
      .then(({ problem }) => setTried(problem || 'It answers, and takes what is sent.'))
      .catch((error: unknown) => {
        setTried(undefined);
        complain(error);
      });
  };
  const part = () =>
    done(api.DELETE('/api/outlets/{number}/connection', { params: { path } }))
      .then(() => say(`${name} is not connected any more.`))
      .then(() => queryClient.invalidateQueries())
      .catch(complain);
  return (
    <span className="flex flex-wrap items-baseline gap-x-3 text-[13.5px]">
      {connection ? (
        <>
          <span className="min-w-0 break-all">
            {connection.kind === 'micropub' ? connection.address.replace(/^https?:\/\//, '') : connection.address}
          </span>
          <button type="button" className="link text-[12.5px]" onClick={tryIt}>
            try it
          </button>
          <button type="button" className="link text-[12.5px]" onClick={() => setOpen(true)}>
            change
          </button>
          <button type="button" className="link text-[12.5px]" onClick={() => void part()}>
            part
          </button>
          {tried && (
            <span role="status" className={tried.startsWith('It answers, and') ? 'text-done' : 'text-second'}>
              {tried}
            </span>
          )}
        </>
      ) : (
        <>
          <span className="text-second">by hand</span>
          <button type="button" className="link text-[12.5px]" onClick={() => setOpen(true)}>
            connect it
          </button>
        </>
      )}
      {open && <ConnectDialog outlet={outlet} name={name} connection={connection} onClose={() => setOpen(false)} />}
    </span>
  );
}

const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';

function ConnectDialog({
  outlet,
  name,
  connection,
  onClose,
}: {
  outlet: number;
  name: string;
  connection: Connection | undefined;
  onClose: () => void;
}) {
  const [kind, setKind] = useState<Kind>(connection?.kind ?? 'micropub');
  const [address, setAddress] = useState(connection?.address ?? '');
  const [secret, setSecret] = useState('');
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [trying, setTrying] = useState(false);
  const path = { number: String(outlet) };
  const connect = async () => {
    setWrong(undefined);
    setTrying(true);
    try {
      await done(
        api.PUT('/api/outlets/{number}/connection', {
          params: { path },
          body: { kind, address, secret: secret || undefined },
        }),
      );
      const { problem } = await ask(api.POST('/api/outlets/{number}/connection/try', { params: { path } }));
      await queryClient.invalidateQueries();
      if (problem) setWrong({ field: '', message: `It is kept, but: ${problem}` });
      else {
        say(`${name} is connected.`);
        onClose();
      }
    } catch (error) {
      setWrong({
        field: error instanceof Problem ? error.field : '',
        message: error instanceof Error ? error.message : String(error),
      });
    } finally {
      setTrying(false);
    }
  };
  const problem = (of: string) =>
    wrong?.field === of && (
      <p role="alert" className="col-span-2 -mt-2 text-[12.5px] text-red">
        {wrong.message}
      </p>
    );
  return (
    <Dialog open title={`Connect ${name}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void connect();
        }}
      >
        <div className="grid grid-cols-[76px_1fr] items-baseline gap-x-4 gap-y-3">
          <span className="label text-second">By</span>
          <div role="group" aria-label="By" className="flex flex-col text-[13.5px]">
            <label className="inline-flex min-h-6 items-center gap-1.5">
              <input type="radio" name="kind" checked={kind === 'micropub'} onChange={() => setKind('micropub')} />
              Micropub: a site, or a place for short posts
            </label>
            <label className="inline-flex min-h-6 items-center gap-1.5">
              <input type="radio" name="kind" checked={kind === 'folder'} onChange={() => setKind('folder')} />
              files in a folder, for anything else
            </label>
          </div>
          <label htmlFor="connect-address" className="label text-second">
            {kind === 'micropub' ? 'Endpoint' : 'Folder'}
          </label>
          <input
            id="connect-address"
            className={field}
            value={address}
            placeholder={kind === 'micropub' ? 'https://…/micropub' : '/home/…/out'}
            onChange={(event) => setAddress(event.target.value)}
          />
          {problem('address')}
          {kind === 'micropub' && (
            <>
              <label htmlFor="connect-secret" className="label text-second">
                Token
              </label>
              <input
                id="connect-secret"
                type="password"
                autoComplete="off"
                className={field}
                value={secret}
                placeholder={connection?.hasSecret ? 'the one that is kept' : 'the endpoint gives you one'}
                onChange={(event) => setSecret(event.target.value)}
              />
              {problem('secret')}
            </>
          )}
        </div>
        {wrong && !['address', 'secret'].includes(wrong.field) && (
          <p role="alert" className="mt-3 text-[12.5px] text-red">
            {wrong.message}
          </p>
        )}
        <p className="mt-3 text-[12.5px] leading-relaxed text-second">
          {kind === 'micropub'
            ? 'The token is kept encrypted on this machine. It is never shown again, and goes out with no copy of your papers.'
            : 'Each piece is written into it as one Markdown file.'}
        </p>
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit" disabled={trying}>
            {trying ? 'Trying …' : 'Connect and try'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}

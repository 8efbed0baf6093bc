import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done } from '../../api/client';
import { queryClient } from '../../api/queries';
import { complain, say } from '../../papers/notices';
import { ConnectDialog } from './ConnectDialog';
import { FeedAddress } from './FeedAddress';
import { useConnections } from './queue';

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
  const test = () => {
    setTried('…');
    ask(api.POST('/api/outlets/{number}/connection/test', { params: { path } }))
      .then(({ problem }) => setTried(problem || 'A test is sent; look whether it arrived.'))
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
          {connection.kind === 'feed' ? (
            <FeedAddress outlet={outlet} counted />
          ) : (
            <span className="min-w-0 break-all">{connection.address.replace(/^(https?|smtp):\/\//, '')}</span>
          )}
          <button type="button" className="link text-[12.5px]" onClick={tryIt}>
            try it
          </button>
          {connection.kind !== 'feed' && (
            <button type="button" className="link text-[12.5px]" onClick={test}>
              send a test
            </button>
          )}
          <button type="button" className="link text-[12.5px]" onClick={() => setOpen(true)}>
            change
          </button>
          <button type="button" className="link text-[12.5px]" onClick={() => void part()}>
            part
          </button>
          {connection.kind === 'mail' && (
            <Link to={`/catalogue/readers/${outlet}`} className="link inline-flex min-h-6 items-center text-[12.5px]">
              its readers
            </Link>
          )}
          {tried && (
            <span
              role="status"
              className={/^It answers, and|^A test is sent/.test(tried) ? 'text-done' : 'text-second'}
            >
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

import { useState } from 'react';
import { api, ask, done, Problem } from '../../api/client';
import { queryClient } from '../../api/queries';
import { say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { CertificateShown } from './CertificateShown';
import { FeedAddress } from './FeedAddress';
import { type Connection } from './queue';

type Kind = Connection['kind'];

const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';

const kinds: [Kind, string][] = [
  ['micropub', 'Micropub: a site, or a place for short posts'],
  ['mail', 'mail: letters to a list of readers'],
  ['feed', 'audio feed: recordings with their chapters'],
  ['folder', 'files in a folder, for anything else'],
];

const place: Record<Kind, { label: string; example: string; note: string }> = {
  micropub: {
    label: 'Endpoint',
    example: 'https://…/micropub',
    note: 'The token is kept encrypted on this machine. It is never shown again, and goes out with no copy of your papers.',
  },
  mail: {
    label: 'Mail server',
    example: 'mail.example:587',
    note: 'Nothing is sent unencrypted. The password is kept encrypted on this machine, is never shown again, and goes out with no copy of your papers.',
  },
  feed: {
    label: 'Hub',
    example: 'https://hub.example/, or nothing',
    note: 'The feed lies beside your own pages. A hub, where there is one, is told whenever it grows, so that listeners need not wait.',
  },
  folder: { label: 'Folder', example: '/home/…/out', note: 'Each piece is written into it as one Markdown file.' },
};

/** Says how an outlet is reached, and tries it. */
export function ConnectDialog({
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
  const [address, setAddress] = useState(connection?.address.replace(/^smtp:\/\//, '') ?? '');
  const [user, setUser] = useState(connection?.user ?? '');
  const [sender, setSender] = useState(connection?.sender ?? '');
  const [secret, setSecret] = useState('');
  const [shown, setShown] = useState<{ certificate: string; of: string }>();
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [trying, setTrying] = useState(false);
  const path = { number: String(outlet) };
  const connect = async (trusts: string) => {
    setWrong(undefined);
    setShown(undefined);
    setTrying(true);
    try {
      await done(
        api.PUT('/api/outlets/{number}/connection', {
          params: { path },
          body: { kind, address, secret: secret || undefined, user, sender, trusts },
        }),
      );
      const tried = await ask(api.POST('/api/outlets/{number}/connection/try', { params: { path } }));
      await queryClient.invalidateQueries();
      if (tried.problem) {
        setWrong({ field: '', message: `It is kept, but: ${tried.problem}` });
        if (tried.certificate) setShown({ certificate: tried.certificate, of: tried.certificateOf });
      } else {
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
  const line = (id: string, label: string, value: string, set: (now: string) => void, example: string) => (
    <>
      <label htmlFor={`connect-${id}`} className="label text-second">
        {label}
      </label>
      <input
        id={`connect-${id}`}
        className={field}
        value={value}
        placeholder={example}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => set(event.target.value)}
      />
      {problem(id)}
    </>
  );
  const known = ['address', 'secret', ...(kind === 'mail' ? ['user', 'sender'] : [])];
  return (
    <Dialog open title={`Connect ${name}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void connect(connection?.trusts ?? '');
        }}
      >
        <div className="grid grid-cols-[88px_1fr] items-baseline gap-x-4 gap-y-3">
          <span className="label text-second">By</span>
          <div role="group" aria-label="By" className="flex flex-col text-[13.5px]">
            {kinds.map(([one, words]) => (
              <label key={one} className="inline-flex min-h-6 items-center gap-1.5">
                <input type="radio" name="kind" checked={kind === one} onChange={() => setKind(one)} />
                {words}
              </label>
            ))}
          </div>
          {line('address', place[kind].label, address, setAddress, place[kind].example)}
          {kind === 'mail' && (
            <>
              {line('sender', 'From', sender, setSender, 'Low Water <letters@you.example>')}
              {line('user', 'Name', user, setUser, 'who signs in there')}
            </>
          )}
          {(kind === 'mail' || kind === 'micropub') && (
            <>
              <label htmlFor="connect-secret" className="label text-second">
                {kind === 'mail' ? 'Password' : 'Token'}
              </label>
              <input
                id="connect-secret"
                type="password"
                autoComplete="off"
                className={field}
                value={secret}
                placeholder={
                  connection?.hasSecret
                    ? 'the one that is kept'
                    : kind === 'mail'
                      ? 'of that name there'
                      : 'the endpoint gives you one'
                }
                onChange={(event) => setSecret(event.target.value)}
              />
              {problem('secret')}
            </>
          )}
        </div>
        {wrong && !known.includes(wrong.field) && (
          <p role="alert" className="mt-3 text-[12.5px] text-red">
            {wrong.message}
          </p>
        )}
        {shown && <CertificateShown {...shown} onBelieve={() => void connect(shown.certificate)} />}
        <p className="mt-3 text-[12.5px] leading-relaxed text-second">{place[kind].note}</p>
        {kind === 'feed' && <FeedAddress outlet={outlet} />}
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

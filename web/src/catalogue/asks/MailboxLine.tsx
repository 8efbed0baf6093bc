import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done, Problem } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { complain, say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { Dialog } from '../../ui/Dialog';
import { plusDays, today } from '../../ui/dates';
import { several } from '../catalogue';
import { CertificateShown } from '../queue/CertificateShown';
import { whenSaid } from '../queue/queue';

type Stands = components['schemas']['MailboxStands'];

const look = async () => {
  const looked = await ask(api.POST('/api/mailbox/look'));
  await queryClient.invalidateQueries();
  return looked;
};

/** The mailbox that is watched for what readers write: how it stands, and a look into it now. */
export function MailboxLine() {
  const mailbox = useQuery({ queryKey: keys.mailbox, queryFn: () => ask(api.GET('/api/mailbox')) }).data;
  const [open, setOpen] = useState(false);
  const [busy, setBusy] = useState(false);
  if (!mailbox) return null;
  const { stands } = mailbox;
  const lookNow = () => {
    setBusy(true);
    look()
      .then(({ problem, messages }) => {
        if (!problem) say(messages === 0 ? 'Nothing new lies in it.' : `${several(messages, 'message')} came.`);
      })
      .catch(complain)
      .finally(() => setBusy(false));
  };
  const part = () =>
    done(api.DELETE('/api/mailbox'))
      .then(() => say('It is not watched any more. What came from it stays.'))
      .then(() => queryClient.invalidateQueries())
      .catch(complain);
  return (
    <section
      aria-label="Watched mailbox"
      className="mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule pb-2 text-[12.5px] text-second"
    >
      {stands ? (
        <>
          <span className="min-w-0 break-all">
            Mailbox of <span className="text-ink">{stands.box.user}</span> at{' '}
            {stands.box.address.replace(/^imap:\/\//, '')}
          </span>
          <span className="figures" role="status">
            {busy
              ? 'looking …'
              : stands.lookedAt
                ? `looked into ${whenSaid(stands.lookedAt)}, ${several(stands.came, 'message')} came so far`
                : 'not looked into yet'}
          </span>
          <button type="button" className="link min-h-6" disabled={busy} onClick={lookNow}>
            look now
          </button>
          <button type="button" className="link min-h-6" onClick={() => setOpen(true)}>
            change
          </button>
          <button type="button" className="link min-h-6" onClick={() => void part()}>
            part
          </button>
          {stands.problem && (
            <span role="alert" className="w-full text-red">
              {stands.problem}
              {stands.rests && ' It is left alone until you change something or look yourself.'}
            </span>
          )}
        </>
      ) : (
        <>
          <span>Mails can come in by themselves.</span>
          <button type="button" className="link min-h-6" onClick={() => setOpen(true)}>
            Watch a mailbox
          </button>
        </>
      )}
      {open && <MailboxDialog stands={stands ?? undefined} onClose={() => setOpen(false)} />}
    </section>
  );
}

const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';

function MailboxDialog({ stands, onClose }: { stands: Stands | undefined; onClose: () => void }) {
  const [typed, setTyped] = useState({
    address: stands?.box.address.replace(/^imap:\/\//, '') ?? '',
    user: stands?.box.user ?? '',
    secret: '',
    folder: stands?.box.folder ?? '',
  });
  const [since, setSince] = useState(stands?.box.since ?? plusDays(today(), -30));
  const [shown, setShown] = useState<{ certificate: string; of: string }>();
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [trying, setTrying] = useState(false);
  const watch = async (trusts: string) => {
    setWrong(undefined);
    setShown(undefined);
    setTrying(true);
    try {
      await done(api.PUT('/api/mailbox', { body: { ...typed, secret: typed.secret || undefined, since, trusts } }));
      const looked = await look();
      if (looked.problem) {
        setWrong({ field: '', message: `It is kept, but: ${looked.problem}` });
        if (looked.certificate) setShown({ certificate: looked.certificate, of: looked.certificateOf });
      } else {
        say(
          looked.messages === 0
            ? 'It is watched. Nothing new lies in it.'
            : `${several(looked.messages, 'message')} came.`,
        );
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
  const line = (id: keyof typeof typed, label: string, example: string, type = 'text') => (
    <>
      <label htmlFor={`mailbox-${id}`} className="label text-second">
        {label}
      </label>
      <input
        id={`mailbox-${id}`}
        type={type}
        className={field}
        value={typed[id]}
        placeholder={example}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => setTyped({ ...typed, [id]: event.target.value })}
      />
      {problem(id)}
    </>
  );
  const problem = (of: string) =>
    wrong?.field === of && (
      <p role="alert" className="col-span-2 -mt-2 text-[12.5px] text-red">
        {wrong.message}
      </p>
    );
  return (
    <Dialog open title="Watch a mailbox" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void watch(stands?.box.trusts ?? '');
        }}
      >
        <div className="grid grid-cols-[88px_1fr] items-baseline gap-x-4 gap-y-3">
          {line('address', 'Mail server', 'mail.example')}
          {line('user', 'Name', 'who signs in there')}
          {line('secret', 'Password', stands ? 'the one that is kept' : 'of that name there', 'password')}
          {line('folder', 'Folder', 'the inbox')}
          <span className="label text-second">Since</span>
          <DateField
            label="The first day whose mails come in"
            needed
            value={since}
            onChange={(day) => setSince(day ?? since)}
          />
          {problem('since')}
        </div>
        {wrong && !['address', 'user', 'secret', 'folder', 'since'].includes(wrong.field) && (
          <p role="alert" className="mt-3 text-[12.5px] text-red">
            {wrong.message}
          </p>
        )}
        {shown && <CertificateShown {...shown} onBelieve={() => void watch(shown.certificate)} />}
        <p className="mt-3 text-[12.5px] leading-relaxed text-second">
          It is looked into every five minutes (IMAP, encrypted), and nothing in it is changed. The password is kept
          encrypted on this machine, is never shown again, and goes out with no copy of your papers.
        </p>
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit" disabled={trying}>
            {trying ? 'Looking …' : 'Watch it'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}

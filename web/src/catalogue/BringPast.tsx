import { useRef, useState } from 'react';
import { api, done, Problem } from '../api/client';
import { queryClient, useFormats } from '../api/queries';
import { say } from '../papers/notices';
import { useOutlets } from '../plan/planning';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { several } from './catalogue';

const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';

/** Brings in what went out before: the door to it, and the dialog behind. */
export function BringPast({ label = 'bring in what went out before' }: { label?: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="link" onClick={() => setOpen(true)}>
        {label}
      </button>
      {open && <PastDialog onClose={() => setOpen(false)} />}
    </>
  );
}

function PastDialog({ onClose }: { onClose: () => void }) {
  const outlets = useOutlets();
  const formats = useFormats().data ?? [];
  const files = useRef<HTMLInputElement>(null);
  const [outlet, setOutlet] = useState('');
  const [format, setFormat] = useState('');
  const [chosen, setChosen] = useState<readonly File[]>([]);
  const [isBusy, setBusy] = useState(false);
  const [wrong, setWrong] = useState('');
  const [unread, setUnread] = useState<readonly string[]>();
  const [said, setSaid] = useState('');
  const bring = async () => {
    setWrong('');
    setUnread(undefined);
    setSaid('');
    if (chosen.length === 0) {
      setWrong('Choose the files first.');
      return;
    }
    const form = new FormData();
    for (const file of chosen) form.append('files', file, file.webkitRelativePath || file.name);
    setBusy(true);
    try {
      const { answer, command } = await done(
        api.POST('/api/releases/import', {
          params: { query: { outlet: outlet || undefined, format: format || undefined } },
          body: form as never,
          bodySerializer: (body) => body,
        }),
      );
      const words =
        answer.releases === 0
          ? answer.there === 1
            ? 'It was in the catalogue already.'
            : `All ${answer.there} were in the catalogue already.`
          : `Brought in ${several(answer.releases, 'release')}${answer.matched > 0 ? `, ${answer.matched} of pieces that are here` : ''}${answer.there > 0 ? `; ${answer.there} were there already` : ''}.`;
      say(words, answer.releases > 0 ? command : undefined);
      await queryClient.invalidateQueries();
      if (answer.unread.length === 0) onClose();
      else {
        setSaid(words);
        setUnread(answer.unread);
      }
    } catch (error) {
      setWrong(error instanceof Problem || error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog open title="Bring in what went out before" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void bring();
        }}
      >
        <p className="text-[13.5px] leading-relaxed">
          A feed (RSS, Atom, JSON Feed), a mailbox, a table with <i>title</i>, <i>date</i>, <i>address</i> and{' '}
          <i>text</i>, or Markdown files with a date at their head. What is in the catalogue already comes in no second
          time; what is a piece of yours becomes a release of it.
        </p>
        <div className="mt-3 grid grid-cols-[92px_1fr] items-baseline gap-x-4 gap-y-3 text-[13.5px]">
          <label htmlFor="past-files" className="label text-second">
            Files
          </label>
          <input
            id="past-files"
            ref={files}
            type="file"
            multiple
            accept=".xml,.rss,.atom,.csv,.tsv,.json,.jsonl,.mbox,.eml,.md,.markdown,.zip"
            onChange={(event) => setChosen([...(event.target.files ?? [])])}
          />
          <label htmlFor="past-outlet" className="label text-second">
            Went out on
          </label>
          <select id="past-outlet" className={field} value={outlet} onChange={(event) => setOutlet(event.target.value)}>
            <option value="">nowhere in particular</option>
            {outlets.map((one) => (
              <option key={one.number} value={one.number}>
                {one.name}
              </option>
            ))}
          </select>
          <label htmlFor="past-format" className="label text-second">
            As
          </label>
          <select id="past-format" className={field} value={format} onChange={(event) => setFormat(event.target.value)}>
            <option value="">what the outlet takes</option>
            {formats.map((one) => (
              <option key={one.key} value={one.key}>
                {one.name}
              </option>
            ))}
          </select>
        </div>
        {wrong && (
          <p role="alert" className="mt-3 text-[12.5px] text-red">
            {wrong}
          </p>
        )}
        {said && <p className="mt-3 text-[13px] text-done">{said}</p>}
        {unread && unread.length > 0 && (
          <details role="alert" open className="mt-2 text-[12.5px] text-red">
            <summary className="min-h-6 cursor-pointer">{several(unread.length, 'place')} could not be read</summary>
            <ul className="max-h-40 overflow-y-auto">
              {unread.map((place) => (
                <li key={place} className="break-words">
                  {place}
                </li>
              ))}
            </ul>
          </details>
        )}
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit" disabled={isBusy}>
            {isBusy ? 'Reading…' : 'Bring them in'}
          </Button>
          <Button onClick={onClose}>{said ? 'Close' : 'Cancel'}</Button>
        </div>
      </form>
    </Dialog>
  );
}

import { useRef, useState } from 'react';
import { newKey } from '../api/key';
import { queryClient } from '../api/queries';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Loading } from '../ui/States';
import { say } from './notices';
import { firstScreen, openFirst, screens } from './screens';

/** All papers out as one zip, and such a zip back in. */
export function PapersDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const file = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState('');
  const [first, setFirst] = useState(firstScreen);

  const bringIn = async (chosen: File) => {
    setBusy(true);
    setError('');
    try {
      const response = await fetch('/api/papers/import', {
        method: 'POST',
        headers: { 'Content-Type': 'application/zip', 'Idempotency-Key': newKey() },
        body: chosen,
      });
      const answer = (await response.json()) as {
        detail?: string;
        slips?: number;
        sources?: number;
        topics?: number;
        pieces?: number;
      };
      if (!response.ok) return setError(answer.detail ?? `The server answered ${response.status}.`);
      say(
        `Brought in ${answer.slips} slips, ${answer.sources} sources, ${answer.topics} topics and ${answer.pieces} pieces.`,
        Number(response.headers.get('Nachlass-Command') ?? 0),
      );
      await queryClient.invalidateQueries();
      onClose();
    } catch {
      setError('The server can’t be reached. Nothing was brought in.');
    } finally {
      setBusy(false);
    }
  };

  return (
    <Dialog title="Your papers" open={open} onClose={onClose}>
      <label className="mb-5 flex items-baseline gap-3">
        <span className="label text-second">Nachlass opens with</span>
        <select
          aria-label="The screen that opens first"
          value={first}
          onChange={(event) => {
            openFirst(event.target.value);
            setFirst(event.target.value);
          }}
          className="bg-transparent font-semibold"
        >
          {screens.map((screen) => (
            <option key={screen.path} value={screen.path}>
              {screen.name}
            </option>
          ))}
        </select>
      </label>
      <section className="mb-5">
        <h3 className="label mb-1 text-second">Out</h3>
        <p className="mb-3">
          One zip of Markdown files, one for each slip, source, topic, piece and day. It can be read without Nachlass.
        </p>
        <a href="/api/papers/export" download className="link font-semibold">
          Download all papers
        </a>
      </section>
      <section>
        <h3 className="label mb-1 text-second">In</h3>
        <p className="mb-3">The same zip, read into papers that are still empty, gives the same papers again.</p>
        <input
          ref={file}
          type="file"
          accept=".zip,application/zip"
          aria-label="A zip of papers"
          className="sr-only"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            event.target.value = '';
            if (chosen) void bringIn(chosen);
          }}
        />
        <Button disabled={busy} onClick={() => file.current?.click()}>
          Choose a zip…
        </Button>
        {busy && <Loading what="Bringing the papers in" />}
        {error && (
          <p role="alert" className="mt-3 border-l-[3px] border-red pl-3">
            {error}
          </p>
        )}
      </section>
    </Dialog>
  );
}

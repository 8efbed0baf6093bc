import { useEffect, useState } from 'react';
import type { components } from '../api/schema';
import { newKey } from '../api/key';
import { Button } from '../ui/Button';
import { Loading } from '../ui/States';

type Sent = { key: string; address: string; title: string; selection: string };
type Clipped = components['schemas']['Clipped'];

/** How long the page that was clipped is waited for; some sites let no window they opened talk to them. */
const patience = 2_500;

const sent = ((): Sent | undefined => {
  try {
    return JSON.parse(decodeURIComponent(location.hash.slice(1))) as Sent;
  } catch {
    return undefined;
  }
})();
// One key for this window, so that it is kept once however often it is tried.
const once = newKey();
let begun = false;

/** The small window that the bookmark opens: takes the page in and says what became of it. */
export default function ClipPage() {
  const [kept, setKept] = useState<Clipped>();
  const [error, setError] = useState('');

  useEffect(() => {
    if (begun || !sent) return;
    begun = true;
    // The key must not stay in the history of the browser.
    history.replaceState(null, '', '/clip');
    void pageOf().then(keep);
  }, []);

  const keep = async (html: string) => {
    setError('');
    try {
      const { key, ...page } = sent!;
      const response = await fetch('/api/clips', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Authorization: `Bearer ${key}`, 'Idempotency-Key': once },
        body: JSON.stringify({ ...page, html }),
      });
      const answer = (await response.json()) as Clipped & { detail?: string };
      if (response.ok) setKept(answer);
      else setError(answer.detail ?? `The server answered ${response.status}.`);
    } catch {
      setError('The server can’t be reached. This window keeps the page until it can.');
    }
  };

  return (
    <main className="flex h-full flex-col bg-sheet">
      <header className="bg-board px-5 pt-3 pb-2">
        <span className="written text-[21px] italic">Nachlass</span>
      </header>
      <div className="px-5 py-5">
        {!sent ? (
          <p className="text-[14px] text-second">
            This window belongs to the bookmark “Clip to Nachlass”. Make it under Bring in, and use it on a page you are
            reading.
          </p>
        ) : kept ? (
          <section aria-label="Clipped" role="status">
            <p className="label text-done">{kept.isNew ? 'Kept as a source' : 'This source is here already'}</p>
            <h1 className="written mt-1 text-[22px] leading-snug font-semibold">{kept.title}</h1>
            <p className="mt-1 text-second">
              source {kept.source}
              {kept.words > 0 && ` · ${kept.words.toLocaleString('en')} words to read`}
            </p>
            {kept.passage && <p className="mt-3">The words you selected are a passage of it; they wait in Sift.</p>}
            <p className="mt-5 flex gap-4">
              <a className="link font-semibold" href={`/library/source/${kept.source}`}>
                Open the source
              </a>
              <button type="button" className="link" onClick={() => window.close()}>
                Close this window
              </button>
            </p>
          </section>
        ) : (
          <>
            <p className="label text-second">Clipping</p>
            <h1 className="written mt-1 text-[22px] leading-snug font-semibold">{sent.title}</h1>
            {error ? (
              <p role="alert" className="mt-4 border-l-[3px] border-red bg-quiet px-4 py-3">
                {error}
                <Button className="mt-2 block" onClick={() => void pageOf().then(keep)}>
                  Try again
                </Button>
              </p>
            ) : (
              <Loading what="Taking the page in" />
            )}
          </>
        )}
      </div>
    </main>
  );
}

/** The text of the page that opened this window; empty when it does not answer. */
function pageOf(): Promise<string> {
  const from = window.opener as Window | null;
  if (!from || !sent) return Promise.resolve('');
  return new Promise((give) => {
    const timer = setTimeout(() => give(''), patience);
    window.addEventListener('message', (event) => {
      if (event.source !== from) return;
      clearTimeout(timer);
      give(String((event.data as { html?: unknown }).html ?? ''));
    });
    from.postMessage('page?', new URL(sent.address).origin);
  });
}

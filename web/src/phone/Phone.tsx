import { useCallback, useEffect, useRef, useState } from 'react';
import { Button } from '../ui/Button';
import { clock, dayOf, nearDay } from '../ui/dates';
import { put, queued, send, take, type Caught } from './queue';

const place = 'nachlass.phone';
/** How often the desk is tried: soon while something waits for it, seldom otherwise. */
const again = { waiting: 3_000, idle: 20_000 };

/** What another app shared with this one: its title, text and address, as one text. */
function shared(): string {
  const asked = new URLSearchParams(location.search);
  const [title = '', text = '', url = ''] = ['title', 'text', 'url'].map((name) => asked.get(name)?.trim() ?? '');
  const said = text.includes(title) ? text : `${title} ${text}`.trim();
  return said.includes(url) ? said : `${said} ${url}`.trim();
}

/** The capture page for the phone: a text, a button, and what is on its way. */
export function Phone() {
  const [typed, setTyped] = useState(() => shared() || (localStorage.getItem(place) ?? ''));
  const [queue, setQueue] = useState<Caught[]>([]);
  const [reached, setReached] = useState<boolean>();
  const field = useRef<HTMLTextAreaElement>(null);

  const look = useCallback(() => void queued().then(setQueue), []);
  const go = useCallback(async () => {
    setReached(await send(look));
    look();
  }, [look]);

  useEffect(() => {
    look();
    const first = setTimeout(() => void go());
    if (location.search) history.replaceState(null, '', '/c');
    const back = () => document.visibilityState === 'visible' && void go();
    window.addEventListener('online', back);
    document.addEventListener('visibilitychange', back);
    return () => {
      clearTimeout(first);
      window.removeEventListener('online', back);
      document.removeEventListener('visibilitychange', back);
    };
  }, [look, go]);
  const waiting = queue.filter((one) => !one.became).length;
  const hurry = waiting > 0;
  useEffect(() => {
    const timer = setInterval(() => void go(), hurry ? again.waiting : again.idle);
    return () => clearInterval(timer);
  }, [go, hurry]);
  useEffect(() => {
    // Behind what was kept from before, to go on writing it.
    field.current?.setSelectionRange(field.current.value.length, field.current.value.length);
  }, []);
  useEffect(() => {
    if (typed) localStorage.setItem(place, typed);
    else localStorage.removeItem(place);
  }, [typed]);

  const keep = async () => {
    if (!typed.trim()) return;
    await put(typed);
    setTyped('');
    field.current?.focus();
    look();
    await go();
  };

  return (
    <main className="mx-auto flex h-full max-w-xl flex-col bg-sheet">
      <header className="flex items-baseline gap-3 bg-board px-4 pt-3 pb-2">
        <span className="written text-[21px] italic">Nachlass</span>
        <span role="status" className="text-[12.5px] text-second">
          {reached === undefined
            ? ''
            : reached
              ? 'the desk can be reached'
              : 'the desk can’t be reached; nothing is lost'}
        </span>
        <a href="/desk" className="link ml-auto text-[12.5px]">
          desk
        </a>
        <a href="/sift" className="link text-[12.5px]">
          sift
        </a>
      </header>
      <form
        className="border-b-2 border-dashed border-manila-edge bg-manila px-4 pt-3 pb-4"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <label htmlFor="slip" className="label text-manila-ink">
          New slip
        </label>
        <textarea
          id="slip"
          ref={field}
          autoFocus
          value={typed}
          rows={7}
          maxLength={500_000}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && (event.ctrlKey || event.metaKey) && void keep()}
          placeholder="Write it down, or paste a link"
          className="written mt-1 block w-full resize-none bg-transparent text-[20px] leading-[1.45] outline-none placeholder:italic"
        />
        <Button type="submit" look="main" className="min-h-[46px] w-full text-[15px]" disabled={!typed.trim()}>
          Catch
        </Button>
      </form>
      <section aria-label="Caught here" className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        <h2 className="label mb-1 text-second">
          Caught here{waiting > 0 && <span className="figures ml-2 normal-case">{waiting} on the way</span>}
        </h2>
        {queue.length === 0 && (
          <p className="text-[13px] text-second">
            What you catch stands here until it is on the desk, also without a connection.
          </p>
        )}
        {queue.map((one) => (
          <article key={one.key} className="flex gap-3 border-b border-rule py-2">
            <span className="narrow figures w-[52px] shrink-0 text-[12px] text-faint">
              {dayOf(new Date(one.at)) === dayOf(new Date()) ? clock(one.at) : nearDay(dayOf(new Date(one.at)))}
            </span>
            <span className="min-w-0 flex-1">
              <span className="written line-clamp-2 text-[15px] leading-snug [overflow-wrap:anywhere]">{one.text}</span>
              {one.refused && (
                <span role="alert" className="block text-[12.5px] text-red">
                  {one.refused}{' '}
                  <button
                    type="button"
                    className="link"
                    onClick={() => {
                      setTyped(one.text);
                      void take(one.key).then(look);
                    }}
                  >
                    change it
                  </button>
                </span>
              )}
            </span>
            <span className={`narrow shrink-0 text-[12px] ${one.became ? 'text-done' : 'text-manila-ink'}`}>
              {one.became ?? (one.refused ? 'not taken' : 'on the way')}
            </span>
          </article>
        ))}
      </section>
    </main>
  );
}

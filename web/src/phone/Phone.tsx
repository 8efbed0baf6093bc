import { useCallback, useEffect, useRef, useState } from 'react';
import { Button } from '../ui/Button';
import { clock, dayOf, nearDay } from '../ui/dates';
import { put, queued, send, take, takeShared, type Caught } from './queue';

const place = 'nachlass.phone';
/** How often the desk is tried: soon while something waits for it, seldom otherwise. */
const again = { waiting: 3_000, idle: 20_000 };

/** What another app shared with this one: its title, text and address, as one text. */
function worded({ title, text, url }: { title: string; text: string; url: string }): string {
  const said = text.includes(title) ? text : `${title} ${text}`.trim();
  return said.includes(url) ? said : `${said} ${url}`.trim();
}

/** What a link or shortcut of the phone put into the address. */
function asked(): string {
  const said = new URLSearchParams(location.search);
  const [title = '', text = '', url = ''] = ['title', 'text', 'url'].map((name) => said.get(name)?.trim() ?? '');
  return worded({ title, text, url });
}

/** The capture page for the phone: a text, a button, and what is on its way. */
export function Phone() {
  const [typed, setTyped] = useState(() => asked() || (localStorage.getItem(place) ?? ''));
  const [files, setFiles] = useState<File[]>([]);
  const chooser = useRef<HTMLInputElement>(null);
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
    void takeShared().then((all) => {
      if (all.length === 0) return;
      // What was being written stays, and stands above it.
      setTyped((now) => [now, ...all.map(worded)].filter(Boolean).join('\n'));
      setFiles((now) => [...now, ...all.flatMap((one) => one.files)]);
    });
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
    if (!typed.trim() && files.length === 0) return;
    await put(typed.trim() || files.map((file) => file.name.replace(/\.[^.]+$/, '')).join(', '), files);
    setTyped('');
    setFiles([]);
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
          rows={files.length > 0 ? 4 : 7}
          maxLength={500_000}
          onChange={(event) => setTyped(event.target.value)}
          onPaste={(event) => {
            if (event.clipboardData.files.length === 0) return;
            event.preventDefault();
            setFiles([...files, ...event.clipboardData.files]);
          }}
          onKeyDown={(event) => event.key === 'Enter' && (event.ctrlKey || event.metaKey) && void keep()}
          placeholder="Write it down, or paste a link"
          className="written mt-1 block w-full resize-none bg-transparent text-[20px] leading-[1.45] outline-none placeholder:italic"
        />
        {files.length > 0 && (
          <div className="mb-3 flex flex-wrap gap-2" role="list" aria-label="Photos and files with it">
            {files.map((file, at) => (
              <span key={at} role="listitem" className="relative">
                <Small file={file} />
                <button
                  type="button"
                  aria-label={`Leave ${file.name} out`}
                  onClick={() => setFiles(files.filter((_, other) => other !== at))}
                  className="absolute -top-2 -right-2 h-7 w-7 border border-hair bg-sheet text-[15px] leading-none text-second"
                >
                  ×
                </button>
              </span>
            ))}
          </div>
        )}
        <span className="flex gap-2">
          <Button
            type="submit"
            look="main"
            className="min-h-[46px] flex-1 text-[15px]"
            disabled={!typed.trim() && files.length === 0}
          >
            Catch
          </Button>
          <Button className="min-h-[46px] text-[14px]" onClick={() => chooser.current?.click()}>
            Photo or file
          </Button>
          <input
            ref={chooser}
            type="file"
            multiple
            aria-label="Photo or file"
            className="sr-only"
            onChange={(event) => {
              const chosen = [...(event.target.files ?? [])];
              event.target.value = '';
              setFiles([...files, ...chosen]);
            }}
          />
        </span>
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
              {!one.became && !!one.files?.length && (
                <span className="block text-[12.5px] text-second">
                  with {one.files.length} {one.files.length === 1 ? 'file' : 'files'}
                </span>
              )}
              {one.refused && (
                <span role="alert" className="block text-[12.5px] text-red">
                  {one.refused}{' '}
                  <button
                    type="button"
                    className="link"
                    onClick={() => {
                      // Once the words have arrived, only what was refused is left to be chosen anew.
                      if (one.slip === undefined) {
                        setTyped(one.text);
                        setFiles(one.files?.map((sent) => sent.file) ?? []);
                      }
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

/** A photo or file before it is sent. */
function Small({ file }: { file: File }) {
  const [address, setAddress] = useState('');
  useEffect(() => {
    if (!file.type.startsWith('image/')) return;
    const made = URL.createObjectURL(file);
    // The address is that of a thing outside of React, which has to be given back.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  return address ? (
    <img src={address} alt={file.name} className="h-16 w-20 border border-manila-edge object-cover" />
  ) : (
    <span className="narrow flex h-16 w-28 items-center border border-manila-edge bg-sheet px-2 text-[12px] [overflow-wrap:anywhere]">
      <span className="line-clamp-3">{file.name}</span>
    </span>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { CaptureKeysDialog } from '../papers/CaptureKeysDialog';
import { carryOut, complain, say } from '../papers/notices';
import { Button } from '../ui/Button';
import { TextField } from '../ui/TextField';
import { clock, dayOf, nearDay } from '../ui/dates';
import { bookmarklet } from './bookmarklet';
import { useHeld } from '../ui/useField';

const when = (instant: string) => {
  const day = dayOf(new Date(instant));
  return day === dayOf(new Date()) ? clock(instant) : nearDay(day);
};

/** The doors that stay open: pages from the browser, feeds, a folder, the phone, other programs. */
export function Doors() {
  const [keysOpen, setKeysOpen] = useState(false);
  return (
    <aside
      aria-label="Doors that stay open"
      className="w-[400px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
    >
      <Clipping />
      <Feeds />
      <Folder />
      <Door title="Phone and programs">
        <p className="text-second">
          The page{' '}
          <a className="link" href="/c">
            /c
          </a>{' '}
          catches on the phone, also without a connection. Other programs send with a key.
        </p>
        <Button className="mt-2" onClick={() => setKeysOpen(true)}>
          Keys for other programs…
        </Button>
        <CaptureKeysDialog open={keysOpen} onClose={() => setKeysOpen(false)} />
      </Door>
    </aside>
  );
}

function Door({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section aria-label={title} className="mb-7">
      <h2 className="label mb-2 border-b border-hair pb-1.5">{title}</h2>
      {children}
    </section>
  );
}

/** A bookmark that sends the page one is reading, made for this installation with a key of its own. */
function Clipping() {
  const [code, setCode] = useState('');
  const link = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    // React keeps script addresses out of links; this one is the writer's own and is there to be dragged.
    if (code) link.current?.setAttribute('href', code);
  }, [code]);
  const make = async () => {
    const { answer } = await done(api.POST('/api/keys', { body: { name: 'clipping from the browser' } }));
    setCode(bookmarklet(location.origin, answer.secret));
    await queryClient.invalidateQueries({ queryKey: keys.captureKeys });
  };
  return (
    <Door title="Clip pages">
      <p className="text-second">
        A bookmark for your browser sends the page you are reading, with the words you selected. Nothing is fetched by
        Nachlass.
      </p>
      {code ? (
        <p className="mt-3 flex flex-wrap items-center gap-3">
          <a
            ref={link}
            className="border border-blue bg-sheet px-3 py-1 font-semibold text-blue"
            onClick={(event) => event.preventDefault()}
          >
            Clip to Nachlass
          </a>
          <span className="text-[12px] text-second">drag this to your bookmarks</span>
          <Button
            look="quiet"
            onClick={() => void navigator.clipboard.writeText(code).then(() => say('Copied.'), complain)}
          >
            Copy its address
          </Button>
        </p>
      ) : (
        <Button className="mt-2" onClick={() => void make().catch(complain)}>
          Make the bookmark
        </Button>
      )}
    </Door>
  );
}

function Feeds() {
  const feeds = useQuery({ queryKey: keys.feeds, queryFn: () => ask(api.GET('/api/feeds')), refetchInterval: 10_000 });
  const [address, setAddress] = useHeld('feed.new');
  const [error, setError] = useState('');
  const refresh = () => queryClient.invalidateQueries({ queryKey: keys.feeds });
  const watch = async () => {
    try {
      const { answer } = await done(api.POST('/api/feeds', { body: { address, minutes: 60 } }));
      setAddress('');
      setError('');
      say('Watching it.');
      await ask(api.POST('/api/feeds/{number}/asking', { params: { path: { number: String(answer.number) } } }));
      await refresh();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <Door title="Feeds">
      {feeds.data?.map((feed) => {
        const path = { number: String(feed.number) };
        return (
          <div key={feed.number} className="border-b border-rule pb-2 mb-2">
            <p className="written text-[15px] leading-snug">{feed.title}</p>
            <p className="text-[12px] text-second">
              {feed.cameAt ? `last new ${when(feed.cameAt)}` : 'nothing came yet'}
              {feed.askedAt && `, asked ${when(feed.askedAt)}`}
            </p>
            {feed.problem && <p className="text-[12.5px] text-red">{feed.problem}</p>}
            <p className="mt-1 flex gap-4 text-[12.5px]">
              <label className="text-second">
                every{' '}
                <select
                  aria-label={`How often ${feed.title} is asked`}
                  value={feed.minutes}
                  className="bg-transparent"
                  onChange={(event) =>
                    void carryOut(
                      done(
                        api.PATCH('/api/feeds/{number}', {
                          params: { path },
                          body: { minutes: Number(event.target.value) },
                        }),
                      ),
                    ).then(refresh, () => undefined)
                  }
                >
                  {[...new Set([1, 15, 60, 360, 1440, feed.minutes])]
                    .sort((a, b) => a - b)
                    .map((minutes) => (
                      <option key={minutes} value={minutes}>
                        {minutes < 60 ? `${minutes} min` : minutes < 1440 ? `${minutes / 60} h` : `${minutes / 1440} d`}
                      </option>
                    ))}
                </select>
              </label>
              <button
                type="button"
                className="link"
                onClick={() =>
                  void ask(api.POST('/api/feeds/{number}/asking', { params: { path } })).then((asked) => {
                    say(
                      asked.slips
                        ? `${asked.slips} new ${asked.slips === 1 ? 'slip waits' : 'slips wait'} in Sift.`
                        : 'Nothing new.',
                    );
                    return refresh();
                  }, complain)
                }
              >
                ask now
              </button>
              <button
                type="button"
                className="link"
                onClick={() =>
                  void carryOut(
                    done(api.DELETE('/api/feeds/{number}', { params: { path } })),
                    'No longer watched.',
                  ).then(refresh, () => undefined)
                }
              >
                stop watching
              </button>
            </p>
          </div>
        );
      })}
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void watch();
        }}
      >
        <input
          aria-label="Address of a feed"
          value={address}
          onChange={(event) => setAddress(event.target.value)}
          placeholder="http://127.0.0.1:5241/notices.atom"
          className="min-w-0 flex-1 border-b border-hair bg-transparent py-1 outline-none focus:border-blue"
        />
        <Button type="submit" disabled={!address.trim()}>
          Watch
        </Button>
      </form>
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error}
        </p>
      )}
    </Door>
  );
}

function Folder() {
  const state = useQuery({
    queryKey: keys.dropFolder,
    queryFn: () => ask(api.GET('/api/drop-folder')),
    refetchInterval: 5_000,
  }).data;
  return (
    <Door title="Drop folder">
      {!state && <div className="h-[45px]" />}
      {state && (
        <TextField
          label="Folder that is watched"
          value={state.folder ?? ''}
          placeholder="off; write its whole path to begin"
          onSave={async (folder) => {
            const next = await ask(api.PUT('/api/drop-folder', { body: { folder } }));
            queryClient.setQueryData(keys.dropFolder, next);
            say(next.folder ? 'The folder is watched.' : 'The drop folder is off.');
          }}
          className="py-0.5 text-[14px]"
        />
      )}
      <p className="mt-1 text-second">
        What is put there comes in and moves to <i>taken</i>; what can’t be read moves to <i>refused</i> with the
        reason.
      </p>
      {state?.problem && <p className="mt-1 text-red">{state.problem}</p>}
      {state?.last.slice(0, 5).map((file, at) => (
        <p key={at} className="flex gap-3 border-b border-rule py-1.5 text-[12.5px]">
          <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
            {file.name}
            {file.reason && <span className="block text-red">{file.reason}</span>}
          </span>
          <span className="text-second">{file.reason ? 'refused' : `taken ${when(file.at)}`}</span>
        </p>
      ))}
    </Door>
  );
}

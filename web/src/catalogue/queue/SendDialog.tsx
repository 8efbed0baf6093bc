import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, Problem } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut } from '../../papers/notices';
import { useOutlets } from '../../plan/planning';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { Dialog } from '../../ui/Dialog';
import { Loading } from '../../ui/States';
import { plusDays, shortDay, today } from '../../ui/dates';
import { useHeld } from '../../ui/useField';
import { useSettled } from '../../text/understood';
import { Heard } from './Heard';
import { PictureChoice } from './PictureChoice';
import { useConnections, useConnectionsKnown, whenSaid } from './queue';
import { Shown } from './Shown';

type Outlet = ReturnType<typeof useOutlets>[number];

const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';

/** Sends a piece, or puts it into the queue for a day, after a look at how the outlet will show it. */
export function SendDialog({
  piece,
  title,
  format,
  outlet,
  onClose,
}: {
  piece: number;
  title: string;
  format: string;
  outlet: number | null;
  onClose: () => void;
}) {
  const connections = useConnections();
  const isKnown = useConnectionsKnown();
  const outlets = useOutlets().filter((one) => !one.isPutAway);
  const reached = outlets.filter((one) => connections.some((connection) => connection.outlet === one.number));
  const [chosen, setChosen] = useState(outlet);
  const fitting = reached.filter((one) => one.formats.length === 0 || one.formats.includes(format));
  const others = reached.filter((one) => !fitting.includes(one));
  const at = reached.find((one) => one.number === chosen) ?? fitting[0] ?? reached[0];
  return (
    <Dialog open wide title={`Send “${title}”`} onClose={onClose}>
      {at ? (
        // What is typed is typed for one outlet: another has its own.
        <SendForm
          key={at.number}
          piece={piece}
          title={title}
          at={at}
          kind={connections.find((one) => one.outlet === at.number)?.kind}
          fitting={fitting}
          others={others}
          onChoose={setChosen}
          onClose={onClose}
        />
      ) : !isKnown ? (
        <Loading what="Looking where it can go" />
      ) : (
        <p className="text-[14px] leading-relaxed">
          None of your outlets is connected yet, so nothing can be sent from here.{' '}
          <Link to="/plan/outlets" className="link" onClick={onClose}>
            Connect one under Plan
          </Link>
          , or take the text out and note by hand that it went out.
        </p>
      )}
    </Dialog>
  );
}

function SendForm({
  piece,
  title,
  at,
  kind,
  fitting,
  others,
  onChoose,
  onClose,
}: {
  piece: number;
  title: string;
  at: Outlet;
  kind: components['schemas']['ConnectionKind'] | undefined;
  fitting: readonly Outlet[];
  others: readonly Outlet[];
  onChoose: (outlet: number) => void;
  onClose: () => void;
}) {
  // Held in this browser until it is sent: a sheet is easily laid away by a key.
  const place = `sending.${piece}.${at.number}`;
  const [heldTitle, setNamed] = useHeld(`${place}.title`);
  const [heldText, setHeldText] = useHeld(`${place}.text`);
  const [heldShows, setShows] = useHeld(`${place}.shows`);
  const [heldPicture, setPicture] = useHeld(`${place}.picture`);
  const [cleared, setCleared] = useState({ title: false, text: false, shows: false });
  const named = heldTitle || (cleared.title ? '' : title);
  const text = heldText || (cleared.text ? '' : undefined);
  const chosen = heldPicture ? Number(heldPicture) : undefined;
  const [isChanging, setIsChanging] = useState(text !== undefined);
  const [when, setWhen] = useState<'now' | 'open' | 'day'>('now');
  // The usual time of today has most often passed.
  const [day, setDay] = useState(() => plusDays(today(), 1));
  const [time, setTime] = useState('07:30');
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [going, setGoing] = useState(false);
  const path = { number: String(piece) };
  const asked = useSettled(
    JSON.stringify({ outlet: at.number, title: named || undefined, text, picture: chosen, shows: heldShows }),
  );
  const preview = useQuery({
    queryKey: keys.sendingPreview(piece, at.number, asked),
    queryFn: () =>
      ask(
        api.POST('/api/pieces/{number}/sending/preview', {
          params: { path },
          body: JSON.parse(asked) as components['schemas']['NewSending'],
        }),
      ),
    placeholderData: keepPreviousData,
  }).data;
  const before = useQuery({
    queryKey: keys.beforeOut(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/before-out', { params: { path } })),
  }).data;
  // One that was taken away since is chosen no more.
  const offered = preview?.pictures.find((one) => one.attachment === chosen);
  const picture = offered?.attachment;
  const shows = heldShows || (cleared.shows ? '' : (offered?.shows ?? ''));
  const on = when === 'now' ? undefined : when === 'open' ? (preview?.nextOpen ?? undefined) : day;
  const setText = (next: string) => {
    setHeldText(next);
    setCleared({ ...cleared, text: next === '' });
  };
  const send = () => {
    setGoing(true);
    setWrong(undefined);
    carryOut(
      done(
        api.POST('/api/pieces/{number}/sending', {
          params: { path },
          body: {
            outlet: at.number,
            title: named,
            text,
            on,
            time: on ? `${time}:00` : undefined,
            picture,
            shows: picture === undefined ? undefined : shows,
          },
        }),
      ),
      (made) => (on ? `It goes out ${whenSaid(made.at)}.` : 'It is on its way.'),
      true,
    )
      .then(() => {
        [setNamed, setHeldText, setShows, setPicture].forEach((set) => set(''));
        onClose();
        return queryClient.invalidateQueries();
      })
      .catch((error: unknown) =>
        setWrong({
          field: error instanceof Problem ? error.field : '',
          message: error instanceof Error ? error.message : String(error),
        }),
      )
      .finally(() => setGoing(false));
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,300px)] gap-x-8 max-md:grid-cols-1">
        <div className="min-w-0">
          <div className="grid grid-cols-[64px_1fr] items-baseline gap-x-4 gap-y-2">
            <label htmlFor="send-outlet" className="label text-second">
              To
            </label>
            <select
              id="send-outlet"
              className={field}
              value={at.number}
              onChange={(event) => onChoose(Number(event.target.value))}
            >
              {fitting.map((one) => (
                <option key={one.number} value={one.number}>
                  {one.name}
                </option>
              ))}
              {others.length > 0 && (
                <optgroup label="take other formats">
                  {others.map((one) => (
                    <option key={one.number} value={one.number}>
                      {one.name}
                    </option>
                  ))}
                </optgroup>
              )}
            </select>
            <label htmlFor="send-title" className="label text-second">
              Title
            </label>
            <input
              id="send-title"
              className={field}
              value={named}
              onChange={(event) => {
                setNamed(event.target.value);
                setCleared({ ...cleared, title: event.target.value === '' });
              }}
            />
          </div>
          <div className="mt-4 flex items-baseline border-b border-hair pb-1">
            <h3 className="label">{isChanging ? 'Its text, for this outlet' : 'How it goes out'}</h3>
            <button
              type="button"
              className="link ml-auto text-[12.5px]"
              onClick={() => setIsChanging(!isChanging)}
              disabled={!preview}
            >
              {isChanging ? 'how it goes out' : 'change its text'}
            </button>
          </div>
          {isChanging ? (
            <textarea
              aria-label="The text as it goes out"
              className="written h-[46vh] min-h-60 w-full resize-none border border-t-0 border-hair bg-transparent p-4 text-[14.5px] leading-relaxed outline-none focus:border-blue"
              value={text ?? preview?.text ?? ''}
              onChange={(event) => setText(event.target.value)}
            />
          ) : (
            <section
              aria-label="How it goes out"
              tabIndex={0}
              className="h-[46vh] min-h-60 overflow-y-auto border border-t-0 border-hair p-4"
            >
              {preview && preview.parts.length === 0 && (
                <p className="text-[13.5px] text-second">There is not a word in it.</p>
              )}
              {preview && preview.parts.length > 0 && <Shown parts={preview.shown ?? []} isFile={kind === 'folder'} />}
            </section>
          )}
          <p className="mt-1 text-[12.5px] text-second">
            {text === undefined ? (
              'The piece as it stands. What you change here goes out, and stays out of the draft.'
            ) : (
              <>
                Changed for this outlet alone; the draft stays as it is.{' '}
                <button
                  type="button"
                  className="link"
                  onClick={() => {
                    setHeldText('');
                    setCleared({ ...cleared, text: false });
                  }}
                >
                  as the piece stands
                </button>
              </>
            )}
          </p>
        </div>
        <div className="min-w-0 max-md:mt-4">
          {typeof preview?.readers === 'number' && (
            <p className="mb-3 text-[13px]">
              {preview.readers === 0 ? (
                <span className="text-red">Nobody is on its list of readers yet. </span>
              ) : (
                <>
                  A letter to each of{' '}
                  <span className="figures font-semibold">{preview.readers.toLocaleString('en')}</span> readers, with a
                  line by which they leave.{' '}
                </>
              )}
              <Link to={`/catalogue/readers/${at.number}`} className="link" onClick={onClose}>
                Its readers
              </Link>
            </p>
          )}
          {preview && kind === 'feed' && <Heard piece={piece} preview={preview} />}
          {preview?.over.map((line) => (
            <p key={line} role="alert" className="mb-2 text-[12.5px] text-red">
              {line}
            </p>
          ))}
          {preview?.wentBefore && (
            <p className="mb-2 text-[12.5px] text-second">
              It went out there before, as{' '}
              <Link to={`/catalogue/${preview.wentBefore}`} className="link" onClick={onClose}>
                R {preview.wentBefore}
              </Link>
              .
            </p>
          )}
          {preview && (
            <PictureChoice
              piece={piece}
              onLeave={onClose}
              pictures={preview.pictures}
              chosen={picture}
              shows={shows}
              problem={wrong && ['picture', 'shows'].includes(wrong.field) ? wrong.message : ''}
              onChoose={(next) => {
                setPicture(next === undefined ? '' : String(next));
                setShows('');
                setCleared({ ...cleared, shows: false });
              }}
              onShows={(next) => {
                setShows(next);
                setCleared({ ...cleared, shows: next === '' });
              }}
            />
          )}
          {before && before.length > 0 && (
            <>
              <h3 className="label mt-4 border-b border-hair pb-1">What looks unfinished</h3>
              <ul className="max-h-32 overflow-y-auto text-[12.5px]">
                {before.map((note, nth) => (
                  <li key={nth} className="border-b border-rule py-1">
                    {note.said}
                  </li>
                ))}
              </ul>
            </>
          )}
          <h3 className="label mt-4 border-b border-hair pb-1">When</h3>
          <div role="group" aria-label="When" className="mt-1 flex flex-col text-[13.5px]">
            <label className="inline-flex min-h-6 items-center gap-1.5">
              <input type="radio" name="when" checked={when === 'now'} onChange={() => setWhen('now')} />
              now
            </label>
            {preview?.nextOpen && (
              <label className="inline-flex min-h-6 items-center gap-1.5">
                <input type="radio" name="when" checked={when === 'open'} onChange={() => setWhen('open')} />
                on its next open date, {shortDay(preview.nextOpen)}
              </label>
            )}
            <label className="inline-flex min-h-6 items-center gap-1.5">
              <input type="radio" name="when" checked={when === 'day'} onChange={() => setWhen('day')} />
              on a day
            </label>
          </div>
          {when !== 'now' && (
            <p className="mt-1 flex items-baseline gap-4 text-[13.5px]">
              {when === 'day' && (
                <DateField
                  label="The day it goes out"
                  needed
                  value={day}
                  onChange={(chosenDay) => setDay(chosenDay ?? today())}
                />
              )}
              <label className="inline-flex items-baseline gap-2">
                at
                <input
                  type="time"
                  aria-label="The time it goes out"
                  required
                  className="figures border-b border-hair bg-transparent py-0.5 outline-none focus:border-blue"
                  value={time}
                  onChange={(event) => setTime(event.target.value)}
                />
              </label>
            </p>
          )}
        </div>
      </div>
      {wrong && !['picture', 'shows'].includes(wrong.field) && (
        <p role="alert" className="mt-3 text-[13px] text-red">
          {wrong.message}
        </p>
      )}
      <div className="mt-4 flex gap-2">
        <Button look="main" type="submit" disabled={going || !preview || preview.over.length > 0}>
          {on ? 'Put it into the queue' : 'Send it now'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </form>
  );
}

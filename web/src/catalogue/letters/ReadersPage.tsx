import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, ask, Problem } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { complain, say } from '../../papers/notices';
import { useOutlets } from '../../plan/planning';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';
import { shortDay } from '../../ui/dates';
import { useHeld } from '../../ui/useField';
import { several } from '../catalogue';
import { useAddressText } from '../useAddressText';

type Reader = components['schemas']['ReaderShown'];

const shownAtOnce = 200;

/** Who gets the letters of an outlet. */
export default function ReadersPage() {
  const number = Number(useParams().number);
  const outlet = useOutlets().find((one) => one.number === number);
  const readers = useQuery({
    queryKey: keys.readers(number),
    queryFn: () => ask(api.GET('/api/outlets/{number}/readers', { params: { path: { number: String(number) } } })),
  });
  const [looked, setLooked] = useAddressText('with');
  const [shown, setShown] = useState(shownAtOnce);
  const name = outlet?.name ?? 'Readers';
  useEffect(() => {
    document.title = `Readers of ${name} · Nachlass`;
  }, [name]);
  if (readers.error) return <Failed error={readers.error} onRetry={() => void readers.refetch()} />;
  if (!readers.data) return <Loading what="Opening the list" />;
  const { agreed, asked, left, joinAt } = readers.data;
  const archive = (isArchived: boolean) =>
    ask(
      api.PUT('/api/outlets/{number}/archive', { params: { path: { number: String(number) } }, body: { isArchived } }),
    )
      .then(() =>
        say(isArchived ? 'What went out can be read on your site.' : 'What went out is not to be read there any more.'),
      )
      .then(() => queryClient.invalidateQueries())
      .catch(complain);
  const all = readers.data.readers.filter((one) =>
    `${one.name} ${one.address}`.toLowerCase().includes(looked.trim().toLowerCase()),
  );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[860px] px-9 py-6 max-md:px-4">
        <Link to="/plan/outlets" className="link text-[12.5px]">
          ‹ outlets
        </Link>
        <h1 className="written mt-1 text-[27px] leading-tight font-semibold break-words">Readers of {name}</h1>
        <p className="figures mt-1 text-[13px] text-second">
          {several(agreed, 'reader')} {agreed === 1 ? 'gets' : 'get'} the letters
          {asked > 0 && `, ${asked.toLocaleString('en')} asked and have not answered yet`}
          {left > 0 && `, ${left.toLocaleString('en')} left`}
        </p>
        {joinAt && (
          <p className="mt-1 text-[13px] text-second">
            People ask for them at{' '}
            <a className="link break-all" href={joinAt} target="_blank" rel="noreferrer">
              {joinAt.replace(/^https?:\/\//, '')}
            </a>
            ; they get them once they said so from their mailbox.
          </p>
        )}
        {joinAt && (
          <label className="mt-2 inline-flex min-h-6 items-baseline gap-2 text-[13.5px]">
            <input
              type="checkbox"
              className="translate-y-0.5"
              checked={readers.data.isArchived}
              onChange={(event) => void archive(event.target.checked)}
            />
            <span>
              the letters that went out can be read there{' '}
              <span className="text-[12.5px] text-second">
                {readers.data.isArchived
                  ? 'by everybody; each new one says where in its last line'
                  : 'by everybody, and each new one says where'}
              </span>
            </span>
          </label>
        )}
        <AddReaders outlet={number} />
        <div className="mt-6 flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1.5">
          <h2 className="label">On the list</h2>
          <input
            aria-label="Find readers"
            placeholder="find a name or address"
            className="min-w-0 flex-1 border-b border-hair bg-transparent py-0.5 text-[13px] outline-none focus:border-blue"
            value={looked}
            onChange={(event) => setLooked(event.target.value)}
          />
          {readers.data.readers.length > 0 && (
            <a className="link text-[12.5px]" href={`/api/outlets/${number}/readers.csv`} download>
              as a table (.csv)
            </a>
          )}
        </div>
        {all.length === 0 && (
          <p className="mt-2 text-[13px] text-second">
            {looked ? `Nobody with “${looked}” is on it.` : 'Nobody is on it yet.'}
          </p>
        )}
        <ul>
          {all.slice(0, shown).map((one) => (
            <ReaderLine key={one.number} reader={one} />
          ))}
        </ul>
        {all.length > shown && (
          <button type="button" className="link mt-2 text-[12.5px]" onClick={() => setShown(shown + shownAtOnce)}>
            show {Math.min(shownAtOnce, all.length - shown)} more of {all.length.toLocaleString('en')}
          </button>
        )}
      </div>
    </div>
  );
}

function ReaderLine({ reader }: { reader: Reader }) {
  const [sure, setSure] = useState(false);
  const path = { number: String(reader.number) };
  const leave = () =>
    ask(api.POST('/api/readers/{number}/leave', { params: { path } }))
      .then(() => say(`${reader.address} gets none any more.`))
      .then(() => queryClient.invalidateQueries({ queryKey: ['readers'] }))
      .catch(complain);
  const forget = () =>
    ask(api.DELETE('/api/readers/{number}', { params: { path } }))
      .then(() => say('All that was known of them is taken away.'))
      .then(() => queryClient.invalidateQueries({ queryKey: ['readers'] }))
      .catch(complain);
  const stands =
    reader.state === 'left'
      ? `left ${reader.leftAt ? shortDay(reader.leftAt.slice(0, 10)) : ''}`
      : reader.state === 'asked'
        ? `asked ${shortDay(reader.askedAt.slice(0, 10))}, not answered yet`
        : `since ${shortDay((reader.agreedAt ?? reader.askedAt).slice(0, 10))}, ${reader.how}`;
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-1.5 text-[13.5px]">
      <span className={`min-w-0 flex-1 break-words ${reader.state === 'agreed' ? '' : 'text-second'}`}>
        {reader.name && <span className="written mr-2 text-[15px]">{reader.name}</span>}
        <span className="break-words">{reader.address}</span>
        <span className="block text-[12.5px] text-second">
          {stands}
          {reader.trouble && <span className="text-red"> · the last letter did not get there: {reader.trouble}</span>}
        </span>
      </span>
      <span className="flex gap-x-4 text-[12.5px]">
        {reader.state !== 'left' && (
          <button type="button" className="link" onClick={() => void leave()} aria-label={`${reader.address} leaves`}>
            leaves
          </button>
        )}
        {sure ? (
          <>
            <button type="button" className="font-semibold text-red" onClick={() => void forget()}>
              forget for ever
            </button>
            <button type="button" className="link" onClick={() => setSure(false)}>
              keep
            </button>
          </>
        ) : (
          <button type="button" className="link" onClick={() => setSure(true)} aria-label={`Forget ${reader.address}`}>
            forget
          </button>
        )}
      </span>
    </li>
  );
}

function AddReaders({ outlet }: { outlet: number }) {
  const [list, setList] = useHeld(`readers.${outlet}.list`);
  const [how, setHow] = useHeld(`readers.${outlet}.how`);
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [unread, setUnread] = useState<readonly string[]>([]);
  const [left, setLeft] = useState<readonly string[]>([]);
  const add = async () => {
    setWrong(undefined);
    try {
      const made = await ask(
        api.POST('/api/outlets/{number}/readers', {
          params: { path: { number: String(outlet) } },
          body: { list, how },
        }),
      );
      setUnread(made.unread);
      setLeft(made.left);
      say(
        `${several(made.added, 'reader')} came onto the list${made.there > 0 ? `, ${made.there} were on it already` : ''}.`,
      );
      // What could not be read stays, to be put right.
      setList(made.unread.join('\n'));
      await queryClient.invalidateQueries({ queryKey: ['readers'] });
    } catch (error) {
      setWrong({
        field: error instanceof Problem ? error.field : '',
        message: error instanceof Error ? error.message : String(error),
      });
    }
  };
  return (
    <details className="mt-4" open={list.length > 0 ? true : undefined}>
      <summary className="link min-h-6 w-fit cursor-pointer text-[13px]">put readers on the list</summary>
      <form
        className="mt-2"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <label htmlFor="readers-list" className="label text-second">
          Who, one a line
        </label>
        <textarea
          id="readers-list"
          rows={5}
          className="mt-1 w-full border border-hair bg-transparent p-2 text-[13.5px] outline-none focus:border-blue"
          placeholder={'Ada Loam <ada@reader.example>\nrafe@reader.example'}
          value={list}
          onChange={(event) => setList(event.target.value)}
        />
        <label htmlFor="readers-how" className="label mt-2 block text-second">
          How they agreed
        </label>
        <input
          id="readers-how"
          className="w-full border-b border-hair bg-transparent py-1 text-[13.5px] outline-none focus:border-blue"
          placeholder="signed the sheet at the reading in May"
          value={how}
          onChange={(event) => setHow(event.target.value)}
        />
        {wrong && (
          <p role="alert" className="mt-1 text-[12.5px] text-red">
            {wrong.message}
          </p>
        )}
        {unread.length > 0 && (
          <p role="alert" className="mt-1 text-[12.5px] text-red">
            {several(unread.length, 'line')} without a mail address {unread.length === 1 ? 'is' : 'are'} left in the
            field.
          </p>
        )}
        {left.length > 0 && (
          <p role="status" className="mt-1 text-[12.5px] text-second">
            Left before, and not taken in again: {left.join(', ')}. They come back by asking for the letters themselves.
          </p>
        )}
        <div className="mt-3">
          <Button look="main" type="submit">
            Put them on the list
          </Button>
        </div>
      </form>
    </details>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask, done } from '../../api/client';
import { keys } from '../../api/queries';
import { ActionMenu } from '../../ui/ActionMenu';
import { AddLine } from '../../ui/AddLine';
import { Button } from '../../ui/Button';
import { Prose } from '../../ui/MarkdownText';
import { Empty, Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { CatalogueHead } from '../CatalogueHead';
import { several, useCatalogue } from '../catalogue';
import { useAddressText } from '../useAddressText';
import { say } from '../../papers/notices';
import { BringMessages } from './BringMessages';
import { MailboxLine } from './MailboxLine';
import { ReadClosely } from './ReadClosely';
import { act, daySaid, replyFor, useAsks, type Ask, type MessageLine } from './asks';

const page = 50;

/** What readers wrote, the latest first: read and answered in one place. */
export default function MessagesPage() {
  const [params, setParams] = useSearchParams();
  const [looked, setLooked] = useAddressText('with');
  const asks = useAsks().data ?? [];
  const newest = useCatalogue().data?.rows[0];
  const skip = Number(params.get('from') ?? 0) || 0;
  const asked = {
    query: params.get('with') ?? undefined,
    person: params.get('person') ?? undefined,
    ask: params.get('ask') ?? undefined,
    release: params.get('release') ?? undefined,
    open: params.get('open') === 'yes',
    skip,
  };
  const messages = useQuery({
    queryKey: keys.messages(asked),
    queryFn: () => ask(api.GET('/api/messages', { params: { query: asked } })),
    placeholderData: (before) => before,
  });
  if (messages.error) return <Failed error={messages.error} onRetry={() => void messages.refetch()} />;
  if (!messages.data) return <Loading what="Opening the messages" />;
  const { total, hidden, all, hiddenWords } = messages.data;
  const one = asks.find((other) => String(other.number) === asked.ask);
  const set = (name: string, value: string | null) =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      next.delete('from');
      if (value === null) next.delete(name);
      else next.set(name, value);
      return next;
    });
  const person = asked.person && (messages.data.messages[0]?.message.person || 'one reader');
  return (
    <section aria-label="Messages" className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[860px] px-9 py-6 max-md:px-4">
        <CatalogueHead title="Messages" newest={newest && Number(newest.outOn.slice(0, 4))} />
        <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2 text-[12.5px] text-second">
          <span className="figures">
            {total === all && !one ? several(all, 'message') : `${total} of ${several(all, 'message')}`}
          </span>
          <input
            aria-label="Only messages with"
            value={looked}
            placeholder="only those with: words, a name"
            onChange={(event) => setLooked(event.target.value)}
            className="min-w-40 flex-1 border-b border-hair bg-transparent py-0.5 outline-none placeholder:italic focus:border-blue"
          />
          <label className="flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={asked.open}
              onChange={(event) => set('open', event.target.checked ? 'yes' : null)}
            />
            not answered yet
          </label>
          <BringMessages />
        </div>
        <MailboxLine />
        <ReadClosely />
        {[
          one && ([`that ask “${one.ask}”`, 'ask'] as const),
          person && ([`from ${person}`, 'person'] as const),
          asked.release && ([`on R ${asked.release}`, 'release'] as const),
        ].map(
          (only) =>
            only && (
              <p
                key={only[1]}
                className="mb-2 flex items-baseline gap-3 border-l-[3px] border-blue bg-wash px-3 py-1.5 text-[13px]"
              >
                <span className="min-w-0 break-words">Only those {only[0]}</span>
                <button type="button" className="link ml-auto min-h-6 shrink-0" onClick={() => set(only[1], null)}>
                  show all
                </button>
              </p>
            ),
        )}
        {all === 0 ? (
          <Empty title="No reader has written yet">
            Bring in a table with the columns “from” and “text” (and “date”, “email”, “about”, “reach” where there are
            any), JSON, or a mailbox. What comes in twice is kept once.
          </Empty>
        ) : messages.data.messages.length === 0 ? (
          <p className="mt-6 text-second">No message meets all of this.</p>
        ) : (
          <ul>
            {messages.data.messages.map((line) => (
              <Line key={line.message.number} line={line} only={one} asks={asks} />
            ))}
          </ul>
        )}
        {total > page && (
          <p className="mt-4 flex gap-5 text-[13px]">
            {skip > 0 && (
              <button
                type="button"
                className="link min-h-6"
                onClick={() => set('from', String(Math.max(0, skip - page)))}
              >
                later ones
              </button>
            )}
            {skip + page < total && (
              <button type="button" className="link min-h-6" onClick={() => set('from', String(skip + page))}>
                earlier ones
              </button>
            )}
          </p>
        )}
        <HiddenWords words={hiddenWords} hidden={hidden} />
      </div>
    </section>
  );
}

function Line({ line, only, asks }: { line: MessageLine; only?: Ask; asks: readonly Ask[] }) {
  const { message } = line;
  const path = { number: String(message.number) };
  const edit = (body: { answered?: boolean; answer?: string }, said: string) =>
    act(
      done(
        api.PATCH('/api/messages/{number}', {
          params: { path },
          body: {
            version: message.version,
            answered: body.answered ?? null,
            answer: body.answer ?? null,
            release: null,
          },
        }),
      ),
      said,
    );
  const its = only ?? asks.find((one) => line.wishes.some((wish) => wish.ask === one.number));
  const wish = its?.wishes.find((one) => one.message === message.number);
  const [isReplying, setReplying] = useState(false);
  const ready = message.answer || (its && wish ? replyFor(its, wish) : '');
  const mark = () => void edit({ answered: true, answer: ready }, 'Marked as answered.');
  const copy = () =>
    void navigator.clipboard
      .writeText(ready)
      .then(() => edit({ answered: true, answer: ready }, 'Copied, and marked as answered.'))
      .catch(() => say('This browser does not let it be copied; mark the text and copy it by hand.'));
  return (
    <li className="border-b border-hair py-4">
      <p className="flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-second">
        <Link
          to={`/catalogue/messages?person=${encodeURIComponent(message.personKey ?? '')}`}
          className="text-[13.5px] font-semibold text-ink hover:text-blue"
        >
          {message.person || 'A reader'}
        </Link>
        {line.fromPerson > 1 && <span className="figures">{line.fromPerson} messages</span>}
        <span>{daySaid(message.at)}</span>
        {message.way && <span>{message.way}</span>}
        {message.reach > 1 && <span className="figures">{message.reach - 1} agreed</span>}
        {message.release && (
          <Link to={`/catalogue/${message.release}`} className="hover:text-blue">
            on {line.about}
          </Link>
        )}
        {message.answeredAt && <span className="text-done">answered {daySaid(message.answeredAt)}</span>}
        <span className="ml-auto">
          <ActionMenu
            label={`More about the message of ${message.person || 'a reader'}`}
            actions={[
              {
                key: 'answered',
                label: message.answeredAt ? 'It is to be answered yet' : 'It is answered',
                onChoose: () =>
                  void edit(
                    { answered: !message.answeredAt },
                    message.answeredAt ? 'It is to be answered.' : 'Marked as answered.',
                  ),
              },
              {
                key: 'remove',
                label: 'Take it away',
                onChoose: () =>
                  void act(done(api.DELETE('/api/messages/{number}', { params: { path } })), 'Took the message away.'),
              },
            ]}
          >
            more
          </ActionMenu>
        </span>
      </p>
      <Prose html={line.html ?? ''} className="written mt-1 text-[16px] leading-[1.55]" />
      {line.wishes
        .filter((one) => one.ask)
        .map((one) => (
          <p key={one.number} className="mt-1 text-[12.5px] text-second">
            asks:{' '}
            <Link to={`/catalogue/asks/${one.ask}`} className="link">
              {asks.find((other) => other.number === one.ask)?.ask ?? one.text}
            </Link>
          </p>
        ))}
      {!its && !message.answer && !message.answeredAt && !isReplying && (
        <button type="button" className="link min-h-6 text-[12.5px]" onClick={() => setReplying(true)}>
          reply
        </button>
      )}
      {(its || message.answer || isReplying) && !message.answeredAt && (
        <div className="mt-2 border-l-[3px] border-hair pl-3">
          <TextField
            label={`Reply to ${message.person || 'this reader'}`}
            lines
            place={`message:${message.number}:reply`}
            value={ready}
            placeholder="Write a reply"
            onSave={(answer) => (answer === ready ? undefined : edit({ answer }, 'Kept the reply.'))}
            className="written min-h-8 text-[15px] leading-relaxed"
          />
          {ready && (
            <p className="mt-1 flex flex-wrap gap-2">
              {message.address.includes('@') && (
                <a
                  className="inline-flex min-h-[28px] items-center border border-hair bg-sheet px-3 text-[12.5px] font-semibold hover:border-second"
                  href={`mailto:${encodeURIComponent(message.address)}?subject=${encodeURIComponent(line.about ? `Re: ${line.about}` : 'Your letter')}&body=${encodeURIComponent(ready)}`}
                  onClick={mark}
                >
                  Open as a mail
                </a>
              )}
              <Button onClick={copy}>Copy, it is answered</Button>
            </p>
          )}
        </div>
      )}
      {message.answeredAt && message.answer && (
        <details className="mt-2 text-[13px]">
          <summary className="min-h-6 cursor-pointer text-second hover:text-blue">what was answered</summary>
          <p className="written mt-1 whitespace-pre-wrap">{message.answer}</p>
        </details>
      )}
    </li>
  );
}

/** The writer's own words by which messages are hidden. */
function HiddenWords({ words, hidden }: { words: readonly string[]; hidden: number }) {
  return (
    <section aria-label="Hidden words" className="mt-8">
      <h2 className="label border-b border-hair pb-1 text-second">
        Hidden words{hidden > 0 && `: ${several(hidden, 'message')} not shown`}
      </h2>
      <p className="mt-2 text-[12.5px] text-second">
        Messages with one of these words are kept, not shown, and count in no ask.
      </p>
      <ul className="my-1 flex flex-wrap gap-x-4">
        {words.map((word) => (
          <li key={word} className="text-[13.5px]">
            {word}{' '}
            <button
              type="button"
              className="link min-h-6 text-[12.5px]"
              onClick={() =>
                void act(
                  done(api.DELETE('/api/hidden-words/{word}', { params: { path: { word } } })),
                  `Messages with “${word}” are shown again.`,
                )
              }
            >
              show again<span className="sr-only"> {word}</span>
            </button>
          </li>
        ))}
      </ul>
      <AddLine
        place="messages:hide"
        label="Hide messages with"
        placeholder="a word"
        press="Hide them"
        onAdd={(word) =>
          act(done(api.POST('/api/hidden-words', { body: { word } })), `Messages with “${word}” are hidden.`)
        }
      />
    </section>
  );
}

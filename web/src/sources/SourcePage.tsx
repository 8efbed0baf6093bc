import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { api, ask, done, type SourceChange, type SourceType } from '../api/client';
import { keys } from '../api/queries';
import { UsableDialog } from '../bench/Usable';
import { Attachments } from '../papers/Attachments';
import { carryOut, complain, say } from '../papers/notices';
import { asRead } from '../text/asRead';
import { Button } from '../ui/Button';
import { Mark } from '../ui/Mark';
import { MarkdownText } from '../ui/MarkdownText';
import { Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { TopicField } from '../ui/TopicField';
import { Asked } from './Asked';
import { BackToList } from './BackToList';
import { History, LinkedFrom, LinksOut } from './Connections';
import { TranscriptPart } from './TranscriptPart';
import { Unlinked } from './Unlinked';
import { useHeld } from '../ui/useField';

/** One source: its details, the summary in the writer's own words, and its passages. */
export function SourcePage({ number }: { number: number }) {
  const [marking, setMarking] = useState(false);
  const client = useQueryClient();
  const path = { number: String(number) };
  const opened = useQuery({
    queryKey: keys.source(number),
    queryFn: () => ask(api.GET('/api/sources/{number}/opened', { params: { path } })),
  });
  const forms =
    useQuery({ queryKey: ['forms'], queryFn: () => ask(api.GET('/api/sources/forms')), staleTime: Infinity }).data ??
    [];
  const page = useRef<HTMLElement>(null);
  const { search, key: visit } = useLocation();
  const isOpen = opened.data !== undefined;
  // A link may lead to one heading in its texts.
  useEffect(() => {
    const wanted = new URLSearchParams(search).get('section')?.toLowerCase();
    if (!wanted || !isOpen) return;
    const heading = [...(page.current?.querySelectorAll<HTMLElement>('h1, h2, h3, h4, h5, h6') ?? [])].find(
      (one) => one.closest('.prose') && one.textContent.trim().toLowerCase() === wanted,
    );
    if (!heading) return say(`Source ${number} has no section “${wanted}” any more.`);
    const folded = heading.closest('details');
    if (folded) folded.open = true;
    heading.scrollIntoView({ block: 'start' });
    heading.tabIndex = -1;
    heading.focus({ preventScroll: true });
  }, [search, visit, isOpen, number]);
  if (opened.error) return <Failed error={opened.error} onRetry={() => void opened.refetch()} />;
  if (!opened.data) return <Loading />;
  const { source, passages, places, form } = opened.data;
  // The fields that all sources have, then those that its type needs.
  const fields: { key: 'creators' | 'container' | 'date' | 'language' | 'address'; label: string; hint: string }[] = [
    { key: 'creators', label: form.creators, hint: 'Family, Given; … A Body,' },
    ...(form.container ? [{ key: 'container' as const, label: form.container, hint: '' }] : []),
    { key: 'date', label: 'Date', hint: 'as far as known' },
    { key: 'language', label: 'Language', hint: '' },
    { key: 'address', label: 'Address', hint: 'https://' },
  ];

  const change = async (changed: SourceChange) => {
    const answer = await done(
      api.PATCH('/api/sources/{number}', { params: { path }, body: { ...changed, version: source.version } }),
    );
    await client.invalidateQueries();
    return answer;
  };
  const said = (changed: SourceChange) => carryOut(change(changed), `Source ${number} changed.`);
  const trash = (trashed: boolean) =>
    void carryOut(change({ trashed }), trashed ? 'Put into the trash.' : 'Taken out of the trash.').catch(
      () => undefined,
    );

  return (
    <article ref={page} className="mx-auto max-w-[720px] px-9 py-7 max-md:px-4" aria-label={`Source ${number}`}>
      <BackToList />
      <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[12.5px] whitespace-nowrap text-second">
        <span className="flex items-center gap-1.5">
          <Mark kind="source" size={15} />
          <select
            aria-label="Type"
            value={source.type}
            onChange={(event) => void said({ type: event.target.value as SourceType }).catch(() => undefined)}
            className="bg-transparent"
          >
            {forms.map((one) => (
              <option key={one.type} value={one.type}>
                {one.name}
              </option>
            ))}
          </select>
        </span>
        <span>source {number}</span>
        {source.trashedAt ? (
          <button type="button" className="link ml-auto font-semibold" onClick={() => trash(false)}>
            Take out of the trash
          </button>
        ) : (
          <>
            <button type="button" className="ml-auto hover:text-blue" onClick={() => setMarking(true)}>
              Usable parts…
            </button>
            <button type="button" className="hover:text-red" onClick={() => trash(true)}>
              Put into the trash
            </button>
          </>
        )}
      </header>
      <TextField
        label="Title"
        shown={false}
        value={source.title}
        onSave={(title) => said({ title })}
        className="written text-[26px] leading-[1.25] font-semibold"
      />
      <div className="mt-4 grid grid-cols-4 gap-x-6 gap-y-3 max-md:grid-cols-2">
        {fields.map(({ key, label, hint }) => (
          <div key={key} className={key === 'address' ? 'order-last col-span-full' : ''}>
            <TextField
              label={label}
              value={source[key]}
              placeholder={hint}
              onSave={(value) => said({ [key]: value })}
              className="text-[13.5px]"
            />
            {key === 'address' && /^https?:/.test(source.address) && (
              <a href={source.address} target="_blank" rel="noopener noreferrer" className="link text-[12.5px]">
                open it in another tab
              </a>
            )}
          </div>
        ))}
        {form.fields.map((field) => (
          <TextField
            key={field.key}
            label={field.label}
            value={source.details[field.key] ?? ''}
            placeholder={field.hint}
            onSave={(value) => said({ details: { [field.key]: value } })}
            className="text-[13.5px]"
          />
        ))}
        <div className="order-last col-span-full">
          <h2 className="label text-second">Topics</h2>
          <TopicField topics={source.topics} onChange={(topics) => void said({ topics }).catch(() => undefined)} />
        </div>
      </div>
      <section
        aria-label="Citation"
        className="mt-5 flex items-baseline gap-4 border-l-2 border-hair bg-quiet px-4 py-2"
      >
        {/* The server has put this through its sanitiser. */}
        <div
          className="prose min-w-0 flex-1 text-[14px] leading-snug"
          dangerouslySetInnerHTML={{ __html: opened.data.citationHtml }}
        />
        <button
          type="button"
          className="link text-[12px] whitespace-nowrap"
          onClick={() =>
            void navigator.clipboard.writeText(opened.data.citation).then(() => say('Copied the citation.'), complain)
          }
        >
          copy
        </button>
      </section>
      <section className="mt-7" aria-label="Summary">
        <h2 className="label mb-1 border-b border-hair pb-1 text-second">What it says, in my words</h2>
        <MarkdownText
          label="Summary"
          text={source.summary}
          html={opened.data.summaryHtml}
          placeholder="Not summed up yet."
          onSave={(summary) => change({ summary })}
        />
      </section>
      <section className="mt-7" aria-label="Comments">
        <h2 className="label mb-1 border-b border-hair pb-1 text-second">What I make of it</h2>
        <MarkdownText
          label="Comments"
          text={source.comments}
          html={opened.data.commentsHtml}
          placeholder="No comment yet."
          onSave={(comments) => change({ comments })}
        />
        <Asked source={number} questions={opened.data.asked} />
      </section>
      <section className="mt-7" aria-label="Passages">
        <h2 className="label border-b border-hair pb-1 text-second">
          Passages {passages.length > 0 && `· ${passages.length}`}
        </h2>
        {passages.map((passage) => (
          <div key={passage.number} className="relative border-b border-rule">
            <Link to={`/library/slip/${passage.number}`} className="flex hover:bg-quiet">
              <span className="flex w-[46px] shrink-0 flex-col items-center border-r border-line pt-2 text-second">
                <Mark kind={passage.kind} size={14} />
                <span className="narrow figures text-[11.5px]">{passage.number}</span>
              </span>
              <span className="min-w-0 flex-1 px-4 py-2">
                <span className="written block text-[15px] leading-snug whitespace-pre-line">
                  {asRead(passage.text)}
                </span>
                <span className="text-[12px] text-second">
                  {[passage.locator, passage.used ? 'used' : ''].filter(Boolean).join(' · ')}
                </span>
              </span>
            </Link>
            {places[passage.number] && (
              <a
                href={places[passage.number]}
                target="_blank"
                rel="noopener noreferrer"
                className="link absolute right-0 bottom-2 text-[12px]"
                aria-label={`Open the place of slip ${passage.number}`}
              >
                open the place
              </a>
            )}
          </div>
        ))}
        <AddPassage source={number} />
      </section>
      <TranscriptPart source={number} lines={opened.data.transcript} />
      {source.text && (
        <details className="mt-7" aria-label="Its own words">
          <summary className="label cursor-pointer border-b border-hair pb-1 text-second">Its own words</summary>
          <MarkdownText
            label="Its own words"
            text={source.text}
            html={opened.data.textHtml}
            onSave={(text) => change({ text })}
          />
        </details>
      )}
      <Attachments kind="source" number={number} />
      <LinksOut links={opened.data.linksOut} />
      <Unlinked kind="source" number={number} />
      {marking && <UsableDialog kind="source" number={number} onClose={() => setMarking(false)} />}
      <LinkedFrom lines={opened.data.linkedFrom} />
      <History lines={opened.data.history} />
    </article>
  );
}

function AddPassage({ source }: { source: number }) {
  const client = useQueryClient();
  const [text, setText] = useHeld(`source.${source}.passage`);
  const [locator, setLocator] = useHeld(`source.${source}.locator`);
  const [error, setError] = useState('');
  const add = async () => {
    if (!text.trim()) return;
    try {
      await carryOut(
        done(
          api.POST('/api/sources/{number}/passages', {
            params: { path: { number: String(source) } },
            body: { text, locator },
          }),
        ),
        (slip) => `Passage kept as slip ${slip.number}.`,
      );
      setText('');
      setError('');
      await client.invalidateQueries();
      document.getElementById('passage-text')?.focus();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <form
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div className="flex items-end gap-3">
        <textarea
          id="passage-text"
          aria-label="New passage"
          rows={2}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && !event.shiftKey) {
              event.preventDefault();
              void add();
            }
          }}
          placeholder="The next passage: “a quotation” (p. 31), or 12:40–13:05: what it tells you"
          className="written min-w-0 flex-1 resize-y border-b border-hair bg-transparent py-1 text-[15px] outline-none focus:border-blue"
        />
        <input
          aria-label="Where in the source"
          value={locator}
          onChange={(event) => setLocator(event.target.value)}
          placeholder="where"
          className="w-24 border-b border-hair bg-transparent py-1 outline-none focus:border-blue"
        />
        <Button type="submit">Keep</Button>
      </div>
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error}
        </p>
      )}
    </form>
  );
}

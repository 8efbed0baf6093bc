import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient, useTopics } from '../api/queries';
import { carryOut, say } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Figure } from '../ui/Figure';
import { Failed, Loading } from '../ui/States';
import { TopicWord } from '../ui/TopicWord';
import { ago } from '../ui/dates';

type Cell = components['schemas']['CoverageCell'];

const reasons = {
  inflected: 'the same words, in other endings',
  sameWords: 'the same words, in another order',
  spelling: 'a letter or two apart',
};

/** Topics that may be one, with what merging them would change. */
export function MayBeOne() {
  const pairs =
    useQuery({ queryKey: keys.nearNames, queryFn: () => ask(api.GET('/api/topics/near-names')) }).data ?? [];
  if (pairs.length === 0) return null;
  const act = (asked: Promise<{ answer: unknown; command: number }>, said: string) =>
    void carryOut(asked, said).then(
      () => queryClient.invalidateQueries(),
      () => undefined,
    );
  return (
    <section aria-label="Perhaps one topic" className="mb-6 border-l-2 border-blue bg-quiet px-5 py-3">
      <h2 className="label text-second">Perhaps one topic</h2>
      {pairs.map((pair) => (
        <div
          key={`${pair.first.number}-${pair.second.number}`}
          className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1.5"
        >
          <span className="text-[14px]">
            <TopicWord topic={pair.second} /> and <TopicWord topic={pair.first} />
          </span>
          <span className="min-w-0 flex-1 text-[12.5px] text-second">
            {reasons[pair.reason]}. Merging moves {pair.slips} {pair.slips === 1 ? 'slip' : 'slips'}, {pair.sources}{' '}
            {pair.sources === 1 ? 'source' : 'sources'} and {pair.pieces} {pair.pieces === 1 ? 'piece' : 'pieces'}, and
            changes the name in {pair.texts} {pair.texts === 1 ? 'text' : 'texts'}.
          </span>
          <Button
            onClick={() =>
              act(
                done(
                  api.POST('/api/topics/{number}/merge', {
                    params: { path: { number: String(pair.second.number) } },
                    body: { into: pair.first.number },
                  }),
                ),
                `Merged ${pair.second.name} into ${pair.first.name}.`,
              )
            }
          >
            Merge into {pair.first.name}
          </Button>
          <button
            type="button"
            className="link text-[12.5px]"
            onClick={() =>
              act(
                done(
                  api.POST('/api/topics/{number}/apart/{other}', {
                    params: { path: { number: String(pair.first.number), other: String(pair.second.number) } },
                  }),
                ),
                'They stay two.',
              )
            }
          >
            they are two
          </button>
        </div>
      ))}
    </section>
  );
}

/** Topics against formats, or against a wider topic's own: what is in hand, in work and out. */
export function Coverage() {
  const [axis, setAxis] = useState<number | undefined>();
  const [start, setStart] = useState<{ topic: string; column: { key: string; name: string } }>();
  const all = useTopics().data ?? [];
  const map = useQuery({
    queryKey: keys.coverage(axis),
    queryFn: () =>
      ask(api.GET('/api/topics/coverage', { params: { query: { axis: axis ? String(axis) : undefined } } })),
    placeholderData: (previous) => previous,
  });
  if (map.error) return <Failed error={map.error} onRetry={() => void map.refetch()} />;
  if (!map.data) return <Loading />;
  const { columns, rows, cells } = map.data;
  const at = new Map(cells.map((cell) => [`${cell.topic}/${cell.column}`, cell]));
  const wide = all.filter((topic) => all.some((other) => other.wider === topic.number));
  return (
    <>
      <p className="mb-3 flex flex-wrap items-baseline gap-x-6 text-second">
        <label>
          against{' '}
          <select
            value={axis ?? ''}
            onChange={(event) => setAxis(Number(event.target.value) || undefined)}
            className="border-b border-hair bg-transparent font-semibold text-ink"
          >
            <option value="">formats</option>
            {wide.map((topic) => (
              <option key={topic.number} value={topic.number}>
                the topics under “{topic.name}”
              </option>
            ))}
          </select>
        </label>
        <span>
          <b className="text-blue">in hand</b>: kept slips not used yet · <b className="text-ink">in work</b>: pieces on
          the bench · <b className="text-done">out</b>: releases, and how long ago
        </span>
      </p>
      <div className="overflow-x-auto">
        <table className="figures w-full border-collapse text-[13px]">
          <thead>
            <tr className="border-b border-ink text-left">
              <th className="label py-1.5 pr-4 text-second">Topic</th>
              {columns.map((column) => (
                <th key={column.key} className="label px-3 py-1.5 text-second">
                  {column.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((topic) => (
              <tr key={topic.number} className="border-b border-rule">
                <th className="py-2 pr-4 text-left font-normal">
                  <Link
                    to={`/topics/${topic.number}`}
                    className={`written border-b-2 text-[15px] hover:text-blue ${topic.wider ? 'ml-4' : ''}`}
                    style={{ borderColor: `var(--${topic.colour})` }}
                  >
                    {topic.name}
                  </Link>
                </th>
                {columns.map((column) => (
                  <td key={column.key} className="border-l border-rule px-3 py-2 align-baseline">
                    <CoverageFigures
                      cell={at.get(`${topic.number}/${column.key}`)}
                      label={`${column.name} on ${topic.name}`}
                      onStart={() => setStart({ topic: topic.name, column })}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {start && (
        <StartSlip
          topic={start.topic}
          column={start.column}
          isFormat={axis === undefined}
          onClose={() => setStart(undefined)}
        />
      )}
    </>
  );
}

function CoverageFigures({ cell, label, onStart }: { cell: Cell | undefined; label: string; onStart: () => void }) {
  if (!cell)
    return (
      <button
        type="button"
        aria-label={`Nothing yet: begin ${label}`}
        title={`Begin: ${label}`}
        onClick={onStart}
        className="w-full text-left text-faint hover:text-blue"
      >
        +
      </button>
    );
  const parts = [
    cell.inHand > 0 && (
      <span key="hand" className="text-blue">
        {cell.inHand} in hand
      </span>
    ),
    cell.inWork > 0 && <span key="work">{cell.inWork} in work</span>,
    cell.out > 0 && (
      <span key="out" className="text-done">
        {cell.out} out{cell.lastOut ? `, ${ago(cell.lastOut)}` : ''}
      </span>
    ),
  ].filter(Boolean);
  return <span className="flex flex-col leading-snug">{parts}</span>;
}

/** A slip begun in an empty cell: with its topic and what it would become. */
function StartSlip({
  topic,
  column,
  isFormat,
  onClose,
}: {
  topic: string;
  column: { key: string; name: string };
  isFormat: boolean;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState('');
  const keep = async () => {
    try {
      const { answer: slip, command } = await done(api.POST('/api/slips', { body: { text } }));
      await done(
        api.PATCH('/api/slips/{number}', {
          params: { path: { number: String(slip.number) } },
          body: {
            version: slip.version,
            topics: [...slip.topics.map((own) => own.name), topic, ...(isFormat ? [] : [column.name])],
            ...(isFormat ? { format: column.key } : {}),
          },
        }),
      );
      say(`Slip ${slip.number} waits in Sift.`, command);
      await queryClient.invalidateQueries();
      onClose();
    } catch (problem) {
      setWrong((problem as Error).message);
    }
  };
  return (
    <Dialog title={`${column.name} on ${topic}`} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <textarea
          autoFocus
          rows={3}
          aria-label="The idea"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && !event.shiftKey && text.trim()) {
              event.preventDefault();
              void keep();
            }
          }}
          placeholder="There is nothing here yet. What could it be?"
          className="written w-full resize-none border-b border-ink bg-transparent py-1 text-[17px] outline-none focus:border-blue"
        />
        {wrong && (
          <p role="alert" className="text-red">
            {wrong}
          </p>
        )}
        <div className="mt-4 flex justify-end gap-3">
          <Button look="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" look="main" disabled={!text.trim()}>
            Catch it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Topics that share material, the strongest first. */
export function GoesTogether() {
  const pairs = useQuery({ queryKey: keys.together, queryFn: () => ask(api.GET('/api/topics/together')) });
  if (!pairs.data) return <Loading />;
  const strongest = pairs.data[0]?.strength ?? 1;
  return (
    <>
      <p className="mb-3 text-second">
        Pairs of topics that stand on the same slips, sources and pieces more often than chance would have it.
      </p>
      {pairs.data.length === 0 && <p className="text-second">Nothing stands together yet.</p>}
      <ol>
        {pairs.data.slice(0, 60).map((pair) => (
          <li
            key={`${pair.first.number}-${pair.second.number}`}
            className="grid grid-cols-[minmax(0,1fr)_180px_90px] items-center gap-4 border-b border-rule py-2 max-md:grid-cols-[minmax(0,1fr)_90px]"
          >
            <span className="flex min-w-0 flex-wrap gap-x-3 text-[14.5px]">
              <Link to={`/topics/${pair.first.number}`} className="hover:text-blue">
                <TopicWord topic={pair.first} />
              </Link>
              <span className="text-second">with</span>
              <Link to={`/topics/${pair.second.number}`} className="hover:text-blue">
                <TopicWord topic={pair.second} />
              </Link>
            </span>
            <span className="h-[5px] bg-hair/50 max-md:hidden">
              <span
                className="block h-full bg-second"
                style={{ width: `${Math.max(3, (100 * pair.strength) / strongest)}%` }}
              />
            </span>
            <Link
              className="figures text-right text-[12.5px] hover:text-blue"
              to={`/library?state=all&query=${encodeURIComponent(`topic:"${pair.first.name}" topic:"${pair.second.name}"`)}`}
            >
              {pair.shared} shared
            </Link>
          </li>
        ))}
      </ol>
    </>
  );
}

/** Words and phrases that keep coming up in sources, or in what readers write. */
export function ComesUp() {
  const [of, setOf] = useState<'sources' | 'messages'>('sources');
  const [topic, setTopic] = useState<number | undefined>();
  const all = useTopics().data ?? [];
  const words = useQuery({
    queryKey: keys.words(of, topic),
    queryFn: () =>
      ask(api.GET('/api/topics/words', { params: { query: { of, topic: topic ? String(topic) : undefined } } })),
    placeholderData: (previous) => previous,
  });
  if (!words.data) return <Loading />;
  const { phrases, texts, from, months } = words.data;
  const most = Math.max(1, ...phrases.flatMap((phrase) => phrase.byMonth));
  const since = new Date(from).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' });
  return (
    <>
      <p className="mb-3 flex flex-wrap items-baseline gap-x-6 text-second">
        <label>
          in{' '}
          <select
            value={of}
            onChange={(event) => setOf(event.target.value as typeof of)}
            className="border-b border-hair bg-transparent font-semibold text-ink"
          >
            <option value="sources">sources and their passages</option>
            <option value="messages">what readers ask</option>
          </select>
        </label>
        <label>
          on{' '}
          <select
            value={topic ?? ''}
            onChange={(event) => setTopic(Number(event.target.value) || undefined)}
            className="border-b border-hair bg-transparent font-semibold text-ink"
          >
            <option value="">any topic</option>
            {all.map((one) => (
              <option key={one.number} value={one.number}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <span>
          {texts} {texts === 1 ? 'text' : 'texts'} since {since}
        </span>
      </p>
      {phrases.length === 0 && <p className="text-second">No word stands in two of them yet.</p>}
      <ol className="grid gap-x-12 lg:grid-cols-2">
        {phrases.map((phrase) => (
          <li
            key={phrase.words}
            className="grid grid-cols-[minmax(0,1fr)_150px_64px_56px] items-center gap-4 border-b border-rule py-1.5"
          >
            <Link
              to={`/library?state=all&query=${encodeURIComponent(`"${phrase.words}"`)}`}
              className="written truncate text-[15px] hover:text-blue"
            >
              {phrase.words}
            </Link>
            <svg
              viewBox={`0 0 ${months * 8} 20`}
              className="h-5 w-full"
              role="img"
              aria-label={`By month since ${since}: ${phrase.byMonth.join(', ')}`}
              preserveAspectRatio="none"
            >
              {phrase.byMonth.map((count, at) => (
                <rect
                  key={at}
                  x={at * 8 + 1}
                  y={20 - (20 * count) / most}
                  width={6}
                  height={(20 * count) / most}
                  fill="var(--second)"
                />
              ))}
            </svg>
            <span className="figures text-right text-[12.5px]">
              {phrase.texts} {phrase.texts === 1 ? 'text' : 'texts'}
            </span>
            <span className="text-right text-[12px]">
              {Math.abs(phrase.rising) >= 0.2 && (
                <Figure shown={phrase.rising > 0 ? 'more' : 'less'} of={`Whether ${phrase.words} comes up more lately`}>
                  {Math.round(50 + 100 * phrase.rising)}% of its texts are of the later half of these months, where an
                  even spread would have half.
                </Figure>
              )}
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}

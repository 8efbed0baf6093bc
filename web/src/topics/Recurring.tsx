import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask } from '../api/client';
import { keys, useTopics } from '../api/queries';
import { Figure } from '../ui/Figure';
import { Loading } from '../ui/States';
import { TopicWord } from '../ui/TopicWord';

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

const spans = [
  [3, 'three months'],
  [6, 'half a year'],
  [12, 'a year'],
  [18, 'a year and a half'],
  [36, 'three years'],
  [120, 'ten years'],
] as const;

/** Words and phrases that keep coming up in sources, or in what readers write. */
export function ComesUp() {
  const [of, setOf] = useState<'sources' | 'messages'>('sources');
  const [topic, setTopic] = useState<number | undefined>();
  const [span, setSpan] = useState(18);
  const all = useTopics().data ?? [];
  const words = useQuery({
    queryKey: keys.words(of, topic, span),
    queryFn: () =>
      ask(
        api.GET('/api/topics/words', {
          params: { query: { of, topic: topic ? String(topic) : undefined, months: span } },
        }),
      ),
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
        <label>
          over{' '}
          <select
            value={span}
            onChange={(event) => setSpan(Number(event.target.value))}
            className="border-b border-hair bg-transparent font-semibold text-ink"
          >
            {spans.map(([count, name]) => (
              <option key={count} value={count}>
                {name}
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

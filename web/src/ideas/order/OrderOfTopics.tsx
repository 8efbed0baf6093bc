import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useTopics } from '../../api/queries';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { today } from '../../ui/dates';
import { Failed, Loading } from '../../ui/States';
import { useHeld } from '../../ui/useField';
import { TopicWord } from '../../ui/TopicWord';
import { WeightsLine } from './WeightsLine';
import { terms, useAsked, useOrder, type Ordered } from './order';

/** Topics in an order, each with its reasons; a month can be proposed from it. */
export default function OrderOfTopics() {
  const asked = useAsked();
  const navigate = useNavigate();
  const order = useOrder(asked);
  const [open, setOpen] = useState<string>();
  if (order.error) return <Failed error={order.error} onRetry={() => void order.refetch()} />;
  const search = new URLSearchParams([
    ...asked.topics.map((topic) => ['topic', String(topic)]),
    ...asked.words.map((word) => ['word', word]),
    ...(asked.from ? [['from', asked.from]] : []),
    ['weeks', String(asked.weeks)],
  ] as [string, string][]);
  return (
    <>
      <p className="mb-3 max-w-[70ch] text-second max-md:hidden">
        Which topics have most to say for themselves in the weeks ahead, by your own papers. What is not known counts
        neither way.
      </p>
      <Chosen {...asked} />
      <WeightsLine />
      {!order.data ? (
        <Loading what="Putting the topics in order" />
      ) : order.data.length === 0 ? (
        <p className="mt-4 text-second">
          No topic has any material yet. Type one above, and it is looked for by its words.
        </p>
      ) : (
        <>
          <ol aria-label="Topics in order" className="mt-4 border-t border-ink">
            {order.data.map((one, at) => (
              <Row
                key={one.name}
                place={at + 1}
                topic={one}
                isOpen={open === one.name}
                onOpen={() => setOpen(open === one.name ? undefined : one.name)}
              />
            ))}
          </ol>
          <p className="mt-5 flex flex-wrap items-baseline gap-x-5 gap-y-2">
            <Button look="main" onClick={() => void navigate(`/plan/proposal?${search}`)}>
              Propose {asked.weeks === 4 ? 'a month' : asked.weeks === 1 ? 'a week' : `${asked.weeks} weeks`} from these
            </Button>
            <span className="text-[12.5px] text-second">
              Nothing is planned by that; everything in it can be changed first.
            </span>
          </p>
        </>
      )}
    </>
  );
}

const longestWord = 80,
  mostTopics = 100;

/** Which topics: typed or chosen; none for all with material. */
function Chosen({ topics, words, from, weeks, change }: ReturnType<typeof useAsked>) {
  const all = useTopics().data ?? [];
  const [text, setText] = useHeld('order.word');
  const [error, setError] = useState('');
  const add = () => {
    const said = text
      .split(',')
      .map((word) => word.trim())
      .filter(Boolean);
    const numbers: number[] = [];
    const others: string[] = [];
    for (const word of said) {
      const found = all.find((topic) =>
        [topic.name, ...topic.aliases].some((name) => name.toLowerCase() === word.toLowerCase()),
      );
      if (found) numbers.push(found.number);
      else others.push(word);
    }
    if (said.length === 0) return;
    const long = said.find((word) => word.length > longestWord);
    if (long) return setError(`“${long.slice(0, 40)}…” is longer than ${longestWord} characters.`);
    if (topics.length + words.length + said.length > mostTopics)
      return setError(`At most ${mostTopics} are put in an order at once.`);
    change({ topic: [...new Set([...topics, ...numbers])], word: [...new Set([...words, ...others])] });
    setText('');
  };
  const named = topics.map((number) => all.find((topic) => topic.number === number)).filter((topic) => !!topic);
  return (
    <form
      aria-label="Which topics"
      className="flex flex-wrap items-baseline gap-x-4 gap-y-2 border-y border-ink py-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <span className="text-second">of</span>
      {named.length + words.length === 0 && <span className="font-semibold">all topics with material</span>}
      {named.map((topic) => (
        <Chip
          key={topic.number}
          name={topic.name}
          onRemove={() => change({ topic: topics.filter((n) => n !== topic.number) })}
        >
          <TopicWord topic={topic} />
        </Chip>
      ))}
      {words.map((word) => (
        <Chip key={word} name={word} onRemove={() => change({ word: words.filter((one) => one !== word) })}>
          <span className="written italic">{word}</span>
        </Chip>
      ))}
      <input
        aria-label="A topic to put in, or several with commas"
        list="order-topics"
        value={text}
        placeholder="a topic, or a word that is none yet"
        onChange={(event) => {
          setText(event.target.value);
          setError('');
        }}
        className="written min-w-40 flex-1 border-b border-hair bg-transparent py-0.5 text-[15px] outline-none placeholder:italic focus:border-blue"
      />
      <datalist id="order-topics">
        {all.map((topic) => (
          <option key={topic.number} value={topic.name} />
        ))}
      </datalist>
      <Button type="submit" disabled={!text.trim()}>
        Put in
      </Button>
      <span className="flex items-baseline gap-x-1.5 text-second">
        from
        <DateField
          label="From which day"
          value={from}
          empty="today"
          earliest={today()}
          onChange={(day) => change({ from: day === today() ? null : day })}
        />
      </span>
      <label className="text-second">
        for{' '}
        <select
          aria-label="For how many weeks"
          value={weeks}
          onChange={(event) => change({ weeks: Number(event.target.value) })}
          className="border-b border-hair bg-transparent font-semibold text-ink"
        >
          {[1, 2, 4, 6, 8, 13, 26].map((count) => (
            <option key={count} value={count}>
              {count === 1 ? 'a week' : `${count} weeks`}
            </option>
          ))}
        </select>
      </label>
      {error && (
        <p role="alert" className="w-full text-[13px] text-red">
          {error}
        </p>
      )}
    </form>
  );
}

function Chip({ name, onRemove, children }: { name: string; onRemove: () => void; children: React.ReactNode }) {
  return (
    <span className="inline-flex items-baseline gap-1.5">
      {children}
      <button
        type="button"
        aria-label={`Leave ${name} out`}
        className="min-h-6 min-w-6 text-second hover:text-red"
        onClick={onRemove}
      >
        ×
      </button>
    </span>
  );
}

function Row({ place, topic, isOpen, onOpen }: { place: number; topic: Ordered; isOpen: boolean; onOpen: () => void }) {
  return (
    <li className={`border-b border-rule ${isOpen ? 'bg-wash' : ''}`}>
      <div className="grid grid-cols-[28px_minmax(0,140px)_minmax(0,1fr)_132px_44px] items-baseline gap-x-4 py-2.5 max-md:grid-cols-[24px_minmax(0,1fr)_44px] max-md:gap-y-1">
        <span className="figures pl-1 text-[13px] text-second">{place}</span>
        <span className="min-w-0 truncate text-[15px]">
          {topic.topic ? (
            <Link
              to={`/topics/${topic.topic.number}`}
              className="written border-b-2 text-[15.5px] hover:text-blue"
              style={{ borderColor: `var(--${topic.topic.colour})` }}
            >
              {topic.name}
            </Link>
          ) : (
            <i className="written text-[15.5px]">{topic.name}</i>
          )}
        </span>
        <button
          type="button"
          aria-expanded={isOpen}
          aria-label={`Why ${topic.name} stands here: ${topic.because}`}
          onClick={onOpen}
          className="written min-h-6 text-left text-[15.5px] leading-snug hover:text-blue max-md:order-last max-md:col-span-2 max-md:col-start-2"
        >
          {topic.because}
        </button>
        <span className="max-md:hidden">
          <ByMonth topic={topic} />
        </span>
        <span
          className="figures pr-1 text-right text-[15px] font-semibold"
          title={
            topic.score === null ? 'Nothing is known that counts' : 'Of 100, by the terms and how much each counts'
          }
        >
          {topic.score === null ? '–' : Math.round(topic.score)}
        </span>
      </div>
      {isOpen && <Reasons topic={topic} />}
    </li>
  );
}

const texts = (month: Ordered['months'][number]) => month.slips + month.sources + month.messages + month.releases;

/** How often it came up, month by month. */
function ByMonth({ topic }: { topic: Ordered }) {
  const counts = topic.months.map(texts);
  const most = Math.max(1, ...counts);
  return (
    <svg
      viewBox={`0 0 ${counts.length * 8} 20`}
      className="h-5 w-full"
      role="img"
      aria-label={`Texts on ${topic.name} by month, the last two years: ${counts.join(', ')}`}
      preserveAspectRatio="none"
    >
      {counts.map((count, at) => (
        <rect
          key={at}
          x={at * 8 + 1}
          y={19.5 - (19 * count) / most}
          width={6}
          height={0.5 + (19 * count) / most}
          fill="var(--second)"
        />
      ))}
    </svg>
  );
}

/** Every term with its sentence and its figures, and the counts as a table. */
function Reasons({ topic }: { topic: Ordered }) {
  const [asTable, setAsTable] = useState(false);
  return (
    <div className="pr-1 pb-4 pl-12 max-md:pl-6">
      <table className="w-full text-[13px]">
        <tbody>
          {topic.terms.map((read) => (
            <tr key={read.term} className="border-t border-rule align-baseline">
              <th scope="row" className="w-24 py-1.5 pr-3 text-left font-semibold">
                {terms[read.term].name}
              </th>
              <td className="py-1.5 pr-4">
                {read.because}
                {read.figures.length > 0 && (
                  <span className="figures mt-0.5 block text-[12px] text-second">
                    {read.figures.map((figure) => `${figure.name} ${figure.value}`).join(' · ')}
                  </span>
                )}
              </td>
              <td className="figures w-14 py-1.5 text-right">
                {read.value === null ? <span className="text-second">not known</span> : Math.round(100 * read.value)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 flex flex-wrap gap-x-5 text-[12.5px]">
        <button type="button" className="link min-h-6" aria-expanded={asTable} onClick={() => setAsTable(!asTable)}>
          {asTable ? 'hide the months' : 'month by month'}
        </button>
        {topic.topic && (
          <Link to={`/bench/ideas?topic=${topic.topic.number}`} className="link min-h-6">
            ask for ideas on it
          </Link>
        )}
      </p>
      {asTable && (
        <table className="figures mt-2 text-[12.5px]">
          <thead>
            <tr className="label border-b border-ink text-right text-second">
              <th className="py-1 pr-6 text-left">Month</th>
              <th className="px-3">Slips</th>
              <th className="px-3">Sources</th>
              <th className="px-3">Messages</th>
              <th className="px-3">Releases</th>
            </tr>
          </thead>
          <tbody>
            {[...topic.months].reverse().map((month) => (
              <tr key={month.month} className="border-b border-rule text-right">
                <th scope="row" className="py-0.5 pr-6 text-left font-normal">
                  {new Date(month.month).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' })}
                </th>
                <td className="px-3">{month.slips || ''}</td>
                <td className="px-3">{month.sources || ''}</td>
                <td className="px-3">{month.messages || ''}</td>
                <td className="px-3">{month.releases || ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

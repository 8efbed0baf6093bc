import { lazy, Suspense, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { api, done, type Topic } from '../api/client';
import { queryClient, useTopics } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Empty, Failed, Loading } from '../ui/States';
import { Button } from '../ui/Button';
import { shortDay } from '../ui/dates';
import { Coverage } from './Coverage';
import { MayBeOne } from './MayBeOne';
import { ComesUp, GoesTogether } from './Recurring';
import { useField, useHeld } from '../ui/useField';

const OrderOfTopics = lazy(() => import('../ideas/order/OrderOfTopics'));

const looks: [string, string][] = [
  ['', 'What each holds'],
  ['coverage', 'Coverage'],
  ['together', 'Goes together'],
  ['words', 'What keeps coming up'],
  ['order', 'In what order'],
];

/** All topics with what each holds. Narrower topics stand under their wider one. */
export function Topics() {
  const topics = useTopics();
  const look = useSearchParams()[0].get('as') ?? '';
  if (topics.error) return <Failed error={topics.error} onRetry={() => void topics.refetch()} />;
  if (!topics.data) return <Loading what="Opening the topics" />;
  const all = topics.data;
  const roots = all.filter((topic) => !topic.wider);
  const under = (number: number): typeof all =>
    all.filter((topic) => topic.wider === number).flatMap((topic) => [topic, ...under(topic.number)]);
  const ordered = roots.flatMap((root) => [root, ...under(root.number)]);

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1080px] px-9 py-7 max-md:px-4">
        <header className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-2">
          <h1 className="written text-[26px] font-semibold">Topics</h1>
          <nav aria-label="Ways to look at topics" className="flex flex-wrap gap-x-5">
            {looks.map(([key, name]) => (
              <Link
                key={key}
                to={key ? `/topics?as=${key}` : '/topics'}
                aria-current={look === key ? 'page' : undefined}
                className={`min-h-6 border-b-2 pt-0.5 pb-0.5 leading-5 inline-block text-[13.5px] ${look === key ? 'border-blue font-semibold' : 'border-transparent text-second hover:text-ink'}`}
              >
                {name}
              </Link>
            ))}
          </nav>
          <AddTopic />
        </header>
        {all.length === 0 ? (
          <Empty title="No topics yet">
            A topic is made the first time it is written: #ferries in the strip, or a word in the topic field of Sift.
          </Empty>
        ) : look === 'coverage' ? (
          <Coverage />
        ) : look === 'together' ? (
          <GoesTogether />
        ) : look === 'words' ? (
          <ComesUp />
        ) : look === 'order' ? (
          <Suspense fallback={<Loading what="Putting the topics in order" />}>
            <OrderOfTopics />
          </Suspense>
        ) : (
          <>
            <MayBeOne />
            <table className="figures w-full border-collapse text-[13.5px]">
              <thead>
                <tr className="label border-b border-ink text-right text-second">
                  <th className="py-1.5 text-left">Topic</th>
                  <th className="px-3 max-md:hidden">Waiting</th>
                  <th className="px-3">Kept</th>
                  <th className="px-3">Used</th>
                  <th className="px-3 max-md:hidden">Held</th>
                  <th className="px-3 max-md:hidden">Sources</th>
                  <th className="px-3">Pieces</th>
                  <th className="px-3 whitespace-nowrap max-md:hidden">Last out</th>
                  <th className="w-[104px] pl-3 whitespace-nowrap max-md:hidden">Wished share</th>
                </tr>
              </thead>
              <tbody>
                {ordered.map((topic) => (
                  <tr key={topic.number} className="border-b border-rule text-right hover:bg-quiet">
                    <td className="py-2 text-left">
                      <Link
                        to={`/topics/${topic.number}`}
                        className={`inline-flex items-baseline gap-3 hover:text-blue ${topic.wider ? 'pl-6' : ''}`}
                      >
                        <span
                          className="written border-b-2 text-[16px] leading-[1.3]"
                          style={{ borderColor: `var(--${topic.colour})` }}
                        >
                          {topic.name}
                        </span>
                        {topic.aliases.length > 0 && (
                          <span className="text-[12px] text-second max-md:hidden">also {topic.aliases.join(', ')}</span>
                        )}
                      </Link>
                    </td>
                    <Figure value={topic.waiting} hidden strong />
                    <Figure value={topic.kept} />
                    <Figure value={topic.used} />
                    <Figure value={topic.held} hidden />
                    <Figure value={topic.sources} hidden />
                    <Figure value={topic.pieces} />
                    <td className="px-3 whitespace-nowrap text-second max-md:hidden">
                      {topic.lastOut ? shortDay(topic.lastOut) : 'never'}
                    </td>
                    <td className="pl-3 max-md:hidden">
                      <WishField topic={topic} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <Wished topics={all} />
          </>
        )}
      </div>
    </div>
  );
}

function Figure({ value, hidden = false, strong = false }: { value: number; hidden?: boolean; strong?: boolean }) {
  return (
    <td
      className={`px-3 ${hidden ? 'max-md:hidden' : ''} ${value === 0 ? 'text-faint' : strong ? 'font-semibold text-blue' : ''}`}
    >
      {value === 0 ? '–' : value}
    </td>
  );
}

/** What the wished shares come to. */
function Wished({ topics }: { topics: readonly Topic[] }) {
  const core = topics.filter((topic) => topic.wish !== null);
  const isCore = (number: number | null): boolean => {
    const topic = topics.find((t) => t.number === number);
    return topic !== undefined && (topic.wish !== null || isCore(topic.wider));
  };
  const sum = core.filter((topic) => !isCore(topic.wider)).reduce((all, topic) => all + topic.wish!, 0);
  return (
    <p className="figures mt-2 text-right text-[12.5px] text-second max-md:hidden">
      {core.length === 0 ? (
        'A topic with a wished share is a core topic: what lies under its share comes up among the next to begin.'
      ) : (
        <>
          Core topics: <b className="text-ink">{sum} %</b> of what goes out, the rest is open
        </>
      )}
    </p>
  );
}

/** The share of what goes out that a topic should have. */
function WishField({ topic }: { topic: Topic }) {
  const held = `topic.${topic.number}.wish`;
  const field = useField(
    held,
    topic.wish === null ? '' : String(topic.wish),
    async (text) => {
      const wish = text.trim() === '' ? null : Number(text.replace('%', '').trim());
      if (wish !== null && !Number.isInteger(wish)) throw new Error('A wished share is a whole number of per cent.');
      const saved = await done(
        api.PATCH('/api/topics/{number}', {
          params: { path: { number: String(topic.number) } },
          body: { version: topic.version, wish },
        }),
      );
      await queryClient.invalidateQueries();
      return saved;
    },
    true,
  );
  return (
    <span className="relative inline-flex items-baseline justify-end gap-1">
      <input
        aria-label={`Wished share of ${topic.name}, in per cent`}
        aria-invalid={field.error !== ''}
        inputMode="numeric"
        value={field.text}
        onChange={(event) => field.change(event.target.value)}
        onFocus={field.enter}
        onBlur={() => void field.flush()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void field.flush();
          if (event.key === 'Escape') field.putBack();
        }}
        placeholder="–"
        className="w-11 border-b border-transparent bg-transparent text-right outline-none hover:border-hair focus:border-blue aria-invalid:border-red"
      />
      <span className={field.text ? 'text-second' : 'text-transparent'}>%</span>
      {field.error && (
        <span
          role="alert"
          className="absolute top-full right-0 z-10 w-56 border border-hair bg-sheet px-3 py-2 text-left text-[12.5px] text-red shadow-lg"
        >
          {field.error}
        </span>
      )}
    </span>
  );
}

function AddTopic() {
  const [name, setName] = useHeld('topic.new');
  const [error, setError] = useState('');
  const navigate = useNavigate();
  const add = async () => {
    try {
      const topic = await carryOut(done(api.POST('/api/topics', { body: { name } })), `Made the topic ${name.trim()}.`);
      await queryClient.invalidateQueries();
      void navigate(`/topics/${topic.number}`);
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <form
      className="ml-auto flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      {error && (
        <span role="alert" className="text-red">
          {error}
        </span>
      )}
      <input
        aria-label="New topic"
        placeholder="new topic"
        value={name}
        onChange={(event) => setName(event.target.value)}
        className="w-40 border-b border-hair bg-transparent py-1 outline-none focus:border-blue"
      />
      <Button type="submit" disabled={!name.trim()}>
        Add
      </Button>
    </form>
  );
}

import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { ActionMenu } from '../../ui/ActionMenu';
import { Button } from '../../ui/Button';
import { Empty, Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { TopicWords } from '../../ui/TopicWord';
import { CatalogueHead } from '../CatalogueHead';
import { several, useCatalogue } from '../catalogue';
import { AskStands } from './AskStands';
import { BringMessages } from './BringMessages';
import { ReadClosely } from './ReadClosely';
import { answerTo, beginPiece, daySaid, editAsk, joinAsks, makeIdea, placeWish, useAsks, type Ask } from './asks';

/** What readers ask, the weightiest first, and one of them opened to its messages. */
export default function AskPage() {
  const { number } = useParams();
  const [isAway, setAway] = useState(false);
  const asks = useAsks(isAway);
  const newest = useCatalogue().data?.rows[0];
  if (asks.error) return <Failed error={asks.error} onRetry={() => void asks.refetch()} />;
  if (!asks.data) return <Loading what="Finding what readers ask" />;
  const all = asks.data;
  return (
    <Shown
      all={all}
      number={number}
      isAway={isAway}
      setAway={setAway}
      newest={newest && Number(newest.outOn.slice(0, 4))}
    />
  );
}

function Shown({
  all,
  number,
  isAway,
  setAway,
  newest,
}: {
  all: readonly Ask[];
  number: string | undefined;
  isAway: boolean;
  setAway: (away: boolean) => void;
  newest?: number;
}) {
  const detail = useRef<HTMLElement>(null);
  // Where there is no room beside the list, the ask stands under it.
  useEffect(() => {
    if (number && matchMedia('(max-width: 1023px)').matches) detail.current?.scrollIntoView({ block: 'start' });
  }, [number]);
  const open = all.find((one) => String(one.number) === number) ?? (number ? undefined : all[0]);
  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <CatalogueHead title="What readers ask" newest={newest} />
        <p className="mb-2 flex flex-wrap items-baseline gap-x-5 text-[12.5px] text-second">
          <span className="figures">{several(all.length, 'ask')}</span>
          <span>each person counts once; a wish weighs half after 180 days</span>
          <button type="button" className="link min-h-6" onClick={() => setAway(!isAway)}>
            {isAway ? 'those in sight' : 'those put away'}
          </button>
        </p>
        <ReadClosely />
        {all.length === 0 ? (
          <Empty
            title={isAway ? 'None is put away' : 'Nothing is asked yet'}
            action={isAway ? undefined : <BringMessages />}
          >
            {isAway
              ? 'An ask that is put away is out of sight here and counts no more.'
              : 'Bring in what readers wrote: a table with the columns “from” and “text”, or a mailbox. What several of them wish stands here as one ask.'}
          </Empty>
        ) : (
          <ul>
            {all.map((one) => (
              <li
                key={one.number}
                className={`flex items-baseline gap-4 border-b border-rule py-2.5 ${one === open ? 'border-l-[3px] border-l-blue bg-quiet pl-3' : 'pl-[15px]'}`}
              >
                <span className="figures w-7 shrink-0 text-right text-[21px] font-semibold">
                  {one.people}
                  <span className="sr-only"> {one.people === 1 ? 'person asks' : 'people ask'}: </span>
                </span>
                <span className="min-w-0 flex-1">
                  <Link
                    to={`/catalogue/asks/${one.number}`}
                    aria-current={one === open ? 'true' : undefined}
                    className="written text-[17px] leading-snug break-words hover:text-blue"
                  >
                    {one.ask}
                  </Link>
                  <AskStands ask={one} />
                </span>
                <span className="max-md:hidden">
                  <TopicWords topics={one.topics} />
                </span>
                <span
                  className="figures w-10 shrink-0 text-right text-[12.5px] text-second"
                  title="weight: people, halving with age, more with those who agreed"
                >
                  {one.weight.toFixed(1)}
                </span>
              </li>
            ))}
          </ul>
        )}
      </div>
      <aside
        ref={detail}
        aria-label="The ask"
        className="w-[420px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        {open ? (
          <Opened key={open.number} ask={open} others={all.filter((one) => one !== open)} />
        ) : (
          number && (
            <p className="text-[13.5px] text-second">This ask is not among these; it was joined, or put away.</p>
          )
        )}
      </aside>
    </div>
  );
}

function Opened({ ask: one, others }: { ask: Ask; others: readonly Ask[] }) {
  const navigate = useNavigate();
  const answer = answerTo(one);
  return (
    <>
      <h2 className="label flex items-baseline border-b border-ink pb-2">
        {several(one.people, 'reader')}, {several(one.messages.length, 'message')}
        <ActionMenu
          label="More about this ask"
          className="link ml-auto text-[12.5px] font-semibold tracking-normal normal-case"
          actions={[
            {
              key: 'away',
              label: one.isPutAway ? 'Take it out again' : 'Put it away',
              onChoose: () =>
                void editAsk(
                  one,
                  { putAway: !one.isPutAway },
                  one.isPutAway ? 'Took it out again.' : 'Put it away.',
                ).then(() => navigate('/catalogue/asks')),
            },
            ...others.map((other) => ({
              key: String(other.number),
              label: `It is the same as “${other.ask}”`,
              onChoose: () => void joinAsks(one, other).then(() => navigate(`/catalogue/asks/${other.number}`)),
            })),
          ]}
        >
          more
        </ActionMenu>
      </h2>
      <div className="mt-3">
        <TextField
          label="What they ask"
          shown={false}
          place={`ask:${one.number}`}
          value={one.title || one.ask}
          onSave={(title) =>
            title.trim() === one.ask && !one.title ? undefined : editAsk(one, { title }, 'Changed its words.')
          }
          className="written text-[21px] leading-snug font-semibold"
        />
      </div>
      {answer && (
        <div className="mt-3 border-l-[3px] border-done bg-sheet px-3 py-2 text-[13px]">
          <span className="font-semibold text-done">{one.piece?.out ? 'It went out.' : 'You said this.'}</span>{' '}
          <Link to={`/catalogue/${answer.release}`} className="link">
            {answer.title}
          </Link>
          {answer.sentence && <p className="written mt-1 text-[15px] leading-snug">“{answer.sentence}”</p>}
        </div>
      )}
      <p className="mt-3 flex flex-wrap gap-2">
        {one.piece ? (
          <Link to={`/bench/${one.piece.piece}`} className="link text-[13px]">
            P {one.piece.piece} {one.piece.title}
          </Link>
        ) : (
          <Button
            look={answer ? 'plain' : 'main'}
            onClick={() => void beginPiece(one).then((piece) => piece && navigate(`/bench/${piece.number}`))}
          >
            Begin a piece
          </Button>
        )}
        {!one.piece && !one.idea && <Button onClick={() => void makeIdea(one)}>Make an idea of it</Button>}
        {one.toAnswer > 0 && (
          <Link to={`/catalogue/messages?ask=${one.number}&open=yes`} className="link self-center text-[13px]">
            reply to {one.toAnswer}
          </Link>
        )}
      </p>
      {one.ideas.length > 0 && (
        <section aria-label={one.idea ? 'Its idea' : 'Slips that may answer it'} className="mt-5">
          <h3 className="label border-b border-hair pb-1 text-second">
            {one.idea ? 'Its idea; who asks counts for it' : 'Slips that may answer it'}
          </h3>
          <ul>
            {one.ideas.map((idea) => (
              <li key={idea.slip} className="border-b border-rule py-1.5 text-[14px]">
                <Link to={`/library/slip/${idea.slip}`} className="written hover:text-blue">
                  <span className="figures mr-2 text-[12px] text-second">{idea.slip}</span>
                  {idea.title}
                </Link>{' '}
                <button
                  type="button"
                  aria-label={`${one.idea ? 'not this one' : 'this is its idea'}: slip ${idea.slip}`}
                  className="link inline-block min-h-6 text-[12.5px]"
                  onClick={() =>
                    void editAsk(
                      one,
                      { idea: one.idea ? 0 : idea.slip },
                      one.idea ? 'It has no idea yet.' : `Slip ${idea.slip} is its idea; who asks counts for it.`,
                    )
                  }
                >
                  {one.idea ? 'not this one' : 'this is its idea'}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="In their words" className="mt-5">
        <h3 className="label border-b border-hair pb-1 text-second">In their words</h3>
        <ul>
          {one.wishes.map((wish) => (
            <li key={wish.number} className="border-b border-rule py-2">
              <p className="written text-[15px] leading-snug break-words">{wish.text}</p>
              <p className="flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-second">
                <Link
                  to={`/catalogue/messages?person=${encodeURIComponent(wish.personKey)}`}
                  className="hover:text-blue"
                >
                  {wish.person || 'a reader'}
                </Link>
                <span>{daySaid(wish.at)}</span>
                {wish.answered && <span className="text-done">answered</span>}
                <span className="ml-auto">
                  <ActionMenu
                    label={`Where “${wish.text}” belongs`}
                    actions={[
                      {
                        key: 'own',
                        label: 'It is an ask of its own',
                        disabled: one.wishes.length === 1,
                        onChoose: () => void placeWish(wish, {}, 'Parted it from the others.'),
                      },
                      {
                        key: 'nothing',
                        label: 'It asks nothing',
                        onChoose: () => void placeWish(wish, { nothing: true }, 'It counts in no ask.'),
                      },
                      ...others.map((other) => ({
                        key: String(other.number),
                        label: `It belongs to “${other.ask}”`,
                        onChoose: () => void placeWish(wish, { ask: other.number }, `Put it to “${other.ask}”.`),
                      })),
                    ]}
                  >
                    belongs elsewhere
                  </ActionMenu>
                </span>
              </p>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}

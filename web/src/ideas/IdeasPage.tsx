import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { api, ask as request, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { useKeys } from '../papers/keys';
import { carryOut, complain, say, takeBack } from '../papers/notices';
import type { ActName } from '../papers/ownKeys';
import { Empty, Failed, Loading } from '../ui/States';
import { KeyOf } from '../ui/KeyOf';
import { AskForm } from './AskForm';
import { inTurn, useAsking, type Idea, type Wanted } from './asking';
import { byTopic, IdeaRow } from './IdeaRow';
import { LookFirst } from './service/LookFirst';
import type { Look } from './service/service';

type IdeaAct = 'take' | 'start' | 'later' | 'refuse';

const manners = [
  ['more', 'more like this'],
  ['shorter', 'shorter'],
  ['beginners', 'for beginners'],
] as const;

const said: Record<IdeaAct, string> = { take: 'taken', start: 'begun', later: 'put off', refuse: 'refused' };

/** More ideas than one could use: asked for, gone through one by one, most of them thrown away. */
export default function IdeasPage() {
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const chosenTopics = params.getAll('topic').map(Number).filter(Boolean);
  const waiting = useQuery({ queryKey: keys.ideas, queryFn: () => request(api.GET('/api/ideas')) });
  const purpose = useQuery({ queryKey: keys.purpose, queryFn: () => request(api.GET('/api/purpose')) }).data?.text;
  const { asking, ask } = useAsking();
  // What was just decided leaves the list at once, before the server has answered.
  const [gone, setGone] = useState<ReadonlySet<number>>(new Set());
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const [at, setAt] = useState<number>();
  const [editing, setEditing] = useState(false);
  const isAtWords = useRef(editing);
  useEffect(() => {
    isAtWords.current = editing;
  });
  const [taken, setTaken] = useState<{ command: number; ideas: readonly number[] }[]>([]);
  const [look, setLook] = useState<{ wanted: Wanted; look: Look }>();
  const [tally, setTally] = useState<Partial<Record<IdeaAct, number>>>({});
  useEffect(() => {
    document.title = 'More ideas · Nachlass';
  }, []);

  const ideas = (waiting.data ?? []).filter((one) => !gone.has(one.number));
  const groups = byTopic(ideas);
  const order = groups.flatMap((group) => group.ideas);
  const current = order.find((one) => one.number === at) ?? order[0];
  const place = current ? order.indexOf(current) : -1;
  const chosen = order.filter((one) => picked.has(one.number));

  useEffect(() => {
    document.querySelector('[data-current]')?.scrollIntoView({ block: 'nearest' });
  }, [current?.number]);

  const step = (by: number) => {
    const next = order[Math.min(order.length - 1, Math.max(0, place + by))];
    if (next) setAt(next.number);
    setEditing(false);
  };

  const decide = (act: IdeaAct) => {
    const about = chosen.length > 0 && act !== 'start' ? chosen : current ? [current] : [];
    if (about.length === 0) return;
    const numbers = about.map((one) => one.number);
    const last = order.indexOf(about[about.length - 1]!);
    const next = order.slice(last + 1).find((one) => !numbers.includes(one.number)) ?? order[place - 1];
    setAt(next?.number);
    setPicked(new Set());
    setEditing(false);
    if (act !== 'later') setGone((before) => new Set([...before, ...numbers]));
    inTurn(async () => {
      try {
        const { answer, command } = await done(
          api.POST('/api/ideas/sorted', { body: { ideas: numbers, act, format: null, idea: null } }),
        );
        setTaken((before) => [...before.slice(-99), { command, ideas: numbers }]);
        setTally((before) => ({ ...before, [act]: (before[act] ?? 0) + numbers.length }));
        await queryClient.invalidateQueries({ queryKey: keys.ideas });
        // From here on the server's list counts, also when the decision is taken back from elsewhere.
        setGone((before) => new Set([...before].filter((number) => !numbers.includes(number))));
        if (act === 'take') {
          const slips = answer.ideas.map((one) => one.slip);
          say(slips.length === 1 ? `Taken as slip ${slips[0]}.` : `Taken as ${slips.length} slips.`, command);
        } else if (act === 'start' && answer.piece) {
          say(`P ${answer.piece} is begun.`, command);
          void navigate(`/bench/${answer.piece}`);
        }
      } catch (error) {
        setGone((before) => new Set([...before].filter((number) => !numbers.includes(number))));
        complain(error);
      }
    });
  };

  const back = () => {
    const last = taken[taken.length - 1];
    if (!last) return;
    setTaken(taken.slice(0, -1));
    void takeBack(last.command).then(() => setAt(last.ideas[0]));
  };

  const acts: [ActName, string, () => void][] = [
    ['ideas.take', 'Take', () => decide('take')],
    ['ideas.start', 'Take and start', () => decide('start')],
    ['ideas.later', 'Not now', () => decide('later')],
    ['ideas.refuse', 'No', () => decide('refuse')],
    ['ideas.change', 'Change the words', () => setEditing(true)],
  ];
  useKeys(
    {
      ...Object.fromEntries(acts.map(([key, , act]) => [key, act])),
      'ideas.choose': () => current && pick(current.number),
      'ideas.back': back,
    },
    { fixed: { ArrowDown: () => step(1), ArrowUp: () => step(-1) }, active: !asking },
  );

  const pick = (number: number) =>
    setPicked((before) => {
      const next = new Set(before);
      if (!next.delete(number)) next.add(number);
      return next;
    });

  /** A service is asked only after a look at what it would be sent. */
  const lookFirst = async (wanted: Wanted) => {
    try {
      setLook({ wanted, look: await request(api.POST('/api/ideas/service/look', { body: wanted })) });
    } catch (error) {
      complain(error);
    }
  };

  const askFor = async (wanted: Wanted) => {
    const before = new Set(order.map((one) => one.number));
    try {
      const kept = await ask(wanted);
      // What came is what one wants to see, also where a hundred others wait before it; not under a hand that writes.
      const came = byTopic(queryClient.getQueryData<Idea[]>(keys.ideas) ?? [])
        .flatMap((group) => group.ideas)
        .find((one) => !before.has(one.number));
      if (came && !isAtWords.current) setAt(came.number);
      if (wanted.by === 'service') await queryClient.invalidateQueries({ queryKey: keys.ideaService });
      if (kept?.problem)
        complain(
          new Error(
            `${kept.problem} ${kept.kept === 0 ? 'Nothing came, and nothing was lost.' : `The ${kept.kept === 1 ? 'idea that came is' : `${kept.kept} ideas that came are`} kept.`}`,
          ),
        );
      else if (kept && kept.kept === 0 && wanted.by === 'service') say('All that came had been proposed before.');
      else if (kept && kept.kept === 0)
        say('There was nothing more to make an idea from. More slips and sources on a topic give more ideas.');
      else if (kept)
        say(
          `${kept.kept} ${kept.kept === 1 ? 'idea' : 'ideas'} came, with the seed ${kept.seed}${kept.joined > 0 ? `; ${kept.joined} more said nearly the same` : ''}.`,
          kept.command ?? undefined,
        );
    } catch (error) {
      complain(error);
    }
  };

  if (waiting.error) return <Failed error={waiting.error} onRetry={() => void waiting.refetch()} />;
  if (!waiting.data) return <Loading what="Opening the ideas" />;
  const sorted = Object.entries(tally).map(([act, count]) => `${count} ${said[act as IdeaAct]}`);
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1060px] px-9 py-7 max-md:px-4">
        <header className="pb-3">
          <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
            <h1 className="written text-[30px] leading-tight font-semibold">More ideas</h1>
            <span className="text-[13px] text-second" role="status">
              {asking
                ? `${asking.coming.length} of ${asking.of} have come`
                : [`${order.length} to go through`, ...sorted].join(' · ')}
            </span>
            <span className="ml-auto flex flex-wrap gap-x-4 text-[13px] whitespace-nowrap max-md:ml-0">
              <Link to="/bench/ideas/angles" className="link">
                angles
              </Link>
              <Link to="/bench/ideas/decks" className="link">
                decks
              </Link>
              <Link to="/bench/ideas/service" className="link">
                a service
              </Link>
              <Link to="/topics?as=order" className="link">
                an order of topics
              </Link>
              <Link to="/bench/begin" className="link">
                next to begin
              </Link>
            </span>
          </div>
          {purpose?.trim() && (
            <p className="written mt-1 text-[15px] text-second italic" title="What all this is for">
              {purpose}
            </p>
          )}
        </header>
        <AskForm
          topics={chosenTopics}
          format={params.get('format') ?? ''}
          onTopics={(topics) => setParams({ topic: topics.map(String) }, { replace: true })}
          onAsk={(wanted) => void (wanted.by === 'service' ? lookFirst(wanted) : askFor(wanted))}
          busy={asking !== undefined}
        />
        {look && (
          <LookFirst
            look={look.look}
            onClose={() => setLook(undefined)}
            onSend={() => {
              setLook(undefined);
              void askFor({ ...look.wanted, seed: look.look.seed, shown: look.look.shown });
            }}
          />
        )}
        {asking && (
          <p className="flex items-baseline gap-4 py-2 text-[13px] text-second">
            <progress
              aria-label="Ideas that have come"
              value={asking.coming.length}
              max={asking.of}
              className="h-1.5 w-40 accent-(--blue)"
            />
            <button type="button" className="link min-h-6" onClick={asking.stop}>
              stop, and keep what has come
            </button>
          </p>
        )}
        {order.length === 0 && !asking ? (
          <Empty title="Nothing waits to be gone through">
            Ask, and beginnings come under their topics, made from what is in your papers: terms your sources use more
            than others, what readers want, occasions ahead, topics and formats that never met, questions that are open.
            Each says what it was made from; none is taken by itself.
          </Empty>
        ) : (
          <>
            {chosen.length > 1 && (
              <p className="sticky top-0 z-10 border-b border-blue bg-wash px-2 py-1.5 text-[13px]">
                <b>{chosen.length} chosen</b>: take, put off or refuse all of them at once.{' '}
                <button type="button" className="link" onClick={() => setPicked(new Set())}>
                  choose none
                </button>
              </p>
            )}
            {byTopic([...order, ...(asking?.coming ?? []).map((idea) => ({ idea, number: 0 }))] as Idea[]).map(
              (group) => (
                <section key={group.name} aria-label={group.name} className="mt-5">
                  <h2 className="label border-b border-ink pb-1">
                    <span className="border-b-2 pb-px" style={{ borderColor: `var(--${group.colour})` }}>
                      {group.name}
                    </span>{' '}
                    <span className="figures font-normal text-second">{group.ideas.length}</span>
                  </h2>
                  <ul>
                    {group.ideas.map((one, i) =>
                      one.number ? (
                        <IdeaRow
                          key={one.number}
                          idea={one.idea}
                          later={one.state === 'later'}
                          current={one === current && !asking}
                          chosen={picked.has(one.number)}
                          onShow={() => {
                            setAt(one.number);
                            setEditing(false);
                          }}
                          onChoose={() => pick(one.number)}
                          onGoOn={
                            sessionStorage.getItem(wordsPlace(one.number)) === null
                              ? undefined
                              : () => {
                                  setAt(one.number);
                                  setEditing(true);
                                }
                          }
                          editing={
                            editing && one === current ? (
                              <Reword idea={one} onDone={() => setEditing(false)} />
                            ) : undefined
                          }
                        >
                          <p className="mt-2 -ml-2 flex flex-wrap items-center gap-x-2 gap-y-1 pb-1">
                            {acts.map(([key, name, act]) => (
                              <button
                                key={key}
                                type="button"
                                onClick={act}
                                className="inline-flex min-h-7 items-center gap-2 px-2 text-[13px] font-semibold hover:text-blue"
                              >
                                <KeyOf act={key} />
                                {name}
                              </button>
                            ))}
                            <span className="ml-2 flex flex-wrap gap-x-4 text-[12.5px]">
                              {manners.map(([as, name]) => (
                                <button
                                  key={as}
                                  type="button"
                                  className="link min-h-7"
                                  onClick={() => void askFor({ count: 10, like: one.number, as })}
                                >
                                  {name}
                                </button>
                              ))}
                            </span>
                          </p>
                        </IdeaRow>
                      ) : (
                        <IdeaRow key={`coming-${i}`} idea={one.idea} current={false} chosen={false} />
                      ),
                    )}
                  </ul>
                </section>
              ),
            )}
          </>
        )}
        {taken.length > 0 && (
          <p className="mt-5 text-[13px]">
            <button type="button" className="link inline-flex min-h-7 items-center gap-2" onClick={back}>
              <KeyOf act="ideas.back" /> Take the last decision back
            </button>
          </p>
        )}
      </div>
    </div>
  );
}

/** Where words stand that were typed for an idea and are not kept yet, so that neither a reload nor another row loses them. */
const wordsPlace = (number: number) => `words of idea ${number}`;

/** Other words for an idea, before it is taken. */
function Reword({ idea, onDone }: { idea: Idea; onDone: () => void }) {
  const place = wordsPlace(idea.number);
  const [text, setText] = useState(() => sessionStorage.getItem(place) ?? idea.idea.text);
  const close = () => {
    sessionStorage.removeItem(place);
    onDone();
  };
  const [error, setError] = useState('');
  const save = async () => {
    if (text.trim() === idea.idea.text) return close();
    try {
      await carryOut(
        done(
          api.PATCH('/api/ideas/{number}', {
            params: { path: { number: String(idea.number) } },
            body: { text, version: idea.version },
          }),
        ),
        undefined,
        true,
      );
      await queryClient.invalidateQueries({ queryKey: keys.ideas });
      close();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <textarea
        aria-label="The idea in your words"
        autoFocus
        rows={2}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          sessionStorage.setItem(place, event.target.value);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !event.shiftKey) {
            event.preventDefault();
            void save();
          }
          if (event.key === 'Escape') close();
        }}
        className="written w-full border-b border-blue bg-transparent text-[16.5px] leading-snug outline-none"
      />
      {error && (
        <p role="alert" className="text-[12.5px] text-red">
          {error}
        </p>
      )}
      <p className="text-[12.5px] text-second">Enter keeps the words, Escape leaves them as they were.</p>
    </form>
  );
}

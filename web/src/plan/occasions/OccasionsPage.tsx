import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask, done, Problem } from '../../api/client';
import type { components } from '../../api/schema';
import { keys, queryClient } from '../../api/queries';
import { StartPiece, type Beginning } from '../../bench/StartPiece';
import { MadeFrom } from '../../ideas/IdeaRow';
import { carryOut } from '../../papers/notices';
import { LikelyTopics } from '../../sift/LikelyTopics';
import { ActionMenu } from '../../ui/ActionMenu';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { Failed, Loading } from '../../ui/States';
import { TopicField } from '../../ui/TopicField';
import { TopicWords } from '../../ui/TopicWord';
import { plusDays, shortDay, today, weekday } from '../../ui/dates';
import { useHeld } from '../../ui/useField';
import { PlanNav } from '../PlanNav';
import { firstShown, hours } from '../planning';

type Ahead = components['schemas']['OccasionAhead'];
type Coming = components['schemas']['IdeaComing'];

const quarter = 91;
const refresh = () => queryClient.invalidateQueries();

/** What lies in the next quarter, how much time is left before it, and what in the papers would fit it. */
export default function OccasionsPage() {
  const [params, setParams] = useSearchParams();
  const from = firstShown(params.get('from'));
  const to = plusDays(from, quarter);
  const ahead = useQuery({
    queryKey: keys.ahead(from, to),
    queryFn: () => ask(api.GET('/api/occasions', { params: { query: { from, to } } })),
  });
  const ideas = useQuery({
    queryKey: keys.occasionIdeas(from, to),
    queryFn: () => ask(api.GET('/api/occasions/ideas', { params: { query: { from, to } } })),
  });
  const ideasFor = (one: Ahead) =>
    ideas.data?.find((made) => made.name === one.name && made.from === one.from && made.occasion === one.occasion)
      ?.ideas;
  const [starting, setStarting] = useState<Beginning>();
  useEffect(() => {
    document.title = 'Occasions · Nachlass';
  }, []);
  if (ahead.error) return <Failed error={ahead.error} onRetry={() => void ahead.refetch()} />;
  const go = (day: string) => setParams(day === today() ? {} : { from: day });
  const months = [...new Set(ahead.data?.map((one) => one.from.slice(0, 7)))];
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1160px] px-9 py-6 max-md:px-4">
        <header className="mb-4">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h1 className="written text-[25px] leading-tight font-semibold">
              {shortDay(from)} – {shortDay(to)}
            </h1>
            <span className="figures text-[12.5px] text-second">
              {ahead.data && (ahead.data.length === 1 ? '1 occasion' : `${ahead.data.length} occasions`)}
            </span>
            <PlanNav />
          </div>
          <p className="mt-1.5 inline-flex items-center gap-1 text-[12.5px] text-second">
            <button
              type="button"
              aria-label="Earlier"
              className="px-1.5 hover:text-blue"
              onClick={() => go(plusDays(from, -42))}
            >
              ←
            </button>
            <button type="button" className="link" onClick={() => go(today())}>
              today
            </button>
            <button
              type="button"
              aria-label="Later"
              className="px-1.5 hover:text-blue"
              onClick={() => go(plusDays(from, 42))}
            >
              →
            </button>
          </p>
        </header>
        <div className="flex gap-12 max-lg:block">
          <div className="min-w-0 flex-1">
            {!ahead.data && <Loading what="Looking ahead" />}
            {ahead.data?.length === 0 && (
              <p className="text-second">
                Nothing lies in these weeks. Write down an occasion, choose countries whose holidays you want to see, or
                bring in a calendar under{' '}
                <Link to="/bring-in" className="link">
                  Bring in
                </Link>
                .
              </p>
            )}
            {months.map((month) => (
              <section key={month} aria-label={monthSaid(month)} className="mb-6">
                <h2 className="label border-b border-hair pb-1 text-second">{monthSaid(month)}</h2>
                {ahead
                  .data!.filter((one) => one.from.startsWith(month))
                  .map((one) => (
                    <OccasionLine
                      key={`${one.occasion ?? one.country}${one.name}${one.from}`}
                      ahead={one}
                      ideas={ideasFor(one)}
                      onStart={setStarting}
                    />
                  ))}
              </section>
            ))}
          </div>
          <aside className="w-[300px] shrink-0 max-lg:mt-8 max-lg:w-auto">
            <NewOccasion />
            <Countries />
          </aside>
        </div>
      </div>
      <StartPiece open={starting !== undefined} from={starting ?? {}} onClose={() => setStarting(undefined)} />
    </div>
  );
}

const monthSaid = (month: string) =>
  new Date(`${month}-15T12:00:00`).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' });

const timeLeft = (ahead: Ahead) =>
  ahead.from < today()
    ? 'it is on'
    : ahead.days === 0
      ? 'today'
      : `${ahead.days === 1 ? 'in a day' : `in ${ahead.days} days`}, ${hours(ahead.hoursFree)} h free before it`;

function OccasionLine({
  ahead,
  ideas,
  onStart,
}: {
  ahead: Ahead;
  /** What could be made of it; undefined while that is worked out, and where it is on no topic. */
  ideas: readonly Coming[] | undefined;
  onStart: (from: Beginning) => void;
}) {
  const number = ahead.occasion;
  const path = { path: { number: String(number) } };
  const act = (made: Promise<unknown>) => void made.then(refresh, () => undefined);
  const setTopics = (topics: string[]) =>
    act(
      carryOut(
        done(api.PUT('/api/occasions/{number}/topics', { params: path, body: { topics } })),
        topics.length ? `${ahead.name} is on ${topics.join(', ')}.` : `${ahead.name} is on no topic of its own.`,
      ),
    );
  return (
    <article aria-label={ahead.name} className="relative flex gap-5 border-b border-rule py-2.5 max-md:block">
      <p className="figures w-[104px] shrink-0 text-[13px] max-md:inline">
        <b className="font-semibold">
          {weekday(ahead.from)} {shortDay(ahead.from)}
        </b>
        {ahead.to !== ahead.from && (
          <span className="block text-[12px] text-second max-md:inline"> – {shortDay(ahead.to)}</span>
        )}
      </p>
      <div className="min-w-0 flex-1">
        <p className="flex flex-wrap items-baseline gap-x-3">
          <span className={`written text-[16px] ${ahead.country ? '' : 'font-semibold'}`}>{ahead.name}</span>
          {ahead.country && <span className="narrow text-[11.5px] text-second">{ahead.country}</span>}
          <span className="figures text-[12.5px] text-second">{timeLeft(ahead)}</span>
        </p>
        <div className="flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-second">
          {number === null || ahead.byName
            ? ahead.topics.length > 0 && (
                <span>
                  named in it: <TopicWords topics={ahead.topics} />
                </span>
              )
            : null}
          {number !== null && (
            <TopicField
              quiet
              label={`Topics of ${ahead.name}`}
              topics={ahead.byName ? [] : ahead.topics}
              likely={ahead.likely.map((one) => one.topic)}
              onChange={setTopics}
            />
          )}
          <LikelyTopics likely={ahead.likely} onTake={(name) => setTopics([name])} className="" />
          {ahead.recursSaid && <span>{ahead.recursSaid}</span>}
        </div>
        {ahead.fits.length > 0 && (
          <ul aria-label={`What would fit ${ahead.name}`} className="mt-1">
            {ahead.fits.map((fit) => (
              <li key={`${fit.piece ?? ''}.${fit.slip ?? ''}`} className="flex items-baseline gap-3 py-0.5">
                <span className="narrow figures w-12 shrink-0 text-[12px] font-semibold text-second">
                  {fit.piece !== null ? `P ${fit.piece}` : fit.slip}
                </span>
                <Link
                  to={fit.piece !== null ? `/bench/${fit.piece}` : `/library/slip/${fit.slip}`}
                  className="written min-w-0 flex-1 truncate text-[14.5px] hover:text-blue"
                >
                  {fit.title}
                </Link>
                <span className="shrink-0 text-[12px] text-second max-md:hidden">{fit.why}</span>
                {fit.piece !== null ? (
                  fit.due !== ahead.from && (
                    <button
                      type="button"
                      className="link min-h-6 shrink-0 text-[12.5px]"
                      onClick={() =>
                        act(
                          carryOut(
                            done(
                              api.PUT('/api/plan/pieces/{number}', {
                                params: { path: { number: String(fit.piece) } },
                                body: { on: ahead.from },
                              }),
                            ),
                            `P ${fit.piece} on ${shortDay(ahead.from)}.`,
                          ),
                        )
                      }
                    >
                      for this day
                    </button>
                  )
                ) : (
                  <button
                    type="button"
                    className="link min-h-6 shrink-0 text-[12.5px]"
                    onClick={() => onStart({ slips: [fit.slip!], due: ahead.from })}
                  >
                    begin for it
                  </button>
                )}
              </li>
            ))}
          </ul>
        )}
        {ideas && ideas.length > 0 && <IdeasForIt ahead={ahead} ideas={ideas} onStart={onStart} />}
      </div>
      <ActionMenu
        label={`More on ${ahead.name}`}
        className="min-h-6 min-w-6 shrink-0 self-start text-second hover:text-blue max-md:absolute max-md:top-2 max-md:right-0"
        actions={[
          {
            key: 'begin',
            label: 'Begin a piece for it',
            onChoose: () =>
              onStart({ title: ahead.name, due: ahead.from, topics: ahead.topics.map((topic) => topic.name) }),
          },
          number === null
            ? {
                key: 'own',
                label: 'Make it an occasion of your own',
                onChoose: () =>
                  act(
                    carryOut(
                      done(api.POST('/api/occasions', { body: { name: ahead.name, from: ahead.from, to: ahead.to } })),
                      `${ahead.name} is an occasion of yours now; give it topics.`,
                    ),
                  ),
              }
            : {
                key: 'away',
                label: 'Take it away',
                onChoose: () =>
                  act(carryOut(done(api.DELETE('/api/occasions/{number}', { params: path })), 'Occasion taken away.')),
              },
        ]}
      >
        ⋯
      </ActionMenu>
    </article>
  );
}

/** One to three beginnings for an occasion, made of what the papers have on its topics, or of what is nearest to it. */
function IdeasForIt({
  ahead,
  ideas,
  onStart,
}: {
  ahead: Ahead;
  ideas: readonly Coming[];
  onStart: (from: Beginning) => void;
}) {
  const [opened, setOpened] = useState<string>();
  const decide = async (idea: Coming, act: 'take' | 'refuse') => {
    const decided = await carryOut(
      done(api.POST('/api/ideas/sorted', { body: { ideas: null, act, format: null, idea } })),
      (sorted) => (act === 'take' ? `Taken as slip ${sorted.ideas[0]!.slip}.` : 'It does not come again.'),
    ).catch(() => undefined);
    await refresh();
    return decided?.ideas[0]?.slip ?? undefined;
  };
  return (
    <ul aria-label={`Ideas for ${ahead.name}`} className="mt-1">
      {ideas.map((idea) => (
        <li key={idea.text} className="flex items-baseline gap-3 py-0.5 max-md:flex-wrap">
          <span className="narrow w-12 shrink-0 text-[12px] text-second">idea</span>
          <div className="min-w-0 flex-1">
            <span className="written text-[14.5px] leading-snug italic">{idea.text}</span>
            {idea.saidIn && (
              <span className="ml-2 text-[12px] text-second">
                said already in{' '}
                <Link to={`/bench/${idea.saidIn.piece}`} className="link">
                  {idea.saidIn.title}
                </Link>
              </span>
            )}
            {opened === idea.text && <MadeFrom idea={idea} />}
          </div>
          <span className="flex shrink-0 gap-3 text-[12.5px] max-md:w-full max-md:pl-[60px]">
            <button
              type="button"
              aria-label={`Why: ${idea.text}`}
              aria-expanded={opened === idea.text}
              className="link min-h-6"
              onClick={() => setOpened(opened === idea.text ? undefined : idea.text)}
            >
              why
            </button>
            <button
              type="button"
              aria-label={`Take: ${idea.text}`}
              className="link min-h-6"
              onClick={() => void decide(idea, 'take')}
            >
              take
            </button>
            <button
              type="button"
              aria-label={`Begin for it: ${idea.text}`}
              className="link min-h-6"
              onClick={() =>
                void decide(idea, 'take').then((slip) => slip && onStart({ slips: [slip], due: ahead.from }))
              }
            >
              begin for it
            </button>
            <button
              type="button"
              aria-label={`No: ${idea.text}`}
              className="link min-h-6"
              onClick={() => void decide(idea, 'refuse')}
            >
              no
            </button>
          </span>
        </li>
      ))}
    </ul>
  );
}

function NewOccasion() {
  const [name, setName] = useHeld('occasion.new');
  const [from, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string | null>(null);
  const [again, setAgain] = useState('');
  const [wrong, setWrong] = useState('');
  const make = async () => {
    const isYearly = /^(every year|yearly|each year)$/i.test(again.trim());
    try {
      await carryOut(
        done(
          api.POST('/api/occasions', {
            body: {
              name,
              from: from ?? undefined,
              to: to ?? undefined,
              everyYear: isYearly,
              recurs: isYearly ? undefined : again.trim() || undefined,
            },
          }),
        ),
        (made) => `${made.name} is on ${shortDay(made.from)}.`,
        true,
      );
      setName('');
      setAgain('');
      setFrom(null);
      setTo(null);
      setWrong('');
      await refresh();
    } catch (error) {
      setWrong(error instanceof Problem ? error.message : String(error));
    }
  };
  const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';
  return (
    <section aria-label="A new occasion">
      <h2 className="label border-b border-hair pb-1.5">A new occasion</h2>
      <form
        className="space-y-2.5 pt-2.5"
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <input
          aria-label="Name of the occasion"
          placeholder="an anniversary, a fair, a season"
          value={name}
          maxLength={200}
          onChange={(event) => {
            setName(event.target.value);
            setWrong('');
          }}
          className={`written text-[15px] ${field}`}
        />
        <div className="flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-second">
          <DateField label="First day" empty="first day" value={from} onChange={setFrom} />
          to
          <DateField label="Last day" empty="the same" value={to} onChange={setTo} />
        </div>
        <input
          aria-label="When it comes again"
          placeholder="once; or: every year, Good Friday"
          title="once; every year; the second Sunday of May; 39 days after Easter"
          value={again}
          onChange={(event) => {
            setAgain(event.target.value);
            setWrong('');
          }}
          className={`text-[13px] ${field}`}
        />
        {wrong && (
          <p role="alert" className="text-[12.5px] text-red">
            {wrong}
          </p>
        )}
        <Button type="submit" disabled={!name.trim()}>
          Write it down
        </Button>
      </form>
    </section>
  );
}

function Countries() {
  const countries = useQuery({ queryKey: keys.countries, queryFn: () => ask(api.GET('/api/holidays/countries')) }).data;
  if (!countries) return null;
  const chosen = countries.filter((one) => one.isChosen);
  const set = (codes: string[], words: string) =>
    void carryOut(done(api.PUT('/api/holidays/countries', { body: { countries: codes } })), words).then(
      refresh,
      () => undefined,
    );
  const codes = chosen.map((one) => one.code);
  return (
    <section aria-label="Holidays" className="mt-8">
      <h2 className="label border-b border-hair pb-1.5">Holidays</h2>
      <ul>
        {chosen.map((one) => (
          <li key={one.code} className="flex items-baseline gap-3 border-b border-rule py-1.5 text-[13px]">
            <span className="min-w-0 flex-1">{one.name}</span>
            <button
              type="button"
              className="link min-h-6"
              onClick={() =>
                set(
                  codes.filter((code) => code !== one.code),
                  `Without those of ${one.name}.`,
                )
              }
            >
              leave out
            </button>
          </li>
        ))}
      </ul>
      <select
        aria-label="Show the holidays of"
        value=""
        onChange={(event) => {
          const code = event.target.value;
          if (code) set([...codes, code], `With those of ${countries.find((one) => one.code === code)!.name}.`);
        }}
        className="mt-2 min-h-6 w-full border-b border-hair bg-transparent py-1 text-[13px] text-second"
      >
        <option value="">show those of …</option>
        {countries
          .filter((one) => !one.isChosen)
          .map((one) => (
            <option key={one.code} value={one.code}>
              {one.name}
            </option>
          ))}
      </select>
    </section>
  );
}

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask } from '../api/client';
import { keys, useTopics } from '../api/queries';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Empty, Failed, Loading } from '../ui/States';
import { ChoicesDialog } from './ChoicesDialog';
import { Ideas } from './Ideas';
import { WeightsDialog } from './WeightsDialog';
import { useWeights } from './weights';

const stretches: [string, string][] = [
  ['', 'any stretch of time'],
  ['0.5', 'half an hour'],
  ['2', 'two hours'],
  ['5', 'an afternoon'],
  ['12', 'two days'],
];

const page = 20;

/** All that could become a piece, by how much now speaks for it. */
export default function NextToBegin() {
  const [params, setParams] = useSearchParams();
  const [most, setMost] = useState(page);
  const [weighing, setWeighing] = useState(false);
  const [choices, setChoices] = useState(false);
  const { about, weighAs } = useWeights();
  const topic = Number(params.get('topic')) || undefined;
  const hours = Number(params.get('hours')) || undefined;
  const topics = useTopics().data ?? [];
  const asked = { most, topic, hours };
  const ideas = useQuery({
    queryKey: keys.worth(asked),
    queryFn: () => ask(api.GET('/api/worth', { params: { query: asked } })),
    placeholderData: keepPreviousData,
    // While ideas are still being looked at, the order may change.
    refetchInterval: about?.unseen ? 3_000 : false,
  });
  useEffect(() => {
    document.title = 'Next to begin · Nachlass';
  }, []);
  if (ideas.error) return <Failed error={ideas.error} onRetry={() => void ideas.refetch()} />;
  if (!ideas.data || !about) return <Loading what="Weighing the ideas" />;
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    next.delete('open');
    setParams(next, { replace: true });
  };
  const onTopic = topics.find((t) => t.number === topic);
  const own = about.weighing.key === 'own';

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1160px] px-9 py-7 max-md:px-4">
        <header className="pb-3">
          <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
            <h1 className="written text-[30px] leading-tight font-semibold">Next to begin</h1>
            <span className="text-[13px] text-second">
              {about.ideas === 1 ? '1 idea' : `${about.ideas.toLocaleString('en')} ideas`} that could become a piece
              {onTopic && (
                <>
                  {' · only on '}
                  <button type="button" className="link" title="Show all again" onClick={() => set('topic', '')}>
                    {onTopic.name} ✕
                  </button>
                </>
              )}
            </span>
            <span className="ml-auto flex flex-wrap items-baseline gap-x-6 text-[13px] text-second max-md:ml-0">
              <span>
                for{' '}
                <ActionMenu
                  label="How much time there is"
                  className="font-semibold text-blue"
                  actions={stretches.map(([key, said]) => ({
                    key: key || 'any',
                    label: said,
                    onChoose: () => set('hours', key),
                  }))}
                >
                  {stretches.find(([key]) => key === (params.get('hours') ?? ''))?.[1] ?? `${hours} hours`} ▾
                </ActionMenu>
              </span>
              <span>
                weighed{' '}
                <ActionMenu
                  label="How ideas are weighed"
                  className="font-semibold text-blue"
                  actions={[
                    ...about.ready.map((ready) => ({
                      key: ready.key,
                      label: ready.name,
                      onChoose: () => weighAs(ready.key, `Weighed ${ready.name} now.`),
                    })),
                    {
                      key: 'own',
                      label: own ? 'as I like it: look and change' : 'as I like it …',
                      onChoose: () => setWeighing(true),
                    },
                  ]}
                >
                  {about.weighing.name} ▾
                </ActionMenu>
              </span>
            </span>
          </div>
          <Learning onOpen={() => setChoices(true)} unseen={about.unseen} />
        </header>
        {ideas.data.length === 0 ? (
          <Empty
            title={topic ? 'No idea on this topic waits to be made' : 'Nothing could become a piece yet'}
            action={
              topic ? undefined : (
                <Link className="link font-semibold" to="/sift">
                  Sift what waits
                </Link>
              )
            }
          >
            Ideas, questions, notes, claims and marked paragraphs stand here once they are caught, the one for which
            most speaks first. What stands in a piece already has found its place.
          </Empty>
        ) : (
          <Ideas ideas={ideas.data} first={params.get('open') ?? undefined} />
        )}
        {ideas.data.length >= most && most < 200 && (
          <div className="mt-5 text-center">
            <Button onClick={() => setMost(Math.min(200, most + 40))}>Show more</Button>
          </div>
        )}
      </div>
      <WeightsDialog open={weighing} onClose={() => setWeighing(false)} />
      <ChoicesDialog open={choices} onClose={() => setChoices(false)} />
    </div>
  );
}

/** How often the order held what was taken. */
function Learning({ onOpen, unseen }: { onOpen: () => void; unseen: number }) {
  const said = useQuery({ queryKey: keys.choices, queryFn: () => ask(api.GET('/api/worth/choices')) }).data;
  const record = said?.record;
  return (
    <p className="figures mt-1.5 flex flex-wrap gap-x-6 gap-y-1 text-[12.5px] text-second">
      <span>
        {!record || record.choices === 0 ? (
          'Each piece you begin is remembered with what stood here, so that the order can be judged by it.'
        ) : (
          <>
            The first three held what you took in{' '}
            <b className="text-ink">
              {record.held} of {record.choices}
            </b>{' '}
            {record.choices === 1 ? 'choice' : 'choices'}; by pull alone, in {record.heldByPull}.
          </>
        )}
      </span>
      {unseen > 0 && (
        <span role="status">Still comparing {unseen.toLocaleString('en')} of them with the other texts.</span>
      )}
      <button type="button" className="link ml-auto max-md:ml-0" onClick={onOpen}>
        {said && said.needed === 0 ? 'what your choices would have me weigh' : 'what you chose so far'}
      </button>
    </p>
  );
}

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask } from '../api/client';
import { keys, useTopics } from '../api/queries';
import { ActionMenu } from '../ui/ActionMenu';
import { Figure } from '../ui/Figure';
import { shortDay } from '../ui/dates';
import { useChoice } from '../ui/useChoice';

const bys = { topic: 'topic', format: 'format', outlet: 'outlet' } as const;
const counts = { pieces: 'pieces', words: 'words', hours: 'hours' } as const;
type By = keyof typeof bys | `axis ${number}`;
type In = keyof typeof counts;

const percent = (share: number) => Math.round(100 * share);

/** What is planned in the weeks shown, in shares, against what is wished, in work and out. */
export function MixPart({ from, to }: { from: string; to: string }) {
  const [by, setBy] = useChoice<By>('plan.mix.by', 'topic');
  const [counted, setCounted] = useChoice<In>('plan.mix.in', 'pieces');
  const topics = useTopics().data ?? [];
  const axis = by.startsWith('axis ') ? by.slice(5) : undefined;
  const query = { from, to, by: axis ? ('axis' as const) : (by as keyof typeof bys), counted, axis };
  const mix = useQuery({
    queryKey: keys.mix(query),
    queryFn: () => ask(api.GET('/api/plan/mix', { params: { query } })),
    placeholderData: keepPreviousData,
  }).data;
  if (!mix) return null;
  const lines = mix.lines.filter((line) => line.wished !== null || line.planned + line.inWork + line.out > 0);
  const axes = topics.filter((topic) => topics.some((one) => one.wider === topic.number));
  return (
    <section aria-label="Mix" className="mt-6">
      <header className="mb-1.5 flex items-baseline justify-between gap-2">
        <h2 className="label">Mix, these weeks</h2>
        <ActionMenu
          label="What the mix is told apart by and counted in"
          actions={[
            ...(Object.keys(bys) as (keyof typeof bys)[]).map((one) => ({
              key: one,
              label: `by ${one}`,
              note: one === by ? '✓' : '',
              onChoose: () => setBy(one),
            })),
            ...axes.map((topic) => ({
              key: `axis ${topic.number}`,
              label: `by what is under ${topic.name}`,
              note: by === `axis ${topic.number}` ? '✓' : '',
              onChoose: () => setBy(`axis ${topic.number}`),
            })),
            ...(Object.keys(counts) as In[]).map((one) => ({
              key: one,
              label: `in ${one}`,
              note: one === counted ? '✓' : '',
              onChoose: () => setCounted(one),
            })),
          ]}
        >
          {counted} ▾
        </ActionMenu>
      </header>
      {lines.length === 0 ? (
        <p className="text-[12.5px] text-second">Nothing is planned or in work that could be told apart.</p>
      ) : (
        <ul>
          {lines.map((line) => (
            <li key={line.key} className="flex min-h-6 items-center gap-2 text-[12.5px]">
              <span className="w-[76px] shrink-0 truncate" title={line.name}>
                {line.name}
              </span>
              <span aria-hidden className="relative h-[10px] w-[76px] shrink-0 bg-board-deep">
                <span
                  className="absolute inset-y-0 left-0"
                  style={{
                    width: `${Math.min(100, 200 * line.planned)}%`,
                    background: `var(--${line.colour ?? 'second'})`,
                  }}
                />
                {line.wished !== null && (
                  <span
                    className="absolute -inset-y-[3px] w-[2px] bg-ink"
                    style={{ left: `${Math.min(100, 200 * line.wished)}%` }}
                  />
                )}
              </span>
              <Figure
                shown={`${percent(line.planned)}%${line.wished === null ? '' : ` / ${percent(line.wished)}`}`}
                of={`${line.name}, planned${line.wished === null ? '' : ' and wished'}`}
                className="ml-auto whitespace-nowrap text-second"
              >
                <b className="font-semibold text-ink">{line.name}</b>, {shortDay(mix.from)} to {shortDay(mix.to)}, in{' '}
                {mix.in}
                <br />
                planned {percent(line.planned)}%, in work {percent(line.inWork)}%, out {percent(line.out)}%
                {line.wished !== null && (
                  <>
                    <br />
                    wished {percent(line.wished)}%: {line.wishedDates} of {mix.dates} dates; it has{' '}
                    {Math.round(line.plannedDates * 10) / 10}
                  </>
                )}
              </Figure>
            </li>
          ))}
        </ul>
      )}
      {mix.swap && (
        <p className="mt-2 text-[12px] leading-snug text-second">
          Nearest to the wish with{' '}
          <Link
            className="link"
            to={
              mix.swap.piece !== null
                ? `/bench/${mix.swap.piece}`
                : `/bench/begin?open=${encodeURIComponent(`slip ${mix.swap.slip}`)}`
            }
          >
            {mix.swap.title.length > 60 ? `${mix.swap.title.slice(0, 58)}…` : mix.swap.title}
          </Link>{' '}
          for{' '}
          <Link className="link" to={`/bench/${mix.swap.out}`}>
            P {mix.swap.out}
          </Link>
          : off by {percent(mix.swap.after)}% instead of {percent(mix.swap.before)}%.
        </p>
      )}
    </section>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut, takeBack } from '../papers/notices';
import { useKeys } from '../papers/keys';
import { asRead } from '../text/asRead';
import { Key } from '../ui/Key';
import { KeyOf } from '../ui/KeyOf';
import { Mark } from '../ui/Mark';
import { Empty, Failed, Loading } from '../ui/States';
import { TopicWords } from '../ui/TopicWord';

/** New sources one after the other, each on one page with what was taken from it: keep or drop by key. */
export default function Review() {
  const navigate = useNavigate();
  const at = Number(useParams().number ?? 0);
  const fresh = useQuery({ queryKey: keys.newSources, queryFn: () => ask(api.GET('/api/sources/new')) });
  const [without, setWithout] = useState<{ of: number; slips: number[] }>({ of: 0, slips: [] });
  const [past, setPast] = useState<{ command: number; source: number }[]>([]);
  const left = fresh.data ?? [];
  const number = left.includes(at) ? at : (left[0] ?? 0);
  const opened = useQuery({
    queryKey: keys.source(number),
    queryFn: () => ask(api.GET('/api/sources/{number}/opened', { params: { path: { number: String(number) } } })),
    enabled: number > 0,
  });
  const passages = opened.data?.passages ?? [];
  const waiting = passages.filter((passage) => passage.state === 'waiting');
  const dropped = without.of === number ? without.slips : [];

  const decide = async (keep: boolean) => {
    if (!number) return;
    const next = left[left.indexOf(number) + 1] ?? left.find((one) => one !== number);
    // It leaves the list before the server has answered, so that a second key meets the next one.
    queryClient.setQueryData(
      keys.newSources,
      left.filter((one) => one !== number),
    );
    void navigate(next ? `/library/new/${next}` : '/library/new', { replace: true });
    try {
      const asked = done(
        api.POST('/api/sources/{number}/review', {
          params: { path: { number: String(number) } },
          body: { keep, without: keep ? dropped : [] },
        }),
      );
      await carryOut(asked, keep ? 'Kept.' : 'Dropped, with its passages.');
      const { command } = await asked;
      setPast((all) => [...all, { command, source: number }]);
    } finally {
      await queryClient.invalidateQueries();
    }
  };
  const toggle = (slip: number | undefined) =>
    slip &&
    setWithout({
      of: number,
      slips: dropped.includes(slip) ? dropped.filter((one) => one !== slip) : [...dropped, slip],
    });
  const walk = (by: number) => {
    const to = left[left.indexOf(number) + by];
    if (to) void navigate(`/library/new/${to}`, { replace: true });
  };
  const back = async () => {
    const last = past.at(-1);
    if (!last) return;
    setPast(past.slice(0, -1));
    if (!(await takeBack(last.command))) return;
    await queryClient.invalidateQueries();
    await navigate(`/library/new/${last.source}`, { replace: true });
  };
  useKeys(
    {
      'review.keep': () => void decide(true).catch(() => undefined),
      'review.drop': () => void decide(false).catch(() => undefined),
      'review.back': () => void back(),
    },
    {
      fixed: {
        ArrowRight: () => walk(1),
        ArrowLeft: () => walk(-1),
        ...Object.fromEntries(waiting.slice(0, 9).map((passage, i) => [String(i + 1), () => toggle(passage.number)])),
      },
    },
  );

  if (fresh.error) return <Failed error={fresh.error} onRetry={() => void fresh.refetch()} />;
  if (!fresh.data) return <Loading />;
  if (left.length === 0)
    return (
      <Empty
        title="No new source waits"
        action={
          <Link className="link font-semibold" to="/library">
            To the library
          </Link>
        }
      >
        Sources that come in by feeds, clips, the drop folder or an import stand here until you have gone through them.
        {past.length > 0 && (
          <button type="button" className="link mt-3 block" onClick={() => void back()}>
            Take the last decision back
          </button>
        )}
      </Empty>
    );
  const source = opened.data?.source;
  return (
    <div className="flex h-full max-md:block max-md:overflow-y-auto">
      <article
        className="min-w-0 flex-1 overflow-y-auto px-12 py-8 max-md:px-4 max-md:py-4"
        aria-label={`New source ${number}`}
      >
        <p className="label text-second" role="status">
          New sources · {left.indexOf(number) + 1} of {left.length}
        </p>
        {!source || source.number !== number ? (
          <Loading />
        ) : (
          <>
            <h1 className="written mt-2 max-w-[44rem] text-[28px] leading-tight font-semibold">{source.title}</h1>
            {/* Without creators, date or place the line would only say the title again. */}
            {(source.creators || source.date || source.container || source.address) && (
              <div
                className="prose mt-2 max-w-[44rem] text-[14px] text-second"
                dangerouslySetInnerHTML={{ __html: opened.data!.citationHtml }}
              />
            )}
            <p className="mt-1">
              <TopicWords topics={source.topics} />
            </p>
            {passages.length > 0 ? (
              <section aria-label="What was taken from it" className="mt-6 max-w-[44rem]">
                <h2 className="label border-b border-hair pb-1 text-second">What was taken from it</h2>
                {passages.map((passage) => {
                  const place = waiting.indexOf(passage);
                  const out = dropped.includes(passage.number);
                  return (
                    <button
                      key={passage.number}
                      type="button"
                      aria-pressed={!out}
                      aria-label={`Slip ${passage.number} ${out ? 'is dropped' : 'is kept'}`}
                      disabled={place < 0}
                      onClick={() => toggle(passage.number)}
                      className={`flex w-full border-b border-rule text-left ${out ? 'text-faint line-through' : 'hover:bg-quiet'}`}
                    >
                      <span className="flex w-[46px] shrink-0 flex-col items-center border-r border-line pt-2 text-second">
                        <Mark kind={passage.kind} size={14} />
                        <span className="narrow figures text-[11.5px]">{passage.number}</span>
                      </span>
                      <span className="written min-w-0 flex-1 px-4 py-2 text-[15.5px] leading-snug whitespace-pre-line">
                        {asRead(passage.text)}
                        {passage.locator && (
                          <span className="font-sans text-[12px] text-second"> {passage.locator}</span>
                        )}
                      </span>
                      {place >= 0 && place < 9 && (
                        <span className="self-center pr-2 max-md:hidden">
                          <Key>{String(place + 1)}</Key>
                        </span>
                      )}
                    </button>
                  );
                })}
              </section>
            ) : opened.data!.transcript > 0 ? (
              <Spoken source={number} lines={opened.data!.transcript} />
            ) : (
              <div
                className="prose mt-6 max-w-[44rem] text-[15.5px] leading-relaxed"
                dangerouslySetInnerHTML={{
                  __html: opened.data!.summaryHtml || opened.data!.textHtml || '<p>Nothing was taken from it yet.</p>',
                }}
              />
            )}
          </>
        )}
      </article>
      <aside className="flex w-[300px] shrink-0 flex-col border-l border-hair bg-quiet px-5 py-6 max-md:sticky max-md:bottom-0 max-md:w-auto max-md:border-t max-md:border-l-0 max-md:py-3">
        {(
          [
            [
              'K',
              'Keep',
              dropped.length ? `without ${dropped.length} of its passages` : 'with its passages',
              () => decide(true),
            ],
            ['D', 'Drop', 'to the trash, passages out of sight', () => decide(false)],
          ] as const
        ).map(([key, name, note, act]) => (
          <button
            key={key}
            type="button"
            onClick={() => void act().catch(() => undefined)}
            className={`flex items-center gap-3 px-2 py-2.5 text-left hover:bg-wash ${key === 'K' ? 'bg-wash' : ''}`}
          >
            <Key>{key}</Key>
            <span className="text-[14px] font-semibold">{name}</span>
            <span className="ml-auto text-right text-[12px] leading-tight text-second">{note}</span>
          </button>
        ))}
        <span className="mt-4 flex justify-between px-2 text-[12.5px] text-second">
          <button type="button" className="link" onClick={() => walk(-1)}>
            ‹ the one before
          </button>
          <button type="button" className="link" onClick={() => walk(1)}>
            the next ›
          </button>
        </span>
        <Link to={`/library/source/${number}`} className="link mt-4 px-2 text-[12.5px]">
          Open it in the library
        </Link>
        <button
          type="button"
          disabled={past.length === 0}
          onClick={() => void back()}
          className="mt-auto flex items-center gap-3 border-t border-rule px-2 pt-3 text-left text-second enabled:hover:text-blue disabled:opacity-50 max-md:hidden"
        >
          <KeyOf act="review.back" />{' '}
          {past.length === 0 ? 'Nothing to take back yet' : `Take back the last of ${past.length}`}
        </button>
      </aside>
    </div>
  );
}

/** How what was said begins. */
function Spoken({ source, lines }: { source: number; lines: number }) {
  const said = useQuery({
    queryKey: keys.transcript(source),
    queryFn: () => ask(api.GET('/api/sources/{number}/transcript', { params: { path: { number: String(source) } } })),
  }).data;
  return (
    <section aria-label="How it begins" className="mt-6 max-w-[44rem]">
      <h2 className="label border-b border-hair pb-1 text-second">How it begins · {lines} lines in all</h2>
      {said?.slice(0, 8).map((line) => (
        <p key={line.position} className="flex gap-4 border-b border-rule py-1.5">
          <span className="narrow figures w-12 shrink-0 text-right text-[12px] leading-[22px] text-second">
            {line.clock}
          </span>
          <span className="written text-[15.5px] leading-snug">
            {line.speaker && <b className="mr-2 font-sans text-[12px] font-semibold">{line.speaker}</b>}
            {line.text}
          </span>
        </p>
      ))}
    </section>
  );
}

import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { TopicWord } from '../ui/TopicWord';

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

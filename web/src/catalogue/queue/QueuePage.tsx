import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';
import { Failed, Loading } from '../../ui/States';
import { CatalogueHead } from '../CatalogueHead';
import { useCatalogue } from '../catalogue';
import { SendingLine } from './OnItsWay';
import { whenSaid, type Sending } from './queue';

const said: Record<string, string> = {
  Taken: 'taken',
  WasThere: 'was there already',
  Later: 'not taken, to be tried again',
  Refused: 'refused',
  Unknown: 'no answer',
  CannotTell: 'cannot be told',
};

/** What waits to be sent and what was, with every attempt. */
export default function QueuePage() {
  const queue = useQuery({ queryKey: keys.queue, queryFn: () => ask(api.GET('/api/queue')) });
  const newest = useCatalogue().data?.rows[0];
  if (queue.error) return <Failed error={queue.error} onRetry={() => void queue.refetch()} />;
  if (!queue.data) return <Loading what="Opening the queue" />;
  const waiting = queue.data.filter((sending) => sending.state !== 'sent');
  const sent = queue.data.filter((sending) => sending.state === 'sent').reverse();
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1060px] px-9 py-6 max-md:px-4">
        <CatalogueHead title="On its way" newest={newest && Number(newest.outOn.slice(0, 4))} />
        {queue.data.length === 0 && (
          <p className="mt-4 max-w-[38rem] text-[14px] leading-relaxed text-second">
            Nothing is in the queue. A piece is sent from its page, under Take out; what waits for its day, and what
            went wrong on the way, stands here with every attempt.
          </p>
        )}
        <Part name="Waits" sendings={waiting} />
        <Part name="Sent" sendings={sent} />
      </div>
    </div>
  );
}

function Part({ name, sendings }: { name: string; sendings: readonly Sending[] }) {
  if (sendings.length === 0) return null;
  return (
    <section aria-label={name} className="mb-7">
      <h2 className="label border-b border-ink pb-1.5">{name}</h2>
      {sendings.map((sending) => (
        <div key={sending.number}>
          <ul>
            <SendingLine sending={sending} />
          </ul>
          {sending.history.length > 0 && (
            <details className="mb-2 text-[12.5px]">
              <summary className="min-h-6 cursor-pointer pt-1 text-second hover:text-blue">
                {sending.history.length === 1 ? '1 attempt' : `${sending.history.length} attempts`}
              </summary>
              <table className="figures w-full">
                <thead className="sr-only">
                  <tr>
                    <th>When</th>
                    <th>Part</th>
                    <th>Outcome</th>
                    <th>What was said</th>
                  </tr>
                </thead>
                <tbody>
                  {sending.history.map((attempt, nth) => (
                    <tr key={nth} className="border-b border-rule align-baseline">
                      <td className="w-36 py-1 text-second">{whenSaid(attempt.at)}</td>
                      <td className="w-16 py-1 text-second">{sending.parts.length > 1 ? `post ${attempt.nth}` : ''}</td>
                      <td className="w-44 py-1">{said[attempt.outcome] ?? attempt.outcome}</td>
                      <td className="py-1 break-words text-second">{attempt.note}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </details>
          )}
        </div>
      ))}
    </section>
  );
}

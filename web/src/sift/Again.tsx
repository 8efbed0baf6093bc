import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys } from '../api/queries';
import { carryOut } from '../papers/notices';
import { addressOf } from '../sources/Connections';

/** Dropped slips that something new makes worth another look. */
export function Again() {
  const client = useQueryClient();
  const again = useQuery({ queryKey: keys.again, queryFn: () => ask(api.GET('/api/sift/again')) }).data ?? [];
  const refresh = () => client.invalidateQueries();
  return (
    <>
      {again.length > 0 && (
        <section aria-label="Worth another look" className="mb-4">
          <h2 className="label mx-[18px] border-b border-hair pb-1 text-second">Dropped: another look?</h2>
          {again.map((offer) => {
            const number = offer.slip.thing.number;
            return (
              <div key={number} className="px-[18px] py-[6px]">
                <Link
                  to={`/library/slip/${number}`}
                  className="written line-clamp-2 text-[14px] leading-snug hover:text-blue"
                >
                  {offer.slip.title}
                </Link>
                <p className="text-[11.5px] leading-snug text-second">
                  reads like the new{' '}
                  <Link className="link" to={addressOf(offer.new)} title={offer.newTitle}>
                    {offer.new.kind === 'slip' ? 'ask' : 'source'} {offer.new.number}
                  </Link>
                </p>
                <p className="flex gap-4 text-[12px]">
                  <button
                    type="button"
                    className="link font-semibold"
                    onClick={() =>
                      void carryOut(
                        done(
                          api.POST('/api/slips/{number}/decision', {
                            params: { path: { number: String(number) } },
                            body: { decision: 'wait' },
                          }),
                        ),
                        `Slip ${number} is back on the pile.`,
                      ).then(refresh, () => undefined)
                    }
                  >
                    bring back
                  </button>
                  <button
                    type="button"
                    className="link"
                    onClick={() =>
                      void carryOut(
                        done(
                          api.POST('/api/sift/again/{slip}/leave', {
                            params: { path: { slip: String(number) } },
                            body: { for: offer.new.kind, number: offer.new.number },
                          }),
                        ),
                        `Slip ${number} stays dropped.`,
                      ).then(refresh, () => undefined)
                    }
                  >
                    leave it
                  </button>
                </p>
              </div>
            );
          })}
        </section>
      )}
      <p className="px-[18px] py-2 text-[12.5px]">
        <Link className="link" to="/sift/flow">
          how the sifting goes, and rules
        </Link>
      </p>
    </>
  );
}

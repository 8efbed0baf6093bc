import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type WorthTerm } from '../api/client';
import { keys } from '../api/queries';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Loading } from '../ui/States';
import { ago, shortDay } from '../ui/dates';
import { terms } from './terms';
import { useWeights } from './weights';

const order = Object.keys(terms) as WorthTerm[];

/** What was chosen, how the order stood then, and weights that would have foretold it better. */
export function ChoicesDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const said = useQuery({
    queryKey: keys.choices,
    queryFn: () => ask(api.GET('/api/worth/choices')),
    enabled: open,
  }).data;
  const { weights, weigh } = useWeights();
  return (
    <Dialog title="What you chose" open={open} onClose={onClose} wide>
      {!said ? (
        <Loading />
      ) : (
        <div className="flex gap-8 max-md:flex-col">
          <div className="min-w-0 flex-[1.3]">
            {said.choices.length === 0 ? (
              <p className="text-second">
                No piece was begun from an idea yet. Each time you do, what stood there and what you took are
                remembered; taking the piece back forgets it.
              </p>
            ) : (
              <table className="figures w-full text-[12.5px]">
                <thead>
                  <tr className="label border-b border-ink text-left text-second">
                    <th className="py-1">Begun</th>
                    <th>Piece</th>
                    <th className="w-24">Stood</th>
                    <th className="w-28">Now</th>
                  </tr>
                </thead>
                <tbody>
                  {said.choices.map((choice) => (
                    <tr key={`${choice.at} ${choice.piece}`} className="border-b border-rule align-top">
                      <td className="py-1.5 pr-3 whitespace-nowrap text-second">{shortDay(choice.at.slice(0, 10))}</td>
                      <td className="pr-3">
                        <Link
                          to={choice.piece ? `/bench/${choice.piece}` : `/library/slip/${choice.slip}`}
                          onClick={onClose}
                          className="written line-clamp-2 text-[14px] leading-snug hover:text-blue"
                        >
                          {choice.title}
                        </Link>
                      </td>
                      <td className="py-1.5 whitespace-nowrap">
                        {Math.round(choice.rank)}
                        <span className="text-second"> of {choice.among}</span>
                        {choice.isAgainst && <span className="block text-second">your own choice</span>}
                      </td>
                      <td className="py-1.5 text-second">
                        {choice.isTrashed
                          ? 'in the trash'
                          : choice.outOn
                            ? `out after ${choice.days} ${choice.days === 1 ? 'day' : 'days'}`
                            : choice.stage
                              ? `${choice.stage}, ${ago(choice.at.slice(0, 10)).replace(' ago', '')}`
                              : 'gone'}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </div>
          <section aria-label="What your choices would weigh" className="min-w-0 flex-1">
            <h3 className="label border-b border-ink pb-1">What they would have me weigh</h3>
            {said.needed > 0 ? (
              <p className="mt-2 text-second">
                After {said.needed} more {said.needed === 1 ? 'choice' : 'choices'} there is enough to learn from.
              </p>
            ) : !said.offered ? (
              <p className="mt-2 text-second">
                The present weights would have held what you took among the first three in {said.presentHeld} of{' '}
                {said.record.choices} choices. Nothing learnt from them does better.
              </p>
            ) : (
              <>
                <p className="mt-2 text-second">
                  These would have held what you took in <b className="text-ink">{said.offeredHeld}</b> of{' '}
                  {said.record.choices} choices, each judged by what the others taught; the present ones hold it in{' '}
                  {said.presentHeld}.
                </p>
                <table className="figures mt-2 w-full text-[12.5px]">
                  <thead>
                    <tr className="label text-left text-second">
                      <th />
                      <th className="w-14 text-right">now</th>
                      <th className="w-16 text-right">learnt</th>
                    </tr>
                  </thead>
                  <tbody>
                    {order.map((term) => {
                      const more = said.offered![term] - weights[term];
                      return (
                        <tr key={term} className="border-b border-rule">
                          <th scope="row" className="py-1 text-left font-normal">
                            {terms[term].name}
                          </th>
                          <td className="text-right text-second">{weights[term]}</td>
                          <td className={`text-right ${Math.abs(more) >= 0.5 ? 'font-semibold text-blue' : ''}`}>
                            {said.offered![term]}
                          </td>
                        </tr>
                      );
                    })}
                  </tbody>
                </table>
                <div className="mt-4 text-right">
                  <Button
                    look="main"
                    onClick={() => {
                      weigh(said.offered!, 'Weighed as your choices taught.');
                      onClose();
                    }}
                  >
                    Weigh like this
                  </Button>
                </div>
              </>
            )}
          </section>
        </div>
      )}
    </Dialog>
  );
}

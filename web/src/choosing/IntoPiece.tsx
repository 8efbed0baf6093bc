import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';

/** Puts an idea into the piece in hand that it fits best, where there is one. */
export function IntoPiece({ slip }: { slip: number }) {
  const path = { number: String(slip) };
  const advice = useQuery({
    queryKey: keys.advice(slip),
    queryFn: () => ask(api.GET('/api/slips/{number}/advice', { params: { path } })),
  });
  const fit = advice.data?.wouldFit[0];
  if (!fit) return null;
  const put = () =>
    carryOut(
      done(
        api.POST('/api/slips/{number}/decision', {
          params: { path },
          body: { decision: 'put', piece: fit.thing.number, section: fit.section?.number },
        }),
      ),
      `Put into P ${fit.thing.number}, ${fit.title}.`,
    ).then(
      () => queryClient.invalidateQueries(),
      () => undefined,
    );
  return (
    <Button title={fit.title} onClick={() => void put()}>
      Into P {fit.thing.number}, where it fits
    </Button>
  );
}

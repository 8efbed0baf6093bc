import { useQuery } from '@tanstack/react-query';
import { api, ask, done, type Weights } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';

const even: Weights = {
  pull: 4,
  effort: 2,
  material: 4,
  asks: 3,
  timeliness: 3,
  mix: 3,
  novelty: 3,
  ripeness: 2,
  waiting: 1,
};

/** How ideas are weighed, and weighing them differently. */
export function useWeights() {
  const about = useQuery({ queryKey: keys.worthAbout, queryFn: () => ask(api.GET('/api/worth/about')) });
  const set = (body: { key?: string; weights?: Weights }, said: string) =>
    carryOut(
      done(
        api.PUT('/api/worth/weights', {
          body: { version: about.data?.version ?? 0, key: body.key ?? null, weights: body.weights ?? null },
        }),
      ),
      said,
    ).then(
      () => queryClient.invalidateQueries(),
      () => queryClient.invalidateQueries(),
    );
  return {
    about: about.data,
    weights: about.data?.weighing.weights ?? even,
    weigh: (weights: Weights, said: string) => void set({ weights }, said),
    weighAs: (key: string, said: string) => void set({ key }, said),
  };
}

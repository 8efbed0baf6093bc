import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { api, ask, done } from '../../api/client';
import type { components } from '../../api/schema';
import { keys, queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { today } from '../../ui/dates';

type Schemas = components['schemas'];
export type Ordered = Schemas['TopicOrdered'];
export type TermRead = Schemas['TermRead'];
export type OrderWeights = Schemas['OrderWeights'];
export type Term = TermRead['term'];

/** The terms as they are said. */
export const terms: Record<Term, { name: string; about: string }> = {
  season: { name: 'season', about: 'occasions near, and the months in which it came up' },
  rising: { name: 'what rises', about: 'how often it came up lately against before' },
  effect: { name: 'effect', about: 'what releases on it reached' },
  asks: { name: 'asks', about: 'what readers want' },
  coverage: { name: 'coverage', about: 'how long nothing went out on it' },
};

/** Which topics are asked about: they stand in the address, so that a link and a reload show the same. */
export function useAsked() {
  const [params, setParams] = useSearchParams();
  const topics = params.getAll('topic').map(Number).filter(Boolean);
  const words = params.getAll('word').filter((word) => word.trim() && word.length <= 80);
  const weeks = Math.min(26, Math.max(1, Number(params.get('weeks')) || 4));
  // What has gone by can't be planned.
  const day = params.get('from');
  const from = day && /^\d{4}-\d\d-\d\d$/.test(day) && day > today() ? day : null;
  /** Puts what is given in place of what the address says. */
  const change = (to: Record<string, readonly (string | number)[] | string | number | null>) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(to)) {
          next.delete(name);
          for (const one of Array.isArray(value) ? (value as (string | number)[]) : [value as string | number | null])
            if (one !== null) next.append(name, String(one));
        }
        return next;
      },
      { replace: true },
    );
  return { topics, words, from, weeks, change, params };
}

export function useOrder(asked: {
  topics: readonly number[];
  words: readonly string[];
  from: string | null;
  weeks: number;
}) {
  const { from, weeks } = asked;
  const body = { topics: [...asked.topics], words: [...asked.words], from, weeks, weights: null };
  return useQuery({
    queryKey: keys.order(body),
    queryFn: () => ask(api.POST('/api/topics/order', { body })),
    placeholderData: (previous) => previous,
  });
}

export function useTopicWeights() {
  const kept = useQuery({ queryKey: keys.topicWeights, queryFn: () => ask(api.GET('/api/topics/order/weights')) }).data;
  const weigh = async (weights: OrderWeights | null) => {
    if (!kept) return;
    await carryOut(
      done(api.PUT('/api/topics/order/weights', { body: { weights, version: kept.version } })),
      'Topics are weighed so now.',
    ).catch(() => undefined);
    await queryClient.invalidateQueries({ queryKey: ['topics'] });
  };
  return { weights: kept?.weights, weigh };
}

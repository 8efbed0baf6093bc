import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';
import type { components } from '../../api/schema';

export type Stands = components['schemas']['ServiceStands'];
export type Service = components['schemas']['IdeaService'];
export type Look = components['schemas']['ServiceLook'];
export type Asked = components['schemas']['ServiceRequest'];

/** The service of ideas as it is set, and what was asked of it. */
export const useService = () =>
  useQuery({ queryKey: keys.ideaService, queryFn: () => ask(api.GET('/api/ideas/service')) });

/** Where it is, without what is the same for all. */
export const hostOf = (address: string) => address.replace(/^https?:\/\//, '').replace(/\/.*$/, '');

export const numbered = (count: number) => count.toLocaleString('en-GB');

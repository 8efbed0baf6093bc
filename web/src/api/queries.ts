import { QueryClient, useQuery } from '@tanstack/react-query';
import { Problem, api, ask } from './client';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 2_000,
      retry: (times, error) => error instanceof Problem && error.isAway && times < 20,
      retryDelay: 1_500,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
});

/** All keys that queries go by, so that a mistyped one does not compile. */
export const keys = {
  tally: ['tally'],
  captureKeys: ['captureKeys'],
  ownKeys: ['ownKeys'],
  recent: ['recent'],
  copies: ['copies'],
  mirror: ['mirror'],
  workLog: (from: string, to: string) => ['workLog', from, to],
  desk: (day: string | undefined) => ['desk', day ?? 'today'],
  month: (first: string) => ['month', first],
  dayPlan: ['dayPlan'],
  fillIns: ['fillIns'],
  purpose: ['purpose'],
  moves: ['moves'],
  sift: (pile: unknown = {}) => ['sift', pile],
  again: ['again'],
  rules: ['rules'],
  claim: (slip: number) => ['claim', slip],
  usable: ['usable'],
  usableIn: (kind: string, number: number) => ['usable', kind, number],
  flow: ['flow'],
  slip: (number: number) => ['slip', number],
  slipOpened: (number: number) => ['slip', number, 'opened'],
  advice: (number: number) => ['advice', number],
  library: (filters: unknown) => ['library', filters],
  facets: (filters: unknown) => ['facets', filters],
  source: (number: number) => ['source', number],
  newSources: ['newSources'],
  transcript: (number: number) => ['source', number, 'transcript'],
  questions: ['questions'],
  attachments: (kind: string, number: number) => ['attachments', kind, number],
  bibliography: (of: unknown) => ['bibliography', of],
  import: (id: string) => ['import', id],
  imports: ['imports'],
  feeds: ['feeds'],
  dropFolder: ['dropFolder'],
  occasions: ['occasions'],
  cadences: ['cadences'],
  outlets: ['outlets'],
  stages: ['stages'],
  guide: ['guide'],
  stageRules: ['stages', 'rules'],
  plan: (from: string, to: string) => ['plan', from, to],
  planTried: (piece: number, on: string) => ['plan', 'tried', piece, on],
  hours: ['plan', 'hours'],
  calendar: ['plan', 'calendar'],
  mix: (of: unknown) => ['plan', 'mix', of],
  filling: (of: unknown) => ['plan', 'filling', of],
  door: ['door'],
  topics: ['topics'],
  nearNames: ['topics', 'near'],
  together: ['topics', 'together'],
  coverage: (axis: number | undefined) => ['topics', 'coverage', axis ?? 0],
  words: (of: string, topic: number | undefined, months: number) => ['topics', 'words', of, topic ?? 0, months],
  digest: (topic: number) => ['topic', topic, 'digest'],
  mentions: (kind: string, number: number, section?: string) => ['mentions', kind, number, section ?? ''],
  leads: (kind: string, number: number) => ['links', 'from', kind, number],
  linkOffers: (begun: string) => ['linkOffers', begun],
  topic: (number: number) => ['topic', number],
  formats: ['formats'],
  format: (key: string) => ['formats', key],
  tried: (asked: unknown) => ['formats', 'tried', asked],
  steps: (piece: number) => ['piece', piece, 'steps'],
  fields: (piece: number) => ['piece', piece, 'fields'],
  sideTexts: (piece: number) => ['piece', piece, 'side-texts'],
  brief: (piece: number) => ['piece', piece, 'brief'],
  titles: (piece: number) => ['piece', piece, 'titles'],
  toFind: (piece: number) => ['piece', piece, 'to-find'],
  references: (piece: number) => ['piece', piece, 'references'],
  covers: ['covers'],
  series: ['series'],
  inSeries: (piece: number) => ['piece', piece, 'series'],
  route: (piece: number) => ['piece', piece, 'route'],
  proposal: (piece: number) => ['piece', piece, 'proposal'],
  versions: (piece: number) => ['piece', piece, 'versions'],
  compared: (piece: number, old: number, next: number | null) => ['piece', piece, 'versions', old, next],
  marks: (piece: number) => ['piece', piece, 'marks'],
  folders: (piece: number) => ['piece', piece, 'folders'],
  pieces: (trashed = false) => ['pieces', trashed],
  piece: (number: number) => ['piece', number],
  material: (number: number) => ['material', number],
  draft: (number: number) => ['draft', number],
  history: (piece: number) => ['history', piece],
  links: (piece: number) => ['links', piece],
  worth: (asked: unknown) => ['worth', asked],
  worthAbout: ['worth', 'about'],
  beside: (of: unknown) => ['worth', 'beside', of],
  choices: ['worth', 'choices'],
  starting: (from: unknown) => ['starting', from],
  find: (query: string) => ['find', query],
  understood: (text: string, caret: number) => ['understood', text, caret],
  table: (asked: unknown) => ['library', 'table', asked],
  views: ['views'],
  viewsOnDesk: ['views', 'desk'],
} as const;

/** A slip as it reads, with where it is used. */
export const openedSlip = (number: number) => ({
  queryKey: keys.slipOpened(number),
  queryFn: () => ask(api.GET('/api/slips/{number}/opened', { params: { path: { number: String(number) } } })),
});

export const useTally = () => useQuery({ queryKey: keys.tally, queryFn: () => ask(api.GET('/api/tally')) });
export const useTopics = () => useQuery({ queryKey: keys.topics, queryFn: () => ask(api.GET('/api/topics')) });
export const useFormats = () =>
  useQuery({ queryKey: keys.formats, queryFn: () => ask(api.GET('/api/formats')), staleTime: 60_000 });
export const usePieces = (trashed = false) =>
  useQuery({
    queryKey: keys.pieces(trashed),
    queryFn: () => ask(api.GET('/api/pieces', { params: { query: { trashed } } })),
  });
export const useViews = () => useQuery({ queryKey: keys.views, queryFn: () => ask(api.GET('/api/views')) });
export const useSeries = () => useQuery({ queryKey: keys.series, queryFn: () => ask(api.GET('/api/series')) });
export const useMoves = () => useQuery({ queryKey: keys.moves, queryFn: () => ask(api.GET('/api/moves')) });

import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { addressOfEntry } from './entries';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ask, done, type LibraryEntry } from '../api/client';
import { keys, useTopics } from '../api/queries';
import { carryOut } from '../papers/notices';
import { useKeys } from '../papers/keys';
import { ActionMenu } from '../ui/ActionMenu';
import { Empty, Failed, Loading } from '../ui/States';
import { QueryField } from '../text/QueryField';
import { useUnderstood } from '../text/understood';
import { forServer, readAsked, writeAsked, type LibraryAsked } from './asked';
import { useChosen } from './chosen';
import { EntryList } from './EntryList';
import { Filters } from './Filters';
import { groupsOf } from './grouping';
import { LayoutChoices } from './LayoutChoices';
import { SeveralBar } from './SeveralBar';
import { SlipPage } from './SlipPage';
import { SourcePage } from './SourcePage';
import { Table } from './Table';
import { Views } from './Views';

/** Slips and sources in one list, and the one that is opened beside it. */
export function Library() {
  const { kind, number } = useParams();
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const asked = useMemo(() => readAsked(params), [params]);
  const [typed, setTyped] = useState(asked.query);
  const [before, setBefore] = useState(asked.query);
  // Back, a view or a link elsewhere changed what is asked; the field follows.
  if (before !== asked.query) {
    setBefore(asked.query);
    if (typed.trim() !== asked.query) setTyped(asked.query);
  }

  const askFor = (whole: LibraryAsked) => setParams(writeAsked(whole), { replace: true });
  const set = (changed: Partial<LibraryAsked>) => askFor({ ...asked, ...changed });
  // What can't be read yet is not asked; the list stays as it was.
  const understood = useUnderstood(typed, typed.length);
  const canBeRead = understood.isCurrent && !understood.problem;
  useEffect(() => {
    if (canBeRead && typed.trim() !== asked.query) set({ query: typed.trim() });
  });

  const query = forServer(asked);
  const isTable = asked.as === 'table' && !number;
  // What is gathered under headings is known only once all of it is here.
  const isWhole = isTable || asked.group !== '';
  const whole = useQuery({
    queryKey: keys.table(query),
    queryFn: () => ask(api.GET('/api/library/all', { params: { query } })),
    enabled: isWhole,
    placeholderData: (previous) => previous,
  });
  const list = useInfiniteQuery({
    queryKey: keys.library(query),
    queryFn: ({ pageParam }) => ask(api.GET('/api/library', { params: { query: { ...query, page: pageParam } } })),
    enabled: !isWhole,
    initialPageParam: 1,
    getNextPageParam: (last) => (last.page * last.pageSize < last.total ? last.page + 1 : undefined),
    placeholderData: (previous) => previous,
  });
  const facets = useQuery({
    queryKey: keys.facets(query),
    queryFn: () => ask(api.GET('/api/library/facets', { params: { query } })),
    placeholderData: (previous) => previous,
  }).data;
  const fresh = useQuery({ queryKey: keys.newSources, queryFn: () => ask(api.GET('/api/sources/new')) }).data ?? [];
  const groups = useMemo(
    () => (isWhole && !isTable ? groupsOf(whole.data ?? [], asked.group) : []),
    [isWhole, isTable, whole.data, asked.group],
  );
  const entries = useMemo(
    () => (isWhole ? groups.flatMap((group) => group.entries) : (list.data?.pages.flatMap((page) => page.items) ?? [])),
    [isWhole, groups, list.data],
  );
  const chosen = useChosen(entries);
  const answer = isWhole ? whole : list;
  const isCounted = isWhole ? whole.data !== undefined : list.data !== undefined;
  const count = isWhole ? (whole.data?.length ?? 0) : (list.data?.pages[0]?.total ?? 0);
  const open = (entry: LibraryEntry) =>
    void navigate({
      pathname: addressOfEntry(entry),
      search: params.toString(),
    });
  // With nothing opened, the first of the list lies beside it.
  const first = entries[0];
  const shown =
    kind && number
      ? { kind, number: Number(number) }
      : first &&
        (first.slip || first.source) && {
          kind: first.slip ? 'slip' : 'source',
          number: first.slip?.number ?? first.source!.number,
        };
  const at = entries.findIndex(
    (entry) => (shown?.kind === 'slip' ? entry.slip?.number : entry.source?.number) === shown?.number,
  );
  const step = (row: number, extend: boolean) => {
    if (isTable || !entries[row] || entries[row].other) return;
    if (extend) {
      chosen.begin(at);
      chosen.range(row);
    }
    open(entries[row]);
  };
  useKeys(
    {},
    {
      fixed: {
        ArrowDown: (event) => step(at + 1, event.shiftKey),
        ArrowUp: (event) => step(at - 1, event.shiftKey),
        ' ': () => !isTable && entries[at] && chosen.toggle(at),
        Escape: () => chosen.none(),
      },
    },
  );

  const addSource = async () => {
    const source = await carryOut(
      done(api.POST('/api/sources', { body: { title: 'Untitled source' } })),
      'Source added.',
    ).catch(() => undefined);
    if (source) void navigate(`/library/source/${source.number}`);
  };
  const isFiltered =
    asked.query !== '' || asked.kind !== '' || asked.topic !== '' || asked.used !== '' || asked.state !== 'sight';
  const topics = useTopics().data ?? [];

  return (
    <div className="flex h-full">
      <div
        className={`flex shrink-0 flex-col max-md:w-full ${isTable ? 'w-full' : 'w-[470px] border-r border-hair max-lg:w-[380px] max-md:border-r-0'} ${number ? 'max-md:hidden' : ''}`}
      >
        <div className="border-b border-hair bg-quiet px-5 pt-3.5 pb-3">
          <div className="mb-1.5 flex items-baseline justify-between gap-3">
            <Views asked={asked} onAsk={askFor} />
            <button
              type="button"
              className="link text-[12.5px] whitespace-nowrap max-md:hidden"
              onClick={() => {
                if (number)
                  void navigate({ pathname: '/library', search: writeAsked({ ...asked, as: 'table' }).toString() });
                else set({ as: isTable ? '' : 'table' });
              }}
            >
              {isTable ? 'as list' : 'as table'}
            </button>
          </div>
          <div className={isTable ? 'grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-8' : ''}>
            <QueryField
              label="Search the library"
              placeholder="Words that stand in it, or topic: kind: pull>=4 …"
              value={typed}
              onChange={setTyped}
              after={
                <ActionMenu
                  label="Add"
                  className="inline-flex min-h-[28px] items-center rounded-key border border-hair bg-sheet px-3 text-[12.5px] font-semibold whitespace-nowrap hover:border-second"
                  actions={[
                    { key: 'source', label: 'A source by hand', onChoose: () => void addSource() },
                    { key: 'in', label: 'Bring in files…', onChoose: () => void navigate('/bring-in') },
                  ]}
                >
                  Add ▾
                </ActionMenu>
              }
            />
            <Filters filters={asked} facets={facets} topics={topics} onChange={set} />
          </div>
          <div className="mt-2 flex flex-wrap justify-between gap-x-4 text-[12px] text-second">
            <span className="figures" role="status">
              {isCounted ? `${count} ${count === 1 ? 'entry' : 'entries'}` : 'looking…'}
            </span>
            <LayoutChoices asked={asked} isTable={isTable} onAsk={set} />
            {!isFiltered && fresh.length > 0 && (
              <Link className="link font-semibold" to="/library/new">
                go through {fresh.length} new {fresh.length === 1 ? 'source' : 'sources'}
              </Link>
            )}
            {isFiltered && (
              <button
                type="button"
                className="link"
                onClick={() => {
                  setTyped('');
                  askFor({ ...readAsked(new URLSearchParams()), as: asked.as });
                }}
              >
                show all in sight
              </button>
            )}
          </div>
        </div>
        {isTable &&
          (whole.error ? (
            <Failed error={whole.error} onRetry={() => void whole.refetch()} />
          ) : !whole.data ? (
            <Loading />
          ) : whole.data.length === 0 ? (
            <Empty title="Nothing here meets all of that">Take a filter away, or ask in other words.</Empty>
          ) : (
            <Table asked={asked} entries={whole.data} onAsk={set} />
          ))}
        {!isTable && answer.isFetching && !answer.data && <Loading />}
        {isTable ? null : answer.error ? (
          <Failed error={answer.error} onRetry={() => void answer.refetch()} />
        ) : answer.data && count === 0 ? (
          <Empty title={isFiltered ? 'Nothing here meets all of that' : 'The library is empty'}>
            {isFiltered
              ? 'Take a filter away, or look among the dropped and held.'
              : 'Slips you catch and sources you add stand here, searchable by every word.'}
          </Empty>
        ) : (
          <EntryList
            entries={entries}
            groups={groups}
            total={isWhole ? entries.length : count}
            at={at}
            chosen={chosen}
            onOpen={open}
            onMore={() => !list.isFetchingNextPage && list.hasNextPage && void list.fetchNextPage()}
          />
        )}
        {!isTable && chosen.entries.length > 0 && (
          <div className="border-t border-hair">
            <SeveralBar chosen={chosen} onAll={() => chosen.all(entries)} />
          </div>
        )}
      </div>
      <div className={`min-w-0 flex-1 overflow-y-auto ${number ? '' : 'max-md:hidden'} ${isTable ? 'hidden' : ''}`}>
        {shown?.kind === 'slip' && <SlipPage key={shown.number} number={shown.number} />}
        {shown?.kind === 'source' && <SourcePage key={shown.number} number={shown.number} />}
      </div>
    </div>
  );
}

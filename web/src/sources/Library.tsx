import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ask, done, type LibraryEntry } from '../api/client';
import { keys, useTopics } from '../api/queries';
import { carryOut } from '../papers/notices';
import { useKeys } from '../papers/keys';
import { ActionMenu } from '../ui/ActionMenu';
import { Found } from '../ui/Found';
import { Mark } from '../ui/Mark';
import { StepsShown } from '../ui/Steps';
import { Empty, Failed, Loading } from '../ui/States';
import { TopicWords } from '../ui/TopicWord';
import { QueryField } from '../text/QueryField';
import { useUnderstood } from '../text/understood';
import { allColumns, columnsOf, forServer, readAsked, writeAsked, type LibraryAsked } from './asked';
import { Filters } from './Filters';
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
  const table = useQuery({
    queryKey: keys.table(query),
    queryFn: () => ask(api.GET('/api/library/all', { params: { query } })),
    enabled: isTable,
    placeholderData: (previous) => previous,
  });
  const list = useInfiniteQuery({
    queryKey: keys.library(query),
    queryFn: ({ pageParam }) => ask(api.GET('/api/library', { params: { query: { ...query, page: pageParam } } })),
    enabled: !isTable,
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
  const entries = list.data?.pages.flatMap((page) => page.items) ?? [];
  const total = list.data?.pages[0]?.total ?? 0;
  const open = (entry: LibraryEntry) =>
    void navigate({
      pathname: entry.slip ? `/library/slip/${entry.slip.number}` : `/library/source/${entry.source!.number}`,
      search: params.toString(),
    });
  // With nothing opened, the first of the list lies beside it.
  const first = entries[0];
  const shown =
    kind && number
      ? { kind, number: Number(number) }
      : first && { kind: first.slip ? 'slip' : 'source', number: first.slip?.number ?? first.source!.number };
  const at = entries.findIndex(
    (entry) => (shown?.kind === 'slip' ? entry.slip?.number : entry.source?.number) === shown?.number,
  );
  useKeys({
    ArrowDown: () => entries[at + 1] && open(entries[at + 1]!),
    ArrowUp: () => entries[at - 1] && open(entries[at - 1]!),
  });

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
  const count = isTable ? (table.data?.length ?? 0) : total;

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
          <p className="mt-2 flex justify-between gap-4 text-[12px] text-second" role="status">
            <span className="figures">
              {count} {count === 1 ? 'entry' : 'entries'}
              {asked.sort
                ? `, by ${asked.sort}`
                : asked.query && /[\p{L}]/u.test(asked.query.replace(/\S+[:<>=]\S*/g, ''))
                  ? ', the best first'
                  : ', the newest first'}
            </span>
            {isTable && <TableChoices asked={asked} onAsk={set} />}
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
          </p>
        </div>
        {isTable &&
          (table.error ? (
            <Failed error={table.error} onRetry={() => void table.refetch()} />
          ) : !table.data ? (
            <Loading />
          ) : table.data.length === 0 ? (
            <Empty title="Nothing here meets all of that">Take a filter away, or ask in other words.</Empty>
          ) : (
            <Table asked={asked} entries={table.data} onAsk={set} />
          ))}
        {!isTable && list.isFetching && !list.data && <Loading />}
        {isTable ? null : list.error ? (
          <Failed error={list.error} onRetry={() => void list.refetch()} />
        ) : list.data && total === 0 ? (
          <Empty title={isFiltered ? 'Nothing here meets all of that' : 'The library is empty'}>
            {isFiltered
              ? 'Take a filter away, or look among the dropped and held.'
              : 'Slips you catch and sources you add stand here, searchable by every word.'}
          </Empty>
        ) : (
          <EntryList
            entries={entries}
            total={total}
            at={at}
            onOpen={open}
            onMore={() => !list.isFetchingNextPage && list.hasNextPage && void list.fetchNextPage()}
          />
        )}
      </div>
      <div className={`min-w-0 flex-1 overflow-y-auto ${number ? '' : 'max-md:hidden'} ${isTable ? 'hidden' : ''}`}>
        {shown?.kind === 'slip' && <SlipPage key={shown.number} number={shown.number} />}
        {shown?.kind === 'source' && <SourcePage key={shown.number} number={shown.number} />}
      </div>
    </div>
  );
}

/** Which columns a table has, and what its rows are gathered under. */
function TableChoices({ asked, onAsk }: { asked: LibraryAsked; onAsk: (changed: Partial<LibraryAsked>) => void }) {
  const columns = columnsOf(asked);
  return (
    <span className="flex gap-5">
      <label>
        gathered by{' '}
        <select
          value={asked.group}
          onChange={(event) => onAsk({ group: event.target.value as LibraryAsked['group'] })}
          className="border-b border-hair bg-transparent font-semibold"
        >
          {['', 'topic', 'kind', 'state', 'origin', 'source', 'format', 'month'].map((group) => (
            <option key={group} value={group}>
              {group || 'nothing'}
            </option>
          ))}
        </select>
      </label>
      <ActionMenu
        label="Columns"
        className="link"
        actions={allColumns.map((column) => ({
          key: column,
          label: (
            <span className="flex gap-2">
              <span className="w-3">{columns.includes(column) ? '✓' : ''}</span>
              {column}
            </span>
          ),
          disabled: columns.length === 1 && columns[0] === column,
          onChoose: () =>
            onAsk({
              columns: (columns.includes(column)
                ? columns.filter((c) => c !== column)
                : allColumns.filter((c) => c === column || columns.includes(c))
              ).join(','),
            }),
        }))}
      >
        columns ▾
      </ActionMenu>
    </span>
  );
}

function EntryList({
  entries,
  total,
  at,
  onOpen,
  onMore,
}: {
  entries: LibraryEntry[];
  total: number;
  at: number;
  onOpen: (entry: LibraryEntry) => void;
  onMore: () => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualiser is read only here and never passed on
  const rows = useVirtualizer({
    count: entries.length,
    getScrollElement: () => box.current,
    estimateSize: () => 76,
    overscan: 8,
    initialRect: { width: 400, height: 800 },
  });
  const items = rows.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last >= entries.length - 10 && entries.length < total) onMore();
  }, [last, entries.length, total, onMore]);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
  }, [at, rows]);
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto" role="list" aria-label="Slips and sources">
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {items.map((item) => {
          const entry = entries[item.index]!;
          return (
            <div
              key={item.key}
              ref={rows.measureElement}
              data-index={item.index}
              role="listitem"
              className="absolute top-0 left-0 w-full"
              style={{ transform: `translateY(${item.start}px)` }}
            >
              <EntryLine entry={entry} isHere={item.index === at} onOpen={() => onOpen(entry)} />
            </div>
          );
        })}
      </div>
    </div>
  );
}

function EntryLine({ entry, isHere, onOpen }: { entry: LibraryEntry; isHere: boolean; onOpen: () => void }) {
  const { slip, source, excerpt } = entry;
  const topics = slip?.topics ?? source?.topics ?? [];
  return (
    <button
      type="button"
      onClick={onOpen}
      aria-current={isHere ? 'true' : undefined}
      className={`relative flex w-full border-b border-rule text-left ${isHere ? 'bg-wash' : 'hover:bg-quiet'}`}
    >
      <span className="flex w-[52px] shrink-0 flex-col items-center border-r border-line pt-3 text-second">
        <Mark kind={slip ? slip.kind : 'source'} size={15} />
        <span className="narrow figures text-[11.5px]">{slip?.number ?? source?.number}</span>
      </span>
      <span className="min-w-0 flex-1 px-4 py-2.5">
        <span className="written line-clamp-2 text-[15px] leading-[1.4] [overflow-wrap:anywhere]">
          {source ? <b className="font-semibold">{source.title}</b> : excerpt ? <Found text={excerpt} /> : slip?.title}
        </span>
        {source && excerpt && (
          <span className="written line-clamp-1 text-[13.5px] text-second">
            <Found text={excerpt} />
          </span>
        )}
        <span className="mt-1 flex items-baseline gap-3 text-[12px] text-second">
          <span className="whitespace-nowrap">
            {source
              ? [
                  source.creators.split(';')[0],
                  source.date,
                  `${source.passages} ${source.passages === 1 ? 'passage' : 'passages'}`,
                ]
                  .filter(Boolean)
                  .join(' · ')
              : slip?.used
                ? 'kept, used'
                : slip?.state === 'held'
                  ? `held until ${slip.heldUntil ?? `${slip.heldSources} sources speak to it`}`
                  : slip?.state}
          </span>
          <span className="min-w-0 flex-1 overflow-hidden">
            <TopicWords topics={topics} />
          </span>
          {slip && <StepsShown label="Pull" value={slip.pull} />}
        </span>
      </span>
    </button>
  );
}

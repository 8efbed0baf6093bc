import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { Link } from 'react-router';
import { api, ask, done, type LibraryEntry, type Topic } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient, useTopics } from '../api/queries';
import { StartPiece } from '../bench/StartPiece';
import { say } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Failed, Loading } from '../ui/States';
import { addressOfEntry, idOf, numberOf, titleOf } from '../sources/entries';
import { ago } from '../ui/dates';
import { useChoice } from '../ui/useChoice';
import { useHeld } from '../ui/useField';
import { AxisForm } from './AxisForm';

type Cell = components['schemas']['CoverageCell'];
type Place = { topic: string; column: { key: string; name: string } };

/** Topics against formats, or against a wider topic's own: what is in hand, in work and out. */
export function Coverage() {
  const [params, setParams] = useSearchParams();
  const axis = Number(params.get('against')) || undefined;
  const setAxis = (next: number | undefined) =>
    setParams(
      (before) => {
        if (next) before.set('against', String(next));
        else before.delete('against');
        return before;
      },
      { replace: true },
    );
  const [onDesk, setOnDesk] = useChoice<string>('matrix on the desk', '');
  const [naming, setNaming] = useState<'new' | 'edit'>();
  const [start, setStart] = useState<Place>();
  const [opened, setOpened] = useState<Place>();
  const all = useTopics().data ?? [];
  const map = useQuery({
    queryKey: keys.coverage(axis),
    queryFn: () =>
      ask(api.GET('/api/topics/coverage', { params: { query: { axis: axis ? String(axis) : undefined } } })),
    placeholderData: (previous) => previous,
  });
  if (map.error) return <Failed error={map.error} onRetry={() => void map.refetch()} />;
  if (!map.data) return <Loading />;
  const { columns, rows, cells } = map.data;
  const at = new Map(cells.map((cell) => [`${cell.topic}/${cell.column}`, cell]));
  const wide = all.filter((topic) => all.some((other) => other.wider === topic.number));
  return (
    <>
      <p className="mb-3 flex flex-wrap items-baseline gap-x-6 text-second">
        <label>
          against{' '}
          <select
            value={axis ?? ''}
            onChange={(event) => {
              setNaming(event.target.value === 'new' ? 'new' : undefined);
              if (event.target.value !== 'new') setAxis(Number(event.target.value) || undefined);
            }}
            className="border-b border-hair bg-transparent font-semibold text-ink"
          >
            <option value="">formats</option>
            {wide.map((topic) => (
              <option key={topic.number} value={topic.number}>
                the topics under “{topic.name}”
              </option>
            ))}
            <option value="new">an axis of your own, such as intents …</option>
          </select>
        </label>
        {axis && (
          <button type="button" aria-expanded={naming === 'edit'} className="link" onClick={() => setNaming('edit')}>
            names and order
          </button>
        )}
        <label className="flex items-baseline gap-1.5">
          <input
            type="checkbox"
            checked={onDesk === String(axis ?? 'formats')}
            onChange={(event) => setOnDesk(event.target.checked ? String(axis ?? 'formats') : '')}
            className="translate-y-0.5 accent-(--blue)"
          />
          on the Desk
        </label>
        <span>
          <b className="text-blue">in hand</b>: kept slips not used yet · <b className="text-ink">in work</b>: pieces on
          the bench · <b className="text-done">out</b>: releases, and how long ago
        </span>
      </p>
      {naming === 'new' && (
        <AxisForm
          onClose={() => setNaming(undefined)}
          onMade={(made) => {
            setNaming(undefined);
            setAxis(made);
          }}
        />
      )}
      {naming === 'edit' && axis && (
        <AxisForm
          axis={axis}
          columns={all
            .filter((topic) => topic.wider === axis)
            .sort((a, b) => (a.place ?? 1_000) - (b.place ?? 1_000) || a.name.localeCompare(b.name))}
          onClose={() => setNaming(undefined)}
          onMade={() => setNaming(undefined)}
        />
      )}
      <div className="overflow-x-auto">
        <table className="figures w-full border-collapse text-[13px]">
          <thead>
            <tr className="border-b border-ink text-left">
              <th className="label py-1.5 pr-4 text-second">Topic</th>
              {columns.map((column) => (
                <th key={column.key} className="label px-3 py-1.5 text-second">
                  {column.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {nested(rows).map(({ topic, depth }) => (
              <tr key={topic.number} className="border-b border-rule">
                <th className="py-2 pr-4 text-left align-baseline font-normal">
                  <Link
                    to={`/topics/${topic.number}`}
                    className="written border-b-2 text-[15px] hover:text-blue"
                    style={{ borderColor: `var(--${topic.colour})`, marginLeft: `${depth * 18}px` }}
                  >
                    {topic.name}
                  </Link>
                  {topic.kept > topic.used && (
                    <Link
                      to={`/library?query=${encodeURIComponent(`in:slips state:kept used:no topic:"${topic.name}"`)}`}
                      title={`${topic.kept - topic.used} kept slips on ${topic.name} stand in no piece yet`}
                      className="mt-1 block min-h-6 w-max leading-6 text-blue hover:underline"
                      style={{ marginLeft: `${depth * 18}px` }}
                    >
                      {topic.kept - topic.used} in hand
                    </Link>
                  )}
                </th>
                {columns.map((column) => (
                  <td key={column.key} className="border-l border-rule px-3 py-2 align-baseline">
                    <CoverageFigures
                      cell={at.get(`${topic.number}/${column.key}`)}
                      label={`${column.name} on ${topic.name}`}
                      onStart={() => setStart({ topic: topic.name, column })}
                      onOpen={() => setOpened({ topic: topic.name, column })}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {opened && (
        <OpenedCell
          place={opened}
          isFormat={axis === undefined}
          onClose={() => setOpened(undefined)}
          onBegin={() => {
            setStart(opened);
            setOpened(undefined);
          }}
        />
      )}
      {start && (
        <StartSlip
          topic={start.topic}
          column={start.column}
          isFormat={axis === undefined}
          onClose={() => setStart(undefined)}
        />
      )}
    </>
  );
}

/** Each topic with those under it right below, as deep as they stand. */
function nested(rows: readonly Topic[]): { topic: Topic; depth: number }[] {
  const here = new Set(rows.map((topic) => topic.number));
  const under = (wider: number | null, depth: number): { topic: Topic; depth: number }[] =>
    rows
      .filter((topic) => (topic.wider !== null && here.has(topic.wider) ? topic.wider : null) === wider)
      .flatMap((topic) => [{ topic, depth }, ...under(topic.number, depth + 1)]);
  return under(null, 0);
}

function CoverageFigures({
  cell,
  label,
  onStart,
  onOpen,
}: {
  cell: Cell | undefined;
  label: string;
  onStart: () => void;
  onOpen: () => void;
}) {
  if (!cell)
    return (
      <button
        type="button"
        aria-label={`Nothing yet: begin ${label}`}
        title={`Begin: ${label}`}
        onClick={onStart}
        className="w-full text-left text-faint hover:text-blue"
      >
        +
      </button>
    );
  const parts = [
    cell.inHand > 0 && (
      <span key="hand" className="text-blue">
        {cell.inHand} in hand
      </span>
    ),
    cell.inWork > 0 && <span key="work">{cell.inWork} in work</span>,
    cell.out > 0 && (
      <span key="out" className="text-done">
        {cell.out} out{cell.lastOut ? `, ${ago(cell.lastOut)}` : ''}
      </span>
    ),
  ].filter(Boolean);
  return (
    <button
      type="button"
      title={`Open ${label}`}
      onClick={onOpen}
      className="flex min-h-[24px] w-full flex-col text-left leading-snug hover:bg-wash"
    >
      <span className="sr-only">{label}: </span>
      {parts}
    </button>
  );
}

/** What stands in a cell: the slips in hand, and the pieces in work and out; and another one begun. */
function OpenedCell({
  place,
  isFormat,
  onClose,
  onBegin,
}: {
  place: Place;
  isFormat: boolean;
  onClose: () => void;
  onBegin: () => void;
}) {
  const [starting, setStarting] = useState(false);
  const topic = useTopics().data?.find((one) => one.name === place.topic);
  const on = `topic:"${place.topic}" ${isFormat ? `format:${place.column.key}` : `topic:"${place.column.name}"`}`;
  const slips = useEntries(`in:slips state:kept used:no ${on}`);
  const pieces = useEntries(`in:pieces ${on}`);
  const list = (title: string, entries: readonly LibraryEntry[]) =>
    entries.length > 0 && (
      <section aria-label={title} className="mb-4">
        <h3 className="label border-b border-hair pb-1 text-second">{title}</h3>
        {entries.map((entry) => (
          <Link
            key={idOf(entry)}
            to={addressOfEntry(entry)}
            className="flex items-baseline gap-3 border-b border-rule py-1.5 hover:text-blue"
          >
            <span className="narrow figures w-9 shrink-0 text-[12px] text-faint">{numberOf(entry)}</span>
            <span className="written line-clamp-2 min-w-0 flex-1 text-[14.5px]">{titleOf(entry)}</span>
            {entry.other && <span className="text-[12px] text-second">{entry.other.note}</span>}
          </Link>
        ))}
      </section>
    );
  return (
    <Dialog title={`${place.column.name} on ${place.topic}`} open onClose={onClose}>
      <div className="max-h-[55vh] overflow-y-auto">
        {list('In hand', slips.data ?? [])}
        {list('Pieces', pieces.data ?? [])}
        {(slips.isPending || pieces.isPending) && <Loading />}
      </div>
      <div className="mt-4 flex justify-end gap-3">
        <Button look="quiet" onClick={onClose}>
          Close
        </Button>
        {topic && (
          <Link to={ideasAt(topic.number, place.column.key, isFormat)} className="link mr-auto text-[13px]">
            ask for ideas here
          </Link>
        )}
        {isFormat && topic && <Button onClick={() => setStarting(true)}>Start a piece…</Button>}
        <Button look="main" onClick={onBegin}>
          Begin another
        </Button>
        <StartPiece
          open={starting}
          onClose={() => setStarting(false)}
          from={{ topic: topic?.number, format: place.column.key }}
        />
      </div>
    </Dialog>
  );
}

/** Where ideas for a cell are asked for: on its topic and as its format, or on both of its topics. */
const ideasAt = (topic: number, column: string, isFormat: boolean) =>
  `/bench/ideas?topic=${topic}&${isFormat ? 'format' : 'topic'}=${column}`;

const useEntries = (query: string) =>
  useQuery({
    queryKey: keys.library({ query, state: 'all' }),
    queryFn: () =>
      ask(api.GET('/api/library', { params: { query: { query: `${query} `, state: 'all' } } })).then(
        (list) => list.items,
      ),
  });

/** A slip begun in a cell: with its topic and what it would become. */
function StartSlip({
  topic,
  column,
  isFormat,
  onClose,
}: {
  topic: string;
  column: { key: string; name: string };
  isFormat: boolean;
  onClose: () => void;
}) {
  const [text, setText] = useHeld(`coverage.${topic}.${column.key}`);
  const number = useTopics().data?.find((one) => one.name === topic)?.number;
  const [wrong, setWrong] = useState('');
  const keep = async () => {
    try {
      const { answer: slip, command } = await done(
        api.POST('/api/slips', {
          body: { text, topics: isFormat ? [topic] : [topic, column.name], format: isFormat ? column.key : null },
        }),
      );
      say(`Slip ${slip.number} waits in Sift.`, command);
      setText('');
      await queryClient.invalidateQueries();
      onClose();
    } catch (problem) {
      setWrong((problem as Error).message);
    }
  };
  return (
    <Dialog title={`${column.name} on ${topic}`} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <textarea
          autoFocus
          rows={3}
          aria-label="The idea"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && !event.shiftKey && text.trim()) {
              event.preventDefault();
              void keep();
            }
          }}
          placeholder="What could it be?"
          className="written w-full resize-none border-b border-ink bg-transparent py-1 text-[17px] outline-none focus:border-blue"
        />
        {wrong && (
          <p role="alert" className="text-red">
            {wrong}
          </p>
        )}
        <div className="mt-4 flex items-baseline justify-end gap-3">
          {number && (
            <Link to={ideasAt(number, column.key, isFormat)} className="link mr-auto text-[13px]">
              ask for ideas here
            </Link>
          )}
          <Button look="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" look="main" disabled={!text.trim()}>
            Catch it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

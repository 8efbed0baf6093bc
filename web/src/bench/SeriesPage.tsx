import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, done, type SeriesChange, type SeriesShown } from '../api/client';
import { useFormats, usePieces, useSeries } from '../api/queries';
import { carryOut } from '../papers/notices';
import { AddLine } from '../ui/AddLine';
import { Button } from '../ui/Button';
import { refreshPiece } from './refreshPiece';
import { Empty, Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { nearDay } from '../ui/dates';
import { PageDialog } from '../catalogue/pages/PageDialog';
import { usePages } from '../catalogue/pages/pages';
import { FillInText } from '../capture/FillInText';
import { useField, useHeld } from '../ui/useField';

/** Pieces in an order, seen and worked on together. */
export default function SeriesPage() {
  const number = Number(useParams().number ?? 0);
  const all = useSeries();
  const navigate = useNavigate();
  if (all.error) return <Failed error={all.error} onRetry={() => void all.refetch()} />;
  if (!all.data) return <Loading what="Opening the series" />;
  const opened = all.data.find((one) => one.series.number === number);
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1080px] px-9 py-7 max-md:px-4">
        <Link to={number ? '/bench/series' : '/bench'} className="link text-[12.5px]">
          {number ? '‹ all series' : '‹ to the bench'}
        </Link>
        {number > 0 && !opened && (
          <Empty title="There is no such series">It was taken apart; its pieces stand on the bench.</Empty>
        )}
        {opened && <Opened key={number} shown={opened} />}
        {!number && (
          <>
            <header className="mt-1 mb-4 flex flex-wrap items-baseline gap-x-4">
              <h1 className="written text-[26px] font-semibold">Series</h1>
              <span className="text-second">
                pieces in an order: what is out, what comes next, what the last ones said
              </span>
            </header>
            {all.data.map((one) => (
              <Link
                key={one.series.number}
                to={`/bench/series/${one.series.number}`}
                className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 border-b border-rule py-3 hover:bg-quiet"
              >
                <span className="written text-[19px] font-semibold">{one.series.name}</span>
                <span className="figures text-second">
                  {one.out} of {one.pieces.length} out
                </span>
                <span className="written truncate text-[15px] text-second">
                  {one.pieces.map((piece) => piece.piece.title).join(' · ') || 'no pieces yet'}
                </span>
                <span className="text-[12.5px] text-second">next: {one.nextTitle}</span>
              </Link>
            ))}
            {all.data.length === 0 && (
              <p className="py-3 text-second">No series yet. One holds pieces in an order and numbers the next.</p>
            )}
            <div className="mt-4 max-w-[34rem]">
              <AddLine
                place="series.new"
                label="Name of a new series"
                placeholder="a new series"
                press="Make it"
                className="written text-[17px]"
                onAdd={async (name) => {
                  const made = await carryOut(done(api.POST('/api/series', { body: { name } })), 'A series is made.');
                  await refreshPiece();
                  void navigate(`/bench/series/${made.series.number}`);
                }}
              />
            </div>
          </>
        )}
      </div>
    </div>
  );
}

function Opened({ shown }: { shown: SeriesShown }) {
  const { series, pieces } = shown;
  const path = { number: String(series.number) };
  const formats = useFormats().data ?? [];
  const bench = usePieces().data ?? [];
  const all = useSeries().data ?? [];
  const [title, setTitle] = useHeld(`series.${series.number}.next`);
  const [error, setError] = useState('');
  const [dragged, setDragged] = useState<number | null>(null);
  const [putting, setPutting] = useState(false);
  const page = usePages().data?.find((one) => one.page.series === series.number);
  const navigate = useNavigate();
  const change = async (edit: SeriesChange, said: string) => {
    const made = await carryOut(
      done(api.PATCH('/api/series/{number}', { params: { path }, body: { ...edit, version: series.version } })),
      said,
    );
    await refreshPiece();
    return made;
  };
  const order = pieces.map((one) => one.piece.number);
  const setOrder = (next: number[], said: string) => void change({ pieces: next }, said).catch(() => undefined);
  const move = (from: number, to: number) => {
    if (to < 0 || to >= order.length || from === to) return;
    const next = [...order];
    const [own] = next.splice(from, 1);
    next.splice(to, 0, own!);
    setOrder(next, 'The order is changed.');
  };
  const taken = new Set(all.flatMap((one) => one.pieces.map((piece) => piece.piece.number)));
  const free = bench.filter((piece) => !taken.has(piece.number));
  const start = async () => {
    try {
      const piece = await carryOut(
        done(api.POST('/api/pieces', { body: { title, series: series.number } })),
        (made) => `Started “${made.title}”.`,
      );
      setTitle('');
      await refreshPiece();
      void navigate(`/bench/${piece.number}`);
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <>
      <header className="mt-1 flex items-baseline gap-4">
        <div className="min-w-0 flex-1">
          <TextField
            label="Name of the series"
            shown={false}
            place={`series.${series.number}.name`}
            value={series.name}
            onSave={(name) => change({ name }, 'Name changed.')}
            className="written text-[26px] font-semibold"
          />
        </div>
        <span className="figures whitespace-nowrap text-second">
          {shown.out} of {pieces.length} out
        </span>
      </header>
      <TextField
        label="What the series is about"
        shown={false}
        lines
        place={`series.${series.number}.about`}
        value={series.about}
        placeholder="what it is about, and where it goes"
        onSave={(about) => change({ about }, 'Kept.')}
        className="written max-w-[46rem] text-[16px] text-second"
      />
      <ol aria-label="Pieces of the series" className="mt-5 border-t border-ink">
        {pieces.map((one, at) => (
          <li
            key={one.piece.number}
            aria-label={`${one.nth}. ${one.piece.title}`}
            draggable
            onDragStart={(event) => {
              event.dataTransfer.effectAllowed = 'move';
              setDragged(at);
            }}
            onDragEnd={() => setDragged(null)}
            onDragOver={(event) => dragged !== null && event.preventDefault()}
            onDrop={(event) => {
              event.preventDefault();
              if (dragged !== null) move(dragged, at);
              setDragged(null);
            }}
            onKeyDown={(event) => {
              if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
              event.preventDefault();
              move(at, at + (event.key === 'ArrowUp' ? -1 : 1));
            }}
            className={`grid grid-cols-[28px_minmax(0,1fr)_auto] gap-x-3 border-b border-rule py-3 ${dragged === at ? 'opacity-50' : ''}`}
          >
            <span className="figures written pt-0.5 text-[17px] text-second">{one.nth}</span>
            <div className="min-w-0">
              <Link
                to={`/bench/${one.piece.number}`}
                className="written text-[18px] leading-snug font-semibold hover:text-blue"
              >
                {one.piece.title}
              </Link>
              {one.said.first ? (
                <p className="written line-clamp-2 text-[15px] leading-snug text-second">
                  “{one.said.first}”{one.said.last && <> … “{one.said.last}”</>}
                </p>
              ) : (
                <p className="text-second">{one.piece.brief || 'nothing written yet'}</p>
              )}
            </div>
            <div className="text-right text-[12.5px] whitespace-nowrap">
              <p className={one.piece.outOn ? 'text-done font-semibold' : 'font-semibold'}>
                {one.piece.outOn ? `out ${nearDay(one.piece.outOn)}` : one.piece.stage}
              </p>
              <p className="figures text-second">
                {one.piece.words.toLocaleString('en')} of {one.piece.aim.toLocaleString('en')} words
                {!one.piece.outOn && one.piece.due && `, due ${nearDay(one.piece.due)}`}
              </p>
              <p className="flex justify-end gap-1">
                <button
                  type="button"
                  aria-label={`Move “${one.piece.title}” up`}
                  disabled={at === 0}
                  className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
                  onClick={() => move(at, at - 1)}
                >
                  ↑
                </button>
                <button
                  type="button"
                  aria-label={`Move “${one.piece.title}” down`}
                  disabled={at === pieces.length - 1}
                  className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
                  onClick={() => move(at, at + 1)}
                >
                  ↓
                </button>
                <button
                  type="button"
                  aria-label={`Take “${one.piece.title}” out of the series`}
                  className="min-h-6 min-w-6 text-second hover:text-red"
                  onClick={() =>
                    setOrder(
                      order.filter((number) => number !== one.piece.number),
                      'Taken out of the series.',
                    )
                  }
                >
                  ×
                </button>
              </p>
            </div>
          </li>
        ))}
      </ol>
      <form
        className="mt-4 border-l-[3px] border-blue bg-quiet px-5 py-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (title.trim()) void start();
        }}
      >
        <p className="label text-second">Next</p>
        <div className="mt-1 flex flex-wrap items-baseline gap-3">
          <span className="written text-[17px]">{shown.nextTitle.split('…')[0]}</span>
          <input
            aria-label={`Title of number ${shown.nextNumber}`}
            value={title}
            placeholder="what it is called"
            onChange={(event) => setTitle(event.target.value)}
            className="written min-w-48 flex-1 border-b border-hair bg-transparent py-0.5 text-[17px] outline-none placeholder:italic focus:border-blue"
          />
          <Button type="submit" look="main" disabled={!title.trim()}>
            Start it
          </Button>
        </div>
        {error && (
          <p role="alert" className="mt-1 text-red">
            {error}
          </p>
        )}
      </form>
      <div className="mt-6 grid gap-x-10 gap-y-3 md:grid-cols-2">
        <div>
          <Pattern
            place={`series.${series.number}.pattern`}
            value={series.titlePattern}
            offers={shown.offers}
            onSave={(titlePattern) => change({ titlePattern }, 'Pattern kept.')}
          />
          <label className="mt-3 flex items-baseline gap-2">
            <span className="label text-second">Format of the next one</span>
            <select
              aria-label="Format of the next one"
              value={series.format}
              onChange={(event) => void change({ format: event.target.value }, 'Format kept.').catch(() => undefined)}
              className="field-sizing-content bg-transparent"
            >
              <option value="">the first</option>
              {formats
                .filter((format) => !format.isPutAway || format.key === series.format)
                .map((format) => (
                  <option key={format.key} value={format.key}>
                    {format.name}
                  </option>
                ))}
            </select>
          </label>
        </div>
        <div>
          <label className="block">
            <span className="label mb-1 block text-second">Take a piece in</span>
            <select
              aria-label="Take a piece into the series"
              value=""
              onChange={(event) => setOrder([...order, Number(event.target.value)], 'Taken into the series.')}
              className="w-full min-w-0 border-b border-hair bg-transparent py-1"
            >
              <option value="">one that is on the bench or out …</option>
              {free.map((piece) => (
                <option key={piece.number} value={piece.number}>
                  P {piece.number} {piece.title}
                </option>
              ))}
            </select>
          </label>
          {shown.pieces.length > 0 && (
            <a href={`/api/series/${shown.series.number}/export`} download className="link mt-4 mr-5 text-[12.5px]">
              take it out as one book (.epub)
            </a>
          )}
          {(shown.out ?? 0) > 0 && (
            <button
              type="button"
              className="link mt-4 mr-5 text-[12.5px]"
              onClick={() => (page ? void navigate(`/catalogue/pages/${page.page.number}`) : setPutting(true))}
            >
              {page ? 'its page' : 'put it up as a page…'}
            </button>
          )}
          {putting && <PageDialog series={series.number} title={series.name} onClose={() => setPutting(false)} />}
          <button
            type="button"
            className="mt-4 min-h-6 text-[12.5px] text-second hover:text-red"
            onClick={() =>
              void carryOut(
                done(api.DELETE('/api/series/{number}', { params: { path } })),
                'Taken apart; its pieces stay.',
              ).then(
                async () => {
                  await refreshPiece();
                  void navigate('/bench/series');
                },
                () => undefined,
              )
            }
          >
            take the series apart
          </button>
        </div>
      </div>
    </>
  );
}

/** What the next one is called; it saves itself. */
function Pattern({
  place,
  value,
  offers,
  onSave,
}: {
  place: string;
  value: string;
  offers: SeriesShown['offers'];
  onSave: (pattern: string) => Promise<unknown>;
}) {
  const field = useField(place, value, onSave, true);
  return (
    <div onBlur={() => void field.flush()}>
      <span className="label mb-1 block text-second">What the next one is called</span>
      <FillInText
        label="What the next one is called"
        value={field.text}
        placeholder="as its format says"
        offers={offers}
        onChange={(pattern) => field.change(pattern.replaceAll('\n', ' '))}
      />
      {field.error && (
        <p role="alert" className="mt-1 text-red">
          {field.error}
        </p>
      )}
    </div>
  );
}

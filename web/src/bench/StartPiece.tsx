import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ask, done, type Format, type StartOffer } from '../api/client';
import { keys, useFormats } from '../api/queries';
import { useLearned } from '../catalogue/closing/closing';
import { hoursSaid } from '../choosing/terms';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { DateField } from '../ui/DateField';
import { Dialog } from '../ui/Dialog';
import { Mark } from '../ui/Mark';
import { Failed, Loading } from '../ui/States';
import { shortDay } from '../ui/dates';
import { useHeld } from '../ui/useField';
import { refreshPiece } from './refreshPiece';

/** What a piece is begun from: slips, a topic, a marked paragraph, another piece, or nothing. */
export type Beginning = {
  slips?: readonly number[];
  topic?: number;
  /** The lines of the topic's digest. */
  digest?: boolean;
  usable?: number;
  piece?: number;
  format?: string;
  /** The day it is to go out, and where. */
  due?: string;
  outlet?: number;
  /** What it is called unless the writer says otherwise, and topics it is on. */
  title?: string;
  topics?: readonly string[];
};

const placeOf = (from: Beginning) =>
  [
    'piece.new',
    from.slips?.join('+'),
    from.topic && `topic ${from.topic}`,
    from.usable && `usable ${from.usable}`,
    from.piece && `P${from.piece}`,
    from.title,
  ]
    .filter(Boolean)
    .join('.');

/** Begins a piece; first of all it says whether it has been said, or is in work, already. */
export function StartPiece({ open, onClose, from }: { open: boolean; onClose: () => void; from: Beginning }) {
  const isFree = Object.values(from).every((value) => value === undefined);
  return (
    <Dialog title="Start a piece" open={open} onClose={onClose} wide={!isFree}>
      <Offered from={from} onClose={onClose} />
    </Dialog>
  );
}

function Offered({ from, onClose }: { from: Beginning; onClose: () => void }) {
  const text = (number: number | undefined) => (number === undefined ? undefined : String(number));
  const query = {
    slips: from.slips?.join(','),
    topic: text(from.topic),
    digest: from.digest,
    usable: text(from.usable),
    piece: text(from.piece),
    format: from.format,
  };
  const offer = useQuery({
    queryKey: keys.starting(query),
    queryFn: () => ask(api.GET('/api/starting', { params: { query } })),
    staleTime: 0,
  });
  const formats = (useFormats().data ?? []).filter((f) => !f.isPutAway);
  if (offer.error) return <Failed error={offer.error} onRetry={() => void offer.refetch()} />;
  if (!offer.data || formats.length === 0) return <Loading />;
  return <StartForm from={from} offer={offer.data} formats={formats} onClose={onClose} />;
}

const keyOf = (thing: { kind: string; number: number }) => `${thing.kind} ${thing.number}`;

function StartForm({
  from,
  offer,
  formats,
  onClose,
}: {
  from: Beginning;
  offer: StartOffer;
  formats: readonly Format[];
  onClose: () => void;
}) {
  const [title, setTitle] = useHeld(placeOf(from));
  const [format, setFormat] = useState(offer.format);
  const [due, setDue] = useState<string | null>(from.due ?? null);
  const [taken, setTaken] = useState(() => new Set(offer.material.filter((m) => m.ticked).map((m) => keyOf(m.thing))));
  /** Titles that are kept beside the one it gets. */
  const [beside, setBeside] = useState<ReadonlySet<string>>(new Set());
  const [error, setError] = useState('');
  const navigate = useNavigate();
  const first = from.title ?? offer.titles[0]?.title ?? '';
  const called = title.trim() || first;
  const things = offer.material.filter((m) => taken.has(keyOf(m.thing))).map((m) => m.thing);
  const numbers = (kind: string) => things.filter((thing) => thing.kind === kind).map((thing) => thing.number);
  const chosen = formats.find((f) => f.key === format);
  const number = offer.numbers[format];
  const learned = useLearned(format);

  const start = async () => {
    try {
      const piece = await carryOut(
        done(
          api.POST('/api/pieces', {
            body: {
              title: called,
              format,
              topics: [...new Set([...offer.topics, ...(from.topics ?? [])])],
              slip: from.slips?.[0],
              slips: numbers('slip'),
              sources: numbers('source'),
              usable: from.usable,
              from: from.piece,
              due,
              outlet: from.outlet,
              titles: [...beside],
            },
          }),
        ),
        (made) => `Started P ${made.number}.`,
      );
      await refreshPiece();
      setTitle('');
      onClose();
      void navigate(`/bench/${piece.number}`);
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  /** What would have come along goes into a piece that is in work already. */
  const addThere = async (piece: number, called: string) => {
    const slips = [...new Set([...(from.slips ?? []), ...numbers('slip')])];
    if (slips.length > 0)
      await carryOut(
        done(api.POST('/api/slips/several', { body: { slips, decision: { decision: 'put', piece } } })),
        `Put into P ${piece}, ${called}.`,
      );
    for (const source of numbers('source'))
      await carryOut(
        done(
          api.PUT('/api/pieces/{number}/material', { params: { path: { number: String(piece) } }, body: { source } }),
        ),
        `Source ${source} lies beside P ${piece}.`,
      );
    await refreshPiece();
    onClose();
    void navigate(`/bench/${piece}`);
  };

  const fields = (
    <>
      <label className="block">
        <span className="label block text-second">Title</span>
        <input
          autoFocus
          value={title}
          placeholder={first}
          onChange={(event) => {
            setTitle(event.target.value);
            setError('');
          }}
          className="written w-full border-b border-ink bg-transparent py-1 text-[18px] outline-none placeholder:text-faint focus:border-blue"
        />
      </label>
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error}
        </p>
      )}
      {number !== undefined && called && (
        <p className="mt-1 text-[12.5px] text-second">
          It gets the number {number}
          {chosen?.titlePattern ? ' in its title' : ''}.
        </p>
      )}
      {offer.titles.length > 1 && (
        <ul aria-label="Titles from its own words" className="mt-2">
          {offer.titles
            .filter((one) => one.title !== called)
            .slice(0, 4)
            .map((one) => (
              <li key={one.title} className="flex items-baseline gap-3">
                <button
                  type="button"
                  title={one.title}
                  className="written min-h-6 min-w-0 truncate text-left text-[14.5px] hover:text-blue"
                  onClick={() => setTitle(one.title)}
                >
                  {one.title}
                </button>
                <span className="ml-auto shrink-0 text-[11.5px] text-second" title={lookOf(one.look)}>
                  {one.shape}, {one.look.length} characters
                  {one.look.alike.length > 0 && <span className="text-red">, heard before</span>}
                </span>
                <label className="flex min-h-6 shrink-0 items-center gap-1.5 text-[11.5px] text-second">
                  <input
                    type="checkbox"
                    aria-label={`Lay “${one.title}” beside`}
                    checked={beside.has(one.title)}
                    onChange={() =>
                      setBeside((before) => {
                        const next = new Set(before);
                        if (!next.delete(one.title)) next.add(one.title);
                        return next;
                      })
                    }
                    className="accent-(--blue)"
                  />
                  beside
                </label>
              </li>
            ))}
        </ul>
      )}
      <fieldset className="mt-5">
        <legend className="label text-second">Format</legend>
        <div className="max-h-[232px] overflow-y-auto border-t border-rule">
          {formats.map((f) => (
            <label
              key={f.key}
              className={`flex cursor-pointer items-baseline gap-3 border-b border-rule py-1.5 pr-2 ${f.key === format ? 'bg-wash' : ''}`}
            >
              <input
                type="radio"
                name="format"
                value={f.key}
                checked={f.key === format}
                onChange={() => setFormat(f.key)}
                className="ml-2 self-center accent-(--blue)"
              />
              <span className="w-28 shrink-0 font-semibold max-md:w-24">{f.name}</span>
              <span className="min-w-0 truncate text-second">
                {[
                  f.skeleton.length === 1 ? '1 section' : `${f.skeleton.length} sections`,
                  f.aim > 0 && `${f.aim.toLocaleString('en')} words`,
                  f.usualHours > 0 && hoursSaid(f.usualHours),
                ]
                  .filter(Boolean)
                  .join(', ')}
              </span>
            </label>
          ))}
        </div>
      </fieldset>
      <p className="mt-3 flex items-baseline gap-2 text-second">
        due <DateField label="Due date" empty="no day yet" value={due} onChange={setDue} />
        {chosen && chosen.steps.length > 0 && (
          <span className="ml-auto text-[12.5px]">{chosen.steps.length} steps come along</span>
        )}
      </p>
      {learned.length > 0 && (
        <section aria-label="What was learned" className="mt-4 border-l-[3px] border-done pl-3">
          <h3 className="label text-second">Otherwise next time, you said</h3>
          {learned.slice(0, 2).map((one) => (
            <p key={one.piece} className="written mt-1 text-[14.5px] leading-snug">
              {one.otherwise} <span className="font-sans text-[12px] text-second">{one.title}</span>
            </p>
          ))}
        </section>
      )}
      <div className="mt-5 text-right">
        <Button type="submit" look="main" disabled={!called}>
          Start
        </Button>
      </div>
    </>
  );
  const isAlone = offer.about === '';
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void start();
      }}
    >
      {offer.said.length > 0 && (
        <section aria-label="Said already" className="mb-5 border-l-[3px] border-red bg-quiet px-4 py-3">
          <h3 className="label text-second">
            {offer.said.every((said) => said.outOn === null) ? 'It is in work already' : 'It has been said already'}
          </h3>
          {offer.said.map((said) => (
            <div key={said.piece} className="mt-2 flex items-baseline gap-4 max-md:flex-wrap">
              <div className="min-w-0 flex-1">
                <p>
                  <Link
                    to={`/bench/${said.piece}`}
                    onClick={onClose}
                    className="written text-[15.5px] font-semibold hover:text-blue"
                  >
                    {said.title}
                  </Link>{' '}
                  <span className="text-[12px] text-second">
                    {said.outOn ? `out ${shortDay(said.outOn)}` : `in work, ${said.stage}`} ·{' '}
                    {Math.round(said.saying.share * 100)} % of it
                  </span>
                </p>
                <p className="written line-clamp-2 text-[14px] text-second">{said.saying.passage}</p>
              </div>
              {said.outOn === null && (
                <Button
                  onClick={() =>
                    void addThere(said.piece, said.title).catch((problem: Error) => setError(problem.message))
                  }
                >
                  Add it there instead
                </Button>
              )}
            </div>
          ))}
        </section>
      )}
      {isAlone ? (
        fields
      ) : (
        <div className="flex gap-9 max-md:flex-col">
          <div className="min-w-0 flex-1">{fields}</div>
          <section aria-label="What comes along" className="min-w-0 flex-1">
            <h3 className="label flex border-b border-hair pb-1 text-second">
              What comes along
              <span className="figures ml-auto font-medium normal-case">
                {taken.size} of {offer.material.length}
              </span>
            </h3>
            {offer.material.length === 0 && <p className="mt-2 text-second">Nothing lies ready for it yet.</p>}
            <div className="max-h-[420px] overflow-y-auto">
              {offer.material.map((one) => {
                const key = keyOf(one.thing);
                return (
                  <label key={key} className="flex cursor-pointer items-baseline gap-2.5 border-b border-rule py-1.5">
                    <input
                      type="checkbox"
                      checked={taken.has(key)}
                      onChange={() => {
                        const next = new Set(taken);
                        if (!next.delete(key)) next.add(key);
                        setTaken(next);
                      }}
                      className="translate-y-[1px] accent-(--blue)"
                    />
                    <span className="translate-y-[2px] text-second">
                      <Mark kind={one.thing.kind === 'source' ? 'source' : 'note'} size={12} />
                    </span>
                    <span className="min-w-0 flex-1">
                      <span className="written line-clamp-2 text-[14.5px] leading-snug">{one.title}</span>
                      <span className="block text-[12px] text-second">
                        {key} · {one.why}
                      </span>
                    </span>
                  </label>
                );
              })}
            </div>
          </section>
        </div>
      )}
    </form>
  );
}

/** Where a title is cut off, and which earlier ones it is like. */
const lookOf = (look: StartOffer['titles'][number]['look']) =>
  [
    ...look.places.map((place) => (place.cut ? `${place.place}: “${place.shown}”` : `${place.place}: all of it`)),
    ...look.alike.map((other) => `much like “${other.title}”`),
  ].join('\n');

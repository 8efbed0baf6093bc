import {
  DndContext,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { useEffect, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, done } from '../../api/client';
import { queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { ActionMenu } from '../../ui/ActionMenu';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { Figure } from '../../ui/Figure';
import { Empty, Failed, Loading } from '../../ui/States';
import { TopicWords } from '../../ui/TopicWord';
import { nearDay, today } from '../../ui/dates';
import { useChoice } from '../../ui/useChoice';
import { useNarrow } from '../../ui/useNarrow';
import { PlanNav } from '../PlanNav';
import { hours } from '../planning';
import { GoesOut } from './GoesOut';
import { StageRules } from './StageRules';
import { StageTrack } from './StageTrack';
import { StatesOf } from './StatesOf';
import {
  change,
  fields,
  sorted,
  sorts,
  stood,
  useStages,
  type Field,
  type Sort,
  type Standing,
  type StagesOf,
} from './stages';

/** All pieces in hand by where they stand. */
export default function Stages() {
  const stages = useStages();
  const [as, setAs] = useChoice<'lines' | 'columns'>('stages.as', 'lines');
  const [sort, setSort] = useChoice<Sort>('stages.sort', 'due');
  const [shownKept, setShownKept] = useChoice<string>('stages.fields', 'due');
  const [params, setParams] = useSearchParams();
  const [going, setGoing] = useState<{ piece: Standing; stage: string }>();
  const isNarrow = useNarrow();
  const shown = useMemo(() => new Set(shownKept.split(' ').filter(Boolean) as Field[]), [shownKept]);
  useEffect(() => {
    document.title = 'Stages · Nachlass';
  }, []);
  if (stages.error) return <Failed error={stages.error} onRetry={() => void stages.refetch()} />;
  if (!stages.data) return <Loading what="Looking where everything stands" />;
  const { formats, words, pieces } = stages.data;
  const word = params.get('word') ?? '';
  const seen = sorted(
    word ? pieces.filter((piece) => piece.states.some((one) => one.toLowerCase() === word.toLowerCase())) : pieces,
    sort,
  );
  const groups = formats
    .map((format) => ({ format, pieces: seen.filter((piece) => piece.format === format.key) }))
    .filter((group) => group.pieces.length > 0);

  const move = (piece: Standing, stage: string) => {
    const format = formats.find((one) => one.key === piece.format)!;
    if (stage === format.stages.at(-1)) setGoing({ piece, stage });
    else {
      const there = pieces.filter((one) => one.format === piece.format && one.stage === stage).length + 1;
      const most = format.most[stage];
      const full = most !== undefined && there > most ? ` ${there} stand there; ${most} are wished.` : '';
      void change(piece, { stage }, `P ${piece.number} moved to ${stage}.${full}`).catch(() => undefined);
    }
  };
  const lines = { shown, known: words, onMove: move };

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1240px] px-9 py-6 max-md:px-4">
        <header className="mb-4">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h1 className="written text-[25px] leading-tight font-semibold">Stages</h1>
            <span className="figures text-[12.5px] text-second">{saidOf(seen)}</span>
            <PlanNav />
          </div>
          <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1 text-[12.5px] text-second">
            {!isNarrow && (
              <span role="group" aria-label="Shown as" className="inline-flex gap-3">
                {(['lines', 'columns'] as const).map((one) => (
                  <button
                    key={one}
                    type="button"
                    aria-pressed={one === as}
                    className={one === as ? 'font-semibold text-ink' : 'hover:text-blue'}
                    onClick={() => setAs(one)}
                  >
                    {one}
                  </button>
                ))}
              </span>
            )}
            {words.length > 0 && (
              <span role="group" aria-label="Only those that are" className="inline-flex flex-wrap gap-x-3">
                {words.map((one) => (
                  <button
                    key={one}
                    type="button"
                    aria-pressed={one === word}
                    className={one === word ? 'font-semibold text-ink underline' : 'hover:text-blue'}
                    onClick={() => setParams(one === word ? {} : { word: one }, { replace: true })}
                  >
                    {one}
                  </button>
                ))}
              </span>
            )}
            <span className="ml-auto inline-flex items-baseline gap-4">
              <ActionMenu
                label="In which order"
                actions={(Object.keys(sorts) as Sort[]).map((one) => ({
                  key: one,
                  label: sorts[one],
                  note: one === sort ? '✓' : '',
                  onChoose: () => setSort(one),
                }))}
              >
                {sorts[sort]} ▾
              </ActionMenu>
              <ActionMenu
                label="What is shown"
                actions={(Object.keys(fields) as Field[]).map((one) => ({
                  key: one,
                  label: fields[one],
                  note: shown.has(one) ? '✓' : 'hidden',
                  onChoose: () => {
                    const next = new Set(shown);
                    if (next.has(one)) next.delete(one);
                    else next.add(one);
                    setShownKept([...next].join(' '));
                  },
                }))}
              >
                shows ▾
              </ActionMenu>
            </span>
          </div>
        </header>
        {pieces.length === 0 && (
          <Empty
            title="Nothing is in hand"
            action={
              <Link to="/bench" className="link">
                Start a piece on the Bench
              </Link>
            }
          >
            Every piece that is begun stands here on a line of its own stages, with how long it has stood where it is.
          </Empty>
        )}
        {pieces.length > 0 && seen.length === 0 && <p className="text-second">No piece in hand is “{word}”.</p>}
        {groups.map(({ format, pieces: its }) =>
          isNarrow ? (
            <Narrow key={format.key} format={format} pieces={its} {...lines} />
          ) : as === 'lines' ? (
            <Lines key={format.key} format={format} pieces={its} {...lines} />
          ) : (
            <Columns key={format.key} format={format} pieces={its} {...lines} />
          ),
        )}
        {stages.data.justOut.length > 0 && (
          <section aria-label="Went out lately" className="mt-8">
            <h2 className="label border-b border-hair pb-1 text-second">
              Went out in the last thirty days ·{' '}
              <Link to="/catalogue" className="link">
                all in the Catalogue
              </Link>
            </h2>
            <ul>
              {stages.data.justOut.map((piece) => (
                <li key={piece.number} className="flex items-baseline gap-3 py-1">
                  <span className="narrow figures w-9 text-[12px] text-second">P {piece.number}</span>
                  <Link to={`/bench/${piece.number}`} className="written min-w-0 truncate text-[15px] hover:text-blue">
                    {piece.title}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        )}
        <StageRules formats={formats} />
      </div>
      {going && (
        <GoesOut
          title={going.piece.title}
          format={going.piece.format}
          outlet={going.piece.outlet}
          onClose={() => setGoing(undefined)}
          onGo={(out) => change(going.piece, { stage: going.stage, ...out }, `P ${going.piece.number} is out.`)}
        />
      )}
    </div>
  );
}

function saidOf(pieces: readonly Standing[]): string {
  const late = pieces.filter((piece) => piece.due && piece.due < today()).length;
  const longest = [...pieces].sort((a, b) => b.days - a.days)[0];
  return [
    pieces.length === 1 ? '1 piece in hand' : `${pieces.length} pieces in hand`,
    late > 0 && `${late} overdue`,
    longest && longest.days > 30 && `P ${longest.number} has stood at ${longest.stage} for ${stood(longest.days)}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

type Group = {
  format: StagesOf;
  pieces: readonly Standing[];
  shown: ReadonlySet<Field>;
  known: readonly string[];
  onMove: (piece: Standing, stage: string) => void;
};

/** One line a piece, its marker on its own stages. */
function Lines({ format, pieces, shown, known, onMove }: Group) {
  return (
    <section aria-label={format.name} className="mb-7">
      <div className="flex items-end border-b border-ink pb-1">
        <h2 className="written w-[42%] shrink-0 text-[17px] font-semibold">{format.name}</h2>
        <div className="flex min-w-0 flex-1">
          {format.stages.map((stage, at) => (
            <StageHead key={stage} format={format} stage={stage} at={at} pieces={pieces} />
          ))}
        </div>
      </div>
      <ul>
        {pieces.map((piece) => (
          <li key={piece.number} className="flex items-start border-b border-rule py-1.5">
            <div className="w-[42%] min-w-0 shrink-0 pr-5">
              <PieceLine piece={piece} />
              <Facts piece={piece} shown={shown} known={known} />
            </div>
            <div className="min-w-0 flex-1">
              <StageTrack piece={piece} stages={format.stages} onMove={(stage) => onMove(piece, stage)} />
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The stages beside each other, each a list of plain rows. */
function Columns({ format, pieces, shown, known, onMove }: Group) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => `Picked up P ${active.id}.`,
          onDragOver: ({ over }) => (over ? String(over.id) : ''),
          onDragEnd: ({ over }) => (over ? `Put to ${over.id}.` : 'It stays where it was.'),
          onDragCancel: () => 'It stays where it was.',
        },
      }}
      onDragEnd={({ active, over }) => {
        const piece = pieces.find((one) => one.number === active.id);
        if (piece && over && over.id !== piece.stage) onMove(piece, String(over.id));
      }}
    >
      <section aria-label={format.name} className="mb-7">
        <h2 className="written border-b border-ink pb-1 text-[17px] font-semibold">{format.name}</h2>
        <div className="flex">
          {format.stages.map((stage, at) => (
            <Column key={stage} format={format} stage={stage} at={at} pieces={pieces}>
              {pieces
                .filter((piece) => piece.stage === stage)
                .map((piece) => (
                  <Row key={piece.number} piece={piece} format={format} shown={shown} known={known} onMove={onMove} />
                ))}
            </Column>
          ))}
        </div>
      </section>
    </DndContext>
  );
}

function Column({
  format,
  stage,
  at,
  pieces,
  children,
}: {
  format: StagesOf;
  stage: string;
  at: number;
  pieces: readonly Standing[];
  children: React.ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: stage });
  return (
    <div
      ref={setNodeRef}
      className={`min-h-24 min-w-0 flex-1 border-r border-rule px-2 pt-1.5 last:border-r-0 ${isOver ? 'bg-wash' : ''}`}
    >
      <div className="flex border-b border-rule pb-1">
        <StageHead format={format} stage={stage} at={at} pieces={pieces} isLeft />
      </div>
      <ul aria-label={`${format.name} at ${stage}`}>{children}</ul>
    </div>
  );
}

function Row({
  piece,
  format,
  shown,
  known,
  onMove,
}: {
  piece: Standing;
  format: StagesOf;
  shown: ReadonlySet<Field>;
  known: readonly string[];
  onMove: Group['onMove'];
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: piece.number });
  const at = format.stages.indexOf(piece.stage);
  const to = (index: number) => format.stages[index] && onMove(piece, format.stages[index]);
  return (
    <li
      ref={setNodeRef}
      {...listeners}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={`cursor-grab border-b border-rule py-1.5 ${isDragging ? 'relative z-10 bg-sheet shadow-lg' : ''}`}
      onKeyDown={(event) => {
        const step = { '[': -1, ']': 1 }[event.key];
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        to(at + step);
      }}
    >
      <PieceLine piece={piece} isSmall />
      <span className="block text-[11.5px] text-second">{stood(piece.days)}</span>
      <Facts piece={piece} shown={shown} known={known} />
    </li>
  );
}

/** On the phone: one piece after the other, its stage chosen from a list. */
function Narrow({ format, pieces, shown, known, onMove }: Group) {
  return (
    <section aria-label={format.name} className="mb-6">
      <h2 className="written border-b border-ink pb-1 text-[17px] font-semibold">{format.name}</h2>
      <ul>
        {pieces.map((piece) => (
          <li key={piece.number} className="border-b border-rule py-2">
            <PieceLine piece={piece} />
            <span className="flex items-baseline gap-2 text-[13px] text-second">
              <select
                aria-label={`Stage of P ${piece.number}`}
                value={piece.stage}
                onChange={(event) => onMove(piece, event.target.value)}
                className="min-h-6 border-b border-hair bg-transparent font-semibold text-ink"
              >
                {format.stages.map((stage) => (
                  <option key={stage}>{stage}</option>
                ))}
              </select>
              {stood(piece.days)}
            </span>
            <Facts piece={piece} shown={shown} known={known} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function PieceLine({ piece, isSmall = false }: { piece: Standing; isSmall?: boolean }) {
  return (
    <span className="flex items-baseline gap-2.5">
      <span className="narrow figures shrink-0 text-[12px] font-semibold text-second">P {piece.number}</span>
      <Link
        to={`/bench/${piece.number}`}
        draggable={false}
        title={piece.title}
        className={`written min-h-6 min-w-0 hover:text-blue ${isSmall ? 'line-clamp-2 text-[14px] leading-[1.25]' : 'truncate text-[16px] leading-6 font-semibold'}`}
      >
        {piece.title}
      </Link>
    </span>
  );
}

function Facts({ piece, shown, known }: { piece: Standing; shown: ReadonlySet<Field>; known: readonly string[] }) {
  const late = piece.due && piece.due < today();
  return (
    <span className="figures flex flex-wrap items-baseline gap-x-3 text-[12px] text-second">
      {shown.has('due') && piece.due && (
        <span className={late ? 'font-semibold text-red' : ''}>
          {late ? 'was due' : 'due'} {nearDay(piece.due)}
        </span>
      )}
      {shown.has('words') && (
        <span>
          {piece.words.toLocaleString('en')}
          {piece.aim > 0 && ` of ${piece.aim.toLocaleString('en')}`} words
        </span>
      )}
      {shown.has('hours') && <span>{hours(piece.hours)} h to do</span>}
      {shown.has('worth') && <span>worth {Math.round(piece.worth)}</span>}
      {shown.has('series') && piece.seriesName && <span>{piece.seriesName}</span>}
      {shown.has('steps') && piece.openSteps > 0 && (
        <span>{piece.openSteps === 1 ? '1 open step' : `${piece.openSteps} open steps`}</span>
      )}
      {shown.has('topics') && <TopicWords topics={piece.topics} />}
      {shown.has('move') && piece.nextMove && <span className="min-w-0 truncate">next: {piece.nextMove}</span>}
      <StatesOf piece={piece} known={known} />
    </span>
  );
}

/** A stage with how many stand there, how many are to at most, and what it usually takes. */
function StageHead({
  format,
  stage,
  at,
  pieces,
  isLeft = false,
}: {
  format: StagesOf;
  stage: string;
  at: number;
  pieces: readonly Standing[];
  isLeft?: boolean;
}) {
  const [asking, setAsking] = useState(false);
  const isLast = at === format.stages.length - 1;
  const there = pieces.filter((piece) => piece.stage === stage).length;
  const most = format.most[stage];
  const over = most !== undefined && there > most;
  const takes = format.takes[at];
  return (
    <div className={`min-w-0 flex-1 ${isLeft ? '' : 'text-center'}`}>
      <span className="label block truncate" title={stage}>
        {stage}
      </span>
      {!isLast && (
        <span className="figures narrow block text-[11.5px] text-second">
          <button
            type="button"
            title={`How many are to stand at ${stage} at once`}
            onClick={() => setAsking(true)}
            className={`min-h-6 min-w-6 hover:text-blue ${over ? 'font-semibold text-red' : ''}`}
          >
            <span className="sr-only">At {stage}: </span>
            {there === 0 ? 'none' : `${there} there`}
            {most !== undefined && (there === 0 ? `, ${most} wished` : ` of ${most}`)}
          </button>
          {takes && takes.hours > 0 && (
            <>
              {', '}
              <Figure shown={`${hours(takes.hours)} h each`} of={`What ${stage} takes`}>
                {takes.took === null
                  ? `${hours(takes.usual)} h, as the format says. Once three of its last ten finished pieces were written on here, the median of what they took is taken.`
                  : `The median of ${takes.of === 1 ? 'the one' : `the last ${takes.of}`} finished that were written on here. The format says ${hours(takes.usual)} h.`}
                {takes.days !== null &&
                  ` They stood here for ${takes.days < 1 ? 'less than a day' : takes.days < 1.5 ? 'a day' : `${hours(takes.days)} days`} (median of ${takes.daysOf}).`}
              </Figure>
            </>
          )}
        </span>
      )}
      {asking && <Most format={format} stage={stage} most={most} onClose={() => setAsking(false)} />}
    </div>
  );
}

function Most({
  format,
  stage,
  most,
  onClose,
}: {
  format: StagesOf;
  stage: string;
  most: number | undefined;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState(most === undefined ? '' : String(most));
  const [wrong, setWrong] = useState('');
  const keep = async () => {
    const count = typed.trim() === '' ? null : Number(typed);
    if (count !== null && !(Number.isInteger(count) && count > 0 && count < 1000)) {
      setWrong(`“${typed}” is no number of pieces; leave it empty for any number.`);
      return;
    }
    await carryOut(
      done(api.PUT('/api/formats/{key}/most', { params: { path: { key: format.key } }, body: { stage, most: count } })),
      count === null ? `Any number may stand at ${stage}.` : `At most ${count} are to stand at ${stage}.`,
    );
    await queryClient.invalidateQueries();
    onClose();
  };
  return (
    <Dialog open title={`${format.name}: how many at ${stage} at once`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void keep().catch(() => undefined);
        }}
      >
        <label className="block">
          <span className="label block text-second">At most; empty for any number</span>
          <input
            autoFocus
            inputMode="numeric"
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
              setWrong('');
            }}
            className="figures w-24 border-b border-ink bg-transparent py-1 text-[16px] outline-none focus:border-blue"
          />
        </label>
        {wrong && (
          <p role="alert" className="mt-2 text-red">
            {wrong}
          </p>
        )}
        <p className="mt-2 text-[12.5px] text-second">
          More can be moved there; it is said then, and the number is red.
        </p>
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit">
            Keep
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}

import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { StartPiece, type Beginning } from '../bench/StartPiece';
import { carryOut } from '../papers/notices';
import { Failed, Loading } from '../ui/States';
import { dateShown, longDay, shortDay, weekday } from '../ui/dates';
import { useChoice } from '../ui/useChoice';
import { useNarrow } from '../ui/useNarrow';
import { Agenda } from './Agenda';
import { Grasp, howToCarry } from './Carry';
import { byDays, undatedId, type Carried } from './carryingDays';
import { OpenDate } from './OpenDate';
import { ReadyColumn } from './ReadyColumn';
import { Weeks } from './Weeks';
import {
  firstShown,
  hours,
  isInSight,
  keyOf,
  useOutlets,
  moved,
  usePlan,
  type PlanEntry,
  type PlanShown,
  type PlanTried,
  type Showable,
  type Span,
} from './planning';
import { PlanHead } from './PlanHead';

/** Only close to an edge, or what lies in the last weeks could not be aimed at. */
const nearTheEdge = { threshold: { x: 0, y: 0.07 }, acceleration: 6 };
const byPointer = { activationConstraint: { distance: 5 } };
const byKey = {
  coordinateGetter: byDays,
  // At once, so that whoever presses quickly drops it where they mean to.
  scrollBehavior: 'auto' as const,
  keyboardCodes: { start: ['Space'], cancel: ['Escape'], end: ['Space', 'Enter'] },
};

/** The day under the pointer; by key, the one it was carried to. */
const dayUnder: CollisionDetection = (args) => {
  if (args.pointerCoordinates) return pointerWithin(args);
  const { top, left } = args.collisionRect;
  return args.droppableContainers.flatMap((container) => {
    const rect = args.droppableRects.get(container.id);
    const isIn = rect && left >= rect.left && left < rect.right && top >= rect.top && top < rect.bottom;
    return isIn ? [{ id: container.id }] : [];
  });
};

const titleOf = (carried: Carried) =>
  carried.kind === 'entry' ? carried.entry.title : carried.kind === 'undated' ? carried.piece.title : carried.title;

const pieceOf = (carried: Carried | undefined) =>
  carried?.kind === 'undated'
    ? carried.piece.number
    : carried?.kind === 'entry' && carried.entry.kind === 'due'
      ? carried.entry.piece
      : null;

/** Weeks as rows: what goes out when, what has to be done for it by when, and how full that makes each week. */
export function Plan() {
  const [params] = useSearchParams();
  const [span, setSpan] = useChoice<Span>('plan.span', 'month');
  const [hiddenKept, setHiddenKept] = useChoice<string>('plan.hidden', '');
  const isNarrow = useNarrow();
  const from = firstShown(params.get('from'));
  const plan = usePlan(from, isNarrow ? 'month' : span);
  const outlets = useOutlets();
  const [carried, setCarried] = useState<Carried>();
  const [over, setOver] = useState<string>();
  const [opened, setOpened] = useState<PlanEntry>();
  const [starting, setStarting] = useState<Beginning>();
  const sensors = useSensors(useSensor(PointerSensor, byPointer), useSensor(KeyboardSensor, byKey));
  const piece = pieceOf(carried);
  const tried = useQuery({
    queryKey: keys.planTried(piece ?? 0, over ?? ''),
    queryFn: () => ask(api.GET('/api/plan/trying', { params: { query: { piece: String(piece), on: over! } } })),
    enabled: piece !== null && over !== undefined,
  }).data;
  const byNumber = useMemo(() => new Map(outlets.map((outlet) => [outlet.number, outlet])), [outlets]);
  const without = params.get('without') ?? '';
  const sight = useMemo(
    () => ({
      without: new Set(without.split(',').filter(Boolean).map(Number)),
      format: params.get('format') ?? '',
      topic: Number(params.get('topic')) || 0,
      series: Number(params.get('series')) || 0,
      person: params.get('person') ?? '',
      hidden: new Set(hiddenKept.split(' ').filter(Boolean) as Showable[]),
    }),
    [without, params, hiddenKept],
  );
  const look = useMemo(
    () => ({ span, outlets: byNumber, hidden: sight.hidden, act: setOpened }),
    [span, byNumber, sight.hidden],
  );
  const entries = useMemo(
    () => plan.data?.entries.filter((entry) => isInSight(entry, sight)) ?? [],
    [plan.data, sight],
  );
  if (plan.error) return <Failed error={plan.error} onRetry={() => void plan.refetch()} />;
  if (!plan.data) return <Loading what="Working back from the dates" />;
  const shown = plan.data;

  const drop = async ({ over: at }: DragEndEvent) => {
    const it = carried;
    setCarried(undefined);
    setOver(undefined);
    if (!it || !at) return;
    const day = at.id === undatedId ? null : at.id.toString().slice(4);
    if (day) queryClient.setQueryData(keys.plan(shown.from, shown.to), moved(shown, it, day));
    // What is refused is said, and stands where it stood.
    await place(it, day, shown).catch(() => queryClient.invalidateQueries());
    focusOn(it);
  };

  const head = (
    <PlanHead plan={shown} entries={entries} sight={sight} span={span} onSpan={setSpan} onHide={setHiddenKept} />
  );
  const dialogs = (
    <>
      <OpenDate
        entry={opened}
        undated={shown.undated}
        onClose={() => setOpened(undefined)}
        onStart={(beginning) => {
          setOpened(undefined);
          setStarting(beginning);
        }}
      />
      <StartPiece open={starting !== undefined} from={starting ?? {}} onClose={() => setStarting(undefined)} />
    </>
  );

  if (isNarrow)
    return (
      <div className="h-full overflow-y-auto px-4 py-5">
        {head}
        <Agenda plan={shown} entries={entries} outlets={byNumber} onOpen={setOpened} />
        {dialogs}
      </div>
    );
  return (
    <DndContext
      id={howToCarry}
      sensors={sensors}
      collisionDetection={dayUnder}
      autoScroll={nearTheEdge}
      accessibility={{
        screenReaderInstructions: {
          draggable:
            'Space picks it up; the arrows carry it, left and right by a day, up and down by a week; Space drops it, Escape lets it be.',
        },
        announcements: {
          onDragStart: ({ active }) => `Picked up ${titleOf(active.data.current as Carried)}.`,
          onDragOver: ({ over: at }) =>
            at ? (at.id === undatedId ? 'Without a day.' : longDay(at.id.toString().slice(4))) : '',
          onDragEnd: ({ over: at }) => (at ? 'Dropped.' : 'It stays where it was.'),
          onDragCancel: () => 'It stays where it was.',
        },
      }}
      onDragStart={({ active }) => setCarried(active.data.current as Carried)}
      onDragOver={({ over: at }) => setOver(at && at.id !== undatedId ? at.id.toString().slice(4) : undefined)}
      onDragCancel={() => {
        setCarried(undefined);
        setOver(undefined);
      }}
      onDragEnd={(event) => void drop(event)}
    >
      <Grasp>
        <div className="flex h-full">
          <aside aria-label="Ready to place" className="w-[262px] shrink-0 overflow-y-auto bg-board max-lg:hidden">
            <ReadyColumn plan={shown} outlets={byNumber} />
          </aside>
          <div className="flex min-w-0 flex-1 flex-col">
            <div className="px-[18px] pt-4">{head}</div>
            <div className="min-h-0 flex-1 overflow-auto px-[18px] pb-4">
              {!shown.hoursAreSaid && (
                <p className="mb-2 text-[12.5px] text-second">
                  Two hours on each working day are taken until you{' '}
                  <Link to="/plan/outlets" className="link">
                    say your hours
                  </Link>
                  .
                </p>
              )}
              <Weeks plan={shown} entries={entries} tried={piece !== null ? tried : undefined} look={look} />
            </div>
            {carried && <Effect carried={carried} on={over} tried={piece !== null ? tried : undefined} plan={shown} />}
          </div>
        </div>
      </Grasp>
      <DragOverlay dropAnimation={null}>
        {carried && (
          <span className="written block max-w-56 truncate border border-blue bg-sheet px-2 py-1 text-[13.5px] shadow-lg">
            {titleOf(carried)}
          </span>
        )}
      </DragOverlay>
      {dialogs}
    </DndContext>
  );
}

/** Says before it is dropped what a move would do. */
function Effect({
  carried,
  on,
  tried,
  plan,
}: {
  carried: Carried;
  on: string | undefined;
  tried: PlanTried | undefined;
  plan: PlanShown;
}) {
  const open = on
    ? plan.entries.find((entry) => entry.kind === 'open' && entry.day === on && fits(carried, entry))
    : undefined;
  return (
    <p role="status" className="figures border-t border-hair bg-quiet px-[18px] py-2 text-[12.5px]">
      <b className="written font-semibold">{titleOf(carried)}</b>
      {on ? ` on ${weekday(on)} ${dateShown(on)}` : ': carry it to a day'}
      {open && `, fills ${open.title.toLowerCase()}`}
      {tried &&
        on === tried.on &&
        [
          tried.missing > 0.05
            ? `${hours(tried.missing)} h too many before it${tried.readyOn ? `; it could be ready on ${shortDay(tried.readyOn)}` : ''}`
            : tried.begins
              ? `work begins ${tried.begins === plan.today ? 'today' : `on ${shortDay(tried.begins)}`}`
              : 'nothing is left to do',
          ...tried.weeks.map(
            (week) => `week ${week.week} ${hours(week.before)} → ${hours(week.after)} of ${hours(week.hours)} h`,
          ),
          ...tried.others.map((other) =>
            other.hours > 0
              ? `P ${other.piece} lacks ${hours(other.hours)} h more`
              : `P ${other.piece} lacks ${hours(-other.hours)} h less`,
          ),
          ...tried.mix.map((topic) => `${topic.topic} ${topic.before} → ${topic.after} of ${topic.of} pieces`),
        ].map((said) => <span key={said}> · {said}</span>)}
    </p>
  );
}

/** What was carried stands on another day now, drawn anew: whoever carried it by key goes on from there. */
function focusOn(carried: Carried): void {
  const thing =
    carried.kind === 'entry'
      ? keyOf(carried.entry)
      : carried.kind === 'undated'
        ? `due ${carried.piece.number} ${carried.piece.stage}`
        : '';
  let tries = 20;
  const look = () => {
    if (document.activeElement !== document.body) return;
    const card = thing && document.querySelector<HTMLElement>(`[data-entry="${CSS.escape(thing)}"]`);
    if (card) card.focus();
    else if (tries-- > 0) setTimeout(look, 50);
  };
  setTimeout(look, 50);
}

/** Whether what is carried would fill an open date. */
function fits(carried: Carried, open: PlanEntry): boolean {
  if (carried.kind === 'idea') return true;
  if (carried.kind === 'undated') return carried.piece.format === open.format;
  return carried.entry.kind === 'due' && carried.entry.format === open.format;
}

/** Puts what was carried on a day, or takes its day away. */
async function place(carried: Carried, day: string | null, plan: PlanShown): Promise<void> {
  const open = day
    ? plan.entries.find((entry) => entry.kind === 'open' && entry.day === day && fits(carried, entry))
    : undefined;
  const said = day ? `on ${shortDay(day)}` : 'without a day';
  if (carried.kind === 'idea') {
    if (!day) return;
    await carryOut(
      done(
        api.POST('/api/pieces', {
          body: {
            title: carried.title.slice(0, 200),
            format: open?.format ?? carried.formats[0],
            slip: carried.slip,
            due: day,
            outlet: open?.outlet ?? undefined,
          },
        }),
      ),
      (made) => `Started P ${made.number}, ${said}.`,
    );
  } else if (carried.kind === 'undated' || carried.entry.kind === 'due') {
    const number = carried.kind === 'undated' ? carried.piece.number : carried.entry.piece!;
    if (carried.kind === 'entry' && carried.entry.day === day) return;
    if (carried.kind === 'undated' && day === null) return;
    await carryOut(
      done(
        api.PUT('/api/plan/pieces/{number}', {
          params: { path: { number: String(number) } },
          body: { on: day, outlet: open?.outlet ?? undefined },
        }),
      ),
      `P ${number} ${said}.`,
    );
  } else if (carried.entry.kind === 'stage') {
    const { piece, stage } = carried.entry;
    if (carried.entry.day === day) return;
    await carryOut(
      done(
        api.PUT('/api/plan/pieces/{number}/stages/{stage}', {
          params: { path: { number: String(piece), stage: stage! } },
          body: { on: day },
        }),
      ),
      day ? `${stage} of P ${piece} by ${shortDay(day)}.` : `${stage} of P ${piece} follows its date again.`,
    );
  } else if (carried.entry.kind === 'move') {
    const { move, version } = carried.entry;
    if (carried.entry.day === day) return;
    await carryOut(
      done(
        api.PATCH('/api/moves/{number}', {
          params: { path: { number: String(move) } },
          body: { version: version!, due: day },
        }),
      ),
      `Move ${said}.`,
    );
  } else if (carried.entry.kind === 'open' && day && day !== carried.entry.day) {
    const { outlet, format, title } = carried.entry;
    await carryOut(
      done(
        api.POST('/api/outlets/{number}/cadences/{format}/other-dates', {
          params: { path: { number: String(outlet), format: format! } },
          body: { date: carried.entry.day, to: day },
        }),
      ),
      `${title} on ${shortDay(day)} this time.`,
    );
  }
  await queryClient.invalidateQueries();
}

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
import { keys, queryClient, useFormats, useSeries, useTopics } from '../api/queries';
import { StartPiece, type Beginning } from '../bench/StartPiece';
import { carryOut } from '../papers/notices';
import { ActionMenu } from '../ui/ActionMenu';
import { Failed, Loading } from '../ui/States';
import { dateShown, longDay, plusDays, shortDay, weekday } from '../ui/dates';
import { useChoice } from '../ui/useChoice';
import { useNarrow } from '../ui/useNarrow';
import { Agenda } from './Agenda';
import { byDays, undatedId, type Carried } from './carryingDays';
import { OpenDate } from './OpenDate';
import { ReadyColumn } from './ReadyColumn';
import { Weeks } from './Weeks';
import {
  firstShown,
  hours,
  isInSight,
  keyOf,
  mondayOf,
  showable,
  spans,
  useOutlets,
  moved,
  usePlan,
  type PlanEntry,
  type PlanShown,
  type PlanTried,
  type Showable,
  type Span,
} from './planning';
import { PlanNav } from './PlanNav';

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
  const [params, setParams] = useSearchParams();
  const [span, setSpan] = useChoice<Span>('plan.span', 'month');
  const [hiddenKept, setHiddenKept] = useChoice<string>('plan.hidden', '');
  const isNarrow = useNarrow();
  const from = firstShown(params.get('from'));
  const plan = usePlan(from, isNarrow ? 'month' : span);
  const outlets = useOutlets();
  const formats = useFormats().data ?? [];
  const topics = useTopics().data ?? [];
  const series = (useSeries().data ?? []).map((one) => one.series);
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

  const set = (name: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next, { replace: name !== 'from' });
  };
  const go = (weeks: number) => set('from', plusDays(mondayOf(from), 7 * weeks));

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

  const filters = [
    ['format', formats.find((f) => f.key === sight.format)?.name],
    ['topic', topics.find((t) => t.number === sight.topic)?.name],
    ['series', series.find((s) => s.number === sight.series)?.name],
    ['person', sight.person || undefined],
  ] as const;

  const head = (
    <header className="mb-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="written text-[25px] leading-tight font-semibold">
          {shortDay(shown.from)} – {shortDay(shown.to)}
        </h1>
        <span className="figures text-[12.5px] text-second">{summaryOf(shown, entries)}</span>
        <PlanNav />
      </div>
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1 text-[12.5px] text-second">
        <span className="inline-flex items-center gap-1">
          <button
            type="button"
            aria-label="Earlier"
            className="px-1.5 hover:text-blue"
            onClick={() => go(-Math.round(spans[span] / 2))}
          >
            ←
          </button>
          <button type="button" className="link" onClick={() => set('from', '')}>
            today
          </button>
          <button
            type="button"
            aria-label="Later"
            className="px-1.5 hover:text-blue"
            onClick={() => go(Math.round(spans[span] / 2))}
          >
            →
          </button>
        </span>
        {!isNarrow && (
          <span role="group" aria-label="How much at once" className="inline-flex gap-3">
            {(Object.keys(spans) as Span[]).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={one === span}
                className={one === span ? 'font-semibold text-ink' : 'hover:text-blue'}
                onClick={() => setSpan(one)}
              >
                {one}
              </button>
            ))}
          </span>
        )}
        {outlets.some((outlet) => !outlet.isPutAway) && (
          <span role="group" aria-label="Outlets shown" className="inline-flex flex-wrap gap-x-3">
            {outlets
              .filter((outlet) => !outlet.isPutAway)
              .map((outlet) => {
                const isOn = !sight.without.has(outlet.number);
                const next = new Set(sight.without);
                if (isOn) next.add(outlet.number);
                else next.delete(outlet.number);
                return (
                  <button
                    key={outlet.number}
                    type="button"
                    aria-pressed={isOn}
                    title={isOn ? `Hide ${outlet.name}` : `Show ${outlet.name}`}
                    onClick={() => set('without', [...next].join(','))}
                    className={`inline-flex items-center gap-1.5 ${isOn ? 'text-ink' : 'text-faint line-through'}`}
                  >
                    <span
                      aria-hidden
                      className="h-2.5 w-2.5"
                      style={{ background: isOn ? `var(--${outlet.colour})` : 'var(--hair)' }}
                    />
                    {outlet.name}
                  </button>
                );
              })}
          </span>
        )}
        <span className="ml-auto inline-flex items-baseline gap-4">
          {filters.map(([name, value]) =>
            value ? (
              <button key={name} type="button" className="link" title="Show all again" onClick={() => set(name, '')}>
                {value} ✕
              </button>
            ) : null,
          )}
          <ActionMenu
            label="Only some"
            actions={[
              ...formats
                .filter((f) => shown.entries.some((entry) => entry.format === f.key))
                .map((f) => ({
                  key: `f ${f.key}`,
                  label: f.name,
                  note: 'format',
                  onChoose: () => set('format', f.key),
                })),
              ...topics
                .filter((t) => shown.entries.some((entry) => entry.topics.some((mark) => mark.number === t.number)))
                .map((t) => ({
                  key: `t ${t.number}`,
                  label: t.name,
                  note: 'topic',
                  onChoose: () => set('topic', String(t.number)),
                })),
              ...series.map((s) => ({
                key: `s ${s.number}`,
                label: s.name,
                note: 'series',
                onChoose: () => set('series', String(s.number)),
              })),
              ...[...new Set(shown.entries.flatMap((entry) => entry.people))].sort().map((person) => ({
                key: `w ${person}`,
                label: person,
                note: 'person',
                onChoose: () => set('person', person),
              })),
            ]}
          >
            only ▾
          </ActionMenu>
          <ActionMenu
            label="What is shown"
            actions={(Object.keys(showable) as Showable[]).map((part) => ({
              key: part,
              label: showable[part],
              note: sight.hidden.has(part) ? 'hidden' : '✓',
              onChoose: () => {
                const next = new Set(sight.hidden);
                if (next.has(part)) next.delete(part);
                else next.add(part);
                setHiddenKept([...next].join(' '));
              },
            }))}
          >
            shows ▾
          </ActionMenu>
        </span>
      </div>
    </header>
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
      sensors={sensors}
      collisionDetection={dayUnder}
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

/** What strikes one first: what is open, what is too full, what is empty. */
function summaryOf(plan: PlanShown, entries: readonly PlanEntry[]): string {
  const open = entries.filter((entry) => entry.kind === 'open').length;
  const ahead = plan.weeks.filter((week) => !week.isPast);
  const over = ahead.filter((week) => week.over > 0.05);
  const empty = ahead.filter((week) => week.load === 0 && week.hours > 0);
  const some = (weeks: readonly { week: number }[]) =>
    weeks.length === 1
      ? `week ${weeks[0]!.week}`
      : weeks.length <= 3
        ? `weeks ${weeks.map((week) => week.week).join(', ')}`
        : `${weeks.length} weeks`;
  return [
    open > 0 && (open === 1 ? '1 open date' : `${open} open dates`),
    over.length === 1 && `${some(over)} is over by ${hours(over[0]!.over)} h`,
    over.length > 1 && `${some(over)} are too full`,
    empty.length > 0 && `${some(empty)} ${empty.length === 1 ? 'is' : 'are'} empty`,
  ]
    .filter(Boolean)
    .join(' · ');
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

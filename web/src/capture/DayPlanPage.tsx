import { DndContext, KeyboardSensor, PointerSensor, closestCenter, useSensor, useSensors } from '@dnd-kit/core';
import { DateField } from '../ui/DateField';
import {
  SortableContext,
  arrayMove,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, Problem } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Failed, Loading } from '../ui/States';
import { longDay, plusDays, today } from '../ui/dates';
import { kindNames, PlanRow, weekdays, type PlanBlock } from './PlanRow';
import { SheetPreview } from './SheetPreview';

type Plan = components['schemas']['DayPlan'];
type Kept = Pick<Plan, 'blocks' | 'daysOff' | 'version'>;

const place = 'nachlass.dayPlan';

function keptPlan(): Kept | undefined {
  try {
    return (JSON.parse(localStorage.getItem(place) ?? 'null') as Kept | null) ?? undefined;
  } catch {
    return undefined;
  }
}

/** What stands on a new day's sheet: blocks in an order, and beside them the sheet they make of any day. */
export default function DayPlanPage() {
  const loaded = useQuery({ queryKey: keys.dayPlan, queryFn: () => ask(api.GET('/api/desk/plan')) });
  const [changed, setChanged] = useState<Kept | undefined>(keptPlan);
  const [day, setDay] = useState(today());
  const [error, setError] = useState('');
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  useEffect(() => {
    if (changed) localStorage.setItem(place, JSON.stringify(changed));
    else localStorage.removeItem(place);
  }, [changed]);

  if (loaded.error) return <Failed error={loaded.error} onRetry={() => void loaded.refetch()} />;
  if (!loaded.data) return <Loading what="Opening the plan" />;
  const plan: Kept = changed ?? loaded.data;
  const set = (change: Partial<Kept>) => {
    setError('');
    setChanged({ ...plan, ...change });
  };
  const setBlock = (block: PlanBlock) =>
    set({ blocks: plan.blocks.map((one) => (one.number === block.number ? block : one)) });
  const add = (kind: PlanBlock['kind']) =>
    set({
      blocks: [
        ...plan.blocks,
        {
          number:
            Math.max(0, ...plan.blocks.map((block) => block.number), ...loaded.data.blocks.map((b) => b.number)) + 1,
          kind,
          heading: kind === 'text' ? '' : kindNames[kind],
          days: { weekdays: [], daysOfMonth: [], dates: [] },
          text:
            { question: 'What is worth keeping of this day?', text: '{{ weekday }}, {{ date }}: ' }[kind as string] ??
            '',
          size: kind === 'lines' ? 3 : kind === 'writing' ? 10 : null,
        },
      ],
    });
  const keep = async () => {
    try {
      await carryOut(done(api.PUT('/api/desk/plan', { body: plan })), 'The plan is kept; new sheets follow it.');
      setChanged(undefined);
      await queryClient.invalidateQueries();
    } catch (problem) {
      setError(
        problem instanceof Problem && problem.status === 409
          ? 'The plan was changed in another place since you began. Leave yours, or keep it over that one by pressing once more.'
          : (problem as Error).message,
      );
      if (problem instanceof Problem && problem.status === 409)
        setChanged({ ...plan, version: (problem.current as Plan).version });
    }
  };
  const once = new Set(plan.blocks.map((block) => block.kind));

  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto bg-quiet px-9 py-7 max-lg:overflow-visible max-md:px-4">
        <Link to="/desk" className="link text-[12.5px]">
          ‹ to the desk
        </Link>
        <header className="mt-1 mb-1 flex flex-wrap items-baseline gap-4">
          <h1 className="written text-[26px] font-semibold">Plan of the day sheet</h1>
          <span className="ml-auto flex gap-2">
            {changed && (
              <Button look="quiet" onClick={() => setChanged(undefined)}>
                Leave it as it was
              </Button>
            )}
            <Button look="main" disabled={!changed} onClick={() => void keep()}>
              Keep this plan
            </Button>
          </span>
        </header>
        <p className="mb-4 max-w-prose text-second">
          What stands on a new sheet, in this order. Sheets that were begun keep what they have.
        </p>
        {error && (
          <p role="alert" className="mb-3 border-l-[3px] border-red pl-3">
            {error} What you changed is still here.
          </p>
        )}
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={({ active, over }) => {
            const at = (id: unknown) => plan.blocks.findIndex((block) => block.number === id);
            if (over && active.id !== over.id) set({ blocks: arrayMove([...plan.blocks], at(active.id), at(over.id)) });
          }}
        >
          <SortableContext items={plan.blocks.map((block) => block.number)} strategy={verticalListSortingStrategy}>
            <ol aria-label="Blocks">
              {plan.blocks.map((block, at) => (
                <PlanRow
                  key={block.number}
                  block={block}
                  onChange={setBlock}
                  onRemove={() => set({ blocks: plan.blocks.filter((one) => one.number !== block.number) })}
                  onMove={(by) => {
                    const to = at + by;
                    if (to >= 0 && to < plan.blocks.length) set({ blocks: arrayMove([...plan.blocks], at, to) });
                  }}
                />
              ))}
            </ol>
          </SortableContext>
        </DndContext>
        <div className="mt-3 flex flex-wrap items-center gap-x-8 gap-y-3">
          <ActionMenu
            label="Add a block"
            className="rounded-key border border-blue px-3 py-1 text-[12.5px] font-semibold text-blue hover:bg-wash"
            actions={(Object.keys(kindNames) as PlanBlock['kind'][]).map((kind) => ({
              key: kind,
              label: kindNames[kind],
              disabled: ['writing', 'moves', 'caught', 'piece'].includes(kind) && once.has(kind),
              onChoose: () => add(kind),
            }))}
          >
            Add a block ▾
          </ActionMenu>
          <fieldset className="flex items-center gap-3">
            <legend className="label float-left mr-3 text-second">Days off</legend>
            {weekdays.map((weekday) => (
              <label key={weekday} className="flex items-center gap-1 text-[12.5px]">
                <input
                  type="checkbox"
                  checked={plan.daysOff.includes(weekday)}
                  onChange={(event) =>
                    set({
                      daysOff: event.target.checked
                        ? [...plan.daysOff, weekday]
                        : plan.daysOff.filter((one) => one !== weekday),
                    })
                  }
                  className="accent-(--blue)"
                />
                {weekday.slice(0, 2)}
              </label>
            ))}
          </fieldset>
        </div>
      </div>
      <section
        aria-label="The sheet on a day"
        className="w-[500px] shrink-0 overflow-y-auto border-l border-hair px-8 py-7 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        <header className="mb-4 flex items-baseline gap-3">
          <h2 className="written text-[21px] font-semibold">{longDay(day)}</h2>
          <span className="ml-auto flex items-baseline gap-2 text-[12.5px]">
            <button
              type="button"
              aria-label="The day before"
              className="px-1 hover:text-blue"
              onClick={() => setDay(plusDays(day, -1))}
            >
              ‹
            </button>
            <DateField label="Seen on" needed value={day} onChange={(next) => next && setDay(next)} />
            <button
              type="button"
              aria-label="The day after"
              className="px-1 hover:text-blue"
              onClick={() => setDay(plusDays(day, 1))}
            >
              ›
            </button>
          </span>
        </header>
        <SheetPreview blocks={plan.blocks} day={day} />
      </section>
    </div>
  );
}

import type { KeyboardCoordinateGetter } from '@dnd-kit/core';
import { plusDays, today } from '../ui/dates';
import type { PlanEntry, Undated } from './planning';

/** What can be carried to a day. */
export type Carried =
  | { kind: 'entry'; entry: PlanEntry }
  | { kind: 'undated'; piece: Undated }
  | { kind: 'idea'; slip: number; title: string; formats: readonly string[] };

export const dayId = (iso: string) => `day-${iso}`;
export const undatedId = 'undated';

/** Days by arrow keys: left and right a day, up and down a week. */
const steps: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };

export const byDays: KeyboardCoordinateGetter = (event, { context }) => {
  const step = steps[event.code];
  if (step === undefined) return undefined;
  event.preventDefault();
  const { droppableRects, over, active } = context;
  const carried = active?.data.current as Carried | undefined;
  const at = over?.id.toString().startsWith('day-')
    ? over.id.toString().slice(4)
    : carried?.kind === 'entry'
      ? carried.entry.day
      : undefined;
  const wanted = at ? plusDays(at, step) : today();
  const rect = droppableRects.get(dayId(wanted));
  return rect ? { x: rect.left + 6, y: rect.top + 22 } : undefined;
};

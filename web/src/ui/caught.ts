import { clock, dayOf, shortDay } from './dates';

/** When a slip was caught; one on the sheet of another day says both. */
export function caught(slip: { day: string; caughtAt: string }): string {
  const own = dayOf(new Date(slip.caughtAt));
  const at = `${shortDay(own)}, ${clock(slip.caughtAt)}`;
  return own === slip.day ? at : `caught ${at}, for ${shortDay(slip.day)}`;
}

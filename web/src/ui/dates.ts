const day = (iso: string) => new Date(`${iso}T12:00:00`);

/** The calendar day of a moment where the writer is, as yyyy-MM-dd. */
export const dayOf = (date: Date) =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;

export const today = () => dayOf(new Date());

export function plusDays(iso: string, days: number): string {
  const date = day(iso);
  date.setDate(date.getDate() + days);
  return dayOf(date);
}

export function firstOfMonth(iso: string, months: number): string {
  const date = day(iso);
  date.setDate(1);
  date.setMonth(date.getMonth() + months);
  return dayOf(date);
}

const daysBetween = (from: string, to: string) => Math.round((day(to).getTime() - day(from).getTime()) / 86_400_000);

const formats = {
  long: { weekday: 'long', day: 'numeric', month: 'long' },
  longYear: { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' },
  short: { day: 'numeric', month: 'short' },
  shortYear: { day: 'numeric', month: 'short', year: 'numeric' },
  weekday: { weekday: 'short' },
  clock: { hour: '2-digit', minute: '2-digit' },
} satisfies Record<string, Intl.DateTimeFormatOptions>;
const made = new Map<string, Intl.DateTimeFormat>();

/** Made once, when it is first needed: making one takes many times as long as using it, and a plan says hundreds of days. */
function format(date: Date, as: keyof typeof formats): string {
  let formatter = made.get(as);
  if (!formatter) made.set(as, (formatter = new Intl.DateTimeFormat('en-GB', formats[as])));
  return formatter.format(date);
}

const isThisYear = (iso: string) => iso.slice(0, 4) === String(new Date().getFullYear());

/** "Tuesday 24 November", with the year when it is not this one. */
export const longDay = (iso: string): string =>
  format(day(iso), isThisYear(iso) ? 'long' : 'longYear').replace(',', '');

/** "24 Nov", with the year when it is not this one. */
export const shortDay = (iso: string): string => format(day(iso), isThisYear(iso) ? 'short' : 'shortYear');

/** A date as a field holds it: "24 Nov 2026". */
export const dateShown = (iso: string) => format(day(iso), 'shortYear');

export const weekday = (iso: string) => format(day(iso), 'weekday');

/** How a date is said near today: "today", "yesterday", "Thu", "Thu 10 Dec". */
export function nearDay(iso: string): string {
  const away = daysBetween(today(), iso);
  if (away === 0) return 'today';
  if (away === -1) return 'yesterday';
  if (away === 1) return 'tomorrow';
  if (away > 1 && away < 7) return weekday(iso);
  return `${weekday(iso)} ${shortDay(iso)}`;
}

/** How long ago a day was, in the unit one would say it in. */
export function ago(iso: string): string {
  const days = Math.round((Date.parse(today()) - Date.parse(iso)) / 86_400_000);
  if (days < 2) return nearDay(iso);
  if (days < 60) return `${days} days ago`;
  return days < 700 ? `${Math.round(days / 30.44)} months ago` : `${Math.round(days / 365.25)} years ago`;
}

export const clock = (instant: string) => format(new Date(instant), 'clock');

/** "4:48" */
export const minutes = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;

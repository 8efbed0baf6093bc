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

/** "Tuesday 24 November", with the year when it is not this one. */
export function longDay(iso: string): string {
  const year = iso.slice(0, 4) === today().slice(0, 4) ? undefined : ('numeric' as const);
  return day(iso)
    .toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year })
    .replace(',', '');
}

/** "24 Nov", with the year when it is not this one. */
export function shortDay(iso: string): string {
  const year = iso.slice(0, 4) === today().slice(0, 4) ? undefined : ('numeric' as const);
  return day(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year });
}

/** A date as a field holds it: "24 Nov 2026". */
export const dateShown = (iso: string) =>
  day(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

export const weekday = (iso: string) => day(iso).toLocaleDateString('en-GB', { weekday: 'short' });

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

export const clock = (instant: string) =>
  new Date(instant).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** "4:48" */
export const minutes = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;

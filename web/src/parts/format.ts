const COUNT = new Intl.NumberFormat('en-GB');
const DAY = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short' });
const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const CLOCK = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const FULL = new Intl.DateTimeFormat('en-GB', { dateStyle: 'full', timeStyle: 'medium' });

export const count = (n: number): string => COUNT.format(n);

/** A word with its number: 1 order, 2 orders. */
export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${count(n)} ${n === 1 ? one : many}`;

/** A day without a time, as people say it: today, tomorrow, Thu 26 Nov. */
export function day(iso: string, now = new Date()): string {
  const date = new Date(`${iso}T12:00:00`);
  const days = Math.round((date.getTime() - new Date(now).setHours(12, 0, 0, 0)) / 86_400_000);
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days === -1) return 'yesterday';
  return DAY.format(date).replace(',', '');
}

/** A day with its year: 31 Jan 2027. */
export const fullDay = (iso: string): string => DATE.format(new Date(`${iso}T12:00:00`));

/** A moment: today 14:00, or Thu 26 Nov 14:00. */
export function moment(iso: string, now = new Date()): string {
  const date = new Date(iso);
  const local = `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;
  return `${day(local, now)} ${CLOCK.format(date)}`;
}

export const fullMoment = (iso: string): string => FULL.format(new Date(iso));

/** How long ago: just now, 5 min, 3 h, 2 d. */
export function ago(iso: string, now = Date.now()): string {
  const minutes = Math.floor((now - new Date(iso).getTime()) / 60_000);
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 48 * 60) return `${Math.floor(minutes / 60)} h ago`;
  return `${Math.floor(minutes / 1440)} d ago`;
}

/** Minutes until something: 48 min, 3 h 18. */
export function left(minutes: number): string {
  if (minutes < 0) return 'past';
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}

/** A constant as a word: HANDED_OVER → handed over. */
export const word = (constant: string): string => constant.toLowerCase().replaceAll('_', ' ');

const COLLECTED: Record<string, string> = {
  PACKED: 'ready to be collected',
  HANDED_OVER: 'collected',
  DELIVERED: 'collected'
};
/** A consignment's state in words; what its buyer collects has some of its own. */
export const stands = (state: string, collected: boolean): string =>
  (collected ? COLLECTED[state] : undefined) ?? word(state);

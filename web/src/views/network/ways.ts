import type { Schemas } from '../../api/client';

type Way = Pick<Schemas['NetworkWay'], 'node' | 'cost' | 'arrival'>;

/** The nodes that send to a zone at least cost, and soonest; of equals the first. */
export function best(ways: Way[]): { cheapest?: string; soonest?: string } {
  if (ways.length < 2) return {};
  return {
    cheapest: ways.toSorted((a, b) => a.cost - b.cost)[0]?.node,
    soonest: ways.toSorted((a, b) => a.arrival.localeCompare(b.arrival))[0]?.node
  };
}

const WEEK = ['MON', 'TUE', 'WED', 'THU', 'FRI', 'SAT', 'SUN'];
const shown = (day: string) => day.charAt(0) + day.slice(1).toLowerCase();

/** MON,TUE,WED,THU,FRI as people say it: Mon to Fri. */
export function workdays(days: string): string {
  const all = days.split(',');
  const from = WEEK.indexOf(all[0] ?? '');
  const inRow = all.every((d, i) => WEEK[from + i] === d);
  return all.length > 2 && inRow ? `${shown(all[0]!)} to ${shown(all.at(-1)!)}` : all.map(shown).join(', ');
}

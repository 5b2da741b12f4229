import type { Schemas } from '../../api/client';
import { count, plural } from '../../parts/format';
import { money } from '../../parts/money';

export type Sum = Schemas['TallySum'];

/**
 * A figure of the rehearsal: as it was, as the live edition would make it today, as the draft would, and how these two
 * differ.
 */
export interface Measure {
  name: string;
  was: string;
  again: string;
  would: string;
  difference: string;
  /** Above zero: the draft does better; below: worse. */
  better: number;
}

const each = (total: number, of: number): number => (of ? total / of : 0);
const sent = (s: Sum): number => s.orders - s.unfilled;

type Figure = (s: Sum) => number;

/** What was, beside what would be. */
export function measures(was: Sum, again: Sum, would: Sum, currency: string): Measure[] {
  const cash = (minor: number) => money(Math.round(minor), currency);
  const row = (name: string, of: Figure, say: (n: number) => string, moreIsBetter = false): Measure => {
    const by = of(would) - of(again);
    const same = say(Math.abs(by)) === say(0);
    return {
      name,
      was: say(of(was)),
      again: say(of(again)),
      would: say(of(would)),
      difference: same ? 'same' : `${by > 0 ? '+' : '−'} ${say(Math.abs(by))}`,
      better: same ? 0 : Math.sign(moreIsBetter ? by : -by)
    };
  };
  return [
    row('Orders that nothing could be sent of', (s) => s.unfilled, count),
    row('Cost per order sent', (s) => each(s.cost, sent(s)), cash),
    row(
      'Consignments per order',
      (s) => each(s.consignments, sent(s)),
      (n) => n.toFixed(3)
    ),
    row('Orders in several consignments', (s) => s.split, count),
    row(
      `In time, of ${plural(would.named, 'order')} with a day to arrive by`,
      (s) => 100 * each(s.inTime, s.named),
      (n) => `${n.toFixed(1)} %`,
      true
    ),
    row(
      'Days from routing to arrival',
      (s) => each(s.days, sent(s)),
      (n) => n.toFixed(2)
    ),
    row('Margin after carriage and handling', (s) => s.margin, cash, true)
  ];
}

/** What came of it, in a sentence. */
export function headline(result: Schemas['SideBySideResult'], currency: string): string {
  if (!result.was.orders) return 'No order was routed in that time';
  if (!result.byDraft) return 'The draft would send every order as it was sent';
  const more = result.would.margin - result.again.margin;
  const earned = more
    ? `; ${money(Math.abs(more), currency)} ${currency} ${more > 0 ? 'more' : 'less'} would be earned`
    : '';
  return `The draft would send ${count(result.byDraft)} of ${count(result.was.orders)} orders otherwise${earned}`;
}

/** A node's load on both sides, the busier nodes first. */
export interface Load {
  code: string;
  name: string;
  capacity: number | null;
  was: number;
  would: number;
  busiest: number;
}

export function loads(was: Sum, would: Sum, nodes: Schemas['RehearsalNodeName'][]): Load[] {
  return nodes
    .map((n) => ({
      code: n.code,
      name: n.name,
      capacity: n.capacity ?? null,
      was: was.perNode[n.code]?.consignments ?? 0,
      would: would.perNode[n.code]?.consignments ?? 0,
      busiest: would.perNode[n.code]?.busiest ?? 0
    }))
    .filter((l) => l.was || l.would)
    .toSorted((a, b) => b.would + b.was - a.would - a.was);
}

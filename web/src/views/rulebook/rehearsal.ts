import type { Schemas } from '../../api/client';
import { count, money } from '../../parts/format';

export type Sum = Schemas['TallySum'];

/** A figure of the rehearsal: as it was, as it would be, and whether that is better. */
export interface Measure {
  name: string;
  was: string;
  would: string;
  difference: string;
  /** Above zero: the draft does better; below: worse. */
  better: number;
}

const signed = (text: string, n: number): string => (n > 0 ? `+ ${text}` : n < 0 ? `− ${text}` : 'same');
const each = (total: number, of: number): number => (of ? total / of : 0);
const percent = (part: number, of: number): string => (of ? `${((100 * part) / of).toFixed(1)} %` : '–');
const sent = (s: Sum): number => s.orders - s.unfilled;

/** What was, beside what would be. */
export function measures(was: Sum, would: Sum, currency: string): Measure[] {
  const cash = (minor: number) => money(Math.round(minor), currency);
  const row = (
    name: string,
    a: number,
    b: number,
    say: (n: number) => string,
    moreIsBetter: boolean,
    told: [string, string] = [say(a), say(b)]
  ): Measure => ({
    name,
    was: told[0],
    would: told[1],
    difference: say(Math.abs(b - a)) === say(0) ? 'same' : signed(say(Math.abs(b - a)), b - a),
    better: say(Math.abs(b - a)) === say(0) ? 0 : Math.sign(moreIsBetter ? b - a : a - b)
  });
  return [
    row('Orders that nothing could be sent of', was.unfilled, would.unfilled, count, false),
    row('Cost per order sent', each(was.cost, sent(was)), each(would.cost, sent(would)), cash, false),
    row(
      'Consignments per order',
      each(was.consignments, sent(was)),
      each(would.consignments, sent(would)),
      (n) => n.toFixed(3),
      false
    ),
    row('Orders in several consignments', was.split, would.split, count, false),
    row(
      'In time, of those with a day to arrive by',
      100 * each(was.inTime, was.named),
      100 * each(would.inTime, would.named),
      (n) => `${n.toFixed(1)} %`,
      true,
      [percent(was.inTime, was.named), percent(would.inTime, would.named)]
    ),
    row(
      'Days from routing to arrival',
      each(was.days, sent(was)),
      each(would.days, sent(would)),
      (n) => n.toFixed(2),
      false
    ),
    row('Margin after carriage and handling', was.margin, would.margin, cash, true)
  ];
}

/** What came of it, in a sentence. */
export function headline(result: Schemas['SideBySideResult'], currency: string): string {
  if (!result.was.orders) return 'No order was routed in that time';
  if (!result.byDraft) return 'The draft would send every order as it was sent';
  const cost = result.would.margin - result.was.margin;
  const money_ = cost
    ? `; ${money(Math.abs(cost), currency)} ${currency} ${cost > 0 ? 'more' : 'less'} would be earned`
    : '';
  return `The draft would send ${count(result.byDraft)} of ${count(result.was.orders)} orders otherwise${money_}`;
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

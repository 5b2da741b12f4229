import type { Schemas } from '../../api/client';

export type Sheet = Schemas['ItemQueueSheet'];
export type Waiter = Schemas['ItemQueueWaiter'];

/** Where units come from: the shelf, or a supply that is expected. */
export interface Stop {
  /** undefined: the shelf */
  id?: number;
  /** how the queue refers to it */
  sign: string;
  date: string;
  units: number;
  /** of these, for those who wait */
  given: number;
  from: string;
  x: number;
}

const DAY = 86_400_000;
const days = (from: string, to: string) =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / DAY);

/** The stops of an item's supply line, in time, with room for what is written at each. */
export function stops(sheet: Sheet, width: number, room = 92): Stop[] {
  const takes = (from?: number) =>
    sheet.queue
      .filter((w) => (from === undefined ? w.readyOn === sheet.today && !w.waitsFor : w.waitsFor === from))
      .reduce((sum, w) => sum + w.units, 0);
  const all: Stop[] = [
    {
      sign: 'now',
      date: sheet.today,
      units: sheet.free,
      given: Math.max(sheet.kept, Math.min(sheet.free, takes())),
      from: 'in stock',
      x: 0
    },
    ...sheet.supplies.map((s, i) => ({
      id: s.id,
      sign: String.fromCharCode(65 + (i % 26)),
      date: s.countedFrom,
      units: s.counted,
      given: Math.min(s.counted, takes(s.id)),
      from: `${s.supplier}${s.number ? ` ${s.number}` : ''}`,
      x: 0
    }))
  ];
  const pad = room / 2;
  const last = Math.max(1, days(sheet.today, all.at(-1)?.date ?? sheet.today));
  let before = -Infinity;
  for (const stop of all) {
    const at = pad + (days(sheet.today, stop.date) / last) * (width - 2 * pad);
    before = stop.x = Math.max(at, before + room);
  }
  return all;
}

/** The sign of what serves somebody; empty if nothing in sight does. */
export function signOf(waiter: Waiter, all: Stop[]): string {
  if (!waiter.readyOn) return '';
  return all.find((s) => s.id !== undefined && s.id === waiter.waitsFor)?.sign ?? 'now';
}

/** The row in front of which one is put that goes so many places up (−) or down (+); null: the end. */
export function inFrontOf(queue: Waiter[], id: number, by: number): number | null | undefined {
  const at = queue.findIndex((w) => w.id === id);
  const to = Math.max(0, Math.min(queue.length - 1, at + by));
  if (at < 0 || to === at) return undefined;
  const others = queue.filter((w) => w.id !== id);
  return others[to]?.id ?? null;
}

/** A promise that is not kept as things stand. */
export const breaks = (w: Pick<Waiter, 'promisedOn' | 'expectedOn'>): boolean =>
  !!w.promisedOn && (!w.expectedOn || w.expectedOn > w.promisedOn);

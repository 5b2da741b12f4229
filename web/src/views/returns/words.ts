import type { Schemas } from '../../api/client';

export type Return = Schemas['ReturnCard'];
export type Disposition = Schemas['ReturnsPart']['disposition'];

export const REASONS: Record<Return['reason'], string> = {
  DAMAGED: 'came damaged',
  FAULTY: 'doesn’t work',
  WRONG_ITEM: 'not what was ordered',
  NOT_AS_DESCRIBED: 'not as described',
  UNWANTED: 'not wanted any more',
  TOO_LATE: 'came too late',
  OTHER: 'another reason'
};

/** What becomes of goods, in the order in which they are asked for. */
export const DISPOSITIONS: Record<Disposition, string> = {
  RESTOCK: 'Restock',
  QUARANTINE: 'Quarantine',
  SCRAP: 'Scrap',
  SUPPLIER: 'To supplier'
};

const GOOD_AS_NEW: Return['reason'][] = ['UNWANTED', 'TOO_LATE', 'WRONG_ITEM'];

/** What most likely becomes of it, before anybody has looked. */
export const likely = (reason: Return['reason'], atSupplier = false): Disposition =>
  atSupplier ? 'SUPPLIER' : GOOD_AS_NEW.includes(reason) ? 'RESTOCK' : 'QUARANTINE';

/** How far a return is, with a sign, and whether it needs a person. */
export function standing(r: Return): { text: string; asks: boolean } {
  if (r.stage === 'AWAITED')
    return { text: r.came ? `◔ ${r.came} of ${r.units} came` : '○ to come', asks: false };
  if (r.stage === 'CALLED_OFF') return { text: '× called off', asks: false };
  if (r.stage === 'CLOSED')
    return { text: r.refund ? '● paid back' : '● closed, nothing paid back', asks: false };
  return r.refund ? { text: '◑ being paid back', asks: false } : { text: '▲ came, owed', asks: true };
}

/** Units by what becomes of them, of one line. */
export type Sorted = Partial<Record<Disposition, number>>;

export const sum = (sorted: Sorted): number => Object.values(sorted).reduce((all, n) => all + (n || 0), 0);

/** What was typed, as it is booked: a part for each disposition that has units. */
export const parts = (
  sorted: Record<number, Sorted>,
  lots: Record<number, string>,
  notes: Record<number, string> = {}
): Schemas['ReturnsPart'][] =>
  Object.entries(sorted).flatMap(([line, its]) =>
    (Object.keys(DISPOSITIONS) as Disposition[])
      .filter((d) => (its[d] ?? 0) > 0)
      .map((disposition) => ({
        lineId: Number(line),
        units: its[disposition] ?? 0,
        disposition,
        lot: lots[Number(line)] ?? '',
        note: notes[Number(line)] || null
      }))
  );

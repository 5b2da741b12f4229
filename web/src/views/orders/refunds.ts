import type { Schemas } from '../../api/client';

/** Units that were cancelled and not paid back yet, by line: what a refund begins with. */
export function owed(lines: Schemas['RefundsRefundSheet']['lines']): Record<number, number> {
  return Object.fromEntries(lines.map((l) => [l.id, Math.max(0, l.cancelled - l.refundedUnits)]));
}

import type { Schemas } from '../../api/client';

export type Snag = Schemas['SnagQueriesOpenSnag'];

/** Snags of one cause, which stand in one row until somebody wants to see each. */
export interface SnagGroup {
  cause: Snag['cause'];
  snags: Snag[];
  orders: number;
  value: number;
}
export type SnagRow = Snag | SnagGroup;

/** Fewer of a cause are not worth hiding behind one row. */
const FEW = 3;

export const isGroup = (row: SnagRow): row is SnagGroup => 'snags' in row;

/**
 * The rows of a list of snags, dearest first. Of a cause that has many there is one row, where its
 * dearest stands; they follow it if it is open.
 */
export function snagRows(snags: Snag[], open: (cause: Snag['cause']) => boolean): SnagRow[] {
  const byCause = new Map<Snag['cause'], Snag[]>();
  for (const snag of snags) byCause.set(snag.cause, [...(byCause.get(snag.cause) ?? []), snag]);
  const rows: SnagRow[] = [];
  for (const snag of snags) {
    const its = byCause.get(snag.cause) ?? [];
    if (its.length < FEW) {
      rows.push(snag);
    } else if (its[0] === snag) {
      rows.push({
        cause: snag.cause,
        snags: its,
        orders: its.reduce((sum, s) => sum + s.orders, 0),
        value: its.reduce((sum, s) => sum + s.value, 0)
      });
      if (open(snag.cause)) rows.push(...its);
    }
  }
  return rows;
}

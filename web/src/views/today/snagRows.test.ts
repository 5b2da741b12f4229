import { describe, expect, it } from 'vitest';
import { isGroup, snagRows, type Snag } from './snagRows';

const snag = (id: number, cause: Snag['cause'], value = 0) => ({ id, cause, value, orders: 1 }) as Snag;

describe('snags on Today', () => {
  const snags = [
    snag(1, 'BAD_ADDRESS', 900),
    snag(2, 'DEPOT_SHORT', 50),
    snag(3, 'DEPOT_SHORT', 30),
    snag(4, 'NO_RATE', 20),
    snag(5, 'DEPOT_SHORT', 10)
  ];

  it('of one cause stand in one row, where the dearest of them stands', () => {
    const rows = snagRows(snags, () => false);
    expect(rows.map((r) => (isGroup(r) ? `${r.snags.length} × ${r.cause}` : r.id))).toEqual([
      1,
      '3 × DEPOT_SHORT',
      4
    ]);
    expect(rows[1]).toMatchObject({ value: 90, orders: 3 });
  });

  it('are seen each when their row is opened', () => {
    const rows = snagRows(snags, (cause) => cause === 'DEPOT_SHORT');
    expect(rows.map((r) => (isGroup(r) ? r.cause : r.id))).toEqual([1, 'DEPOT_SHORT', 2, 3, 5, 4]);
  });

  it('two of a cause stand by themselves', () => {
    expect(snagRows([snag(1, 'NO_RATE'), snag(2, 'NO_RATE')], () => false)).toHaveLength(2);
  });
});

import { describe, expect, it } from 'vitest';
import { owed } from './refunds';

const line = (id: number, units: number, cancelled: number, refundedUnits: number) => ({
  id,
  title: 'Smoker',
  instead: null,
  sku: 'SMOKER-L',
  units,
  cancelled,
  refundedUnits,
  paid: 1000 * units,
  refunded: 1000 * refundedUnits
});

describe('refunds', () => {
  it('begin with what was cancelled and not paid back', () => {
    expect(owed([line(1, 3, 2, 1), line(2, 3, 0, 0), line(3, 3, 1, 2)])).toEqual({ 1: 1, 2: 0, 3: 0 });
  });
});

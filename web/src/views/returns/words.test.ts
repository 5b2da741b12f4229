import { describe, expect, it } from 'vitest';
import { likely, parts, standing, sum, type Return } from './words';

const card = (some: Partial<Return>): Return => ({
  id: 1,
  orderId: 2,
  number: 'RMA-10001-1',
  orderNumber: '10001',
  buyer: 'Ada Berg',
  channel: 'Web',
  nodeId: 1,
  node: 'Stillwater',
  reason: 'UNWANTED',
  note: '',
  stage: 'AWAITED',
  item: 'Smoker',
  lines: 1,
  units: 3,
  came: 0,
  openedBy: 'Mara',
  openedAt: '2026-11-20T08:00:00Z',
  endedAt: null,
  endedWhy: '',
  refund: null,
  refunded: 0,
  currency: 'EUR',
  ...some
});

describe('how far a return is', () => {
  it('asks for a person only when something came and nobody said what is owed', () => {
    expect(standing(card({}))).toEqual({ text: '○ to come', asks: false });
    expect(standing(card({ came: 1 })).text).toBe('◔ 1 of 3 came');
    expect(standing(card({ stage: 'ARRIVED', came: 3 }))).toEqual({ text: '▲ came, owed', asks: true });
    expect(standing(card({ stage: 'ARRIVED', refund: 'ASKED' })).asks).toBe(false);
    expect(standing(card({ stage: 'CLOSED', refund: 'SETTLED' })).text).toBe('● paid back');
    expect(standing(card({ stage: 'CLOSED' })).text).toBe('● closed, nothing paid back');
    expect(standing(card({ stage: 'CALLED_OFF' })).text).toBe('× called off');
  });
});

describe('what came', () => {
  it('is booked line by line and disposition by disposition, with the lot of its line', () => {
    expect(parts({ 7: { RESTOCK: 2, SCRAP: 1, QUARANTINE: 0 }, 8: {} }, { 7: 'L1' })).toEqual([
      { lineId: 7, units: 2, disposition: 'RESTOCK', lot: 'L1', note: null },
      { lineId: 7, units: 1, disposition: 'SCRAP', lot: 'L1', note: null }
    ]);
    expect(sum({ RESTOCK: 2, SCRAP: 1 })).toBe(3);
  });

  it('is most likely as good as new if the buyer only did not want it', () => {
    expect(likely('TOO_LATE')).toBe('RESTOCK');
    expect(likely('DAMAGED')).toBe('QUARANTINE');
  });
});

import { describe, expect, it } from 'vitest';
import { breaks, inFrontOf, signOf, stops, type Sheet, type Waiter } from './queue';

const waiter = (id: number, more: Partial<Waiter> = {}): Waiter => ({
  id,
  orderId: id,
  orderNumber: `BW-${id}`,
  buyer: 'Ilse',
  channel: 'Shop',
  priority: 5,
  held: false,
  units: 4,
  lacking: true,
  inPart: false,
  since: '2026-11-20T10:00:00Z',
  arriveBy: null,
  promisedOn: null,
  expectedOn: null,
  readyOn: null,
  waitsFor: null,
  others: [],
  stuck: false,
  ...more
});

const sheet: Sheet = {
  itemId: 1,
  sku: 'FO',
  name: 'Foundation',
  today: '2026-11-24',
  free: 6,
  kept: 2,
  supplies: [
    {
      id: 7,
      node: 'Stillwater',
      supplier: 'Oakum',
      number: 'OJ-1',
      quantity: 10,
      due: '2026-11-25',
      counted: 10,
      countedFrom: '2026-11-25'
    },
    {
      id: 8,
      node: 'Stillwater',
      supplier: 'Oakum',
      number: '',
      quantity: 20,
      due: '2026-12-24',
      counted: 20,
      countedFrom: '2026-12-24'
    }
  ],
  queue: [waiter(1, { readyOn: '2026-11-24' }), waiter(2, { readyOn: '2026-11-25', waitsFor: 7 }), waiter(3)]
};

describe('the supply line', () => {
  it('has a stop for the shelf and one for each supply, in time, none upon another', () => {
    const all = stops(sheet, 500);
    expect(all.map((s) => s.sign)).toEqual(['now', 'A', 'B']);
    expect(all.map((s) => s.given)).toEqual([4, 4, 0]);
    expect(all[1]!.x - all[0]!.x).toBeGreaterThanOrEqual(92);
    expect(all[2]!.x).toBeGreaterThan(all[1]!.x);
  });

  it('says what serves each', () => {
    const all = stops(sheet, 500);
    expect(sheet.queue.map((w) => signOf(w, all))).toEqual(['now', 'A', '']);
  });
});

describe('moving in the queue', () => {
  it('names the row in front of which it is put', () => {
    expect(inFrontOf(sheet.queue, 3, -1)).toBe(2);
    expect(inFrontOf(sheet.queue, 3, -9)).toBe(1);
    expect(inFrontOf(sheet.queue, 1, 1)).toBe(3);
    expect(inFrontOf(sheet.queue, 1, 2)).toBeNull();
    expect(inFrontOf(sheet.queue, 1, -1)).toBeUndefined();
  });
});

describe('a promise', () => {
  it('breaks if it comes later, or nobody can say', () => {
    expect(breaks({ promisedOn: '2026-12-01', expectedOn: '2026-12-02' })).toBe(true);
    expect(breaks({ promisedOn: '2026-12-01', expectedOn: null })).toBe(true);
    expect(breaks({ promisedOn: '2026-12-01', expectedOn: '2026-12-01' })).toBe(false);
    expect(breaks({ promisedOn: null, expectedOn: null })).toBe(false);
  });
});

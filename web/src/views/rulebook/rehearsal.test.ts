import { describe, expect, it } from 'vitest';
import { headline, loads, measures, type Sum } from './rehearsal';
import { session } from '../../state/session.svelte';

session.me = { username: 'mara', displayName: 'Mara', role: 'MANAGER', baseCurrency: 'EUR' };

const sum = (some: Partial<Sum>): Sum => ({
  orders: 10,
  unfilled: 0,
  split: 0,
  consignments: 10,
  named: 0,
  inTime: 0,
  days: 20,
  cost: 5000,
  margin: 9000,
  perNode: {},
  ...some
});
const measure = (was: Partial<Sum>, would: Partial<Sum>, name: string) =>
  measures(sum({}), sum(was), sum(would), 'EUR').find((m) => m.name.startsWith(name))!;

describe('measures', () => {
  it('counts costs per order that could be sent', () => {
    const m = measure({}, { unfilled: 5, cost: 5000 }, 'Cost');
    expect([m.again, m.would, m.difference, m.better]).toEqual(['5.00', '10.00', '+ 5.00', -1]);
  });
  it('says what is the same, also where it differs only by what is not shown', () => {
    expect(measure({ days: 20_000 }, { days: 20_001 }, 'Days').difference).toBe('+ 0.10');
    expect(measure({ consignments: 10 }, { consignments: 10 }, 'Consignments').difference).toBe('same');
    expect(measure({ cost: 5000 }, { cost: 5001 }, 'Cost').better).toBe(0);
  });
  it('takes a greater share in time and a greater margin for better', () => {
    expect(measure({ named: 4, inTime: 2 }, { named: 4, inTime: 3 }, 'In time').better).toBe(1);
    expect(measure({}, { margin: 8000 }, 'Margin').better).toBe(-1);
  });
});

describe('headline', () => {
  const result = { was: sum({}), again: sum({}), would: sum({ margin: 8800 }), changed: 3, leftOut: 0 };
  it('says how many would be sent otherwise and what that is worth', () => {
    expect(headline({ ...result, byDraft: 3 }, 'EUR')).toBe(
      'The draft would send 3 of 10 orders otherwise; 2.00 EUR less would be earned'
    );
    expect(headline({ ...result, byDraft: 0 }, 'EUR')).toBe(
      'The draft would send every order as it was sent'
    );
    expect(headline({ ...result, was: sum({ orders: 0 }), byDraft: 0 }, 'EUR')).toBe(
      'No order was routed in that time'
    );
  });
});

describe('loads', () => {
  it('leaves out nodes that send nothing on either side', () => {
    const nodes = ['A', 'B', 'C'].map((code) => ({ code, name: code, capacity: 5 }));
    const at = (consignments: number) => ({ consignments, busiest: 2 });
    expect(
      loads(sum({ perNode: { A: at(1) } }), sum({ perNode: { B: at(9) } }), nodes).map((l) => l.code)
    ).toEqual(['B', 'A']);
  });
});

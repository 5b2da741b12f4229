import { describe, expect, it } from 'vitest';
import { partsOf, ratesOf, saysParts, saysRates } from './rates';

describe('rates', () => {
  it('are typed a line each, in any order', () => {
    const steps = ratesOf('10000 7,45\n 2000   4.95\n\n', 'EUR');
    expect(steps).toEqual([
      { upTo: 2000, price: 495 },
      { upTo: 10000, price: 745 }
    ]);
    expect(saysRates(steps ?? [], 'EUR')).toBe('2000 4.95\n10000 7.45');
  });

  it('are none if a line is none', () => {
    expect(ratesOf('2000', 'EUR')).toBeUndefined();
    expect(ratesOf('0 4.95', 'EUR')).toBeUndefined();
    expect(ratesOf('2 kg 4.95', 'EUR')).toBeUndefined();
    expect(ratesOf('2000 4.955', 'EUR')).toBeUndefined();
  });
});

describe('destinations', () => {
  it('are a country, and perhaps the beginning of a postcode', () => {
    const parts = partsOf('nl\nGB BT1 2\n');
    expect(parts).toEqual([
      { country: 'NL', postcode: '' },
      { country: 'GB', postcode: 'BT1 2' }
    ]);
    expect(saysParts(parts)).toBe('NL\nGB BT1 2');
  });
});

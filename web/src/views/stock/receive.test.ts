import { describe, expect, it } from 'vitest';
import { came, differs, emptyPart, scanned, spread, type Awaited } from './receive';

describe('a delivery', () => {
  it('lays damaged units apart, with the same lot', () => {
    const parts = [{ units: 10, damaged: 2, lot: ' L1 ', expires: '2027-01-31', bin: 'A-1' }, emptyPart()];
    expect(came(parts)).toBe(12);
    expect(spread(parts)).toEqual([
      { units: 10, bin: 'A-1', lot: 'L1', expires: '2027-01-31', state: 'SELLABLE' },
      { units: 2, bin: 'A-1', lot: 'L1', expires: '2027-01-31', state: 'DAMAGED' }
    ]);
  });

  it('lays each unit with a serial number by itself, the damaged ones last', () => {
    const parts = [{ units: 2, damaged: 1, lot: 'X1, X2\nX3', expires: '', bin: 'A-1' }];
    expect(spread(parts, true).map((p) => `${p.units} ${p.lot} ${p.state}`)).toEqual([
      '1 X1 SELLABLE',
      '1 X2 SELLABLE',
      '1 X3 DAMAGED'
    ]);
  });

  it('says what is short and what is over', () => {
    expect(differs(5, 5)).toBe('');
    expect(differs(5, 4)).toBe('▼ 1 unit short');
    expect(differs(5, 8)).toBe('▲ 3 units over');
  });

  it('knows a line by its SKU and by its GTIN, however short it is printed', () => {
    const line = { sku: 'SYRUP-2', gtin: '08712340051209' } as Awaited;
    expect(scanned([line], ' syrup-2')).toBe(line);
    expect(scanned([line], '8712340051209')).toBe(line);
    expect(scanned([line], '4')).toBeUndefined();
  });
});

import { describe, expect, it } from 'vitest';
import { commonName, entries, isFamily, summed, type ItemRow } from './families';

const item = (sku: string, family: string, onHand = 0): ItemRow =>
  ({
    sku,
    family,
    name: `Bee suit, airy, ${sku}`,
    cells: [{ nodeId: 1, onHand, allocated: 0, safety: 0, earmarked: 0, available: onHand, most: null }]
  }) as unknown as ItemRow;

describe('families', () => {
  const rows = [item('A', ''), item('S-L', 'S', 2), item('S-M', 'S', 3), item('T-1', 'T')];
  const skus = (open: boolean) =>
    entries(rows, () => open).map((e) => (isFamily(e) ? `${e.family} ${e.variants.length}` : e.sku));

  it('stand as one line until they are opened; one variant alone is an item like others', () => {
    expect(skus(false)).toEqual(['A', 'S 2', 'T-1']);
    expect(skus(true)).toEqual(['A', 'S 2', 'S-L', 'S-M', 'T-1']);
  });

  it('are called by what their names share, word by word', () => {
    expect(commonName(['Gloves, leather, size 10', 'Gloves, leather, size 11'])).toBe(
      'Gloves, leather, size'
    );
    expect(commonName(['Bee suit, airy, L', 'Bee suit, airy, XL'])).toBe('Bee suit, airy');
    expect(commonName(['Jar', 'Lid'])).toBe('Jar');
  });

  it('have what their variants have', () => {
    expect(summed(rows, 1)?.onHand).toBe(5);
    expect(summed(rows, 2)).toBeUndefined();
  });
});

import { describe, expect, it } from 'vitest';
import { choices, limits } from './kits';

const part = (sku: string, choice: string) => ({
  itemId: 1,
  sku,
  name: sku,
  quantity: 1,
  choice,
  label: sku,
  listPrice: 100,
  isKit: false
});

describe('kits', () => {
  it('group what an order chooses from', () => {
    const found = choices([part('BODY', ''), part('S', 'Size'), part('RED', 'Colour'), part('M', 'Size')]);
    expect(found.map((c) => [c.name, c.options.map((o) => o.sku)])).toEqual([
      ['Size', ['S', 'M']],
      ['Colour', ['RED']]
    ]);
  });
  it('say what runs out first', () => {
    expect(limits([])).toBe('');
    expect(limits(['A', 'B', 'C', 'D'])).toBe('A, B, C … runs out first');
  });
});

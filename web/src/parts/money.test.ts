import { describe, expect, it } from 'vitest';
import { minor, money, typed } from './money';

describe('amounts', () => {
  it('name other currencies than the base currency', () => {
    expect(money(341200, 'EUR', 'EUR')).toBe('3,412.00');
    expect(money(4400, 'GBP', 'EUR')).toBe('GBP 44.00');
    expect(money(4400, 'GBP', 'GBP')).toBe('44.00');
    expect(money(-5, 'EUR', 'EUR')).toBe('-0.05');
  });

  it('have as many decimals as their currency', () => {
    expect(money(1250, 'JPY', 'EUR')).toBe('JPY 1,250');
    expect(money(1250, 'KWD', 'EUR')).toBe('KWD 1.250');
    expect(typed(1250, 'JPY')).toBe('1250');
    expect(typed(5, 'CHF')).toBe('0.05');
  });

  it('are read as they are typed, and never rounded', () => {
    expect(minor('12.5', 'EUR')).toBe(1250);
    expect(minor('12,05', 'EUR')).toBe(1205);
    expect(minor('1.005', 'EUR')).toBeNaN();
    expect(minor('1.005', 'KWD')).toBe(1005);
    expect(minor('12', 'JPY')).toBe(12);
    expect(minor('12.5', 'JPY')).toBeNaN();
    expect(minor('', 'EUR')).toBeNaN();
    expect(minor('-1', 'EUR')).toBeNaN();
  });
});

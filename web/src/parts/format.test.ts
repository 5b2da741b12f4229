import { describe, expect, it } from 'vitest';
import { ago, day, left, moment, plural } from './format';

const NOW = new Date('2026-11-24T10:00:00');

describe('how things are said', () => {
  it('says near days in words and others by date', () => {
    expect(day('2026-11-24', NOW)).toBe('today');
    expect(day('2026-11-25', NOW)).toBe('tomorrow');
    expect(day('2026-11-23', NOW)).toBe('yesterday');
    expect(day('2026-12-04', NOW)).toBe('Fri 4 Dec');
    expect(moment('2026-11-24T14:05:00', NOW)).toBe('today 14:05');
  });

  it('counts in the right number', () => {
    expect(plural(1, 'order')).toBe('1 order');
    expect(plural(1200, 'order')).toBe('1,200 orders');
    expect(plural(2, 'entry', 'entries')).toBe('2 entries');
  });

  it('measures time until and since', () => {
    expect(left(48)).toBe('48 min');
    expect(left(198)).toBe('3 h 18');
    expect(left(-1)).toBe('past');
    expect(ago('2026-11-24T09:30:00', NOW.getTime())).toBe('30 min ago');
    expect(ago('2026-11-21T10:00:00', NOW.getTime())).toBe('3 d ago');
  });
});

import { expect, test } from 'vitest';
import { steps } from './ahead';

test('only days on which something changes are told, across the end of a month', () => {
  expect(steps([4, 4, 9, 9, 2], '2026-11-29')).toEqual([
    { day: 2, units: 9, date: '2026-12-01' },
    { day: 4, units: 2, date: '2026-12-03' }
  ]);
  expect(steps([5, 5, 5], '2026-11-29')).toEqual([]);
  expect(steps([], '2026-11-29')).toEqual([]);
});

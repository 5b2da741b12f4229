import { expect, it } from 'vitest';
import { best, workdays } from './ways';

it('names the cheapest and the soonest, of equals the first, and nobody where there is no choice', () => {
  const ways = [
    { node: 'A', cost: 500, arrival: '2026-11-30' },
    { node: 'B', cost: 400, arrival: '2026-11-30' },
    { node: 'C', cost: 400, arrival: '2026-11-28' }
  ];
  expect(best(ways)).toEqual({ cheapest: 'B', soonest: 'C' });
  expect(best(ways.slice(0, 1))).toEqual({});
});

it('says workdays as people do', () => {
  expect(workdays('MON,TUE,WED,THU,FRI')).toBe('Mon to Fri');
  expect(workdays('MON,WED,SAT')).toBe('Mon, Wed, Sat');
  expect(workdays('SAT,SUN')).toBe('Sat, Sun');
});

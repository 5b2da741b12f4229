import { describe, expect, it } from 'vitest';
import { inSight, scrollFor } from './rows';

describe('a long list', () => {
  it('draws what is in sight, and keeps the height of the rest', () => {
    const part = inSight(3000, 600, 30, 10_000, 10);
    expect(part).toEqual({ from: 90, to: 130, above: 2700, below: (10_000 - 130) * 30 });
  });

  it('draws all of a short list', () => {
    expect(inSight(0, 600, 30, 5)).toEqual({ from: 0, to: 5, above: 0, below: 0 });
    expect(inSight(0, 600, 30, 0)).toEqual({ from: 0, to: 0, above: 0, below: 0 });
  });

  it('scrolls just far enough to show a row', () => {
    expect(scrollFor(2, 300, 600, 30, 30)).toBe(60);
    expect(scrollFor(12, 300, 600, 30, 30)).toBe(300);
    expect(scrollFor(40, 300, 600, 30, 30)).toBe(660);
  });
});

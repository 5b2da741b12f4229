import { describe, expect, it } from 'vitest';
import { raised, saysBy, toggled, words } from './runs';

describe('the order of service', () => {
  it('is said, and changed part by part', () => {
    expect(saysBy(['PRIORITY', 'AGE'])).toBe('priority class, then oldest');
    expect(raised(['PRIORITY', 'AGE', 'VALUE'], 'VALUE')).toEqual(['PRIORITY', 'VALUE', 'AGE']);
    expect(raised(['PRIORITY', 'AGE'], 'PRIORITY')).toEqual(['PRIORITY', 'AGE']);
    expect(toggled(['PRIORITY'], 'AGE')).toEqual(['PRIORITY', 'AGE']);
    expect(toggled(['PRIORITY', 'AGE'], 'AGE')).toEqual(['PRIORITY']);
  });
});

describe('a list typed in', () => {
  it('is its words', () => {
    expect(words(' WEB, MARKET  GUILD,')).toEqual(['WEB', 'MARKET', 'GUILD']);
  });
});

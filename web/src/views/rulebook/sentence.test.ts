import { describe, expect, it } from 'vitest';
import { blankRule, freshId, moved, type Group, type Rule } from './model';
import { findingWords, spoken } from './sentence';
import { session } from '../../state/session.svelte';

session.me = { username: 'mara', displayName: 'Mara', role: 'MANAGER', baseCurrency: 'EUR' };

const rule = (change: Partial<Rule>): Rule => ({ ...blankRule('r'), ...change });

describe('a rule reads as a sentence', () => {
  it('with its event, tests, actions and stop', () => {
    expect(
      spoken(
        rule({
          event: 'APPROVED',
          condition: {
            is: 'all',
            parts: [
              { is: 'test', field: 'COUNTRY', operator: 'IS', values: ['NL', 'BE'], negated: true },
              { is: 'test', field: 'VALUE', operator: 'OVER', values: ['15000'], negated: false }
            ]
          },
          actions: [
            { do: 'hold', reason: 'check papers' },
            { do: 'setPriority', priorityClass: 2 }
          ],
          endsGroup: true
        })
      )
    ).toBe(
      'When an order is approved and destination country is not any of NL, BE and value is over 150.00 EUR,' +
        ' hold it: check papers, set priority class 2 and stop here.'
    );
  });

  it('with nested conditions in brackets', () => {
    expect(
      spoken(
        rule({
          event: 'STAYS',
          stay: { stage: 'RELEASED', hours: 2 },
          condition: {
            is: 'all',
            parts: [
              {
                is: 'none',
                parts: [
                  { is: 'test', field: 'TAG', operator: 'IS', values: ['vip'], negated: false },
                  { is: 'test', field: 'PAYMENT', operator: 'IS', values: ['ON_DELIVERY'], negated: false }
                ]
              }
            ]
          },
          actions: [{ do: 'split', allowed: false }]
        })
      )
    ).toBe(
      'When an order has stood at released for 2 hours and (neither order tag is vip nor payment is on delivery),' +
        ' splitting is forbidden.'
    );
  });
});

describe('findings', () => {
  it('name the rules in the way by their numbers', () => {
    const rules = ['a', 'b', 'c'].map((id, i) => ({ rule: rule({ id }), group: 'g', number: i + 1 }));
    expect(findingWords({ rule: 'c', fault: 'NEVER_REACHED', by: ['a', 'b'] }, rules)).toContain('rule 1, 2');
  });
});

describe('a rule moves', () => {
  const groups: Group[] = [
    { name: 'one', rules: [rule({ id: 'a' }), rule({ id: 'b' })] },
    { name: 'two', rules: [rule({ id: 'c' })] }
  ];
  it('within its group', () => {
    expect(moved(groups, 'a', 1)).toMatchObject({ group: 'one', before: null });
    expect(moved(groups, 'b', -1)).toMatchObject({ group: 'one', before: 'a' });
  });
  it('into the next group, and no further than the ends', () => {
    expect(moved(groups, 'b', 1)).toMatchObject({ group: 'two', before: 'c' });
    expect(moved(groups, 'c', -1)).toMatchObject({ group: 'one', before: null });
    expect(moved(groups, 'a', -1)).toBeUndefined();
    expect(moved(groups, 'c', 1)).toBeUndefined();
  });
});

it('gives ids that are free', () => {
  expect(freshId('Kestrel · DE first!', [])).toBe('kestrel-de-first');
  expect(freshId('', ['rule', 'rule-2'])).toBe('rule-3');
});

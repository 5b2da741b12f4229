import { expect, test } from 'vitest';
import { staleBy } from './stale';

test('an order that was packed leaves other orders as they were read', () => {
  const stale = staleBy({ kinds: ['PACKED'], orders: [7] });
  expect(stale(['order', 7])).toBe(true);
  expect(stale(['order', 7, 'alternatives'])).toBe(true);
  expect(stale(['order', 8])).toBe(false);
  expect(stale(['orders', 'pile=OPEN', 'NEWEST'])).toBe(true);
  expect(stale(['dispatch', 'board'])).toBe(true);
  expect(stale(['channels'])).toBe(false);
  expect(stale(['rulebook'])).toBe(false);
});

test('a note on an order is read again where orders are listed, and nowhere else', () => {
  const stale = staleBy({ kinds: ['NOTE'], orders: [7] });
  expect(stale(['order', 7])).toBe(true);
  expect(stale(['orders', 'pile=OPEN', 'NEWEST'])).toBe(true);
  expect(stale(['stock', 'grid', '', '', false])).toBe(false);
  expect(stale(['dispatch', 'board'])).toBe(false);
});

test.each([
  ['STOCK_CHANGED', 'suppliers'],
  ['CHANNEL_CHANGED', 'rates'],
  ['CHANNEL_CHANGED', 'files'],
  ['CUSTOMER_CHANGED', 'customers'],
  ['RULEBOOK_CHANGED', 'rulebook'],
  ['NETWORK_CHANGED', 'network']
])('after %s, %s are read again and orders are not', (kind, subject) => {
  const stale = staleBy({ kinds: [kind], orders: [] });
  expect(stale([subject, 'whichever'])).toBe(true);
  expect(stale(['orders', 'pile=OPEN', 'NEWEST'])).toBe(false);
});

test('a kind that nobody has thought of makes the lists of orders stale', () => {
  expect(staleBy({ kinds: ['SOMETHING_NEW'], orders: [] })(['today'])).toBe(true);
});

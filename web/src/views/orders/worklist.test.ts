import { describe, expect, it } from 'vitest';
import { leaves, markColour, type Row, trackOf } from './worklist';

const ROW: Row = {
  id: 1,
  number: 'BW-1',
  externalId: 'S1',
  channel: 'Web shop',
  buyer: 'Ilse',
  country: 'NL',
  postcode: '1012 AB',
  stage: 'RELEASED',
  branches: [{ node: 'Stillwater', units: 2, stop: 3, late: false, carrier: 'STD' }],
  promisedOn: null,
  expectedOn: null,
  shipBy: '2026-11-24',
  units: 2,
  total: 1000,
  currency: 'EUR',
  baseTotal: 0,
  placedAt: '2026-11-24T08:00:00Z',
  marks: []
};

describe('a row of the worklist', () => {
  it('says when it leaves, or that it has left', () => {
    expect(leaves(ROW, new Date('2026-11-24T10:00:00'))).toBe('today');
    expect(leaves({ ...ROW, stage: 'SHIPPED', shipBy: null })).toBe('shipped');
    expect(leaves({ ...ROW, stage: 'RECEIVED', shipBy: null })).toBe('');
  });

  it('is drawn stuck or waiting by its marks', () => {
    expect(trackOf({ ...ROW, marks: [{ kind: 'SNAG', text: 'unmatched listing' }] }).stuck).toBe(true);
    expect(trackOf({ ...ROW, marks: [{ kind: 'WAITING', text: 'waiting for stock' }] }).waiting).toBe(true);
    expect(trackOf(ROW)).toMatchObject({ stop: 3, stuck: false, waiting: false });
  });

  it('spends colour on the worst mark', () => {
    expect(markColour({ ...ROW, marks: [{ kind: 'WAITING', text: '' }] })).toBe('text-amber-ink');
    expect(
      markColour({
        ...ROW,
        marks: [
          { kind: 'WAITING', text: '' },
          { kind: 'LATE', text: '' }
        ]
      })
    ).toBe('text-madder');
    expect(markColour(ROW)).toBe('text-soft');
  });
});

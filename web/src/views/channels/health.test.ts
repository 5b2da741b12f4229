import { describe, expect, it } from 'vitest';
import { feed, intake, waits, writeBack, type Channel } from './health';

const WELL = {
  kind: 'WEB_SHOP',
  setup: null,
  paused: false,
  lastError: null,
  lastSuccessAt: '2026-11-24T08:00:00Z',
  writesBack: true,
  givenUp: 0,
  untold: 0,
  lastToldAt: null,
  feeds: true,
  feedHeld: false,
  lastFeedError: null,
  lastFedAt: '2026-11-24T08:00:00Z',
  refused: 0,
  unmatched: 0
} as Channel;

describe('how a connection is', () => {
  it('waits for nobody when all is well', () => {
    expect([intake(WELL), feed(WELL), writeBack(WELL)].map((h) => h.shape)).toEqual(['✓', '✓', '✓']);
    expect(waits(WELL)).toEqual([]);
  });

  it('tells what is not told from what fails', () => {
    expect(writeBack({ ...WELL, writesBack: false })).toMatchObject({ shape: '‖', bad: false });
    expect(writeBack({ ...WELL, givenUp: 2 })).toMatchObject({ shape: '✕', bad: true });
    expect(feed({ ...WELL, feeds: false, feedHeld: true })).toMatchObject({ shape: '‖', bad: false });
  });

  it('names the worst first, with the tab that mends it', () => {
    const ill = { ...WELL, lastError: 'did not answer', feedHeld: true, unmatched: 1 };
    expect(waits(ill)).toEqual([
      { words: 'does not answer', tab: 'exchanges' },
      { words: 'stock is held', tab: 'feed' },
      { words: '1 listing unmatched', tab: 'listings' }
    ]);
  });

  it('asks nothing of channels that are not fetched from', () => {
    expect(intake({ ...WELL, kind: 'SPREADSHEET', lastSuccessAt: null })).toMatchObject({ bad: false });
  });
});

import type { Schemas } from '../../api/client';

export type Channel = Schemas['ChannelCardsChannelCard'];

/** Files and our own people are not told anything; a system that calls us hears by webhook. */
const spokenTo = (c: Channel) => c.kind !== 'BY_HAND' && c.kind !== 'SPREADSHEET';
const NOT_SPOKEN_TO: Health = { shape: '–', words: 'not spoken to', bad: false, last: null };

/** How one direction of a connection is: its shape tells it as well as its colour. */
export interface Health {
  shape: '✓' | '‖' | '✕' | '…' | '–';
  words: string;
  bad: boolean;
  /** When it last went well. */
  last: string | null;
}

export function intake(c: Channel): Health {
  if (c.setup) return { shape: '…', words: 'being connected', bad: false, last: null };
  if (!spokenTo(c)) return { shape: '✓', words: 'as it comes', bad: false, last: null };
  if (c.kind === 'MACHINE' && !c.paused)
    return { shape: '✓', words: 'when it calls', bad: false, last: null };
  if (c.paused) return { shape: '‖', words: 'paused', bad: false, last: c.lastSuccessAt };
  if (c.lastError) return { shape: '✕', words: c.lastError, bad: true, last: c.lastSuccessAt };
  if (!c.lastSuccessAt) return { shape: '…', words: 'not fetched yet', bad: false, last: null };
  return { shape: '✓', words: 'well', bad: false, last: c.lastSuccessAt };
}

export function writeBack(c: Channel): Health {
  if (!spokenTo(c)) return NOT_SPOKEN_TO;
  if (!c.writesBack) return { shape: '‖', words: 'listens only', bad: false, last: null };
  if (c.givenUp)
    return { shape: '✕', words: `${c.givenUp} could not be told`, bad: true, last: c.lastToldAt };
  if (c.untold) return { shape: '…', words: `${c.untold} to tell`, bad: false, last: c.lastToldAt };
  return { shape: '✓', words: 'well', bad: false, last: c.lastToldAt };
}

export function feed(c: Channel): Health {
  if (!spokenTo(c)) return NOT_SPOKEN_TO;
  if (!c.feeds) return { shape: '‖', words: 'not told', bad: false, last: null };
  if (c.feedHeld) return { shape: '✕', words: 'held by the guard', bad: true, last: c.lastFedAt };
  if (c.lastFeedError) return { shape: '✕', words: c.lastFeedError, bad: true, last: c.lastFedAt };
  if (!c.lastFedAt) return { shape: '…', words: 'not told yet', bad: false, last: null };
  return { shape: '✓', words: 'well', bad: false, last: c.lastFedAt };
}

/** What of a connection waits for a person, the worst first, and the tab where it is mended. */
export function waits(c: Channel): { words: string; tab: string }[] {
  const found: { words: string; tab: string }[] = [];
  if (c.setup) return [{ words: 'to be connected', tab: '' }];
  if (intake(c).bad) found.push({ words: 'does not answer', tab: 'exchanges' });
  if (c.feedHeld) found.push({ words: 'stock is held', tab: 'feed' });
  else if (feed(c).bad) found.push({ words: 'stock is not taken', tab: 'exchanges' });
  if (c.refused) found.push({ words: `${c.refused} could not be read`, tab: 'refused' });
  if (c.unmatched)
    found.push({
      words: `${c.unmatched} ${c.unmatched === 1 ? 'listing' : 'listings'} unmatched`,
      tab: 'listings'
    });
  if (c.givenUp) found.push({ words: `${c.givenUp} not told`, tab: 'exchanges' });
  return found;
}

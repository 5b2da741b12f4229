import type { Schemas } from '../../api/client';
import type { TrackData } from '../../parts/track';
import { day } from '../../parts/format';

export type Row = Schemas['WorklistRow'];

export const PILES = [
  ['OPEN', 'All open'],
  ['LEAVING_TODAY', 'Leaving today'],
  ['WAITING', 'Waiting for stock'],
  ['STUCK', 'Stuck'],
  ['UNPAID', 'Payment awaited'],
  ['DONE', 'Done'],
  ['ALL', 'All']
] as const;
export type Pile = (typeof PILES)[number][0];

export const SORTS = [
  ['NEWEST', 'newest first'],
  ['OLDEST', 'oldest first'],
  ['LEAVING', 'leaving soonest'],
  ['DEAREST', 'dearest first']
] as const;
export type Sort = (typeof SORTS)[number][0];

/** Filters beside the pile, each a chip: the address's name for it, and ours. */
export const FILTERS = [
  ['stage', 'Stage'],
  ['since', 'There since'],
  ['channel', 'Channel'],
  ['country', 'Country'],
  ['node', 'Node'],
  ['buyer', 'Buyer begins with'],
  ['minValue', 'Value over'],
  ['assigned', 'For'],
  ['list', 'List'],
  ['snag', 'Waits for snag']
] as const;
export type FilterName = (typeof FILTERS)[number][0];
/** Those that only a link sets. */
export const BY_LINK: FilterName[] = ['snag', 'since'];

const STAGES: Row['stage'][] = [
  'RECEIVED',
  'APPROVED',
  'ROUTED',
  'RELEASED',
  'PACKED',
  'SHIPPED',
  'DELIVERED'
];

/** What the track needs to know of an order. */
export function trackOf(row: Row): TrackData {
  const stuck = row.marks.some((m) => m.kind === 'HELD' || m.kind === 'SNAG');
  return {
    stop: Math.max(0, STAGES.indexOf(row.stage)),
    branches: row.branches,
    waiting: row.marks.some((m) => m.kind === 'WAITING'),
    until: row.expectedOn ? day(row.expectedOn) : '',
    stuck
  };
}

/** When an order leaves, or where it is instead. */
export function leaves(row: Row, now = new Date()): string {
  if (row.shipBy) return day(row.shipBy, now);
  if (row.stage === 'SHIPPED' || row.stage === 'DELIVERED' || row.stage === 'CANCELLED')
    return row.stage.toLowerCase();
  return '';
}

const BAD = new Set(['HELD', 'SNAG', 'LATE']);
const SOON = new Set(['WAITING', 'BATCH', 'UNPAID']);

/** A mark's colour: madder for what is blocked or broken, amber for what waits. */
export const markColour = (row: Row): string =>
  row.marks.some((m) => BAD.has(m.kind))
    ? 'text-madder'
    : row.marks.some((m) => SOON.has(m.kind))
      ? 'text-amber-ink'
      : 'text-soft';

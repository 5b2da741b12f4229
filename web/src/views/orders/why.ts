import type { Schemas } from '../../api/client';
import { plural } from '../../parts/format';

/** What rules a node out, in words. */
export function ruledOut(c: Schemas['GroundsJsonStoredCandidate']): string {
  const skus = c.skus.join(', ');
  switch (c.ruledOut) {
    case 'NOT_SERVING':
      return 'does not serve this channel';
    case 'COLLECTED_ELSEWHERE':
      return 'the buyer collects it elsewhere';
    case 'NOT_ON_RUNG':
      return 'not on this rung';
    case 'PAUSED':
      return 'nothing new is routed there for now';
    case 'EXCLUDED_BY_RULE':
      return 'excluded by a rule';
    case 'REFUSED':
      return 'refused it already';
    case 'NO_STOCK':
      return `not enough of ${skus}${tooShort(c)}`;
    case 'MAY_NOT_TRAVEL':
      return `${skus} may not travel from there`;
    case 'NO_LANE':
      return 'no carrier goes there as asked';
    case 'EXPIRES_TOO_SOON':
      return `${skus} would not last long enough${tooShort(c)}`;
    case 'TOO_LATE':
      return 'would arrive too late';
    default:
      return 'at capacity that day';
  }
}

function tooShort(c: Schemas['GroundsJsonStoredCandidate']): string {
  return c.expiring ? ` (${plural(c.expiring, 'unit')}: shelf life too short)` : '';
}

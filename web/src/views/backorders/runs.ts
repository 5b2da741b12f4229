import type { Schemas } from '../../api/client';

export type Settings = Schemas['RunSettings'];
export type By = Settings['by'][number];

export const BY: Record<By, string> = {
  PRIORITY: 'priority class',
  SHORT_FIRST: 'short already',
  LATEST_START: 'latest start',
  AGE: 'oldest',
  VALUE: 'dearest'
};

export const WHY: Record<Schemas['RunLogLogLine']['why'], string> = {
  FULL: 'all of it',
  PART: 'what was left',
  SHARE: 'its share',
  NONE_LEFT: 'none left at its turn',
  TOO_SHORT_LIVED: 'what is there would last too short',
  LOT_EXCLUDED: 'only excluded lots are left',
  TOO_FEW: 'too few left, and it is sent whole',
  ORDER_NOT_WHOLE: 'its order lacks something else',
  KIT: 'kits go order by order',
  CHANGED: 'changed meanwhile'
};

export const PLAIN: Settings = {
  scope: {
    nodes: [],
    leaveWithin: null,
    channels: [],
    customers: [],
    skuFrom: '',
    skuTo: '',
    categories: [],
    tags: [],
    priorityTo: null,
    expression: ''
  },
  way: 'BY_ORDER',
  by: ['PRIORITY', 'SHORT_FIRST', 'LATEST_START', 'AGE'],
  share: false,
  parts: 'AS_SAID',
  earmarks: true,
  byLot: false,
  lotsExcluded: [],
  leadTime: true,
  thenRoute: true,
  recordShort: true
};

export const saysBy = (by: readonly By[]): string => by.map((b) => BY[b]).join(', then ');

/** The order of service with one of its parts a place further up, or taken in or out. */
export function raised(by: readonly By[], one: By): By[] {
  const at = by.indexOf(one);
  if (at < 1) return [...by];
  const next = [...by];
  next.splice(at - 1, 0, ...next.splice(at, 1));
  return next;
}
export const toggled = (by: readonly By[], one: By): By[] =>
  by.includes(one) ? by.filter((b) => b !== one) : [...by, one];

/** Words between commas or blanks. */
export const words = (text: string): string[] =>
  text
    .split(/[\s,]+/)
    .map((w) => w.trim())
    .filter(Boolean);

import type { Schemas } from '../../api/client';
import { plural } from '../../parts/format';

export type Delivery = Schemas['ReceivingDelivery'];
export type Awaited = Delivery['lines'][number];

/** What somebody types of units that came together. */
export interface Part {
  units: number | null;
  damaged: number | null;
  lot: string;
  expires: string;
  bin: string;
}

export const emptyPart = (): Part => ({ units: null, damaged: null, lot: '', expires: '', bin: '' });

/** What one of our nodes sent is of a lot that is known. */
export const firstPart = (line: Awaited): Part => ({
  ...emptyPart(),
  lot: line.lot ?? '',
  expires: line.expires ?? ''
});

export const came = (parts: Part[]): number =>
  parts.reduce((sum, part) => sum + (part.units ?? 0) + (part.damaged ?? 0), 0);

/** The serial numbers that somebody typed or scanned. */
export const numbers = (text: string): string[] => text.split(/[\s,;]+/).filter(Boolean);

/** Each unit with its own number; good ones first. */
function oneByOne(part: Part): Schemas['ReceivingPart'][] {
  return numbers(part.lot).map((lot, i) => ({
    units: 1,
    bin: part.bin.trim(),
    lot,
    expires: null,
    state: i < (part.units ?? 0) ? 'SELLABLE' : 'DAMAGED'
  }));
}

/** The parts of a line as the server wants them: damaged units lie apart. */
export function spread(parts: Part[], bySerial = false): Schemas['ReceivingPart'][] {
  return parts.flatMap((part) => {
    if (bySerial) return oneByOne(part);
    const where = { bin: part.bin.trim(), lot: part.lot.trim(), expires: part.expires || null };
    const some: Schemas['ReceivingPart'][] = [];
    if (part.units) some.push({ units: part.units, ...where, state: 'SELLABLE' });
    if (part.damaged) some.push({ units: part.damaged, ...where, state: 'DAMAGED' });
    return some;
  });
}

/** How what came differs from what was expected, in words; empty: not at all. */
export function differs(expected: number, got: number): string {
  if (got === expected) return '';
  return got < expected
    ? `▼ ${plural(expected - got, 'unit')} short`
    : `▲ ${plural(got - expected, 'unit')} over`;
}

/** The line that a scanned code means, by SKU or GTIN. */
export function scanned(lines: Awaited[], code: string): Awaited | undefined {
  const text = code.trim().toUpperCase();
  const digits = text.padStart(14, '0');
  return lines.find((line) => line.sku.toUpperCase() === text || line.gtin === digits);
}

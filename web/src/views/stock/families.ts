import type { Schemas } from '../../api/client';

export type ItemRow = Schemas['StockGridRow'];

/** Variants of one thing, shown as one line. */
export interface Family {
  family: string;
  name: string;
  variants: ItemRow[];
}
export type Entry = ItemRow | Family;

export const isFamily = (entry: Entry): entry is Family => 'variants' in entry;

/** What the names of variants begin with, without a rest of words. */
export function commonName(names: string[]): string {
  const [first = '', ...others] = names;
  let length = first.length;
  for (const name of others) while (length && name.slice(0, length) !== first.slice(0, length)) length--;
  const shared = first.slice(0, length);
  const whole = names.every((n) => n.length === length || /[\s,]/.test(n[length] ?? ' '));
  return (whole ? shared : shared.replace(/[^\s,]*$/, '')).replace(/[\s,]+$/, '') || first;
}

/**
 * The list's lines: families of which several variants are there stand where the first of them
 * stood, followed by their variants where they are open.
 */
export function entries(rows: ItemRow[], isOpen: (family: string) => boolean): Entry[] {
  const variants = new Map<string, ItemRow[]>();
  for (const row of rows)
    if (row.family) variants.set(row.family, [...(variants.get(row.family) ?? []), row]);
  const shown: Entry[] = [];
  const done = new Set<string>();
  for (const row of rows) {
    const all = variants.get(row.family) ?? [];
    if (all.length < 2) shown.push(row);
    else if (!done.has(row.family)) {
      done.add(row.family);
      shown.push({ family: row.family, name: commonName(all.map((v) => v.name)), variants: all });
      if (isOpen(row.family)) shown.push(...all);
    }
  }
  return shown;
}

const SUMMED = ['onHand', 'allocated', 'safety', 'earmarked', 'shortDated', 'available'] as const;

/** What a node has of all variants; a shortage or surplus of one of them is not lost in the sum. */
export function summed(variants: ItemRow[], nodeId: number): ItemRow['cells'][number] | undefined {
  const cells = variants.flatMap((v) => v.cells.filter((c) => c.nodeId === nodeId));
  if (!cells.length) return undefined;
  const sum = {
    nodeId,
    most: null,
    onHand: 0,
    allocated: 0,
    safety: 0,
    earmarked: 0,
    shortDated: 0,
    available: 0
  };
  for (const cell of cells) for (const field of SUMMED) sum[field] += cell[field];
  return sum;
}

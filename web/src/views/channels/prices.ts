import type { Schemas } from '../../api/client';

export type Rule = Schemas['PriceRulesSet'];

/** Hundredths of a per cent in words: 1234 → 12.3 %. */
export const percent = (hundredths: number) => `${(hundredths / 100).toFixed(1)} %`;

export const ENDINGS: [Rule['ending'], string][] = [
  ['EXACT', 'as it comes'],
  ['TENTH', '.x0'],
  ['NINETY_FIVE', '.95'],
  ['NINETY_NINE', '.99'],
  ['WHOLE_UNIT', '.00']
];

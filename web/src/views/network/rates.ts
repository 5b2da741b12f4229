import type { Schemas } from '../../api/client';
import { minor, typed } from '../../parts/money';

type Step = Schemas['RateTableStep'];
type Part = Schemas['ZonesPart'];

/** Rates as they are typed: a weight in grams and a price, a line each. */
export const saysRates = (steps: readonly Step[], currency: string): string =>
  steps.map((s) => `${s.upTo} ${typed(s.price, currency)}`).join('\n');

/** Rates that were typed, the lightest first; undefined if a line is none. */
export function ratesOf(text: string, currency: string): Step[] | undefined {
  const steps = lines(text).map((line) => /^([1-9]\d*)\s+(\d+(?:[.,]\d+)?)$/.exec(line));
  const rates = steps.map((m) => ({ upTo: Number(m?.[1]), price: minor(m?.[2] ?? '', currency) }));
  return rates.some((r) => Number.isNaN(r.price)) ? undefined : rates.sort((a, b) => a.upTo - b.upTo);
}

/** Destinations as they are typed: a country, and perhaps the beginning of a postcode, a line each. */
export const saysParts = (parts: readonly Part[]): string =>
  parts.map((p) => `${p.country} ${p.postcode}`.trim()).join('\n');

/** Destinations that were typed. */
export const partsOf = (text: string): Part[] =>
  lines(text).map((line) => {
    const [country = '', ...postcode] = line.split(/\s+/);
    return { country: country.toUpperCase(), postcode: postcode.join(' ') };
  });

const lines = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

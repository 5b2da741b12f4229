import type { Schemas } from '../../api/client';

type Step = Schemas['RateTableStep'];
type Part = Schemas['ZonesPart'];

/** Rates as they are typed: a weight in grams and a price, a line each. */
export const saysRates = (steps: readonly Step[]): string =>
  steps.map((s) => `${s.upTo} ${(s.price / 100).toFixed(2)}`).join('\n');

/** Rates that were typed, the lightest first; undefined if a line is none. */
export function ratesOf(text: string): Step[] | undefined {
  const steps = lines(text).map((line) => /^([1-9]\d*)\s+(\d+(?:[.,]\d{1,2})?)$/.exec(line));
  return steps.every((m) => m !== null)
    ? steps
        .map((m) => ({ upTo: Number(m[1]), price: Math.round(Number(m[2]!.replace(',', '.')) * 100) }))
        .sort((a, b) => a.upTo - b.upTo)
    : undefined;
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

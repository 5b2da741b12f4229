import { session } from '../state/session.svelte';

/** Decimals of a currency's minor unit (ISO 4217); of one that there is not, two. */
export function decimals(currency: string): number {
  try {
    const format = new Intl.NumberFormat('en', { style: 'currency', currency });
    return format.resolvedOptions().maximumFractionDigits ?? 2;
  } catch {
    return 2;
  }
}

/** Minor units as an amount; the currency is named unless it is the base currency. */
export function money(minor: number, currency: string, base = session.base): string {
  const digits = decimals(currency);
  const amount = new Intl.NumberFormat('en-GB', {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits
  }).format(minor / 10 ** digits);
  return currency === base ? amount : `${currency} ${amount}`;
}

/** Minor units as they are typed: 12.50. */
export const typed = (minor: number, currency: string): string =>
  (minor / 10 ** decimals(currency)).toFixed(decimals(currency));

/** A typed amount in minor units, with a point or a comma before the decimals; NaN if it is none. */
export function minor(text: string, currency: string): number {
  const digits = decimals(currency);
  const found = /^(\d+)(?:[.,](\d*))?$/.exec(text.trim());
  const cents = found?.[2] ?? '';
  if (!found || cents.length > digits) return NaN;
  return Number(found[1] + cents.padEnd(digits, '0'));
}

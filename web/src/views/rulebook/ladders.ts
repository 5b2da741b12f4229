import { word } from '../../parts/format';
import type { Rung } from './model';

/** What a rung allows, in a line. */
export function rungWords(rung: Rung): string {
  const { kinds, codes, sameCountry } = rung.nodes;
  const from = [
    codes?.length ? codes.join(', ') : kinds?.length ? kinds.map((k) => `${word(k)}s`).join(', ') : '',
    sameCountry ? 'same country' : ''
  ].filter(Boolean);
  return [
    ...from,
    rung.cover === 'WHOLE' ? 'whole' : 'what there is, the rest waits',
    rung.late === 'FORBID' ? 'in time' : 'may be late',
    rung.maxConsignments === 1 ? 'one consignment' : `at most ${rung.maxConsignments}`
  ].join(', ');
}

export const blankRung = (): Rung => ({
  name: '',
  nodes: { kinds: null, codes: null, sameCountry: false },
  maxConsignments: 1,
  cover: 'WHOLE',
  late: 'FORBID'
});

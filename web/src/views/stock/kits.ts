import type { Schemas } from '../../api/client';

export type KitSheet = Schemas['KitsKitSheet'];
export type Explode = NonNullable<KitSheet['explode']>;

/** When a kit is taken apart, as a sentence. */
export const WHEN: Record<Explode, string> = {
  AT_INTAKE: 'Taken apart when the order comes in: rules and people see its components.',
  IN_PARTS: 'Taken apart when the order comes in; its components may come from several nodes.',
  AT_ROUTING: 'Taken apart when the order is routed; ready-made ones go first.',
  AT_BENCH: 'One kit until it is packed; ready-made ones go first.'
};

/** What limits a kit, in words: the components that run out first. */
export const limits = (skus: string[]): string =>
  skus.length === 0 ? '' : `${skus.slice(0, 3).join(', ')}${skus.length > 3 ? ' …' : ''} runs out first`;

/** The choices of a kit, each with its alternatives. */
export function choices(parts: KitSheet['parts']): { name: string; options: KitSheet['parts'] }[] {
  const names = [...new Set(parts.map((p) => p.choice).filter(Boolean))];
  return names.map((name) => ({ name, options: parts.filter((p) => p.choice === name) }));
}

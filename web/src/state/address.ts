import { push, replace, router } from 'svelte-spa-router';

/** The state that a view keeps in its address: reload, back and sharing work. */
export const param = (name: string): string => new URLSearchParams(router.querystring ?? '').get(name) ?? '';

/** The current address with some parameters changed; an empty value removes one. */
export function addressWith(changes: Record<string, string>, path: string = router.location): string {
  const all = new URLSearchParams(router.querystring ?? '');
  for (const [name, value] of Object.entries(changes)) {
    if (value) all.set(name, value);
    else all.delete(name);
  }
  const query = all.toString();
  return query ? `${path}?${query}` : path;
}

/** Changes parameters in place: moving through a list must not fill the history. */
export const setParams = (changes: Record<string, string>) => void replace(addressWith(changes));

export const go = (address: string) => void push(address);

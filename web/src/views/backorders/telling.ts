import { api, get } from '../../api/client';
import { plural } from '../../parts/format';
import { useDoing } from '../../state/doing';
import { toasts } from '../../state/toasts.svelte';

/** Tells buyers the new day, or asks them; and says for whom that could not be. */
export function useTelling() {
  const run = useDoing();
  return async (how: 'tell' | 'ask', orders: number[]): Promise<void> => {
    const body = { orders };
    const asked = get(
      how === 'tell'
        ? api.POST('/api/backorders/promises/tell', { body })
        : api.POST('/api/backorders/promises/ask', { body })
    );
    await run(asked, '');
    const done = await asked.catch(() => undefined);
    if (!done) return;
    const refused = done.refused.length ? `; ${done.refused.length} not: ${done.refused[0]!.why}` : '';
    toasts.say(`${plural(done.done, 'buyer')} ${how === 'tell' ? 'told' : 'asked'}${refused}`);
  };
}

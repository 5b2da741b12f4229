import { useQueryClient } from '@tanstack/svelte-query';
import { toasts } from './toasts.svelte';

/**
 * What buttons do: something at the server, a word when it is done or why it is not, and then
 * everything that may have changed is read anew. To be called while a component is made.
 */
export function useDoing() {
  const client = useQueryClient();
  return async (what: Promise<unknown>, done: string, undo?: () => void): Promise<void> => {
    try {
      await what;
      if (done) toasts.say(done, undo);
    } catch (error) {
      toasts.fail(error);
    } finally {
      await client.invalidateQueries();
    }
  };
}

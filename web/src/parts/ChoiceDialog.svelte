<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    orderId: number;
    title: string;
  }
  let { open = $bindable(), orderId, title }: Props = $props();

  const client = useQueryClient();
  const path = $derived({ params: { path: { order: orderId } } });
  const questions = createQuery(() => ({
    queryKey: ['choices', orderId],
    queryFn: () => get(api.GET('/api/orders/{order}/choices', path)),
    enabled: open
  }));
  let chosen = $state<Record<string, string>>({});
  let problem = $state('');
  const all = $derived((questions.data ?? []).map((q) => ({ ...q, key: `${q.lineId}/${q.choice}` })));
  const ready = $derived(all.length > 0 && all.every((q) => chosen[q.key]));

  async function choose(event: SubmitEvent) {
    event.preventDefault();
    try {
      for (const q of all) {
        await get(
          api.POST('/api/orders/{order}/choices', {
            ...path,
            body: { lineId: q.lineId, choice: q.choice, sku: chosen[q.key] ?? '' }
          })
        );
      }
      open = false;
      toasts.say('Chosen; the order goes on');
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      await client.invalidateQueries();
    }
  }
</script>

<Dialog bind:open {title}>
  <form onsubmit={choose} class="space-y-3">
    {#each all as q, i (q.key)}
      <fieldset>
        <legend class="text-soft">{q.choice} of “{q.title}”</legend>
        {#each q.answers as answer, j (answer.sku)}
          <label class="flex items-center gap-2 py-1">
            <input
              type="radio"
              value={answer.sku}
              bind:group={chosen[q.key]}
              class="accent-verdigris"
              data-autofocus={i === 0 && j === 0 ? '' : undefined}
            />
            <span class="flex-1">{answer.label || answer.sku}</span>
            <span class="font-mono text-xs text-soft">{answer.sku}</span>
          </label>
        {/each}
      </fieldset>
    {:else}
      <p class="text-soft">{questions.isPending ? 'Reading…' : 'Nothing is open any more.'}</p>
    {/each}
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit" disabled={!ready}>Choose</Button>
  </form>
</Dialog>

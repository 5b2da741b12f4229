<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    listingId: number;
    title: string;
  }
  let { open = $bindable(), listingId, title }: Props = $props();

  let sku = $state('');
  let problem = $state('');
  const client = useQueryClient();
  const suggestions = createQuery(() => ({
    queryKey: ['suggestions', listingId],
    queryFn: () =>
      get(
        api.GET('/api/channels/listings/{listing}/suggestions', { params: { path: { listing: listingId } } })
      ),
    enabled: open
  }));

  async function match(event?: SubmitEvent) {
    event?.preventDefault();
    try {
      await get(
        api.POST('/api/channels/listings/{listing}/match', {
          params: { path: { listing: listingId } },
          body: { sku }
        })
      );
      open = false;
      toasts.say(`“${title}” is ${sku} from now on; its orders go on`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Which of our items is “{title}”?">
  <form onsubmit={match} class="space-y-3">
    {#if suggestions.data?.length}
      <fieldset>
        <legend class="text-soft">It could be</legend>
        {#each suggestions.data as s (s.sku)}
          <label class="flex items-baseline gap-2 py-1">
            <input type="radio" name="sku" value={s.sku} bind:group={sku} class="accent-verdigris" />
            <span class="font-mono text-xs">{s.sku}</span>
            <span class="flex-1">{s.name}</span>
            <span class="text-soft">{s.because}, {s.percent} %</span>
          </label>
        {/each}
      </fieldset>
    {:else if suggestions.isSuccess}
      <p class="text-soft">Nothing we have looks like it.</p>
    {/if}
    <label class="block text-soft"
      >SKU
      <input class="field mt-1 block w-full font-mono" bind:value={sku} required data-autofocus />
    </label>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Match</Button>
  </form>
</Dialog>

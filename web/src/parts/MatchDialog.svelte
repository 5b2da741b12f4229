<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';
  import { plural } from './format';

  interface Props {
    open: boolean;
    listingId: number;
    title: string;
    /** The SKU that it is matched to now; then the match is corrected. */
    matchedTo?: string;
  }
  let { open = $bindable(), listingId, title, matchedTo }: Props = $props();

  let sku = $state('');
  let unitsEach = $state(1);
  let problem = $state('');
  const client = useQueryClient();
  const suggestions = createQuery(() => ({
    queryKey: ['suggestions', listingId],
    queryFn: () =>
      get(api.GET('/api/listings/{listing}/suggestions', { params: { path: { listing: listingId } } })),
    enabled: open
  }));

  const effect = createQuery(() => ({
    queryKey: ['rematch', listingId],
    queryFn: () =>
      get(api.GET('/api/listings/{listing}/rematch', { params: { path: { listing: listingId } } })),
    enabled: open && matchedTo !== undefined
  }));

  async function match(event?: SubmitEvent) {
    event?.preventDefault();
    try {
      const request = { params: { path: { listing: listingId } }, body: { sku, unitsEach } };
      await (matchedTo
        ? get(api.POST('/api/listings/{listing}/rematch', request))
        : get(api.POST('/api/listings/{listing}/match', request)));
      open = false;
      toasts.say(
        `“${title}” is ${unitsEach > 1 ? `${unitsEach} × ` : ''}${sku} from now on; its orders go on`
      );
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
    <div class="flex gap-3">
      <label class="block flex-1 text-soft"
        >SKU
        <input class="field mt-1 block w-full font-mono" bind:value={sku} required data-autofocus />
      </label>
      <label class="block w-28 text-soft" title="12 if it is a case of twelve"
        >Units in one
        <input
          class="field mt-1 block w-full text-right"
          type="number"
          min="1"
          max="10000"
          bind:value={unitsEach}
          required
        />
      </label>
    </div>
    {#if matchedTo && effect.data}
      <p class="text-soft">
        Matched to <span class="font-mono text-xs">{matchedTo}</span> now. {plural(
          effect.data.anew,
          'open order'
        )} would be checked and routed anew; {plural(effect.data.released, 'released order')} keep the item they
        have.
      </p>
    {/if}
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">{matchedTo ? 'Correct the match' : 'Match'}</Button>
  </form>
</Dialog>

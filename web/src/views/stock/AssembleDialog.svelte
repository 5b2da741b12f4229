<script lang="ts">
  import { untrack } from 'svelte';
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';
  import { choices, type KitSheet } from './kits';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    sheet: KitSheet;
  }
  let { open = $bindable(), id, sku, sheet }: Props = $props();

  const client = useQueryClient();
  const item = createQuery(() => ({
    queryKey: ['stock', 'item', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}', { params: { path: { id } } }))
  }));
  let together = $state(true);
  let nodeId = $state(untrack(() => sheet.nodes[0]?.nodeId ?? 0));
  let quantity = $state(1);
  let chosen = $state<Record<string, string>>({});
  let problem = $state('');
  const asked = $derived(choices(sheet.parts));
  const at = $derived(sheet.nodes.find((n) => n.nodeId === nodeId));

  async function save(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.POST('/api/stock/items/{id}/kit/assemblies', {
          params: { path: { id } },
          body: { nodeId, quantity: together ? quantity : -quantity, chosen }
        })
      );
      open = false;
      toasts.say(`${plural(quantity, 'kit')} ${together ? 'put together' : 'taken apart'}`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Work on {sku}">
  <form class="space-y-3" onsubmit={save}>
    <fieldset class="flex gap-4">
      <legend class="sr-only">What is done</legend>
      <label
        ><input type="radio" value={true} bind:group={together} class="accent-verdigris" /> put together</label
      >
      <label
        ><input type="radio" value={false} bind:group={together} class="accent-verdigris" /> taken apart</label
      >
    </fieldset>
    <label class="block text-soft"
      >Node
      <select class="field mt-1 block w-full" bind:value={nodeId}
        >{#each item.data?.nodes ?? [] as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
      >
    </label>
    {#each asked as choice (choice.name)}
      <label class="block text-soft"
        >{choice.name}
        <select class="field mt-1 block w-full" bind:value={chosen[choice.name]} required
          >{#each choice.options as o (o.sku)}<option value={o.sku}>{o.label || o.sku}, {o.name}</option
            >{/each}</select
        >
      </label>
    {/each}
    <label class="block text-soft"
      >Kits
      <input
        class="field mt-1 block w-full"
        type="number"
        min="1"
        step="1"
        bind:value={quantity}
        required
        data-autofocus
      />
    </label>
    <p class="text-soft">
      {at
        ? `${at.ready} ready-made there; components for ${Math.max(0, at.available - at.ready)} more are free`
        : 'Nothing of it is there.'}
    </p>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">{together ? 'Put together' : 'Take apart'}</Button>
  </form>
</Dialog>

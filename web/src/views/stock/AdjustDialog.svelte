<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    nodes: Schemas['StockGridNodeHead'][];
  }
  let { open = $bindable(), id, sku, nodes }: Props = $props();

  const client = useQueryClient();
  let nodeId = $state(untrack(() => nodes[0]?.id ?? 0));
  let reason = $state<'RECEIPT' | 'COUNT' | 'SCRAP'>('RECEIPT');
  let units = $state(1);
  let note = $state('');
  let problem = $state('');
  const LABEL = { RECEIPT: 'Units received', COUNT: 'Units counted', SCRAP: 'Units scrapped' };

  async function save(event: SubmitEvent) {
    event.preventDefault();
    const change = reason === 'COUNT' ? null : reason === 'SCRAP' ? -units : units;
    try {
      const now = await get(
        api.POST('/api/stock/items/{id}/adjustments', {
          params: { path: { id } },
          body: { nodeId, reason, counted: reason === 'COUNT' ? units : null, change, note }
        })
      );
      open = false;
      toasts.say(`${sku}: ${now.onHand} on hand now, ${now.available} available`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Stock of {sku}">
  <form class="space-y-3" onsubmit={save}>
    <fieldset class="flex gap-4">
      <legend class="sr-only">What happened</legend>
      <label
        ><input type="radio" value="RECEIPT" bind:group={reason} class="accent-verdigris" /> received</label
      >
      <label><input type="radio" value="COUNT" bind:group={reason} class="accent-verdigris" /> counted</label>
      <label><input type="radio" value="SCRAP" bind:group={reason} class="accent-verdigris" /> scrapped</label
      >
    </fieldset>
    <label class="block text-soft"
      >Node
      <select class="field mt-1 block w-full" bind:value={nodeId}
        >{#each nodes as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
      >
    </label>
    <label class="block text-soft"
      >{LABEL[reason]}
      <input
        class="field mt-1 block w-full"
        type="number"
        min={reason === 'COUNT' ? 0 : 1}
        step="1"
        bind:value={units}
        required
      />
    </label>
    <label class="block text-soft"
      >Note<input class="field mt-1 block w-full" bind:value={note} maxlength="400" /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Record it</Button>
  </form>
</Dialog>

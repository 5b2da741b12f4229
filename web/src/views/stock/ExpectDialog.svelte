<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    nodes: Schemas['StockGridNodeHead'][];
  }
  let { open = $bindable(), id, sku, nodes }: Props = $props();

  const client = useQueryClient();
  let wish = $state<Schemas['ExpectedWish']>(
    untrack(() => ({
      nodeId: nodes[0]?.id ?? 0,
      supplier: '',
      number: '',
      quantity: 1,
      due: '',
      confidence: 100,
      slipDays: 0
    }))
  );
  let problem = $state('');

  async function note(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(api.POST('/api/stock/items/{id}/expected', { params: { path: { id } }, body: { ...wish } }));
      open = false;
      toasts.say(`${plural(wish.quantity, 'unit')} of ${sku} expected`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="More of {sku} is expected">
  <form class="space-y-3" onsubmit={note}>
    <div class="grid grid-cols-2 gap-x-3 gap-y-2">
      <label class="text-soft"
        >Units
        <input
          class="field mt-1 block w-full text-right"
          type="number"
          min="1"
          required
          data-autofocus
          bind:value={wish.quantity}
        /></label
      >
      <label class="text-soft"
        >Due
        <input class="field mt-1 block w-full" type="date" required bind:value={wish.due} /></label
      >
      <label class="text-soft"
        >From
        <input class="field mt-1 block w-full" maxlength="80" required bind:value={wish.supplier} /></label
      >
      <label class="text-soft"
        >Number
        <input class="field mt-1 block w-full font-mono" maxlength="40" bind:value={wish.number} /></label
      >
      <label class="text-soft"
        >Comes to
        <select class="field mt-1 block w-full" bind:value={wish.nodeId}
          >{#each nodes as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
        ></label
      >
      <span class="grid grid-cols-2 gap-x-2">
        <label class="text-soft"
          >Counted on, %
          <input
            class="field mt-1 block w-full text-right"
            type="number"
            min="0"
            max="100"
            required
            bind:value={wish.confidence}
          /></label
        >
        <label class="text-soft"
          >Days late
          <input
            class="field mt-1 block w-full text-right"
            title="Days that it is assumed to come later than said"
            type="number"
            min="0"
            max="365"
            required
            bind:value={wish.slipDays}
          /></label
        >
      </span>
    </div>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Note it</Button>
  </form>
</Dialog>

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
    /** the item with which one begins; others may be added */
    sku: string;
    nodes: Schemas['StockGridNodeHead'][];
  }
  let { open = $bindable(), sku, nodes }: Props = $props();

  const client = useQueryClient();
  let fromId = $state(untrack(() => nodes[0]?.id ?? 0));
  let toId = $state(untrack(() => nodes[1]?.id ?? 0));
  let due = $state('');
  let lines = $state(untrack(() => [{ sku, units: 1, lot: '' }]));
  let problem = $state('');

  async function send(event: SubmitEvent) {
    event.preventDefault();
    try {
      const sent = await get(api.POST('/api/stock/transfers', { body: { fromId, toId, due, lines } }));
      open = false;
      toasts.say(`${sent.number}: ${plural(sent.units, 'unit')} on their way`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Send to another of our nodes">
  <form class="space-y-3" onsubmit={send}>
    <div class="flex gap-3">
      <label class="min-w-0 flex-1 text-soft"
        >From<select class="field mt-1 block w-full" bind:value={fromId}
          >{#each nodes as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
        ></label
      >
      <label class="min-w-0 flex-1 text-soft"
        >To<select class="field mt-1 block w-full" bind:value={toId}
          >{#each nodes as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
        ></label
      >
      <label class="w-36 text-soft"
        >Arrives<input class="field mt-1 block w-full" type="date" required bind:value={due} /></label
      >
    </div>
    <table class="w-full">
      <thead
        ><tr
          ><th class="py-1">SKU</th><th class="w-36">Lot or number</th><th class="w-24 text-right">Units</th
          ><th class="w-8"></th></tr
        ></thead
      >
      <tbody>
        {#each lines as line, i (i)}
          <tr>
            <td class="py-0.5 pe-2"
              ><input
                class="field h-7 w-full font-mono text-xs"
                required
                aria-label="SKU, line {i + 1}"
                bind:value={line.sku}
              /></td
            >
            <td class="pe-2"
              ><input
                class="field h-7 w-full font-mono text-xs"
                maxlength="40"
                placeholder="any"
                aria-label="Lot or number, line {i + 1}"
                bind:value={line.lot}
              /></td
            >
            <td
              ><input
                class="field h-7 w-full text-right"
                type="number"
                min="1"
                required
                aria-label="Units, line {i + 1}"
                bind:value={line.units}
              /></td
            >
            <td class="text-right"
              >{#if lines.length > 1}<button
                  type="button"
                  class="px-1 text-soft hover:text-ink"
                  aria-label="Without line {i + 1}"
                  onclick={() => lines.splice(i, 1)}>✕</button
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <Button small onclick={() => lines.push({ sku: '', units: 1, lot: '' })}>One more item</Button>
    <p class="text-soft">
      They leave at once, and are expected there; they come in as a delivery. Where no lot is named, what
      expires first goes.
    </p>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Send off</Button>
  </form>
</Dialog>

<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, fullMoment } from '../../parts/format';
  import ReversalDialog from './ReversalDialog.svelte';
  import { differs } from './receive';

  let { id }: { id: number } = $props();

  const query = createQuery(() => ({
    queryKey: ['stock', 'receipt', id],
    queryFn: () => get(api.GET('/api/stock/receipts/{id}', { params: { path: { id } } }))
  }));
  const receipt = $derived(query.data);
  let reversing = $state(false);
</script>

{#if receipt}
  <section class="card my-3 max-w-3xl px-4 py-3" aria-label="Delivery">
    <div class="flex items-baseline gap-3">
      <h2>{receipt.supplier} <span class="font-mono text-base">{receipt.number}</span></h2>
      {#if !receipt.reversed}<span class="ms-auto"
          ><Button small onclick={() => (reversing = true)}>Take back…</Button></span
        >{/if}
    </div>
    <p class="text-soft">
      taken in at {receipt.node}, {fullMoment(receipt.at)}, by {receipt.actor}{receipt.note
        ? `: ${receipt.note}`
        : ''}
    </p>
    {#if receipt.reversed}
      <p class="text-madder">
        Taken back {fullMoment(receipt.reversed.at)} by {receipt.reversed.actor}: {receipt.reversed.reason}
      </p>
    {/if}
    <table class="mt-2 w-full">
      <thead
        ><tr
          ><th class="py-1">Item</th><th class="text-right">Expected</th><th class="text-right">Came</th><th
            class="text-right">Damaged</th
          ><th class="ps-4"></th></tr
        ></thead
      >
      <tbody>
        {#each receipt.lines as line, i (i)}
          <tr class="border-t border-line">
            <td class="py-1"
              ><a class="font-mono text-xs hover:underline" href="#/stock/{line.itemId}">{line.sku}</a>
              {line.name}</td
            >
            <td class="text-right">{line.expected ? count(line.expected) : '—'}</td>
            <td class="text-right">{count(line.came)}</td>
            <td class={['text-right', line.damaged && 'text-madder']}
              >{line.damaged ? count(line.damaged) : ''}</td
            >
            <td class="ps-4 text-madder"
              >{line.expected ? differs(line.expected, line.came) : 'nobody expected it'}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
  {#if reversing}<ReversalDialog bind:open={reversing} {receipt} />{/if}
{:else if query.isError}
  <p class="py-3 text-madder">{query.error.message}</p>
{/if}

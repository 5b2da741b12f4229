<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import OpenReturn from '../returns/OpenReturn.svelte';
  import { REASONS, standing } from '../returns/words';

  let { sheet }: { sheet: Schemas['OrderSheetsSheet'] } = $props();

  const order = $derived(sheet.order);
  let opening = $state(false);
  const left = $derived(
    sheet.consignments.some((c) => ['HANDED_OVER', 'IN_TRANSIT', 'DELIVERED'].includes(c.state))
  );
  const returns = createQuery(() => ({
    queryKey: ['returns', 'of', order.id],
    enabled: left,
    queryFn: () => get(api.GET('/api/orders/{order}/returns', { params: { path: { order: order.id } } }))
  }));
</script>

{#if left}
  <section class="mt-4 border-t border-line pt-2" aria-label="Returns">
    {#each returns.data ?? [] as one (one.id)}
      <p class="flex items-baseline gap-2 py-1">
        <span class={standing(one).asks ? 'text-madder' : 'text-soft'}>{standing(one).text}</span>
        <a class="min-w-0 flex-1 truncate font-mono text-xs hover:underline" href="#/returns/{one.id}"
          >{one.number}</a
        >
        <span class="text-soft">{plural(one.units, 'unit')}, {REASONS[one.reason]}</span>
      </p>
    {/each}
    {#if session.mayChange}<Button small onclick={() => (opening = true)}>Comes back…</Button>{/if}
  </section>
  {#if opening}<OpenReturn bind:open={opening} orderId={order.id} number={order.number} />{/if}
{/if}

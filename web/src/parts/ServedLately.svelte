<!-- Who waited for an item and was served in the last days. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { moment, plural } from './format';

  let { id }: { id: number } = $props();

  const query = createQuery(() => ({
    queryKey: ['backorders', 'served', id],
    queryFn: () => get(api.GET('/api/backorders/items/{id}/served', { params: { path: { id } } }))
  }));
</script>

{#if query.data?.length}
  <section aria-label="Served lately">
    <h3 class="font-[650]">Waited for it, and served in the last days</h3>
    {#each query.data as s (s.orderId)}
      <p class="flex items-baseline gap-2 border-t border-line py-1">
        <a class="font-mono text-xs hover:underline" href="#/orders/{s.orderId}?pile=ALL">{s.orderNumber}</a>
        <span class="min-w-0 flex-1 truncate" dir="auto">{s.buyer}</span>
        <span class="text-soft">{moment(s.at)}</span>
        <span class="w-16 text-right">{plural(s.units, 'unit')}</span>
      </p>
    {/each}
  </section>
{/if}

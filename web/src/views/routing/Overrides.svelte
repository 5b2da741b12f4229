<!-- What people overruled the router for, and how often. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { moment, plural } from '../../parts/format';

  const overrides = createQuery(() => ({
    queryKey: ['routing', 'overrides'],
    queryFn: () => get(api.GET('/api/routing/overrides'))
  }));
</script>

{#if overrides.data?.length}
  <h2 class="pt-4 pb-1 text-base font-[650]">Sent elsewhere by hand in 30 days</h2>
  <p class="pb-1 text-soft">What is overruled again and again could be a rung, or a rule.</p>
  <ul>
    {#each overrides.data as o (o.reason)}
      <li class="flex flex-wrap items-baseline gap-x-2 py-1">
        <b class="w-20 flex-none font-[600] tabular-nums">{plural(o.times, 'time')}</b>
        <span>{o.reason}</span>
        <span class="text-soft"
          >last <a class="text-verdigris underline" href="#/orders/{o.orderId}?pile=ALL&tab=why">{o.number}</a
          >,
          {o.by}, {moment(o.at)}</span
        >
      </li>
    {/each}
  </ul>
{/if}

<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { count, fullMoment, moment } from '../../parts/format';
  import { money } from '../../parts/money';
  import type { Placed } from './model';

  let { placed }: { placed: Placed } = $props();

  const asked = $derived(JSON.stringify(placed.rule));
  const met = createQuery(() => ({
    queryKey: ['rulebook', 'trial', asked],
    staleTime: 60_000,
    queryFn: () => get(api.POST('/api/rulebook/trial', { body: JSON.parse(asked) }))
  }));
</script>

<div class="card overflow-hidden">
  <h2 class="px-4 pt-3 pb-1 text-base font-[650]">
    {#if met.data}Rule {placed.number}, {count(met.data.met)} of {count(met.data.tried)} orders of 30 days
    {:else}Rule {placed.number}{/if}
  </h2>
  {#if met.isError}<p class="px-4 pb-3 text-madder">{met.error.message}</p>
  {:else if met.data && !met.data.orders.length}<p class="px-4 pb-3 text-soft">It would have met none.</p>
  {:else if met.data}
    <table class="w-full">
      <tbody>
        {#each met.data.orders.slice(0, 12) as o (o.id)}
          <tr class="h-7 border-t border-line">
            <td class="ps-4 whitespace-nowrap"
              ><a class="text-verdigris hover:underline" href="#/orders/{o.id}?pile=ALL&tab=timeline"
                >{o.number}</a
              ></td
            >
            <td class="max-w-24 truncate px-2" title={o.buyer}>{o.buyer}</td>
            <td class="px-1 text-soft">{o.country}</td>
            <td class="px-2 text-right">{money(o.total, o.currency)}</td>
            <td class="pe-4 text-right text-xs whitespace-nowrap text-soft" title={fullMoment(o.at)}
              >{moment(o.at).split(' ').slice(0, -1).join(' ')}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    {#if met.data.met > 12}<p class="border-t border-line px-4 py-1.5 text-soft">
        and {count(met.data.met - 12)} more
      </p>{/if}
  {/if}
</div>

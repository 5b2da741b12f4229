<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { count, day } from '../../parts/format';

  interface Props {
    id: number;
    due: string;
    /** whether it would come on another day than is noted */
    moved: boolean;
  }
  let { id, due, moved }: Props = $props();

  const query = createQuery(() => ({
    queryKey: ['stock', 'dependents', id, due],
    queryFn: () =>
      get(api.GET('/api/stock/expected/{id}/dependents', { params: { path: { id }, query: { due } } }))
  }));
  const orders = $derived(query.data ?? []);
  const changed = $derived(orders.filter((o) => o.before !== o.after).length);
  const when = (date?: string | null) => (date ? day(date) : 'no day in sight');
  const breaks = (o: (typeof orders)[number]) =>
    o.arriveBy && (!o.after || o.after >= o.arriveBy) && (!o.before || o.before < o.arriveBy);
</script>

<div aria-live="polite">
  {#if orders.length}
    <p class="text-soft">
      {orders.length === 1 ? '1 order waits' : `${count(orders.length)} orders wait`} for it{moved
        ? changed
          ? `; ${count(changed)} would be sent on another day`
          : '; for none of them anything changes'
        : ''}:
    </p>
    <table class="w-full">
      <tbody>
        {#each orders as o (o.orderId)}
          <tr class="border-t border-line">
            <td class="py-0.5 pe-2"
              ><a class="font-mono text-xs hover:underline" href="#/orders/{o.orderId}?pile=WAITING"
                >{o.orderNumber}</a
              ></td
            >
            <td class="max-w-28 truncate pe-2" dir="auto" title={o.buyer}>{o.buyer}</td>
            <td class="pe-2 text-right">{count(o.units)}</td>
            <td class="text-right whitespace-nowrap"
              >{#if moved && o.before !== o.after}<span class="text-soft">{when(o.before)} → </span><b
                  class="font-[650]">{when(o.after)}</b
                >{:else}{when(o.after)}{/if}
              {#if breaks(o)}<span class="block font-[650] text-madder"
                  >✕ asked for by {day(o.arriveBy ?? '')}</span
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  {:else if query.isSuccess}
    <p class="text-soft">No order waits for it.</p>
  {/if}
</div>

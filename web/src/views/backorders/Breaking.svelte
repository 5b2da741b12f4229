<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { SvelteSet } from 'svelte/reactivity';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, day, plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import Tabs from './Tabs.svelte';
  import { useTelling } from './telling';

  const query = createQuery(() => ({
    queryKey: ['backorders', 'promises'],
    queryFn: () => get(api.GET('/api/backorders/promises'))
  }));
  const rows = $derived(query.data ?? []);
  const chosen = new SvelteSet<number>();
  const which = $derived(rows.filter((r) => chosen.has(r.orderId)).map((r) => r.orderId));
  const tell = useTelling();
  const whole = $derived(rows.length > 0 && which.length === rows.length);

  function all() {
    if (whole) chosen.clear();
    else rows.forEach((r) => chosen.add(r.orderId));
  }
  async function told(how: 'tell' | 'ask') {
    await tell(how, which);
    chosen.clear();
  }
</script>

<div class="flex min-h-0 flex-1 flex-col">
  <Tabs />
  <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
    <h1>
      {rows.length
        ? `${plural(rows.length, 'promise')} ${rows.length === 1 ? 'breaks' : 'break'} unless something is done`
        : 'No promise breaks'}
    </h1>
    {#if session.mayChange && rows.length}<span class="ms-auto flex items-center gap-2">
        {#if which.length}<span class="text-soft">{plural(which.length, 'order')}</span>{/if}
        <Button small disabled={!which.length} onclick={() => void told('tell')}>Tell the new day</Button>
        <Button small disabled={!which.length} onclick={() => void told('ask')}>Ask the buyer</Button></span
      >{/if}
  </header>
  <div
    class="min-h-0 flex-1 overflow-auto border-t border-line"
    role="region"
    aria-label="Promises that break"
  >
    {#if rows.length}
      <table class="w-full">
        <thead class="sticky top-0 bg-paper shadow-[inset_0_-1px_var(--line)]"
          ><tr class="h-7"
            ><th class="w-8 ps-4"
              ><input
                type="checkbox"
                class="size-3.5 rounded-sm border-faint"
                aria-label="Choose all"
                checked={whole}
                onchange={all}
              /></th
            ><th class="px-2">Order</th><th class="px-2">Buyer</th><th class="px-2">Channel</th><th
              class="px-2">Lacks</th
            ><th class="px-2">Promised</th><th class="px-2">Now</th><th class="px-2 pe-4">Told</th></tr
          ></thead
        >
        <tbody>
          {#each rows as r (r.orderId)}
            <tr class="h-[30px] border-b border-line hover:bg-sunk">
              <td class="ps-4"
                ><input
                  type="checkbox"
                  class="size-3.5 rounded-sm border-faint"
                  aria-label="Choose {r.orderNumber}"
                  checked={chosen.has(r.orderId)}
                  onchange={() => (chosen.has(r.orderId) ? chosen.delete(r.orderId) : chosen.add(r.orderId))}
                /></td
              >
              <td class="px-2 font-mono text-xs"
                ><a class="hover:underline" href="#/orders/{r.orderId}?pile=WAITING">{r.orderNumber}</a></td
              >
              <td class="max-w-40 truncate px-2" dir="auto">{r.buyer}</td>
              <td class="max-w-40 truncate px-2">{r.channel}</td>
              <td class="max-w-56 truncate px-2" title={r.items}>{r.items}</td>
              <td class="px-2 whitespace-nowrap">{day(r.promisedOn)}</td>
              <td class="px-2 font-[650] whitespace-nowrap text-madder"
                >{r.expectedOn ? day(r.expectedOn) : 'nobody can say'}</td
              >
              <td class="px-2 pe-4 whitespace-nowrap text-soft"
                >{r.askedAt ? `asked ${ago(r.askedAt)}` : r.canBeTold ? '' : 'no mail address'}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    {:else}
      <p class="p-4 text-soft">
        {query.isPending
          ? 'Reading…'
          : query.isError
            ? query.error.message
            : 'None. Whatever waits can still arrive on the day that was promised.'}
      </p>
    {/if}
  </div>
</div>

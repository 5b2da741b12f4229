<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { count, fullDay, moment, plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { open = $bindable(), id }: { open: boolean; id: number } = $props();

  const query = createQuery(() => ({
    queryKey: ['stock', 'lot', id],
    queryFn: () => get(api.GET('/api/stock/lots/{id}', { params: { path: { id } } }))
  }));
  const lot = $derived(query.data);
  const sellable = $derived(
    lot?.there.filter((t) => t.state === 'SELLABLE').reduce((n, t) => n + t.units, 0) ?? 0
  );
  const STATE = {
    SELLABLE: 'can be sold',
    QUARANTINE: 'in quarantine',
    DAMAGED: 'damaged',
    IN_TRANSIT: 'in transit'
  };
  /** As many orders as one looks through here; the file has all. */
  const SHOWN = 100;
  const run = useDoing();
  let note = $state('');

  async function recall(event: SubmitEvent) {
    event.preventDefault();
    await run(
      get(api.POST('/api/stock/lots/{id}/recall', { params: { path: { id } }, body: { note } })),
      `Lot ${lot?.code} is off sale`
    );
  }
</script>

<Dialog bind:open title={lot ? `Lot ${lot.code} of ${lot.sku}` : 'A lot'} wide>
  {#if lot}
    <p>
      {lot.name}{lot.expires ? `; may be used until ${fullDay(lot.expires)}` : ''}; the first of it came {moment(
        lot.cameAt
      )}.
      {#if lot.recalledAt}<b class="font-[650] text-madder"
          >✕ Recalled {moment(lot.recalledAt)}: {lot.recallNote}</b
        >{/if}
    </p>
    <p class="text-soft">
      {#each lot.there as t, i (i)}{i ? ', ' : ''}{plural(t.units, 'unit')} at {t.node} ({STATE[
          t.state
        ]}){:else}None of it is here any more.{/each}
    </p>
    <div class="flex items-baseline">
      <h3 class="font-[650]">
        {plural(lot.sent.length, 'order')} got it{lot.holding.length
          ? `, ${plural(lot.holding.length, 'order')} would`
          : ''}
      </h3>
      {#if lot.sent.length + lot.holding.length}<a
          class="ms-auto text-verdigris hover:underline"
          href="/api/stock/lots/{id}/orders.csv"
          download>As CSV, with contacts</a
        >{/if}
    </div>
    <div class="max-h-60 overflow-y-auto border-t border-line">
      <table class="w-full">
        <tbody>
          {#each [...lot.holding, ...lot.sent].slice(0, SHOWN) as r (`${r.orderId} ${r.sentAt ?? ''}`)}
            <tr class="border-b border-line">
              <td class="py-1 pe-2"
                ><a class="font-mono text-xs hover:underline" href="#/orders/{r.orderId}">{r.number}</a></td
              >
              <td class="pe-2" dir="auto">{r.buyer}</td>
              <td class="pe-2 text-soft">{r.email}<br />{r.phone}</td>
              <td class="pe-2 text-right">{count(r.units)}</td>
              <td class="text-right whitespace-nowrap">{r.sentAt ? moment(r.sentAt) : '○ not sent yet'}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      {#if lot.sent.length + lot.holding.length > SHOWN}<p class="py-1 text-soft">
          and {count(lot.sent.length + lot.holding.length - SHOWN)} more
        </p>{/if}
    </div>
    {#if session.mayChange && !lot.recalledAt}
      <form class="space-y-2" onsubmit={recall}>
        <label class="block text-soft"
          >Why it may not be sold<input
            class="field mt-1 block w-full"
            bind:value={note}
            maxlength="400"
            required
          /></label
        >
        <p class="text-soft">
          {plural(sellable, 'unit')} would go to quarantine{lot.holding.length
            ? `; ${plural(lot.holding.length, 'order')} would be taken back and routed again`
            : ''}.
        </p>
        <Button main type="submit">Recall the lot</Button>
      </form>
    {/if}
  {:else}
    <p class="text-soft">{query.isError ? query.error.message : 'Reading…'}</p>
  {/if}
</Dialog>

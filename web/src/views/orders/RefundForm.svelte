<script lang="ts">
  import { createQuery, keepPreviousData, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { money } from '../../parts/money';
  import MoneyField from '../../parts/MoneyField.svelte';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    orderId: number;
    sheet: Schemas['RefundsRefundSheet'];
    /** units by line that are most likely owed */
    start: Record<number, number>;
    /** the return with which the goods came back */
    rma?: number | null;
    /** what is said of it, unless something else is */
    why?: string;
    onasked?: () => void;
  }
  let { orderId, sheet, start, rma = null, why = '', onasked }: Props = $props();

  const client = useQueryClient();
  const path = $derived({ params: { path: { order: orderId } } });
  // svelte-ignore state_referenced_locally
  let units = $state<Record<number, number>>({ ...start });
  let shipping = $state<'none' | 'part' | 'all'>('none');
  let part = $state(0);
  let fee = $state(0);
  // svelte-ignore state_referenced_locally
  let excess = $state(sheet.excess);
  // svelte-ignore state_referenced_locally
  let reason = $state(why);
  let problem = $state('');
  let busy = $state(false);

  const left = $derived(sheet.shipping - sheet.shippingRefunded);
  const asked = $derived({
    units: Object.fromEntries(Object.entries(units).filter(([, some]) => some > 0)),
    shipping: shipping === 'none' ? 0 : shipping === 'all' ? left : part,
    excess,
    fee
  });
  const worked = createQuery(() => ({
    queryKey: ['refund-preview', orderId, asked],
    queryFn: () => get(api.POST('/api/orders/{order}/refunds/preview', { ...path, body: asked })),
    enabled: asked.shipping > 0 || asked.excess > 0 || Object.keys(asked.units).length > 0,
    retry: false,
    placeholderData: keepPreviousData
  }));
  const ready = $derived(worked.isPlaceholderData ? undefined : worked.data);

  async function ask(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    try {
      await get(
        api.POST('/api/orders/{order}/refunds', { ...path, body: { no: sheet.next, rma, asked, reason } })
      );
      onasked?.();
      toasts.say('Refund asked for; its channel is told to pay it');
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = false;
      await client.invalidateQueries();
    }
  }
</script>

<form onsubmit={ask} class="space-y-3">
  <table class="w-full">
    <thead
      ><tr
        ><th class="py-1 pe-2">Item</th><th class="px-2 text-right">Units</th><th class="px-2 text-right"
          >Paid</th
        ><th class="px-2 text-right">Pay back units</th><th class="ps-2 text-right">Amount</th></tr
      ></thead
    >
    <tbody>
      {#each sheet.lines as line, i (line.id)}
        {@const most = line.units - line.refundedUnits}
        <tr class="border-t border-line">
          <td class="py-1 pe-2"
            >{line.title} <span class="font-mono text-xs text-soft">{line.sku ?? ''}</span>
            {#if line.instead}<span class="text-xs text-soft">instead of {line.instead}</span>{/if}
            {#if line.cancelled}<span class="text-xs text-soft">{line.cancelled} cancelled</span>{/if}
            {#if line.refundedUnits}<span class="text-xs text-soft">{line.refundedUnits} paid back</span
              >{/if}</td
          >
          <td class="px-2 text-right">{line.units}</td>
          <td class="px-2 text-right">{money(line.paid, sheet.currency)}</td>
          <td class="px-2 text-right"
            ><input
              class="field h-7 w-16 text-right"
              type="number"
              min="0"
              max={most}
              disabled={most === 0}
              aria-label="Units of {line.title} to pay back"
              bind:value={units[line.id]}
              data-autofocus={i === 0 ? '' : undefined}
            /></td
          >
          <td class="ps-2 text-right">{money(worked.data?.lines[line.id] ?? 0, sheet.currency)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <div class="flex flex-wrap items-end gap-x-4 gap-y-2">
    <label class="text-soft"
      >Shipping, {money(left, sheet.currency)} left<select
        class="field mt-0.5 block h-7"
        bind:value={shipping}
        disabled={left === 0}
        ><option value="none">none of it</option><option value="part">a part</option><option value="all"
          >all of it</option
        ></select
      ></label
    >
    {#if shipping === 'part'}
      <label class="text-soft"
        >Part of it<MoneyField
          live
          class="field mt-0.5 block h-7 w-24 text-right"
          currency={sheet.currency}
          value={part}
          most={left}
          ontype={(minor) => (part = minor ?? 0)}
        /></label
      >
    {/if}
    {#if sheet.excess > 0}
      <label class="text-soft"
        >Paid too much: {money(sheet.excess, sheet.currency)}<MoneyField
          live
          class="field mt-0.5 block h-7 w-24 text-right"
          currency={sheet.currency}
          value={excess || null}
          most={sheet.excess}
          ontype={(minor) => (excess = minor ?? 0)}
        /></label
      >
    {/if}
    <label class="text-soft"
      >Kept back for restocking<MoneyField
        live
        class="field mt-0.5 block h-7 w-24 text-right"
        currency={sheet.currency}
        value={fee || null}
        ontype={(minor) => (fee = minor ?? 0)}
      /></label
    >
    <label class="min-w-48 flex-1 text-soft"
      >Why<input
        class="field mt-0.5 block h-7 w-full"
        bind:value={reason}
        maxlength="200"
        required
        placeholder="the buyer reads it where the channel shows it"
      /></label
    >
  </div>
  <div class="border-t border-line pt-2" aria-live="polite">
    {#if worked.isError}<p class="text-madder" role="alert">{worked.error.message}</p>
    {:else if ready}
      <p>
        <b class="font-[650]">{money(ready.total, sheet.currency)}</b> goes back
        {#each ready.tenders as tender, i (i)}<span class="text-soft"
            >{i ? ' · ' : 'by '}{tender.method || 'as it was paid'}
            {ready.tenders.length > 1 ? money(tender.amount, sheet.currency) : ''}</span
          >{/each}
      </p>
    {:else}<p class="text-soft">
        {money(sheet.left, sheet.currency)} came in and was not paid back yet.
      </p>{/if}
    {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
  </div>
  <p class="text-soft">Money that was paid back can’t be called back.</p>
  <Button main type="submit" disabled={!ready || busy}
    >Pay back {ready ? money(ready.total, sheet.currency) : ''}</Button
  >
</form>

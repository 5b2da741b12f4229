<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { day, plural, word } from '../../parts/format';
  import { money } from '../../parts/money';
  import { session } from '../../state/session.svelte';
  import CancelUnitsDialog from './CancelUnitsDialog.svelte';
  import PaymentDialog from './PaymentDialog.svelte';

  let { sheet }: { sheet: Schemas['OrderSheetsSheet'] } = $props();

  type Line = Schemas['OrderSheetsSheet']['lines'][number];
  const currency = $derived(sheet.order.currency);
  const figures = $derived(sheet.figures);
  let paying = $state(false);
  let cancelling = $state(false);
  const mine = $derived(session.mayChange && !sheet.fulfilledByChannel);
  const unpaid = $derived(['UNPAID', 'AUTHORISED', 'ON_DELIVERY'].includes(sheet.payment));
  const cancellable = $derived(
    sheet.lines.length > 0 && sheet.lines.some((l) => l.quantity - l.cancelled - l.shipped > 0)
  );
  const open = (l: Line) => l.quantity - l.cancelled;
  const amount = (l: Line) => (open(l) === 0 ? 0 : l.unitPrice * open(l) - l.discount);
  const goods = $derived(sheet.lines.reduce((sum, l) => sum + amount(l), 0));
  const sums = $derived(
    [
      ['Goods', goods],
      ['Shipping', figures.shippingCharge],
      ['Discount on the order', -figures.discount],
      [figures.pricesWithTax ? 'Tax within' : 'Tax', figures.tax ?? 0]
    ].filter(([name, value]) => value !== 0 || name === 'Goods' || name === 'Shipping') as [string, number][]
  );
</script>

<table class="w-full">
  <thead
    ><tr
      ><th class="py-1 pe-2">Item</th><th class="px-2 text-right">Units</th><th class="px-2 text-right"
        >Sent</th
      ><th class="ps-2 text-right">Price</th></tr
    ></thead
  >
  <tbody>
    {#each sheet.lines as line (line.id)}
      <tr class={['border-t border-line', open(line) === 0 && 'text-soft line-through']}>
        <td class="py-1.5 pe-2">
          {line.title}<br />
          {#if line.itemId}<a class="font-mono text-xs text-soft hover:underline" href="#/stock/{line.itemId}"
              >{line.sku}</a
            >{#if line.unitsEach > 1}<span class="text-xs text-soft"> · {line.unitsEach} in each</span>{/if}
          {:else}<span class="text-xs text-madder">not matched</span>{/if}
          {#if line.instead}<span class="block text-xs text-soft">instead of {line.instead}</span>{/if}
          {#each line.parts as part (part.itemId)}
            <span class="block ps-3 text-xs text-soft"
              >{part.quantity} ×
              <a class="font-mono hover:underline" href="#/stock/{part.itemId}">{part.sku}</a>
              {part.name}, {money(part.amount, currency)}</span
            >
          {/each}
          {#each line.wishes as wish, i (i)}
            <span class="block text-xs" dir="auto"
              ><span class="text-soft">{wish.name}:</span>
              {wish.text}
              {#if wish.file.startsWith('https://') || wish.file.startsWith('http://')}<a
                  class="text-verdigris hover:underline"
                  href={wish.file}
                  rel="noreferrer noopener"
                  target="_blank">{wish.file}</a
                >{:else}{wish.file}{/if}</span
            >
          {/each}
        </td>
        <td class="px-2 py-1.5 text-right align-top"
          >{open(line)}{#if line.cancelled}<span class="block text-xs text-soft no-underline"
              >{line.cancelled} cancelled</span
            >{/if}</td
        >
        <td class="px-2 py-1.5 text-right align-top text-soft">{line.shipped || ''}</td>
        <td class="py-1.5 ps-2 text-right align-top">{money(amount(line), currency)}</td>
      </tr>
    {/each}
  </tbody>
  <tfoot class="border-t border-line">
    {#each sums as [name, value] (name)}
      <tr
        ><td class="pt-0.5 text-soft" colspan="3">{name}</td><td class="pt-0.5 text-right"
          >{value < 0 ? '−' : ''}{money(Math.abs(value), currency)}</td
        ></tr
      >
    {/each}
    <tr
      ><td class="font-[650]" colspan="3"
        >Total {currency}, {word(sheet.payment)}{sheet.paymentMethod ? `, ${sheet.paymentMethod}` : ''}</td
      ><td class="text-right font-[650]">{money(sheet.order.total, currency)}</td></tr
    >
    {#if currency !== figures.baseCurrency}
      <tr
        ><td class="text-soft" colspan="3"
          >{figures.rate == null
            ? 'What that is worth is not known yet'
            : `At ${figures.rate} on ${day(figures.rateDay ?? '')}`}</td
        ><td class="text-right text-soft"
          >{figures.rate == null ? '' : money(figures.baseTotal, figures.baseCurrency)}</td
        ></tr
      >
    {/if}
    {#each figures.tenders as tender, i (i)}
      <tr
        ><td class="text-soft" colspan="3">paid with {tender.method} {tender.reference}</td><td
          class="text-right text-soft">{money(tender.amount, currency)}</td
        ></tr
      >
    {/each}
  </tfoot>
</table>
{#if mine && (unpaid || cancellable) && sheet.order.stage !== 'CANCELLED'}
  <p class="mt-1.5 flex gap-4">
    {#if cancellable}<button class="text-verdigris hover:underline" onclick={() => (cancelling = true)}
        >Cancel units…</button
      >{/if}
    {#if unpaid}<button class="text-verdigris hover:underline" onclick={() => (paying = true)}
        >A payment came in…</button
      >{/if}
  </p>
{/if}
{#if paying}<PaymentDialog bind:open={paying} {sheet} />{/if}
{#if cancelling}<CancelUnitsDialog bind:open={cancelling} {sheet} />{/if}
<dl class="mt-4 grid grid-cols-[6.5rem_1fr] gap-y-1">
  <dt class="text-soft">To</dt>
  <dd dir="auto">
    {sheet.shipTo.name}<br />{sheet.shipTo.street}<br />{sheet.shipTo.postcode}
    {sheet.shipTo.city}
    {sheet.shipTo.country}
  </dd>
  {#if sheet.billTo}
    <dt class="text-soft">Bill to</dt>
    <dd dir="auto">
      {sheet.billTo.name}, {sheet.billTo.street}, {sheet.billTo.postcode}
      {sheet.billTo.city}
      {sheet.billTo.country}
    </dd>
  {/if}
  {#if sheet.pickUpNode}<dt class="text-soft">Collected at</dt>
    <dd>{sheet.pickUpNode}</dd>{/if}
  <dt class="text-soft">Mail</dt>
  <dd>{sheet.email || '—'}</dd>
  <dt class="text-soft">Phone</dt>
  <dd>{sheet.phone || '—'}</dd>
  <dt class="text-soft">Service asked</dt>
  <dd>{sheet.serviceWording || 'none'}{sheet.arriveBy ? `, to arrive by ${day(sheet.arriveBy)}` : ''}</dd>
  {#if figures.payWithinDays != null}<dt class="text-soft">To be paid</dt>
    <dd>within {plural(figures.payWithinDays, 'day')}</dd>{/if}
  <dt class="text-soft">From</dt>
  <dd>
    {sheet.order.channel}{sheet.site ? ` ${sheet.site}` : ''},
    <span class="font-mono text-xs">{sheet.order.externalId}</span>
    {#if sheet.fulfilledByChannel}<span class="text-soft">· sent from its own depot</span>{/if}
  </dd>
  {#if sheet.team}<dt class="text-soft">Team</dt>
    <dd>{sheet.team}</dd>{/if}
  {#if sheet.instructions}<dt class="text-soft">Instructions</dt>
    <dd dir="auto">{sheet.instructions}</dd>{/if}
  {#if sheet.giftMessage}<dt class="text-soft">Gift message</dt>
    <dd dir="auto">{sheet.giftMessage}</dd>{/if}
</dl>

<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { day, money, word } from '../../parts/format';

  let { sheet }: { sheet: Schemas['OrderSheetsSheet'] } = $props();

  const currency = $derived(sheet.order.currency);
  const goods = $derived(sheet.lines.reduce((sum, l) => sum + l.unitPrice * l.quantity - l.discount, 0));
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
      <tr class="border-t border-line">
        <td class="py-1.5 pe-2">
          {line.title}<br />
          {#if line.itemId}<a class="font-mono text-xs text-soft hover:underline" href="#/stock/{line.itemId}"
              >{line.sku}</a
            >
          {:else}<span class="text-xs text-madder">not matched</span>{/if}
        </td>
        <td class="px-2 py-1.5 text-right align-top">{line.quantity}</td>
        <td class="px-2 py-1.5 text-right align-top text-soft">{line.shipped || ''}</td>
        <td class="py-1.5 ps-2 text-right align-top"
          >{money(line.unitPrice * line.quantity - line.discount, currency)}</td
        >
      </tr>
    {/each}
  </tbody>
  <tfoot class="border-t border-line">
    <tr
      ><td class="pt-1.5 text-soft" colspan="3">Goods</td><td class="pt-1.5 text-right"
        >{money(goods, currency)}</td
      ></tr
    >
    <tr
      ><td class="text-soft" colspan="3">Shipping</td><td class="text-right"
        >{money(sheet.shippingCharge, currency)}</td
      ></tr
    >
    {#if sheet.discount}
      <tr
        ><td class="text-soft" colspan="3">Discount</td><td class="text-right"
          >−{money(sheet.discount, currency)}</td
        ></tr
      >
    {/if}
    <tr
      ><td class="font-[650]" colspan="3"
        >Total {currency}, {word(sheet.payment)}{sheet.paymentMethod ? `, ${sheet.paymentMethod}` : ''}</td
      ><td class="text-right font-[650]">{money(sheet.order.total, currency)}</td></tr
    >
  </tfoot>
</table>
<dl class="mt-4 grid grid-cols-[6.5rem_1fr] gap-y-1">
  <dt class="text-soft">To</dt>
  <dd dir="auto">
    {sheet.shipTo.name}<br />{sheet.shipTo.street}<br />{sheet.shipTo.postcode}
    {sheet.shipTo.city}
    {sheet.shipTo.country}
  </dd>
  <dt class="text-soft">Mail</dt>
  <dd>{sheet.email || '—'}</dd>
  <dt class="text-soft">Phone</dt>
  <dd>{sheet.phone || '—'}</dd>
  <dt class="text-soft">Service asked</dt>
  <dd>{sheet.serviceWording || 'none'}{sheet.arriveBy ? `, to arrive by ${day(sheet.arriveBy)}` : ''}</dd>
  <dt class="text-soft">From</dt>
  <dd>{sheet.order.channel}, <span class="font-mono text-xs">{sheet.order.externalId}</span></dd>
  {#if sheet.instructions}<dt class="text-soft">Instructions</dt>
    <dd dir="auto">{sheet.instructions}</dd>{/if}
  {#if sheet.giftMessage}<dt class="text-soft">Gift message</dt>
    <dd dir="auto">{sheet.giftMessage}</dd>{/if}
</dl>

<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { count, fullMoment, moment, word } from '../../parts/format';

  interface Props {
    m: Schemas['MovementsMovement'];
    /** of which item; left out where all are of one */
    item?: boolean;
  }
  let { m, item = false }: Props = $props();
  const LINK = 'text-verdigris underline decoration-dotted hover:decoration-solid';
  const QUIET = 'underline decoration-dotted hover:decoration-solid';
</script>

<div
  class={[
    'grid gap-x-2 border-t border-line py-1',
    item ? 'max-w-5xl grid-cols-[8.5rem_1fr_auto]' : 'grid-cols-[6.5rem_1fr_auto]'
  ]}
>
  <time class="text-soft" datetime={m.at} title={fullMoment(m.at)}>{moment(m.at)}</time>
  <span
    >{#if item}<a class="font-mono text-xs {QUIET}" href="#/stock/{m.itemId}" title={m.item}>{m.sku}</a>{/if}
    {word(m.reason)}, {m.node}{#if m.bin || m.lot || m.state !== 'SELLABLE'}
      {#if m.bin}<span class="ms-1 font-mono text-xs">{m.bin}</span>{/if}
      {#if m.lot}<a class="font-mono text-xs {QUIET}" href="#/stock/ledger?lot={m.lotId}">{m.lot}</a>{/if}
      {m.state === 'SELLABLE' ? '' : word(m.state)}{/if}
    <span class="text-soft"
      >· <a class={QUIET} href="#/stock/ledger?actor={encodeURIComponent(m.actor)}">{m.actor}</a>{m.note
        ? ` · ${m.note}`
        : ''}</span
    >
    {#if m.orderId}<a class={LINK} href="#/orders/{m.orderId}?pile=ALL">{m.order}</a>{/if}
    {#if m.receiptId}<a class={LINK} href="#/stock/ledger?receipt={m.receiptId}">{m.receipt}</a>{/if}
    {#if m.countId}<a class={LINK} href="#/stock/counts/{m.countId}">{m.count}</a>{/if}
  </span>
  <b class="font-[650]">{m.quantity > 0 ? '+' : '−'}{count(Math.abs(m.quantity))}</b>
</div>

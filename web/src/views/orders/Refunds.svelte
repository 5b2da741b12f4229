<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { moment } from '../../parts/format';
  import { money } from '../../parts/money';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import RefundDialog from './RefundDialog.svelte';

  let { order }: { order: Schemas['OrderSheetsSheet']['order'] } = $props();

  type Refund = Schemas['RefundCard'];
  const run = useDoing();
  let asking = $state(false);
  const path = $derived({ params: { path: { order: order.id } } });
  const refunds = createQuery(() => ({
    queryKey: ['refunds', order.id],
    queryFn: () => get(api.GET('/api/orders/{order}/refunds', path))
  }));
  const sheet = $derived(refunds.data);
  const STATES: Record<Refund['state'], string> = {
    ASKED: '◌ asked for',
    SETTLED: '● paid back',
    WITHDRAWN: '× withdrawn'
  };
  const one = (refund: Refund) => ({ params: { path: { order: order.id, refund: refund.id } } });
  const settle = (refund: Refund) =>
    run(get(api.POST('/api/orders/{order}/refunds/{refund}/settle', one(refund))), 'Marked as paid back');
  const withdraw = (refund: Refund) =>
    run(get(api.POST('/api/orders/{order}/refunds/{refund}/withdraw', one(refund))), 'Withdrawn');
</script>

{#if sheet && (sheet.left > 0 || sheet.refunds.length)}
  <section class="mt-4 border-t border-line pt-2" aria-label="Refunds">
    {#each sheet.refunds as refund (refund.id)}
      <div class="flex items-baseline gap-2 py-1">
        <span class={refund.state === 'ASKED' ? 'text-amber' : 'text-soft'}>{STATES[refund.state]}</span>
        <span class="min-w-0 flex-1 truncate" title="{refund.askedBy}, {moment(refund.askedAt)}"
          >{refund.reason}{refund.fee ? `, ${money(refund.fee, sheet.currency)} kept back` : ''}</span
        >
        <b class={['font-[650]', refund.state === 'WITHDRAWN' && 'line-through']}
          >{money(refund.amount, sheet.currency)}</b
        >
        {#if refund.state === 'ASKED' && session.mayChange}
          <Button small onclick={() => settle(refund)} title="It was paid back in another way">Is paid</Button
          >
          <Button small onclick={() => withdraw(refund)} title="As long as nobody was told">Withdraw</Button>
        {/if}
      </div>
    {/each}
    {#if sheet.left > 0 && session.mayChange}
      <Button small onclick={() => (asking = true)}>Pay back…</Button>
    {/if}
  </section>
  {#if asking}
    <RefundDialog bind:open={asking} orderId={order.id} number={order.number} {sheet} />
  {/if}
{/if}

<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, count, moment, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import AskDialog from '../orders/AskDialog.svelte';
  import RefundForm from '../orders/RefundForm.svelte';
  import Arrival from './Arrival.svelte';
  import { DISPOSITIONS, REASONS, standing } from './words';

  let { id }: { id: number } = $props();

  const path = $derived({ params: { path: { id } } });
  const run = useDoing();
  let closing = $state(false);
  const query = createQuery(() => ({
    queryKey: ['returns', 'one', id],
    queryFn: () => get(api.GET('/api/returns/{id}', path))
  }));
  const sheet = $derived(query.data);
  const card = $derived(sheet?.card);
  const owed = $derived(card?.stage === 'ARRIVED' && !card.refund);
  const sheetOfRefunds = createQuery(() => ({
    queryKey: ['refunds', card?.orderId],
    enabled: owed,
    queryFn: () => get(api.GET('/api/orders/{order}/refunds', { params: { path: { order: card!.orderId } } }))
  }));
  const refunds = $derived(sheetOfRefunds.data);
  /** What came back whole and is not paid back yet. */
  const back = $derived(
    Object.fromEntries(
      (refunds?.lines ?? []).map((l) => [
        l.id,
        Math.min(sheet?.whole[String(l.id)] ?? 0, l.units - l.refundedUnits)
      ])
    )
  );

  const reopen = () => run(get(api.POST('/api/returns/{id}/reopen', path)), 'Open again');
  const callOff = () =>
    run(get(api.POST('/api/returns/{id}/call-off', path)), 'Called off', () => void reopen());
  async function close(why: string) {
    closing = false;
    await run(
      get(api.POST('/api/returns/{id}/close', { ...path, body: { why } })),
      'Closed; nothing is paid back',
      () => void reopen()
    );
  }
</script>

<aside
  class="flex min-h-0 w-[480px] flex-none flex-col max-[1100px]:w-[420px] border-l border-line bg-sheet"
  aria-label="Return {card?.number ?? ''}"
>
  {#if sheet && card}
    <header class="border-b border-line px-4 pt-3.5 pb-2.5">
      <div class="flex items-baseline gap-2.5">
        <h2 class="flex-none font-mono text-base">{card.number}</h2>
        <b class="truncate font-[650]" dir="auto">{card.buyer}</b>
        <a class="ms-auto flex-none text-verdigris hover:underline" href="#/orders/{card.orderId}"
          >order {card.orderNumber}</a
        >
      </div>
      <p class="mt-1">
        <b class={['font-[650]', standing(card).asks && 'text-madder']}>{standing(card).text}</b>
        <span class="text-soft"
          >· {REASONS[card.reason]} · back to {card.node} · opened by {card.openedBy}
          <span class="whitespace-nowrap">{ago(card.openedAt)}</span></span
        >
      </p>
      {#if card.note}<p class="mt-1" dir="auto">“{card.note}”</p>{/if}
      {#if card.endedWhy}<p class="mt-1 text-soft">Nothing was paid back: {card.endedWhy}</p>{/if}
    </header>
    <div class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
      {#if card.stage === 'AWAITED' && session.mayChange}
        {#key card.came}<Arrival {sheet} />{/key}
      {:else}
        <table class="w-full">
          <thead
            ><tr
              ><th class="py-1 pe-2">Item</th><th class="px-2 text-right">To come</th><th
                class="ps-2 text-right">Came</th
              ></tr
            ></thead
          >
          <tbody>
            {#each sheet.lines as line (line.id)}
              <tr class="border-t border-line"
                ><td class="py-1 pe-2"
                  >{line.sent.item} <span class="font-mono text-xs text-soft">{line.sent.sku}</span></td
                ><td class="px-2 text-right">{count(line.units)}</td><td class="ps-2 text-right"
                  >{count(line.came)}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
      {/if}
      {#if sheet.arrivals.length}
        <h3 class="mt-4 mb-1 font-[650]">What came</h3>
        <ul>
          {#each sheet.arrivals as a, i (i)}
            {@const line = sheet.lines.find((l) => l.id === a.lineId)}
            <li class="flex gap-2 border-t border-line py-1">
              <span class="w-24 flex-none">{DISPOSITIONS[a.disposition]}</span>
              <span class="min-w-0 flex-1 truncate"
                >{count(a.units)} × {line?.sent.sku}{a.lot ? ` of ${a.lot}` : ''}</span
              >
              <span class="text-soft">{a.actor}, {moment(a.at)}</span>
            </li>
          {/each}
        </ul>
      {/if}
      {#if owed && refunds && session.mayChange}
        <h3 class="mt-4 mb-1 font-[650]">What do we owe?</h3>
        {#if Object.values(back).every((n) => n === 0)}<p class="mb-2 text-soft">
            None of what was ordered came back whole, or it is paid back: say what is owed.
          </p>{/if}
        <RefundForm
          orderId={card.orderId}
          sheet={refunds}
          start={back}
          rma={card.id}
          why={REASONS[card.reason]}
        />
      {:else if card.refund}
        <p class="mt-4">
          <b class="font-[650]">{money(card.refunded, card.currency)}</b>
          <span class="text-soft"
            >{card.refund === 'SETTLED' ? 'paid back' : 'asked for; its channel is to pay it'}</span
          >
        </p>
      {/if}
    </div>
    {#if session.mayChange}
      <footer class="flex items-center gap-2 border-t border-line px-4 py-2.5">
        {#if card.stage === 'AWAITED' && !card.came}<Button onclick={callOff}>Call off</Button>
        {:else if owed}<Button onclick={() => (closing = true)}>Pay nothing back…</Button>
        {:else if card.stage === 'CALLED_OFF' || (card.stage === 'CLOSED' && !card.refund)}
          <Button onclick={reopen}>Open again</Button>
        {/if}
        <span class="ms-auto text-soft">{plural(card.units, 'unit')} · {card.channel}</span>
      </footer>
    {/if}
  {:else}
    <p class={['p-4', query.isError ? 'text-madder' : 'text-soft']}>
      {query.isError ? query.error.message : 'Reading…'}
    </p>
  {/if}
</aside>
{#if closing}
  <AskDialog
    title="Why is nothing paid back?"
    button="Close it"
    longest={200}
    onanswer={close}
    onclose={() => (closing = false)}
  />
{/if}

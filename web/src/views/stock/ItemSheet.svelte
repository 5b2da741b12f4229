<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, day, plural } from '../../parts/format';
  import { addressWith } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import ServedLately from '../../parts/ServedLately.svelte';
  import AdjustDialog from './AdjustDialog.svelte';
  import Ahead from './Ahead.svelte';
  import AheadField from './AheadField.svelte';
  import EarmarksPanel from './EarmarksPanel.svelte';
  import HomeField from './HomeField.svelte';
  import KitPanel from './KitPanel.svelte';
  import LimitsDialog from './LimitsDialog.svelte';
  import LotsPanel from './LotsPanel.svelte';
  import MovementRow from './MovementRow.svelte';
  import TagsField from './TagsField.svelte';
  import TransferDialog from './TransferDialog.svelte';

  let { id }: { id: number } = $props();

  /** As many movements as one looks through beside the list. */
  const NEWEST = 30;
  let adjusting = $state(false);
  let sending = $state(false);
  let limiting = $state<Schemas['StockGridNodeHead']>();
  const item = createQuery(() => ({
    queryKey: ['stock', 'item', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}', { params: { path: { id } } }))
  }));
  const movements = createQuery(() => ({
    queryKey: ['stock', 'movements', id],
    queryFn: () => get(api.GET('/api/stock/movements', { params: { query: { item: id } } }))
  }));
  const sheet = $derived(item.data);
  const run = useDoing();
  const end = (ended: boolean): Promise<void> =>
    run(
      get(api.PUT('/api/stock/items/{id}/ended', { params: { path: { id } }, body: { ended } })),
      ended ? 'No longer sold' : 'Sold again',
      () => void end(!ended)
    );
  const cell = (node: number) => sheet?.item.cells.find((c) => c.nodeId === node);
</script>

<aside class="flex w-[416px] flex-none flex-col border-l border-line bg-sheet" aria-label="Item">
  {#if sheet}
    <header class="border-b border-line px-4 pt-3.5 pb-2">
      <div class="flex items-baseline gap-2">
        <h2 class="font-mono text-base">{sheet.item.sku}</h2>
        <button
          class="ms-auto text-soft hover:text-ink"
          aria-label="Close"
          title="Esc"
          onclick={() => void replace(addressWith({}, '/stock'))}>✕</button
        >
      </div>
      <p>
        {sheet.item.name}
        {#if !sheet.item.counted}<span class="rounded-sm border border-line px-1 text-xs text-soft"
            >not counted: always enough</span
          >{/if}
        {#if sheet.ended}<span class="rounded-sm border border-line px-1 text-xs text-soft"
            >no longer sold</span
          >{/if}
      </p>
      <p class="text-soft">
        {sheet.item.category} · GTIN <span class="font-mono text-xs">{sheet.item.gtin ?? '—'}</span> · {count(
          sheet.weight
        )} g
      </p>
    </header>
    <div class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
      <table class="w-full">
        <thead
          ><tr
            ><th class="py-1">Node</th><th class="text-right">Available</th><th class="text-right">On hand</th
            ><th class="text-right">Allocated</th><th class="text-right">Set aside</th><th
              class="text-right"
              title="Safety stock: never offered">Kept back</th
            ></tr
          ></thead
        >
        <tbody>
          {#each sheet.nodes as node (node.id)}
            {@const level = cell(node.id)}
            <tr class="h-7 border-t border-line"
              ><td>{node.name}</td><td class="text-right font-[650]"
                >{count(level?.available ?? 0)}{#if level?.shortDated}<span
                    class="block text-xs font-normal text-amber-ink"
                    title="They would not be usable for long enough after they arrived: not offered"
                    >▲ {count(level.shortDated)} shelf life too short</span
                  >{/if}</td
              ><td class="text-right">{count(level?.onHand ?? 0)}</td><td class="text-right"
                >{count(level?.allocated ?? 0)}</td
              ><td class="text-right">{level?.earmarked ? count(level.earmarked) : ''}</td><td
                class="text-right"
                >{#if session.mayChange}<button
                    class="px-1 text-verdigris hover:underline"
                    aria-label="Limits of {sheet.item.sku} at {node.name}"
                    onclick={() => (limiting = node)}>{level?.safety ? count(level.safety) : '…'}</button
                  >{:else}{level?.safety ? count(level.safety) : ''}{/if}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
      <HomeField {id} {sheet} />
      <TagsField {id} seen={sheet.settingsTag} />
      <AheadField {id} ahead={sheet.ahead} seen={sheet.settingsTag} />
      <KitPanel {id} sku={sheet.item.sku} />
      {#if sheet.waiting.length}
        <h3 class="mt-4 flex font-[650] text-madder">
          {plural(sheet.waiting.length, 'order')}
          {sheet.waiting.length === 1 ? 'waits' : 'wait'} for it
          <a class="ms-auto font-normal text-verdigris hover:underline" href="#/backorders/{id}">The queue</a>
        </h3>
        {#each sheet.waiting as w (w.orderId)}
          <p class="flex justify-between border-t border-line py-1">
            <a class="font-mono text-xs hover:underline" href="#/orders/{w.orderId}?pile=WAITING"
              >{w.orderNumber}</a
            ><span class="text-soft">{w.readyOn ? `there ${day(w.readyOn)}` : 'no day in sight'}</span><span
              >{plural(w.quantity, 'unit')}</span
            >
          </p>
        {/each}
      {/if}
      <div class="mt-4"><ServedLately {id} /></div>
      <EarmarksPanel {id} sku={sheet.item.sku} nodes={sheet.nodes} />
      <LotsPanel {id} sku={sheet.item.sku} counted={sheet.item.counted} settingsTag={sheet.settingsTag} />
      <Ahead {id} sku={sheet.item.sku} nodes={sheet.nodes} />
      <h3 class="mt-4 font-[650]">Held for</h3>
      {#each sheet.held as h (h.orderId + h.node)}
        <p class="flex justify-between border-t border-line py-1">
          <a class="font-mono text-xs hover:underline" href="#/orders/{h.orderId}?pile=ALL">{h.orderNumber}</a
          >
          <span class="text-soft">{h.node}, leaves by {day(h.shipBy)}</span><span
            >{plural(h.quantity, 'unit')}</span
          >
        </p>
      {:else}
        <p class="text-soft">No order holds any of it.</p>
      {/each}
      <h3 class="mt-4 font-[650]">Ledger, newest first</h3>
      {#each (movements.data?.rows ?? []).slice(0, NEWEST) as m (m.id)}<MovementRow {m} />{/each}
      {#if (movements.data?.rows.length ?? 0) > NEWEST}<p class="border-t border-line py-1">
          <a class="text-verdigris hover:underline" href="#/stock/ledger?item={id}">All of its ledger</a>
        </p>{/if}
    </div>
    {#if session.mayChange}
      <footer class="flex gap-2 border-t border-line px-4 py-2.5">
        <Button main onclick={() => (adjusting = true)}>Count or receive</Button>
        <Button onclick={() => (sending = true)}>Send elsewhere…</Button>
        <Button
          onclick={() => end(!sheet.ended)}
          title="Where it is offered on channels from here, its listings would be withdrawn"
          >{sheet.ended ? 'Sell it again' : 'No longer sold'}</Button
        >
      </footer>
    {/if}
  {:else}
    <p class="p-4 text-soft">{item.isError ? item.error.message : 'Reading…'}</p>
  {/if}
</aside>
{#if adjusting && sheet}
  <AdjustDialog bind:open={adjusting} {id} sku={sheet.item.sku} nodes={sheet.nodes} />
{/if}
{#if sending && sheet}
  <TransferDialog bind:open={sending} sku={sheet.item.sku} nodes={sheet.nodes} />
{/if}
{#if limiting && sheet}
  <LimitsDialog
    bind:open={() => true, (yes) => (limiting = yes ? limiting : undefined)}
    {id}
    sku={sheet.item.sku}
    node={limiting}
    cell={cell(limiting.id)}
    settingsTag={sheet.settingsTag}
  />
{/if}

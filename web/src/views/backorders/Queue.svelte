<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { SvelteSet } from 'svelte/reactivity';
  import { tinykeys } from 'tinykeys';
  import { api, get, type Schemas } from '../../api/client';
  import { count, plural } from '../../parts/format';
  import ServedLately from '../../parts/ServedLately.svelte';
  import { addressWith, param, setParams } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { free } from '../../state/keys';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import ActBar from './ActBar.svelte';
  import MoveBar from './MoveBar.svelte';
  import { inFrontOf, stops, type Waiter } from './queue';
  import QueueRow from './QueueRow.svelte';
  import SupplyLine from './SupplyLine.svelte';

  let { id }: { id: number } = $props();

  const run = useDoing();
  const query = createQuery(() => ({
    queryKey: ['backorders', 'item', id],
    queryFn: () => get(api.GET('/api/backorders/items/{id}', { params: { path: { id } } }))
  }));
  const sheet = $derived(query.data);
  const queue = $derived(sheet?.queue ?? []);
  let width = $state(520);
  const all = $derived(sheet ? stops(sheet, width - 32) : []);
  /** The row on which the keys are; none: they are on the items. */
  const at = $derived(Number(param('in')) || undefined);
  const chosen = new SvelteSet<number>();
  let moving = $state<{ id: number; before: number | null; effects: Schemas['ItemQueueEffect'][] }>();
  let dragged = $state<number>();

  const path = $derived({ params: { path: { id } } });

  async function look(row: number, before: number | null) {
    try {
      const effects = await get(
        api.POST('/api/backorders/items/{id}/move/preview', { ...path, body: { id: row, before } })
      );
      moving = { id: row, before, effects };
    } catch (error) {
      toasts.fail(error);
    }
  }
  /** The one behind it now: where it goes back to. */
  const behind = (row: number) => queue[queue.findIndex((w) => w.id === row) + 1]?.id ?? null;

  function move(row: number, before: number | null) {
    const back = behind(row);
    const name = queue.find((w) => w.id === row)?.orderNumber ?? 'It';
    moving = undefined;
    void run(
      get(api.POST('/api/backorders/items/{id}/move', { ...path, body: { id: row, before } })),
      `${name} is moved`,
      () => move(row, back)
    );
  }

  /** Keys move what is being moved on, place by place, before anything is done. */
  function nudge(by: number) {
    if (!at || !session.mayChange) return;
    const shown =
      moving && moving.id === at
        ? (() => {
            const rest = queue.filter((w) => w.id !== at);
            const self = queue.find((w) => w.id === at)!;
            const to = moving.before === null ? rest.length : rest.findIndex((w) => w.id === moving!.before);
            return [...rest.slice(0, to), self, ...rest.slice(to)];
          })()
        : queue;
    const before = inFrontOf(shown, at, by);
    if (before !== undefined) void look(at, before);
  }
  const step = (by: number) => (event: KeyboardEvent) => {
    if (!free(event) || !at) return;
    event.preventDefault();
    const to = queue.findIndex((w) => w.id === at) + by;
    if (queue[to]) setParams({ in: String(queue[to].id) });
  };
  $effect(() =>
    tinykeys(window, {
      Enter: (event) => {
        if (!free(event)) return;
        const focused = document.activeElement?.tagName;
        if (focused === 'BUTTON' || focused === 'A') return;
        if (moving) move(moving.id, moving.before);
        else if (!at && queue[0]) setParams({ in: String(queue[0].id) });
        else if (at) location.hash = `#/orders/${queue.find((w) => w.id === at)?.orderId}?pile=WAITING`;
      },
      Escape: (event) => {
        if (!free(event)) return;
        if (moving) moving = undefined;
        else if (at) setParams({ in: '' });
      },
      j: step(1),
      k: step(-1),
      ArrowDown: step(1),
      ArrowUp: step(-1),
      'Alt+ArrowUp': (event) => {
        event.preventDefault();
        nudge(-1);
      },
      'Alt+ArrowDown': (event) => {
        event.preventDefault();
        nudge(1);
      },
      x: (event) => {
        const row = queue.find((w) => w.id === at);
        if (free(event) && row) toggle(row);
      }
    })
  );
  function toggle(w: Waiter) {
    if (chosen.has(w.orderId)) chosen.delete(w.orderId);
    else chosen.add(w.orderId);
  }
  function dropped(before: number | null) {
    if (dragged && dragged !== before) void look(dragged, before);
    dragged = undefined;
  }
</script>

<aside
  class="flex min-w-0 flex-1 flex-col border-l border-line bg-sheet"
  aria-label="Queue"
  bind:clientWidth={width}
>
  {#if sheet}
    <header class="border-b border-line px-4 pt-3 pb-1">
      <div class="flex items-baseline gap-2">
        <h2 class="truncate text-base">{sheet.name}</h2>
        <a class="flex-none font-mono text-xs text-soft hover:underline" href="#/stock/{id}">{sheet.sku}</a>
        <button
          class="ms-auto text-soft hover:text-ink"
          aria-label="Close"
          title="Esc"
          onclick={() => void replace(addressWith({ in: '' }, '/backorders'))}>✕</button
        >
      </div>
      <p class="text-soft">
        {plural(queue.length, 'order')} in the queue, {count(queue.reduce((sum, w) => sum + w.units, 0))} units;
        {sheet.kept
          ? `${count(sheet.kept)} of ${count(sheet.free)} in stock kept for them`
          : `${count(sheet.free)} free in stock`}
      </p>
      <SupplyLine {all} width={width - 32} />
    </header>
    <div class="min-h-0 flex-1 overflow-y-auto" role="region" aria-label="Who waits">
      <table class="w-full table-fixed">
        <colgroup
          ><col class="w-10" /><col class={queue.length > 999 ? 'w-12' : 'w-8'} /><col /><col
            class="w-14"
          /><col class="w-[124px]" /><col class="w-[136px]" /></colgroup
        >
        <thead class="sticky top-0 z-10 bg-sheet shadow-[inset_0_-1px_var(--line)]">
          <tr class="h-7"
            ><th class="w-8 ps-4"><span class="sr-only">Chosen</span></th><th class="w-8 px-1 text-right"
              >#</th
            ><th class="px-2">Order</th><th class="px-2 text-right">Units</th><th class="px-2">Served</th><th
              class="px-2 pe-4">Promised to arrive</th
            ></tr
          >
        </thead>
        <tbody>
          {#each queue as w, i (w.id)}
            <QueueRow
              {w}
              place={i + 1}
              {all}
              here={at === w.id}
              chosen={chosen.has(w.orderId)}
              moved={moving?.id === w.id}
              ontoggle={() => toggle(w)}
              onat={() => setParams({ in: String(w.id) })}
              ondragged={() => (dragged = w.id)}
              ondropped={() => dropped(w.id)}
            />
          {:else}
            <tr><td colspan="6" class="p-4 text-soft">Nobody waits for it any more.</td></tr>
          {/each}
        </tbody>
      </table>
      {#if queue.length > 1 && session.mayChange}<p class="px-4 py-2 text-xs text-soft">
          Drag a row, or take it with ↵ and move it with Alt ↑ and Alt ↓: what it does to the others is shown
          first.
        </p>{/if}
      <div class="px-4 py-3"><ServedLately {id} /></div>
    </div>
    {#if moving}
      <MoveBar
        effects={moving.effects}
        onmove={() => moving && move(moving.id, moving.before)}
        onleave={() => (moving = undefined)}
      />
    {:else if chosen.size}
      <ActBar orders={[...chosen]} item={id} ondone={() => chosen.clear()} />
    {/if}
  {:else}
    <p class="p-4 text-soft">{query.isError ? query.error.message : 'Reading…'}</p>
  {/if}
</aside>

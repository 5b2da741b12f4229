<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, day, plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import { steps } from './ahead';
  import Dependents from './Dependents.svelte';
  import ExpectDialog from './ExpectDialog.svelte';

  interface Props {
    id: number;
    sku: string;
    nodes: Schemas['StockGridNodeHead'][];
  }
  let { id, sku, nodes }: Props = $props();

  /** Code of the node whose promises are shown; empty: all. */
  let node = $state('');
  const ahead = createQuery(() => ({
    queryKey: ['stock', 'ahead', id, node],
    queryFn: () =>
      get(api.GET('/api/stock/items/{id}/expected', { params: { path: { id }, query: { node } } })),
    placeholderData: keepPreviousData
  }));
  const expected = $derived(ahead.data?.expected ?? []);
  const promisable = $derived(ahead.data?.promisable ?? []);
  const most = $derived(Math.max(1, ...promisable));
  const run = useDoing();
  let noting = $state(false);
  let opened = $state<number>();
  let units = $state(0);
  let due = $state('');
  let reason = $state('');

  const path = (supply: number) => ({ params: { path: { id: supply } } });
  const receive = (supply: number) =>
    run(
      get(api.POST('/api/stock/expected/{id}/receive', { ...path(supply), body: { quantity: units } })),
      `${plural(units, 'unit')} received`
    );
  const slip = (supply: number) =>
    run(
      get(api.POST('/api/stock/expected/{id}/slip', { ...path(supply), body: { due } })),
      `Expected ${day(due)}`
    );
  const drop = (supply: number) =>
    run(get(api.POST('/api/stock/expected/{id}/drop', path(supply))), 'It is not expected any more');
  const comeBack = (supply: number) =>
    run(
      get(api.POST('/api/stock/expected/{id}/come-back', path(supply))),
      'It is back where it was sent from'
    );
  const lost = (supply: number) =>
    run(
      get(api.POST('/api/stock/expected/{id}/lost', { ...path(supply), body: { reason } })),
      'Booked as lost'
    );
</script>

<div class="mt-4 flex items-baseline">
  <h3 class="font-[650]">Expected</h3>
  {#if session.mayChange}<span class="ms-auto"
      ><Button small onclick={() => (noting = true)}>Expect some…</Button></span
    >{/if}
</div>
{#each expected as e (e.id)}
  <div class="border-t border-line py-1">
    <p class="flex justify-between gap-2">
      <button
        class="truncate text-left hover:underline"
        aria-expanded={opened === e.id}
        onclick={() => {
          opened = opened === e.id ? undefined : e.id;
          units = e.quantity;
          due = e.due;
        }}
        >{day(e.due)}, {e.node}
        <span class="text-soft"
          >· {e.supplier}{e.number ? ` ${e.number}` : ''}{e.confidence < 100
            ? ` · ${e.confidence} % counted on`
            : ''}{e.slipDays ? ` · assumed ${plural(e.slipDays, 'day')} late` : ''}</span
        ></button
      >
      <b class="font-[650]">{count(e.quantity)}</b>
    </p>
    {#if opened === e.id && session.mayChange}
      <div class="flex flex-wrap items-center gap-1.5 py-1">
        <input
          class="field h-7 w-20 text-right"
          type="number"
          min="1"
          aria-label="Units that came"
          bind:value={units}
        />
        <Button small main onclick={() => void receive(e.id)}>Received</Button>
        <input class="field h-7 w-36" type="date" aria-label="Comes on" bind:value={due} />
        <Button small disabled={!due || due === e.due} onclick={() => void slip(e.id)}>Moved</Button>
        {#if e.fromOurNode}
          <Button small onclick={() => void comeBack(e.id)}>Comes back</Button>
          <input
            class="field h-7 w-36"
            aria-label="What became of it"
            placeholder="what became of it"
            bind:value={reason}
          />
          <Button small disabled={!reason.trim()} onclick={() => void lost(e.id)}>Lost</Button>
        {:else}
          <Button small onclick={() => void drop(e.id)}>Will not come</Button>
        {/if}
      </div>
      <Dependents id={e.id} due={due && due !== e.due ? due : e.due} moved={due !== '' && due !== e.due} />
    {/if}
  </div>
{:else}
  <p class="text-soft">{ahead.isPending ? 'Reading…' : 'Nothing of it is on its way.'}</p>
{/each}
{#if promisable.length}
  <figure class="mt-2">
    <figcaption class="text-soft">
      <select
        class="field float-right ms-2 h-6 max-w-36 py-0 ps-1.5 pe-6 text-xs"
        aria-label="Promised from"
        bind:value={node}
        ><option value="">from all nodes</option>{#each nodes as n (n.id)}<option value={n.code}
            >from {n.name}</option
          >{/each}</select
      >
      Can be promised: {count(promisable[0] ?? 0)} today{#each steps(promisable, ahead.data?.today ?? '') as s (s.day)},
        {count(s.units)}
        {day(s.date)}{/each}
    </figcaption>
    <svg
      viewBox="0 0 {promisable.length} 20"
      class="h-10 w-full"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {#each promisable as units, i (i)}
        <rect
          x={i}
          y={20 - (units / most) * 20}
          width="0.85"
          height={(units / most) * 20}
          fill="var(--verdigris)"
        />
      {/each}
    </svg>
  </figure>
{/if}
{#if noting}<ExpectDialog bind:open={() => noting, (yes) => (noting = yes)} {id} {sku} {nodes} />{/if}

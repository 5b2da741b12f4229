<script lang="ts">
  import { createInfiniteQuery, createQuery } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { tinykeys } from 'tinykeys';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count } from '../../parts/format';
  import { addressWith, param } from '../../state/address';
  import { mine } from '../../state/keys';
  import { session } from '../../state/session.svelte';
  import BulkBar from './BulkBar.svelte';
  import Filters from './Filters.svelte';
  import Grid from './Grid.svelte';
  import Inspector from './Inspector.svelte';
  import PhoneOrder from './PhoneOrder.svelte';
  import { FILTERS, PILES, SORTS, type Pile, type Sort } from './worklist';

  let { params = {} }: { params?: { id?: string } } = $props();

  const id = $derived(params.id ? Number(params.id) : undefined);
  const wide = $derived(param('wide') === '1');
  const pile = $derived((param('pile') || 'OPEN') as Pile);
  const sort = $derived((param('sort') || 'NEWEST') as Sort);
  let selected = $state<number[]>([]);
  let entering = $state(false);

  $effect(() =>
    tinykeys(window, {
      n: (event) => {
        if (!mine(event) || !session.mayChange) return;
        event.preventDefault(); // or the field that opens would begin with an n
        entering = true;
      }
    })
  );

  // derived from the address's text: the same text never reads again
  const search = $derived(
    JSON.stringify(
      Object.fromEntries([
        ['pile', pile],
        ...FILTERS.map(([name]) => [name, param(name)]).filter(([, v]) => v)
      ])
    )
  );
  const filter = $derived(JSON.parse(search) as Record<string, never>);
  const orders = createInfiniteQuery(() => ({
    queryKey: ['orders', search, sort],
    queryFn: ({ pageParam }) =>
      get(
        api.GET('/api/orders', {
          params: { query: { ...filter, sort, after: pageParam || undefined, limit: 100 } }
        })
      ),
    initialPageParam: '',
    getNextPageParam: (last) => last.next ?? undefined
  }));
  const piles = createQuery(() => ({
    queryKey: ['piles'],
    queryFn: () => get(api.GET('/api/orders/piles'))
  }));
  const total = createQuery(() => ({
    queryKey: ['orders', 'count', search],
    queryFn: () => get(api.GET('/api/orders/count', { params: { query: filter } }))
  }));
  const rows = $derived(orders.data?.pages.flatMap((p) => p.rows) ?? []);
  const shown = $derived(PILES.filter(([p]) => p !== 'UNPAID' || (piles.data?.UNPAID ?? 0) > 0));
  const csv = $derived(`/api/orders/csv?${new URLSearchParams({ ...filter, sort })}`);

  const open = (order: number) => void replace(addressWith({}, `/orders/${order}`));
  const toPile = (to: string) => addressWith({ pile: to, snag: '' }, '/orders');
</script>

<div class="flex min-h-0 flex-1">
  <section class={['min-w-0 flex-1 flex-col', wide && id ? 'hidden' : 'flex']} aria-label="Orders">
    <header class="flex items-baseline gap-3 px-4 pt-3 pb-1.5">
      <h1>{count(piles.data?.OPEN ?? 0)} open orders</h1>
      {#if piles.data?.STUCK}<span class="font-semibold text-madder">{count(piles.data.STUCK)} need you</span
        >{/if}
      {#if piles.data?.LEAVING_TODAY}<span class="text-soft"
          >{count(piles.data.LEAVING_TODAY)} must leave today</span
        >{/if}
      {#if session.mayChange}
        <span class="ms-auto"
          ><Button small key="n" onclick={() => (entering = true)}>Order by telephone…</Button></span
        >
      {/if}
    </header>
    <nav class="flex h-8 items-end gap-4.5 border-b border-line px-4 whitespace-nowrap" aria-label="Piles">
      {#each shown as [key, name] (key)}
        <a
          href="#{toPile(key)}"
          aria-current={pile === key ? 'true' : undefined}
          class={[
            'pb-1.5',
            pile === key ? 'border-b-2 border-verdigris font-[650]' : 'text-soft hover:text-ink'
          ]}
          >{name}
          {#if piles.data}{count(piles.data[key] ?? 0)}{(piles.data[key] ?? 0) >= 10_000 ? '+' : ''}{/if}</a
        >
      {/each}
    </nav>
    <div class="flex items-center gap-2 px-4 py-2">
      <Filters />
      <span class="ms-auto text-soft">
        {#if total.data}{count(total.data.orders)}{total.data.orders >= 10_000 ? '+' : ''}{/if}
      </span>
      <select
        class="field h-7 py-0 ps-2 pe-7"
        aria-label="Order of the list"
        value={sort}
        onchange={(event) => void replace(addressWith({ sort: event.currentTarget.value }))}
      >
        {#each SORTS as [key, name] (key)}<option value={key}>{name}</option>{/each}
      </select>
      <a class="text-verdigris hover:underline" href={csv} download>CSV</a>
    </div>
    <BulkBar bind:selected />
    <Grid
      {rows}
      current={id}
      bind:selected
      more={orders.hasNextPage && !orders.isFetchingNextPage}
      onmore={() => void orders.fetchNextPage()}
      onopen={open}
      loading={orders.isPending}
      problem={orders.isError ? orders.error.message : ''}
      narrow={id !== undefined}
    />
  </section>
  {#if id !== undefined}
    <Inspector {id} {wide} tab={param('tab') || 'lines'} />
  {/if}
</div>
{#if entering}<PhoneOrder bind:open={() => entering, (yes) => (entering = yes)} />{/if}

<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { tinykeys } from 'tinykeys';
  import { api, get } from '../../api/client';
  import { count, day, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { inSight, scrollFor } from '../../parts/rows';
  import SavedViews from '../../parts/SavedViews.svelte';
  import { addressWith, param, setParams } from '../../state/address';
  import { free } from '../../state/keys';
  import Queue from './Queue.svelte';
  import Tabs from './Tabs.svelte';

  let { params = {} }: { params?: { id?: string } } = $props();

  const ROW = 44;
  const HEAD = 28;
  const PILES = [
    ['ALL', 'All that is short'],
    ['NO_DAY', 'No day in sight'],
    ['BREAKS', 'Promises break']
  ] as const;
  type Pile = (typeof PILES)[number][0];
  const id = $derived(params.id ? Number(params.id) : undefined);
  const pile = $derived((param('pile') || 'ALL') as Pile);
  const search = $derived(param('search'));
  const channelId = $derived(Number(param('channel')) || 0);
  const query = createQuery(() => ({
    queryKey: ['backorders', pile, search, channelId],
    queryFn: () => get(api.GET('/api/backorders', { params: { query: { pile, search, channelId } } })),
    placeholderData: keepPreviousData
  }));
  const channels = createQuery(() => ({
    queryKey: ['channels'],
    queryFn: () => get(api.GET('/api/channels'))
  }));
  const rows = $derived(query.data?.items ?? []);
  const orders = $derived(rows.reduce((sum, r) => sum + r.orders, 0));
  const noDay = $derived(rows.reduce((sum, r) => sum + r.noDay, 0));
  const at = $derived(rows.findIndex((r) => r.itemId === id));
  const open = (item: number) => void replace(addressWith({}, `/backorders/${item}`));

  let scroller = $state<HTMLDivElement>();
  let top = $state(0);
  let height = $state(600);
  const part = $derived(inSight(top, height, ROW, rows.length));
  let timer: ReturnType<typeof setTimeout> | undefined;

  const move = (by: number) => (event: KeyboardEvent) => {
    if (!free(event) || param('in') || !scroller) return;
    event.preventDefault();
    const to = Math.max(0, Math.min(rows.length - 1, at + by));
    scroller.scrollTop = scrollFor(to, scroller.scrollTop, height, ROW, HEAD);
    if (rows[to]) open(rows[to].itemId);
  };
  $effect(() =>
    tinykeys(window, {
      j: move(1),
      k: move(-1),
      ArrowDown: move(1),
      ArrowUp: move(-1),
      Escape: (event) => {
        if (free(event) && !param('in')) void replace(addressWith({}, '/backorders'));
      }
    })
  );
  function typed(text: string) {
    clearTimeout(timer);
    timer = setTimeout(() => setParams({ search: text }), 150);
  }
</script>

<div class="flex min-h-0 flex-1 flex-col">
  <Tabs />
  <div class="flex min-h-0 flex-1">
    <section class={['flex min-w-0 flex-col', id ? 'w-[38%]' : 'flex-1']} aria-label="Short items">
      <header class="flex flex-wrap items-baseline gap-x-3 px-4 pt-3 pb-2">
        <h1>{plural(orders, 'order')} {orders === 1 ? 'waits' : 'wait'} for {plural(rows.length, 'item')}</h1>
        {#if noDay}<span class="font-semibold text-madder">{count(noDay)} with no day in sight</span>{/if}
      </header>
      <div class="flex flex-wrap items-center gap-2 px-4 pb-2">
        {#each PILES as [key, name] (key)}
          <button
            class={[
              'rounded-md border px-2 py-0.5',
              pile === key ? 'border-verdigris bg-verdigris-wash font-[650]' : 'border-line hover:bg-sunk'
            ]}
            aria-pressed={pile === key}
            onclick={() => setParams({ pile: key === 'ALL' ? '' : key })}>{name}</button
          >
        {/each}
        <input
          class="field h-7 w-36"
          placeholder="SKU or name"
          aria-label="Find items"
          value={search}
          oninput={(event) => typed(event.currentTarget.value)}
        />
        <select
          class="field h-7 max-w-40 py-0 ps-2 pe-7"
          aria-label="Channel"
          value={String(channelId || '')}
          onchange={(event) => setParams({ channel: event.currentTarget.value })}
        >
          <option value="">every channel</option>
          {#each channels.data ?? [] as c (c.id)}<option value={String(c.id)}>{c.name}</option>{/each}
        </select>
        <SavedViews view="backorders" path={id === undefined ? '/backorders' : `/backorders/${id}`} />
      </div>
      <div
        bind:this={scroller}
        bind:clientHeight={height}
        onscroll={(event) => (top = event.currentTarget.scrollTop)}
        class="min-h-0 flex-1 overflow-auto border-t border-line"
        role="region"
        aria-label="Items that orders wait for"
      >
        <table class="w-full table-fixed" aria-rowcount={rows.length}>
          <colgroup
            ><col /><col class="w-[92px]" />{#if !id}<col class="w-[104px]" />{/if}<col class="w-[128px]" />
          </colgroup>
          <thead class="sticky top-0 z-10 bg-paper shadow-[inset_0_-1px_var(--line)]"
            ><tr style:height="{HEAD}px"
              ><th class="px-4">Item</th><th class="px-2 text-right">Waited for</th>{#if !id}<th
                  class="px-2 text-right">Worth {query.data?.currency ?? ''}</th
                >{/if}<th class="px-2">Served by</th></tr
            ></thead
          >
          <tbody>
            {#if part.above}<tr aria-hidden="true" style:height="{part.above}px"><td colspan="4"></td></tr
              >{/if}
            {#each rows.slice(part.from, part.to) as row (row.itemId)}
              {@const here = row.itemId === id}
              <tr
                class={['cursor-default border-b border-line', here ? 'bg-verdigris-wash' : 'hover:bg-sunk']}
                style:height="{ROW}px"
                aria-selected={here}
                onclick={() => open(row.itemId)}
              >
                <td class={['px-4', here && 'shadow-[inset_3px_0_var(--verdigris)]']}
                  ><span class="block truncate" title={row.name}
                    ><a href="#{addressWith({}, `/backorders/${row.itemId}`)}">{row.name}</a></span
                  ><span class="block truncate text-xs text-soft"
                    ><span class="font-mono">{row.sku}</span> · since {day(row.oldest.slice(0, 10))}</span
                  ></td
                >
                <td class="px-2 text-right"
                  ><b class="font-[650]">{count(row.units)}</b><span class="block text-xs text-soft"
                    >{plural(row.orders, 'order')}</span
                  ></td
                >
                {#if !id}<td class="px-2 text-right">{money(row.worth, query.data?.currency ?? '')}</td>{/if}
                <td class="px-2">
                  {#if row.breaks}<span class="block font-[650] text-madder"
                      >✕ {plural(row.breaks, 'promise')}</span
                    >{/if}
                  {#if row.noDay}<span class="block text-madder">○ {count(row.noDay)} no day</span>
                  {:else if row.lastReady}<span class="block"
                      >{day(row.lastReady)}{#if !row.breaks && row.firstReady !== row.lastReady}<span
                          class="block text-xs text-soft">from {day(row.firstReady ?? '')}</span
                        >{/if}</span
                    >{/if}
                </td>
              </tr>
            {/each}
            {#if part.below}<tr aria-hidden="true" style:height="{part.below}px"><td colspan="4"></td></tr
              >{/if}
          </tbody>
        </table>
        {#if !rows.length}
          <p class="p-4 text-soft">
            {query.isPending
              ? 'Reading…'
              : query.isError
                ? query.error.message
                : pile === 'ALL' && !search && !channelId
                  ? 'Nothing is short: every order that may go has what it needs.'
                  : 'Nothing short is like that.'}
          </p>
        {/if}
      </div>
    </section>
    {#if id !== undefined}{#key id}<Queue {id} />{/key}{/if}
  </div>
</div>

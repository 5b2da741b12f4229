<script lang="ts">
  import { createInfiniteQuery } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { SvelteSet } from 'svelte/reactivity';
  import { tinykeys } from 'tinykeys';
  import { api, get } from '../../api/client';
  import FilesDialog from '../../parts/FilesDialog.svelte';
  import { count, plural } from '../../parts/format';
  import { inSight, scrollFor } from '../../parts/rows';
  import { addressWith, go, param, setParams } from '../../state/address';
  import Button from '../../parts/Button.svelte';
  import SavedViews from '../../parts/SavedViews.svelte';
  import { free } from '../../state/keys';
  import { session } from '../../state/session.svelte';
  import { entries, isFamily, type Entry } from './families';
  import FamilyRow from './FamilyRow.svelte';
  import ItemSheet from './ItemSheet.svelte';
  import LevelCell from './LevelCell.svelte';
  import NodeDialog from './NodeDialog.svelte';
  import ReceiveDialog from './ReceiveDialog.svelte';

  let { params = {} }: { params?: { id?: string } } = $props();

  const ROW = 34;
  const HEAD = 28;
  const id = $derived(params.id ? Number(params.id) : undefined);
  const search = $derived(param('search'));
  const category = $derived(param('category'));
  const shortOnly = $derived(param('short') === '1');
  const stock = createInfiniteQuery(() => ({
    queryKey: ['stock', 'grid', search, category, shortOnly],
    queryFn: ({ pageParam }) =>
      get(api.GET('/api/stock', { params: { query: { search, category, shortOnly, after: pageParam } } })),
    initialPageParam: '',
    getNextPageParam: (last) => last.items.next ?? undefined
  }));
  const first = $derived(stock.data?.pages[0]);
  const rows = $derived(stock.data?.pages.flatMap((p) => p.items.rows) ?? []);
  const nodes = $derived(first?.nodes ?? []);
  const short = $derived(rows.filter((r) => r.waiting).length);

  let scroller = $state<HTMLDivElement>();
  let top = $state(0);
  let receiving = $state(false);
  let filing = $state(false);
  let node = $state<(typeof nodes)[number]>();
  let height = $state(600);
  let width = $state(1100);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const opened = new SvelteSet<string>();
  /** What is searched is shown as it is found: variants, not families. */
  const folds = $derived(!search && !shortOnly && param('flat') !== '1');
  const lines = $derived<Entry[]>(folds ? entries(rows, (family) => opened.has(family)) : rows);
  const part = $derived(inSight(top, height, ROW, lines.length));
  const at = $derived(lines.findIndex((l) => !isFamily(l) && l.id === id));
  const open = (item: number) => void replace(addressWith({}, `/stock/${item}`));
  const narrow = $derived(id !== undefined);
  /** Columns of nodes leave the names their room; where they are narrow, only figures stand in them. */
  const room = $derived(width - (narrow ? 136 : 148) - 104 - (narrow ? 130 : 200));
  const wide = $derived(Math.max(64, Math.min(150, Math.floor(room / Math.max(1, nodes.length)))));
  const bar = $derived(wide >= 140 ? 64 : wide >= 92 ? 32 : 0);
  const most = $derived(Math.max(1, ...rows.flatMap((r) => r.cells.map((c) => c.onHand))));

  $effect(() => {
    if (stock.hasNextPage && !stock.isFetchingNextPage && part.to > lines.length - 40)
      void stock.fetchNextPage();
  });
  const move = (by: number) => (event: KeyboardEvent) => {
    if (!free(event)) return;
    event.preventDefault();
    let to = Math.max(0, Math.min(lines.length - 1, at + by));
    // families are opened by their own button; the keys go from item to item
    while (lines[to] && isFamily(lines[to]!)) to += by;
    const row = lines[to];
    if (!row || isFamily(row) || !scroller) return;
    scroller.scrollTop = scrollFor(to, scroller.scrollTop, height, ROW, HEAD);
    open(row.id);
  };
  $effect(() =>
    tinykeys(window, {
      j: move(1),
      k: move(-1),
      ArrowDown: move(1),
      ArrowUp: move(-1),
      Escape: (event) => {
        if (free(event)) void replace(addressWith({}, '/stock'));
      }
    })
  );
  function typed(text: string) {
    clearTimeout(timer);
    timer = setTimeout(() => setParams({ search: text }), 150);
  }
</script>

<div class="flex min-h-0 flex-1">
  <section class="flex min-w-0 flex-1 flex-col" aria-label="Stock">
    <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
      <h1>{plural(rows.length, 'item')}{stock.hasNextPage ? ' and more' : ''}</h1>
      {#if short}<span class="font-semibold text-madder">{count(short)} short</span>{/if}
      <span class="ms-auto flex gap-2">
        {#if session.mayChange}<Button small onclick={() => (receiving = true)}>A delivery came…</Button>{/if}
        <Button small onclick={() => go('/stock/counts')}>Counts</Button>
        <Button small onclick={() => go('/stock/ledger')}>Ledger</Button>
        <Button small onclick={() => (filing = true)}>Files…</Button>
      </span>
    </header>
    <div class="flex items-center gap-2 px-4 pb-2">
      <input
        class="field h-7 w-56"
        placeholder="SKU, name, GTIN or lot"
        aria-label="Find items"
        value={search}
        oninput={(event) => typed(event.currentTarget.value)}
      />
      <select
        class="field h-7 py-0 ps-2 pe-7"
        aria-label="Category"
        value={category}
        onchange={(event) => setParams({ category: event.currentTarget.value })}
      >
        <option value="">every category</option>
        {#each first?.categories ?? [] as c (c)}<option value={c}>{c}</option>{/each}
      </select>
      <label class="flex items-center gap-1.5 whitespace-nowrap"
        ><input
          type="checkbox"
          class="size-3.5 rounded-sm border-faint"
          checked={shortOnly}
          onchange={(event) => setParams({ short: event.currentTarget.checked ? '1' : '' })}
        /> orders wait for it</label
      >
      <label class="flex items-center gap-1.5 whitespace-nowrap"
        ><input
          type="checkbox"
          class="size-3.5 rounded-sm border-faint"
          checked={param('flat') === '1'}
          onchange={(event) => setParams({ flat: event.currentTarget.checked ? '1' : '' })}
        /> every variant</label
      >
      <SavedViews view="stock" path={id === undefined ? '/stock' : `/stock/${id}`} />
      <span
        class={[
          'ms-auto flex items-center gap-3 text-xs text-soft max-xl:hidden',
          narrow && 'max-2xl:hidden'
        ]}
        aria-hidden="true"
      >
        <span><i class="me-1 inline-block h-2 w-3 bg-verdigris"></i>available</span>
        <span><i class="me-1 inline-block h-2 w-3 border border-verdigris"></i>set aside</span>
        <span><i class="me-1 inline-block h-2 w-3 bg-ink opacity-80"></i>allocated</span>
      </span>
    </div>
    <div
      bind:this={scroller}
      bind:clientHeight={height}
      bind:clientWidth={width}
      onscroll={(event) => (top = event.currentTarget.scrollTop)}
      class="min-h-0 flex-1 overflow-auto border-t border-line"
      role="region"
      aria-label="Items and nodes"
    >
      <table class="w-full table-fixed" aria-rowcount={lines.length}>
        <colgroup>
          <col class={narrow ? 'w-[136px]' : 'w-[148px]'} /><col /><col class="w-[104px]" />
          {#each nodes as n (n.code)}<col style:width="{wide}px" />{/each}
        </colgroup>
        <thead class="sticky top-0 z-10 bg-paper shadow-[inset_0_-1px_var(--line)]"
          ><tr style:height="{HEAD}px"
            ><th class="px-4">SKU</th><th class="px-2">Item</th><th class="px-2 text-right">All nodes</th>
            {#each nodes as n (n.code)}<th class="px-2"
                ><button class="max-w-full truncate hover:underline" title={n.name} onclick={() => (node = n)}
                  >{n.name}</button
                ></th
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#if part.above}<tr aria-hidden="true" style:height="{part.above}px"
              ><td colspan={3 + nodes.length}></td></tr
            >{/if}
          {#each lines.slice(part.from, part.to) as row (isFamily(row) ? row.family : row.id)}
            {#if isFamily(row)}
              <FamilyRow
                family={row}
                {nodes}
                open={opened.has(row.family)}
                height={ROW}
                {most}
                {bar}
                ontoggle={() => (opened.has(row.family) ? opened.delete(row.family) : opened.add(row.family))}
              />
            {:else}
              {@const here = row.id === id}
              <tr
                class={['cursor-default border-b border-line', here ? 'bg-verdigris-wash' : 'hover:bg-sunk']}
                style:height="{ROW}px"
                aria-selected={here}
                onclick={() => open(row.id)}
              >
                <td
                  class={['truncate px-4 font-mono text-xs', here && 'shadow-[inset_3px_0_var(--verdigris)]']}
                  ><a href="#{addressWith({}, `/stock/${row.id}`)}">{row.sku}</a></td
                >
                <td class="truncate px-2" title={row.name}
                  >{#if row.isKit}<span class="me-1 rounded-sm border border-line px-1 text-xs text-soft"
                      >kit</span
                    >{/if}{row.name}</td
                >
                <td class="px-2 text-right whitespace-nowrap">
                  {#if row.waiting}<span class="font-[650] text-madder" title="units that orders wait for"
                      >▼ {count(row.waiting)} wait</span
                    >{/if}
                  {#if row.counted}{count(row.available)}{:else}<span
                      class="text-soft"
                      title="Nobody counts it: there is always enough">enough</span
                    >{/if}
                </td>
                {#each nodes as n (n.code)}
                  <td class="px-2"
                    ><LevelCell cell={row.cells.find((c) => c.nodeId === n.id)} {most} width={bar} /></td
                  >
                {/each}
              </tr>
            {/if}
          {/each}
          {#if part.below}<tr aria-hidden="true" style:height="{part.below}px"
              ><td colspan={3 + nodes.length}></td></tr
            >{/if}
        </tbody>
      </table>
      {#if !rows.length}
        <p class="p-4 text-soft">
          {stock.isPending
            ? 'Reading…'
            : stock.isError
              ? stock.error.message
              : !search && !category && !shortOnly
                ? 'No items yet. The demo world brings some: ./ordinator demo.'
                : shortOnly && !search
                  ? 'Nothing is short: no order waits for stock.'
                  : 'No item is like that. Search by the beginning of an SKU, a part of a name, the end of a GTIN, or a lot.'}
        </p>
      {/if}
    </div>
  </section>
  {#if id !== undefined}<ItemSheet {id} />{/if}
</div>
{#if filing}<FilesDialog
    bind:open={filing}
    title="Stock as files"
    kinds={[
      ['items', 'Items'],
      ['levels', 'Levels'],
      ['counts', 'Counts'],
      ['inbound', 'Expected supplies'],
      ['kits', 'Kits']
    ]}
  />{/if}
{#if node}<NodeDialog bind:open={() => true, (yes) => (node = yes ? node : undefined)} {node} />{/if}
{#if receiving}<ReceiveDialog bind:open={receiving} />{/if}

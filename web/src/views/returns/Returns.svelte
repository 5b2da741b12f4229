<script lang="ts">
  import { createInfiniteQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { tinykeys } from 'tinykeys';
  import { api, get } from '../../api/client';
  import { ago, count, fullMoment, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { inSight, scrollFor } from '../../parts/rows';
  import Search from '../../parts/Search.svelte';
  import { addressWith, param, setParams } from '../../state/address';
  import { free } from '../../state/keys';
  import ReturnSheet from './ReturnSheet.svelte';
  import { REASONS, standing } from './words';

  let { params = {} }: { params?: { id?: string } } = $props();

  const ROW = 44;
  const HEAD = 28;
  const PILES = [
    ['ALL', 'All'],
    ['AWAITED', 'To come'],
    ['OWED', 'Owed'],
    ['PAYING', 'Being paid back'],
    ['ENDED', 'Ended']
  ] as const;
  type Pile = (typeof PILES)[number][0];
  const SORTS = [
    ['NEWEST', 'newest first'],
    ['OLDEST', 'oldest first']
  ] as const;
  type Sort = (typeof SORTS)[number][0];
  const id = $derived(params.id ? Number(params.id) : undefined);
  const pile = $derived((param('pile') || 'ALL') as Pile);
  const search = $derived(param('search'));
  const sort = $derived((param('sort') || 'NEWEST') as Sort);
  const query = createInfiniteQuery(() => ({
    queryKey: ['returns', pile, search, sort],
    queryFn: ({ pageParam }) =>
      get(api.GET('/api/returns', { params: { query: { pile, search, sort, after: pageParam } } })),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.part.next ? Number(last.part.next) : undefined),
    placeholderData: keepPreviousData
  }));
  const rows = $derived(query.data?.pages.flatMap((p) => p.part.rows) ?? []);
  const counts = $derived(query.data?.pages[0]?.counts ?? {});
  const csv = $derived(`/api/returns.csv?${new URLSearchParams({ pile, search, sort })}`);
  const owed = $derived(counts['OWED'] ?? 0);
  const columns = $derived(id ? 3 : 7);
  const at = $derived(rows.findIndex((r) => r.id === id));
  const open = (one: number) => void replace(addressWith({}, `/returns/${one}`));

  let scroller = $state<HTMLDivElement>();
  let top = $state(0);
  let height = $state(600);
  const part = $derived(inSight(top, height, ROW, rows.length));
  $effect(() => {
    if (part.to >= rows.length && query.hasNextPage && !query.isFetchingNextPage) void query.fetchNextPage();
  });

  const move = (by: number) => (event: KeyboardEvent) => {
    if (!free(event) || !scroller) return;
    event.preventDefault();
    const to = Math.max(0, Math.min(rows.length - 1, at + by));
    scroller.scrollTop = scrollFor(to, scroller.scrollTop, height, ROW, HEAD);
    if (rows[to]) open(rows[to].id);
  };
  $effect(() =>
    tinykeys(window, {
      j: move(1),
      k: move(-1),
      ArrowDown: move(1),
      ArrowUp: move(-1),
      Escape: (event) => {
        if (free(event)) void replace(addressWith({}, '/returns'));
      }
    })
  );
</script>

<div class="flex min-h-0 flex-1">
  <section class="flex min-w-0 flex-1 flex-col">
    <header class="flex flex-wrap items-baseline gap-x-3 px-4 pt-3 pb-2">
      <h1>{plural(counts['AWAITED'] ?? 0, 'return')} to come</h1>
      {#if owed}<span class="font-semibold text-madder"
          >{count(owed)} came, and nothing is said of the money</span
        >{/if}
    </header>
    <div class="flex flex-wrap items-center gap-2 px-4 pb-2">
      {#each PILES as [key, name] (key)}
        <button
          class={[
            'rounded-md border px-2 py-0.5',
            pile === key ? 'border-verdigris bg-verdigris-wash font-[650]' : 'border-line hover:bg-sunk'
          ]}
          aria-pressed={pile === key}
          onclick={() => setParams({ pile: key === 'ALL' ? '' : key })}
          >{name} <span class="font-normal text-soft">{count(counts[key] ?? 0)}</span></button
        >
      {/each}
      <Search label="Find returns" placeholder="RMA, order or buyer" />
      <select
        class="field ms-auto h-7 py-0 ps-2 pe-7"
        aria-label="Order of the list"
        value={sort}
        onchange={(event) => setParams({ sort: event.currentTarget.value })}
      >
        {#each SORTS as [key, name] (key)}<option value={key}>{name}</option>{/each}
      </select>
      <a class="text-verdigris hover:underline" href={csv} download>CSV</a>
    </div>
    <div
      bind:this={scroller}
      bind:clientHeight={height}
      onscroll={(event) => (top = event.currentTarget.scrollTop)}
      class="min-h-0 flex-1 overflow-auto border-t border-line"
      role="region"
      aria-label="Returns"
    >
      <table class="w-full table-fixed" aria-rowcount={rows.length}>
        <colgroup
          ><col class={id ? '' : 'w-[150px] xl:w-[210px]'} />{#if !id}<col />{/if}<col
            class={id ? 'w-[196px]' : 'w-[140px] xl:w-[196px]'}
          />{#if !id}<col class="w-[60px] xl:w-[84px]" /><col class="w-[112px] xl:w-[150px]" /><col
              class="w-[112px] xl:w-[150px]"
            />{/if}<col class="w-[92px]" />
        </colgroup>
        <thead class="sticky top-0 z-10 bg-paper shadow-[inset_0_-1px_var(--line)]"
          ><tr style:height="{HEAD}px"
            ><th class="px-4">Return</th>{#if !id}<th class="px-2">What</th>{/if}<th class="px-2">Stands</th
            >{#if !id}<th class="px-2 text-right">Units</th><th class="px-2">Why</th><th class="px-2"
                >Comes back to</th
              >{/if}<th class="px-2 text-right">Opened</th></tr
          ></thead
        >
        <tbody>
          {#if part.above}<tr aria-hidden="true" style:height="{part.above}px"><td colspan={columns}></td></tr
            >{/if}
          {#each rows.slice(part.from, part.to) as row (row.id)}
            {@const here = row.id === id}
            {@const stands = standing(row)}
            <tr
              class={['cursor-default border-b border-line', here ? 'bg-verdigris-wash' : 'hover:bg-sunk']}
              style:height="{ROW}px"
              aria-selected={here}
              onclick={() => open(row.id)}
            >
              <td class={['px-4', here && 'shadow-[inset_3px_0_var(--verdigris)]']}
                ><span class="block truncate font-mono text-xs"
                  ><a href="#{addressWith({}, `/returns/${row.id}`)}">{row.number}</a></span
                ><span class="block truncate text-soft" dir="auto">{row.buyer}</span></td
              >
              {#if !id}<td class="truncate px-2" title={row.item}
                  >{row.item}{#if row.lines > 1}<span class="text-soft">
                      and {plural(row.lines - 1, 'other')}</span
                    >{/if}</td
                >{/if}
              <td class={['px-2', stands.asks ? 'font-[650] text-madder' : '']}
                ><span class="block truncate">{stands.text}</span>{#if row.refund}<span
                    class="block text-xs text-soft">{money(row.refunded, row.currency)}</span
                  >{/if}</td
              >
              {#if !id}<td class="px-2 text-right">{count(row.units)}</td><td
                  class="truncate px-2"
                  title={row.note}>{REASONS[row.reason]}</td
                ><td class="truncate px-2">{row.node}</td>{/if}
              <td class="px-2 text-right text-soft" title={fullMoment(row.openedAt)}>{ago(row.openedAt)}</td>
            </tr>
          {/each}
          {#if part.below}<tr aria-hidden="true" style:height="{part.below}px"><td colspan={columns}></td></tr
            >{/if}
        </tbody>
      </table>
      {#if !rows.length}
        <p class="p-4 text-soft">
          {query.isPending
            ? 'Reading…'
            : query.isError
              ? query.error.message
              : pile === 'ALL' && !search
                ? 'Nothing comes back. A return is opened from its order, once something of it was sent.'
                : 'No return is like that.'}
        </p>
      {/if}
    </div>
  </section>
  {#if id !== undefined}{#key id}<ReturnSheet {id} />{/key}{/if}
</div>

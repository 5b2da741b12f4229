<script lang="ts">
  import { createInfiniteQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import MatchDialog from '../../parts/MatchDialog.svelte';
  import Search from '../../parts/Search.svelte';
  import { param, setParams } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import LikeliestDialog from './LikeliestDialog.svelte';

  let { channelId }: { channelId: number } = $props();

  const unmatched = $derived(param('unmatched') === '1');
  const search = $derived(param('search'));
  const listings = createInfiniteQuery(() => ({
    queryKey: ['channels', 'listings', channelId, unmatched, search],
    queryFn: ({ pageParam }) =>
      get(
        api.GET('/api/listings', {
          params: { query: { channel: channelId, unmatched, search, after: pageParam } }
        })
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.next ? Number(last.next) : undefined)
  }));
  // what has no match needs a person: it stands first
  const rows = $derived(
    (listings.data?.pages.flatMap((p) => p.rows) ?? []).toSorted(
      (a, b) => Number(a.itemSku !== null) - Number(b.itemSku !== null) || b.waiting - a.waiting
    )
  );
  let matching = $state<Schemas['ListingTableRow']>();
  const client = useQueryClient();

  async function bring(input: HTMLInputElement) {
    const file = input.files?.[0];
    if (!file) return;
    try {
      const read = await get(
        api.POST('/api/listings/csv', {
          params: { query: { channel: channelId } },
          body: await file.text(),
          bodySerializer: (body: string) => body,
          headers: { 'Content-Type': 'text/csv' }
        })
      );
      const first = read.refused[0];
      toasts.say(
        `${plural(read.matched, 'listing')} matched` +
          (first ? `; ${read.refused.length} refused, the first in row ${first.row}: ${first.why}` : '')
      );
      await client.invalidateQueries();
    } catch (error) {
      toasts.fail(error);
    } finally {
      input.value = '';
    }
  }
  let guessing = $state(false);
  let selected = $state<number[]>([]);
  const run = useDoing();
  const readAgain = () =>
    run(
      get(api.POST('/api/connecting/{id}/listings', { params: { path: { id: channelId } } })),
      'Its listings are as it has them now'
    );
  async function takeIn() {
    const listings = selected;
    await run(
      get(api.POST('/api/listings/take-in', { body: { listings } })),
      `${plural(listings.length, 'listing')} taken in as ${listings.length === 1 ? 'an item' : 'items'}; orders that waited go on`
    );
    selected = [];
  }
</script>

<div class="mb-2 flex items-center gap-3">
  <Search label="Find listings" placeholder="Title, SKU or id" />
  <label class="flex items-center gap-1.5"
    ><input
      type="checkbox"
      class="size-3.5 rounded-sm border-faint"
      checked={unmatched}
      onchange={(event) => setParams({ unmatched: event.currentTarget.checked ? '1' : '' })}
    /> without a match</label
  >
  {#if selected.length}
    <Button small main onclick={() => void takeIn()}
      >Take {plural(selected.length, 'listing')} in as {selected.length === 1 ? 'an item' : 'items'}</Button
    >
    <button class="text-soft hover:text-ink" onclick={() => (selected = [])}>select none</button>
  {/if}
  <span class="ms-auto flex items-center gap-3 text-soft">
    {#if session.mayChange}
      <button class="text-verdigris hover:underline" onclick={() => void readAgain()}>read again</button>
      <button class="text-verdigris hover:underline" onclick={() => (guessing = true)}
        >match by likeness…</button
      >
    {/if}
    <a class="text-verdigris hover:underline" href="/api/listings/csv?channel={channelId}">CSV</a>
    {#if session.mayChange}
      <label class="cursor-pointer text-verdigris hover:underline"
        >match by a CSV file…<input
          type="file"
          class="sr-only"
          accept=".csv,text/csv"
          onchange={(event) => void bring(event.currentTarget)}
        /></label
      >
    {/if}
  </span>
</div>
<table class="w-full">
  <thead
    ><tr
      ><th class="w-7 py-1"></th><th class="pe-2">Listing</th><th class="pe-2">Its SKU</th><th class="pe-2"
        >Title</th
      ><th class="pe-2 text-right">Price</th><th class="pe-2">Our item</th><th class="pe-2">Matched</th><th
      ></th></tr
    ></thead
  >
  <tbody>
    {#each rows as row (row.id)}
      <tr class="h-[30px] border-t border-line">
        <td
          >{#if !row.itemSku && session.mayChange}<input
              type="checkbox"
              class="size-3.5 rounded-sm border-faint"
              aria-label="Select {row.title}"
              value={row.id}
              bind:group={selected}
            />{/if}</td
        >
        <td class="pe-2 font-mono text-xs text-soft">{row.externalId}</td>
        <td class="pe-2 font-mono text-xs">{row.sku}</td>
        <td class="max-w-72 truncate pe-2" title={row.title}>{row.title}</td>
        <td class="pe-2 text-right">{row.price == null ? '' : money(row.price, row.currency ?? '')}</td>
        {#if row.itemSku}
          <td class="max-w-72 truncate pe-2"
            >{#if row.unitsEach > 1}<b class="font-[650]">{row.unitsEach} ×</b>&nbsp;{/if}<span
              class="font-mono text-xs">{row.itemSku}</span
            >
            {row.itemName}</td
          >
          <td class="pe-2 text-soft">{row.matchedBy}</td>
          <td class="text-right"
            >{#if session.mayChange}<button
                class="text-soft hover:text-ink hover:underline"
                onclick={() => (matching = row)}>Correct</button
              >{/if}</td
          >
        {:else}
          <td class="pe-2 text-madder" colspan="2"
            >none yet{row.waiting ? `: ${plural(row.waiting, 'order')} wait` : ''}</td
          >
          <td class="text-right"
            >{#if session.mayChange}<Button small main={row.waiting > 0} onclick={() => (matching = row)}
                >Match</Button
              >{/if}</td
          >
        {/if}
      </tr>
    {:else}
      <tr
        ><td colspan="8" class="py-2 text-soft"
          >{listings.isPending ? 'Reading…' : 'No listing is like that.'}</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if listings.hasNextPage}
  <div class="pt-2"><Button small onclick={() => void listings.fetchNextPage()}>More</Button></div>
{/if}
{#if guessing}<LikeliestDialog bind:open={() => guessing, (yes) => (guessing = yes)} {channelId} />{/if}
{#if matching}
  <MatchDialog
    bind:open={() => matching !== undefined, (yes) => yes || (matching = undefined)}
    listingId={matching.id}
    title={matching.title}
    matchedTo={matching.itemSku ?? undefined}
  />
{/if}

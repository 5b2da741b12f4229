<script lang="ts">
  import { createInfiniteQuery, createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, plural, word } from '../../parts/format';
  import Search from '../../parts/Search.svelte';
  import { param } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import FeedGuard from './FeedGuard.svelte';
  import FeedRuleDialog from './FeedRuleDialog.svelte';
  import type { Channel } from './health';

  let { channel: c }: { channel: Channel } = $props();

  const search = $derived(param('search'));
  const feed = createQuery(() => ({
    queryKey: ['channels', 'feed', c.id],
    queryFn: () => get(api.GET('/api/channels/{id}/feed', { params: { path: { id: c.id } } }))
  }));
  const lines = createInfiniteQuery(() => ({
    queryKey: ['channels', 'feed', c.id, 'lines', search],
    queryFn: ({ pageParam }) =>
      get(
        api.GET('/api/channels/{id}/feed/lines', {
          params: { path: { id: c.id }, query: { search, after: pageParam } }
        })
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.next ? Number(last.next) : undefined)
  }));
  const rows = $derived(lines.data?.pages.flatMap((p) => p.rows) ?? []);
  type Line = (typeof rows)[number];
  let selected = $state<number[]>([]);
  let setting = $state(false);

  const rule = (l: Line) =>
    [
      l.rule.offered ? '' : '✕ not offered',
      l.rule.basis === 'ATP' ? `promised in ${plural(l.rule.withinDays, 'day')}` : word(l.rule.basis),
      l.rule.buffer ? `less ${count(l.rule.buffer)}` : '',
      l.rule.sharePercent < 100 ? `${l.rule.sharePercent} %` : '',
      l.rule.cap == null ? '' : `at most ${count(l.rule.cap)}`
    ]
      .filter(Boolean)
      .join(', ');
  const soldOut = (l: Line) =>
    l.rule.soldOut === 'OVERSELL' ? `oversell to −${count(l.rule.oversellTo)}` : word(l.rule.soldOut);
  const toggle = (id: number) =>
    (selected = selected.includes(id) ? selected.filter((s) => s !== id) : [...selected, id]);
</script>

{#if feed.data}<FeedGuard channel={c} state={feed.data} />{/if}
<div class="mb-2 flex items-center gap-3">
  <Search label="Find listings" placeholder="Title, SKU or id" />
  {#if session.mayChange}
    <Button small disabled={rows.length === 0} onclick={() => (setting = true)}
      >{selected.length
        ? `Set the rule of ${plural(selected.length, 'listing')}…`
        : search
          ? 'Set the rule of all that are found…'
          : 'Set the rule of all…'}</Button
    >
    {#if selected.length}<button class="text-soft hover:text-ink" onclick={() => (selected = [])}
        >select none</button
      >{/if}
  {/if}
</div>
<table class="w-full table-fixed">
  <thead
    ><tr
      ><th class="w-7 py-1"></th><th class="w-36 pe-2">Listing</th><th class="pe-2">Title</th><th
        class="w-20 pe-2 text-right">Available</th
      ><th class="w-44 pe-2">Offers</th><th class="w-36 pe-2">When sold out</th><th
        class="w-20 pe-2 text-right">Told last</th
      ><th class="w-20 text-right">Now</th></tr
    ></thead
  >
  <tbody>
    {#each rows as l (l.listingId)}
      <tr class={['h-[30px] border-t border-line', selected.includes(l.listingId) && 'bg-verdigris-wash']}>
        <td
          ><input
            type="checkbox"
            class="size-3.5 rounded-sm border-faint"
            aria-label="Select {l.title}"
            checked={selected.includes(l.listingId)}
            onchange={() => toggle(l.listingId)}
          /></td
        >
        <td class="truncate pe-2 font-mono text-xs text-soft">{l.externalId}</td>
        <td class="truncate pe-2" title={l.title}>{l.title}</td>
        <td class="pe-2 text-right">{count(l.available)}</td>
        <td class="truncate pe-2 text-soft" title={rule(l)}>{rule(l)}</td>
        <td class="truncate pe-2 text-soft">{soldOut(l)}</td>
        <td class="pe-2 text-right text-soft">{l.pushed == null ? 'never' : count(l.pushed)}</td>
        <td class={['text-right', l.pushed !== l.quantity && 'font-[650]']}
          >{#if l.refused === l.quantity}<span title="Refused by a person: not told">⊘</span>{/if}
          {count(l.quantity)}</td
        >
      </tr>
    {:else}
      <tr
        ><td colspan="8" class="py-2 text-soft"
          >{lines.isPending
            ? 'Reading…'
            : 'No matched listing is like that. Stock is told for listings that have a match.'}</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if lines.hasNextPage}
  <div class="pt-2"><Button small onclick={() => void lines.fetchNextPage()}>More</Button></div>
{/if}
{#if setting}
  <FeedRuleDialog
    bind:open={() => setting, (yes) => (setting = yes)}
    channelId={c.id}
    listings={selected.length ? selected : null}
    {search}
  />
{/if}

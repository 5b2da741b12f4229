<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { tinykeys } from 'tinykeys';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import RatesDialog from '../../parts/RatesDialog.svelte';
  import { ago, count, fullMoment, plural, word } from '../../parts/format';
  import { param, setParams } from '../../state/address';
  import { free } from '../../state/keys';
  import { session } from '../../state/session.svelte';
  import Cell from './Cell.svelte';
  import ConnectBegin from './ConnectBegin.svelte';
  import Connection from './Connection.svelte';
  import { feed, intake, waits, writeBack } from './health';

  const channels = createQuery(() => ({
    queryKey: ['channels'],
    queryFn: () => get(api.GET('/api/channels'))
  }));
  const all = $derived(channels.data ?? []);
  const chosen = $derived(all.find((c) => c.code === param('c') || String(c.id) === param('c')) ?? all[0]);
  const ill = $derived(all.filter((c) => waits(c).length > 0).length);

  let beginning = $state(false);
  let rates = $state(false);

  const move = (by: number) => (event: KeyboardEvent) => {
    if (!free(event) || !chosen) return;
    const next = all[all.indexOf(chosen) + by];
    if (next) setParams({ c: next.code });
  };
  $effect(() => tinykeys(window, { j: move(1), k: move(-1) }));
</script>

<div class="flex min-h-0 flex-1 flex-col px-4 pt-3">
  <div class="flex items-center">
    <h1>
      {#if channels.data?.length === 0}No channels yet
      {:else if channels.data}{ill
          ? `${ill} of ${plural(all.length, 'connection')} ${ill === 1 ? 'waits' : 'wait'} for somebody`
          : `All well: ${plural(all.length, 'connection')}`}
      {:else}Channels{/if}
    </h1>
    {#if session.mayChange}<span class="ms-auto flex gap-2"
        ><Button onclick={() => (rates = true)}>Exchange rates…</Button>
        <Button onclick={() => (beginning = true)}>Connect a channel…</Button></span
      >{/if}
  </div>
  {#if all.length}
    <div class="card mt-2 flex-none overflow-x-auto">
      <table class="w-full table-fixed">
        <thead
          ><tr>
            <th class="w-[24%] px-3 py-1.5">Channel</th>
            <th class="w-[15%] px-2">Intake</th>
            <th class="w-[14%] px-2">Stock feed</th>
            <th class="w-[14%] px-2">Write-back</th>
            <th class="w-[7%] px-2 text-right">Orders</th>
            <th class="w-[12%] px-2">Last pull</th>
            <th class="px-2">Waits for somebody</th>
          </tr></thead
        >
        <tbody>
          {#each all as c (c.id)}
            <tr
              class={[
                'h-11 cursor-pointer border-t border-line',
                c === chosen ? 'bg-verdigris-wash shadow-[inset_3px_0_var(--verdigris)]' : 'hover:bg-sunk'
              ]}
              onclick={() => setParams({ c: c.code })}
            >
              <td class="truncate px-3">
                <button
                  class="block max-w-full truncate text-left font-[650]"
                  aria-pressed={c === chosen}
                  onclick={() => setParams({ c: c.code })}>{c.name}</button
                >
                <span class="block truncate text-xs text-soft"
                  >{word(c.kind)} · {c.prefix}… · {c.currency} · approved {word(c.approval)}</span
                >
              </td>
              <td class="px-2"><Cell health={intake(c)} /></td>
              <td class="px-2"><Cell health={feed(c)} /></td>
              <td class="px-2"><Cell health={writeBack(c)} /></td>
              <td class="px-2 text-right">{count(c.orders)}</td>
              <td class="truncate px-2 text-soft">
                {#if c.lastPullAt}<span title={fullMoment(c.lastPullAt)}
                    >{ago(c.lastPullAt)}<br /><span class="text-xs">brought {count(c.lastTaken)}</span></span
                  >{/if}
              </td>
              <td class="px-2">
                {#each waits(c) as w (w.words)}
                  <button
                    class="block max-w-full truncate text-left text-madder hover:underline"
                    onclick={(event) => {
                      event.stopPropagation();
                      setParams({ c: c.code, tab: w.tab, unmatched: w.tab === 'listings' ? '1' : '' });
                    }}>{w.words}</button
                  >
                {/each}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {:else}
    <p class="mt-3 text-soft">
      {channels.isPending
        ? 'Reading…'
        : channels.isError
          ? channels.error.message
          : 'No channel is connected yet. Connecting one harms nothing: it only listens until you say so.'}
    </p>
  {/if}
  {#if chosen}{#key chosen.id}<Connection channel={chosen} />{/key}{/if}
</div>
<RatesDialog bind:open={rates} />
{#if beginning}<ConnectBegin bind:open={() => beginning, (yes) => (beginning = yes)} />{/if}

<script lang="ts">
  import { tinykeys } from 'tinykeys';
  import { SvelteSet } from 'svelte/reactivity';
  import { count, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import Button from '../../parts/Button.svelte';
  import Kbd from '../../parts/Kbd.svelte';
  import SnagActions from '../../parts/SnagActions.svelte';
  import { CAUSES } from '../../parts/snags';
  import { free } from '../../state/keys';
  import { session } from '../../state/session.svelte';
  import { isGroup, snagRows, type Snag } from './snagRows';

  /** Of {@link open} snags those that are shown. */
  let { snags, open }: { snags: Snag[]; open: number } = $props();

  let at = $state(0);
  let actions = $state<(SnagActions | undefined)[]>([]);
  const opened = new SvelteSet<Snag['cause']>();
  const rows = $derived(snagRows(snags, (cause) => opened.has(cause)));
  const here = $derived(Math.min(at, rows.length - 1));
  const causes = $derived(new Set(snags.map((s) => s.cause)).size);

  const toggle = (cause: Snag['cause']) => (opened.has(cause) ? opened.delete(cause) : opened.add(cause));

  const move = (by: number) => (event: KeyboardEvent) => {
    if (free(event)) at = Math.max(0, Math.min(rows.length - 1, here + by));
  };
  $effect(() =>
    tinykeys(window, {
      j: move(1),
      k: move(-1),
      e: (event) => {
        const row = rows[here];
        if (!free(event) || !row) return;
        if (isGroup(row)) toggle(row.cause);
        else actions[here]?.act();
      },
      Enter: (event) => {
        const row = rows[here];
        if (!free(event) || !row || document.activeElement !== document.body) return;
        if (isGroup(row)) toggle(row.cause);
        else location.hash = `#/orders?pile=ALL&snag=${row.id}`;
      }
    })
  );
</script>

<div class="flex items-baseline gap-2.5 px-3 pt-2.5 pb-1">
  <h2>{snags.length ? `${plural(open, 'snag')}, ${plural(causes, 'cause')}` : 'No snags'}</h2>
  {#if open > snags.length}<span class="text-soft">{count(snags.length)} of them here; the others follow</span
    >{/if}
  <span class="ms-auto text-soft">dearest first ·<Kbd keys="j k e" /></span>
</div>
<ul aria-label="Snags">
  {#each rows as row, i (isGroup(row) ? row.cause : row.id)}
    <li
      class={[
        'grid grid-cols-[1fr_auto] gap-x-2.5 gap-y-0.5 border-t border-line px-3 py-2',
        !isGroup(row) && opened.has(row.cause) && 'ps-7',
        i === here && 'bg-verdigris-wash shadow-[inset_3px_0_var(--verdigris)]'
      ]}
      aria-current={i === here ? 'true' : undefined}
    >
      <div class="truncate">
        <b class="font-[650]">{CAUSES[row.cause].one}</b>
        <span class="text-soft"
          >{isGroup(row) ? plural(row.snags.length, CAUSES[row.cause].what) : row.title}</span
        >
      </div>
      <div class="text-right">
        {#if !isGroup(row) && row.orders}
          <a class="hover:underline" href="#/orders?pile=ALL&snag={row.id}"
            >{plural(row.orders, 'order')} · {money(row.value, row.currency)} {row.currency}</a
          >
        {:else if isGroup(row) && row.orders}
          {plural(row.orders, 'order')} · {money(row.value, row.snags[0]!.currency)} {row.snags[0]!.currency}
        {/if}
      </div>
      {#if isGroup(row)}
        <div class="truncate text-soft">{row.snags.map((s) => s.title).join(', ')}</div>
        <div class="text-right">
          <Button
            small
            main={i === here}
            aria-expanded={opened.has(row.cause)}
            onclick={() => toggle(row.cause)}>{opened.has(row.cause) ? 'Fold' : 'Show each'}</Button
          >
        </div>
      {:else}
        <div class="truncate text-soft">
          {row.channelName ? `${row.channelName} — ` : ''}<span class="text-ink">{row.detail}</span>
        </div>
        <div class="text-right">
          {#if session.mayChange}<SnagActions bind:this={actions[i]} snag={row} main={i === here} />{/if}
        </div>
      {/if}
    </li>
  {:else}
    <li class="border-t border-line px-3 py-3 text-soft">
      Nothing is stuck. What can’t go on by itself — an unmatched listing, an address without a postcode —
      would stand here.
    </li>
  {/each}
</ul>

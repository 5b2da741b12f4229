<script lang="ts">
  import { tinykeys } from 'tinykeys';
  import type { Schemas } from '../../api/client';
  import { plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import Kbd from '../../parts/Kbd.svelte';
  import SnagActions from '../../parts/SnagActions.svelte';
  import { CAUSES } from '../../parts/snags';
  import { free } from '../../state/keys';
  import { session } from '../../state/session.svelte';

  let { snags }: { snags: Schemas['SnagQueriesOpenSnag'][] } = $props();

  let at = $state(0);
  let actions = $state<(SnagActions | undefined)[]>([]);
  const here = $derived(Math.min(at, snags.length - 1));
  const causes = $derived(new Set(snags.map((s) => s.cause)).size);

  const move = (by: number) => (event: KeyboardEvent) => {
    if (free(event)) at = Math.max(0, Math.min(snags.length - 1, here + by));
  };
  $effect(() =>
    tinykeys(window, {
      j: move(1),
      k: move(-1),
      e: (event) => {
        if (free(event)) actions[here]?.act();
      },
      Enter: (event) => {
        const snag = snags[here];
        if (free(event) && snag && document.activeElement === document.body)
          location.hash = `#/orders?pile=ALL&snag=${snag.id}`;
      }
    })
  );
</script>

<div class="flex items-baseline gap-2.5 px-3 pt-2.5 pb-1">
  <h2>{snags.length ? `${plural(snags.length, 'snag')}, ${plural(causes, 'cause')}` : 'No snags'}</h2>
  <span class="ms-auto text-soft">dearest first ·<Kbd keys="j k e" /></span>
</div>
<ul aria-label="Snags">
  {#each snags as snag, i (snag.id)}
    <li
      class={[
        'grid grid-cols-[1fr_auto] gap-x-2.5 gap-y-0.5 border-t border-line px-3 py-2',
        i === here && 'bg-verdigris-wash shadow-[inset_3px_0_var(--verdigris)]'
      ]}
      aria-current={i === here ? 'true' : undefined}
    >
      <div class="truncate">
        <b class="font-[650]">{CAUSES[snag.cause].one}</b> <span class="text-soft">{snag.title}</span>
      </div>
      <div class="text-right">
        {#if snag.orders}
          <a class="hover:underline" href="#/orders?pile=ALL&snag={snag.id}"
            >{plural(snag.orders, 'order')} · {money(snag.value, snag.currency)} {snag.currency}</a
          >
        {/if}
      </div>
      <div class="truncate text-soft">
        {snag.channelName ? `${snag.channelName} — ` : ''}<span class="text-ink">{snag.detail}</span>
      </div>
      <div class="text-right">
        {#if session.mayChange}<SnagActions bind:this={actions[i]} {snag} main={i === here} />{/if}
      </div>
    </li>
  {:else}
    <li class="border-t border-line px-3 py-3 text-soft">
      Nothing is stuck. What can’t go on by itself — an unmatched listing, an address without a postcode —
      would stand here.
    </li>
  {/each}
</ul>

<script lang="ts">
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import type { Channel } from './health';
  import { percent } from './prices';

  interface Props {
    channel: Channel;
    changes: Schemas['OffersChange'][];
  }
  let { channel: c, changes }: Props = $props();

  const run = useDoing();
  const push = () =>
    run(
      get(
        api.POST('/api/channels/{channel}/publishing/prices', {
          params: { path: { channel: c.id } },
          body: { listings: changes.map((change) => change.listingId) }
        })
      ),
      `${plural(changes.length, 'listing')} changed`
    );
</script>

{#if changes.length}
  <section class="mb-3 rounded-sm border border-amber px-3 py-2" aria-label="Listings that would be changed">
    <header class="mb-1 flex items-center">
      <h3 class="font-[650]">
        {plural(changes.length, 'listing')} would be changed now
      </h3>
      {#if session.mayChange}<span class="ms-auto"
          ><Button small main onclick={() => void push()}>Push {plural(changes.length, 'change')}</Button
          ></span
        >{/if}
    </header>
    <table>
      <tbody>
        {#each changes.slice(0, 12) as change (change.listingId)}
          <tr>
            <td class="pe-4 font-mono text-xs">{change.sku}</td>
            <td class="max-w-72 truncate pe-4">{change.title}</td>
            <td class="pe-2 text-right text-soft">{money(change.before, c.currency)}</td>
            {#if change.withdraw}
              <td class="pe-4 text-right">→ <b class="font-[650]">withdrawn</b></td>
              <td class="text-soft">it is no longer sold</td>
            {:else}
              <td class="pe-4 text-right">→ <b class="font-[650]">{money(change.after, c.currency)}</b></td>
              <td class="text-soft"
                >earns {money(change.margin, c.currency)}, {percent(change.marginHundredths)}</td
              >
            {/if}
          </tr>
        {/each}
      </tbody>
    </table>
    {#if changes.length > 12}<p class="text-soft">and {changes.length - 12} more</p>{/if}
  </section>
{/if}

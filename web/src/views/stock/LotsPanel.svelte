<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, fullDay } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import LotDialog from './LotDialog.svelte';
  import PutDialog from './PutDialog.svelte';
  import TrackingDialog from './TrackingDialog.svelte';

  interface Props {
    id: number;
    sku: string;
    counted: boolean;
    settingsTag: string;
  }
  let { id, sku, counted, settingsTag }: Props = $props();

  const query = createQuery(() => ({
    queryKey: ['stock', 'places', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}/places', { params: { path: { id } } }))
  }));
  const places = $derived(query.data?.places ?? []);
  const tracking = $derived(query.data?.tracking);
  const STATE = { SELLABLE: '', QUARANTINE: 'in quarantine', DAMAGED: 'damaged', IN_TRANSIT: 'in transit' };
  const tooShort = (p: (typeof places)[number]) =>
    p.state === 'SELLABLE' &&
    p.expires &&
    new Date(`${p.expires}T12:00`).getTime() < Date.now() + (tracking?.minLife ?? 0) * 86_400_000;
  let lot = $state<number>();
  let changing = $state(false);
  let putting = $state<(typeof places)[number]>();
  const TITLES = { NOTHING: 'Bins', LOT: 'Lots and bins', EXPIRY: 'Lots and bins', SERIAL: 'Serial numbers' };
</script>

<div class="mt-4 flex items-baseline">
  <h3 class="font-[650]">{TITLES[tracking?.by ?? 'NOTHING']}</h3>
  {#if session.mayChange && tracking}<span class="ms-auto"
      ><Button small onclick={() => (changing = true)}>Tracking…</Button></span
    >{/if}
</div>
{#if tracking?.by === 'SERIAL'}
  <p class="text-soft">Which unit goes is scanned when it is packed.</p>
{:else if tracking && tracking.by !== 'NOTHING'}
  <p class="text-soft">
    {tracking.pick === 'FEFO'
      ? 'What expires first goes first'
      : 'What came first goes first'}{tracking.oneLot ? ', one lot a line' : ''}{tracking.minLife
      ? `; usable for ${count(tracking.minLife)} days after it arrives`
      : ''}.
  </p>
{/if}
{#if !places.length}
  <p class="text-soft">None is anywhere.</p>
{:else}
  <table class="w-full">
    <thead
      ><tr
        >{#if tracking?.by !== 'NOTHING'}<th class="py-1">{tracking?.by === 'SERIAL' ? 'Number' : 'Lot'}</th
          ><th class="pe-2">{tracking?.by === 'SERIAL' ? '' : 'Use until'}</th>{/if}<th class="py-1">Where</th
        ><th class="text-right">On hand</th><th class="ps-2 text-right">Held</th><th></th></tr
      ></thead
    >
    <tbody>
      {#each places as p (p.id)}
        <tr class="border-t border-line">
          {#if tracking?.by !== 'NOTHING'}<td class="py-0.5 pe-2"
              >{#if p.lotId}<button
                  class="font-mono text-xs hover:underline"
                  onclick={() => (lot = p.lotId ?? undefined)}>{p.lot}</button
                >{:else}<span class="text-soft">—</span>{/if}</td
            >
            <td class="pe-2 whitespace-nowrap"
              >{p.expires ? fullDay(p.expires) : ''}{#if tooShort(p)}<span
                  class="block text-xs text-amber-ink"
                  title="It would not be usable for long enough after it arrived">▲ shelf life too short</span
                >{/if}</td
            >{/if}
          <td class="pe-2"
            >{p.node}{#if p.bin}<span class="ms-1 font-mono text-xs">{p.bin}</span
              >{/if}{#if p.state === 'IN_TRANSIT'}<span class="ms-1 text-soft">→ in transit</span
              >{:else if STATE[p.state]}<span class="ms-1 text-madder"
                >✕ {p.recalledAt ? 'recalled' : STATE[p.state]}</span
              >{/if}</td
          >
          <td class="text-right">{count(p.onHand)}</td>
          <td class="text-right">{p.allocated ? count(p.allocated) : ''}</td>
          <td class="text-right"
            >{#if session.mayChange && p.onHand > p.allocated && p.state !== 'IN_TRANSIT'}<button
                class="px-1 text-verdigris hover:underline"
                aria-label="Move {sku} at {p.node} {p.bin} {p.lot ?? ''}"
                onclick={() => (putting = p)}>Move…</button
              >{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
{#if lot !== undefined}<LotDialog
    bind:open={() => true, (yes) => (lot = yes ? lot : undefined)}
    id={lot}
  />{/if}
{#if changing && tracking}<TrackingDialog
    bind:open={changing}
    {id}
    {sku}
    now={tracking}
    {counted}
    {settingsTag}
  />{/if}
{#if putting}<PutDialog
    bind:open={() => true, (yes) => (putting = yes ? putting : undefined)}
    {sku}
    place={putting}
  />{/if}

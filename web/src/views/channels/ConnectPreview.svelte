<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { moment, plural } from '../../parts/format';
  import type { Channel } from './health';

  let { channel: c, onconnect }: { channel: Channel; onconnect: () => void } = $props();

  const preview = createQuery(() => ({
    queryKey: ['connecting', 'preview', c.id],
    queryFn: () => get(api.GET('/api/connecting/{id}/preview', { params: { path: { id: c.id } } }))
  }));
  const orders = $derived(preview.data?.orders ?? []);
  const of = (fate: string) => orders.filter((o) => o.fate === fate).length;
  const WORDS = {
    TAKEN: '✓ taken',
    STUCK: '✕ taken, then stuck',
    LEFT_ALONE: '‖ left alone',
    REFUSED: '✕ refused'
  };
</script>

<div class="mb-2 flex items-center gap-3">
  <p>
    {#if preview.isPending}Looking at its orders…
    {:else if preview.isError}<span class="text-madder">{preview.error.message}</span>
    {:else}
      {plural(of('TAKEN') + of('STUCK'), 'order')} would be taken in{of('STUCK')
        ? `, ${of('STUCK')} of them stuck`
        : ''}; {of('LEFT_ALONE')} left alone{of('REFUSED')
        ? `; ${of('REFUSED')} could not be read`
        : ''}{preview.data?.more ? '; there are more' : ''}. Nothing is kept yet.
    {/if}
  </p>
  <span class="ms-auto"><Button main onclick={onconnect}>Connect, listening only</Button></span>
</div>
<table class="w-full">
  <thead
    ><tr
      ><th class="py-1 pe-2">Its order</th><th class="pe-2">Placed</th><th class="pe-2">Buyer</th><th
        class="pe-2 text-right">Total</th
      ><th class="pe-2">Would be</th><th>Because</th></tr
    ></thead
  >
  <tbody>
    {#each orders as o, i (i)}
      <tr class="h-7 border-t border-line">
        <td class="pe-2 font-mono text-xs">{o.externalId || '—'}</td>
        <td class="pe-2 text-soft">{o.fate === 'REFUSED' ? '' : moment(o.placedAt)}</td>
        <td class="max-w-48 truncate pe-2" dir="auto">{o.buyer}</td>
        <td class="pe-2 text-right">{o.total}</td>
        <td class={['pe-2 whitespace-nowrap', (o.fate === 'STUCK' || o.fate === 'REFUSED') && 'text-madder']}
          >{WORDS[o.fate]}</td
        >
        <td class="text-soft">{o.why}</td>
      </tr>
    {:else}
      <tr
        ><td colspan="6" class="py-2 text-soft"
          >{preview.isPending ? '' : 'It has no orders at the moment.'}</td
        ></tr
      >
    {/each}
  </tbody>
</table>

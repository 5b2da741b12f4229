<!-- What an order lacks and when that comes; and what its buyer was told. -->
<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { count, day, moment } from '../../parts/format';

  let { sheet }: { sheet: Schemas['OrderSheetsSheet'] } = $props();

  const WHY = { ROUTED: 'when it was routed', WAITS: 'when it began to wait', RENEWED: 'anew' };
  const row = $derived(sheet.order);
  const breaks = $derived(
    sheet.waitsFor.length > 0 && row.promisedOn && (!row.expectedOn || row.expectedOn > row.promisedOn)
  );
</script>

{#if sheet.waitsFor.length}
  <h3 class="mt-4 font-[650]">Waits for</h3>
  {#each sheet.waitsFor as w (w.backorderId)}
    <p class="flex items-baseline gap-2 border-t border-line py-1">
      <span class="text-right">{count(w.units)} ×</span>
      <a class="min-w-0 flex-1 truncate hover:underline" href="#/backorders/{w.itemId}?in={w.backorderId}"
        >{w.name}</a
      >
      <span class="text-soft">place {w.place}</span>
      {#if w.readyOn}<span>there {day(w.readyOn)}</span>{:else}<span class="text-madder"
          >○ no day in sight</span
        >{/if}
    </p>
  {/each}
{/if}
{#if sheet.promises.length}
  <h3 class="mt-4 font-[650]">Promised to arrive</h3>
  {#each sheet.promises as p, i (p.at)}
    <p class={['border-t border-line py-1', i && 'text-soft line-through']}>
      {day(p.arrivesOn)}
      <span class="text-soft"
        >· {WHY[p.why]}, {moment(p.at)}{p.why === 'RENEWED' ? `, by ${p.actor}` : ''}</span
      >
      {#if i === 0 && breaks}<span class="font-[650] text-madder"
          >✕ now {row.expectedOn ? day(row.expectedOn) : 'nobody can say'}</span
        >{/if}
    </p>
  {/each}
{/if}

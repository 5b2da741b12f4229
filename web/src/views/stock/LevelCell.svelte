<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { count } from '../../parts/format';

  interface Props {
    cell?: Schemas['StockGridCell'];
    /** the largest level in sight: all bars share one scale */
    most: number;
    width?: number;
  }
  let { cell, most, width = 64 }: Props = $props();

  const bar = (units: number) => (units ? Math.max(2, (width * units) / most) : 0);
</script>

{#if cell && (cell.onHand || cell.available)}
  <span
    class="flex items-center gap-2"
    title="{cell.available} available, {cell.onHand} on hand, {cell.allocated} allocated{cell.safety
      ? `, ${cell.safety} kept safe`
      : ''}"
  >
    <b class="w-9 text-right font-[550]">{count(cell.available)}</b>
    <svg {width} height="10" aria-hidden="true">
      <rect width={bar(cell.onHand - cell.allocated)} y="1" height="8" fill="var(--verdigris)" />
      <rect
        x={bar(cell.onHand - cell.allocated)}
        width={bar(cell.allocated)}
        y="1"
        height="8"
        fill="var(--ink)"
        opacity=".8"
      />
    </svg>
    {#if cell.allocated}<span class="text-xs text-soft">{count(cell.allocated)}</span>{/if}
  </span>
{:else}
  <span class="inline-block w-9 text-right text-faint" title="none here">·</span>
{/if}

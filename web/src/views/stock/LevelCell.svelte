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

  const free = $derived(
    cell ? Math.max(0, cell.onHand - cell.allocated - cell.earmarked - cell.shortDated) : 0
  );
  const over = $derived(cell?.most != null && cell.onHand > cell.most);
  const under = $derived(cell !== undefined && cell.safety > 0 && cell.onHand - cell.allocated < cell.safety);
  const bar = (units: number) => (units ? Math.max(2, (width * units) / most) : 0);
</script>

{#if cell && (cell.onHand || cell.available)}
  <span
    class="flex items-center gap-2"
    title="{cell.available} available, {cell.onHand} on hand, {cell.allocated} allocated{cell.earmarked
      ? `, ${cell.earmarked} set aside`
      : ''}{cell.safety ? `, ${cell.safety} kept back` : ''}{cell.shortDated
      ? `, ${cell.shortDated} whose shelf life is too short`
      : ''}{over
      ? `: more than the ${cell.most} that are wanted there`
      : under
        ? ': less than is to be kept back'
        : ''}"
  >
    <b class="w-9 text-right font-[550]"
      >{#if under}<span class="text-madder">▼</span>{:else if over}<span class="text-sky">▲</span>{/if}{count(
        cell.available
      )}</b
    >
    {#if width}<svg {width} height="10" aria-hidden="true">
        <rect width={bar(free)} y="1" height="8" fill="var(--verdigris)" />
        <rect
          x={bar(free) + 0.5}
          width={Math.max(0, bar(cell.earmarked) - 1)}
          y="1.5"
          height="7"
          fill="none"
          stroke="var(--verdigris)"
        />
        <rect
          x={bar(free) + bar(cell.earmarked)}
          width={bar(cell.allocated)}
          y="1"
          height="8"
          fill="var(--ink)"
          opacity=".8"
        />
      </svg>{/if}
    {#if cell.allocated}<span class="text-xs text-soft">{count(cell.allocated)}</span>{/if}
  </span>
{:else}
  <span class="inline-block w-9 text-right text-faint" title="none here">·</span>
{/if}

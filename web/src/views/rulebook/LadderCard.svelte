<script lang="ts">
  import { count } from '../../parts/format';
  import type { Ladder } from './model';
  import { rungWords } from './ladders';

  interface Props {
    ladder: Ladder;
    /** orders of the last 30 days by their rung's name */
    shares: Map<string, number>;
    total: number;
  }
  let { ladder, shares, total }: Props = $props();

  const ROW = 56;
  const height = $derived(ladder.rungs.length * ROW + 10);
</script>

<div class="card px-4 py-3">
  <div class="flex items-baseline">
    <h2 class="text-base font-[650]">Ladder “{ladder.name}”</h2>
    <span class="ms-auto text-soft">share of 30 days</span>
  </div>
  <div class="relative mt-1" style:height="{height}px">
    <svg class="absolute inset-y-0 left-0" width="40" {height} aria-hidden="true">
      <g stroke="var(--ink)" stroke-width="3">
        <line x1="6" x2="6" y1="4" y2={height - 2} />
        <line x1="34" x2="34" y1="4" y2={height - 2} />
        {#each ladder.rungs as rung, i (rung.name)}<line
            x1="6"
            x2="34"
            y1={26 + i * ROW}
            y2={26 + i * ROW}
          />{/each}
      </g>
    </svg>
    <ol class="ms-12">
      {#each ladder.rungs as rung (rung.name)}
        {@const share = total ? (shares.get(rung.name) ?? 0) / total : 0}
        <li class="grid grid-cols-[1fr_auto] content-start gap-x-2 pt-3.5" style:height="{ROW}px">
          <b class="truncate font-[600]" title={rung.name}>{rung.name}</b>
          <b
            class="text-right font-[600] tabular-nums"
            title="{count(shares.get(rung.name) ?? 0)} of {count(total)} orders"
            >{total ? `${Math.round(share * 100)} %` : '–'}</b
          >
          <span class="col-span-2 truncate text-xs text-soft" title={rungWords(rung)}>{rungWords(rung)}</span>
          <span class="mt-0.5 h-[5px] bg-verdigris" style:width="{share * 100}%"></span>
        </li>
      {/each}
    </ol>
  </div>
</div>
